import { distance, isOnPlane, lengthsAlong, ontoPlane, WayQueue, type MirrorPlane, type Vec3 } from '../../math';
import { isoLineFrom, isoSegments, type SculptSurface } from '../../surface';
import { placesBeyond } from './bare';

/** A place further off the quads than so many of their lengths belongs to a limb that they do not reach; what is that near is the limb's root. */
const AWAY = 1;
const ROOT = 0.3;
/** No more vertices than this are a limb. */
const MOST = 60_000;

/** What of a form stands out beyond quads that end early. */
export interface Limb {
  /** vertex of the form → how far it is along the limb from the quads, file units */
  along: ReadonlyMap<number, number>;
  /** triangles of the form that have such vertices */
  triangles: readonly number[];
  /** from so far on lines go round it */
  root: number;
  /** how far out its end is, and where */
  length: number;
  end: Vec3;
  /** the mirror plane that it lies across, as a tail does: only its half is there */
  across: MirrorPlane | null;
}

/** A line round a limb, or round the half of one that lies across the mirror plane: from that to that. */
export interface LineRound {
  points: Vec3[];
  closed: boolean;
  length: number;
}

/** The limbs of a form that stand out beyond some quads, longest first. `samples` are places of the form, xyz, of which only the half on one side of a `plane` is there. Cost: a closest point for a few thousand places, and for each vertex of what stands out. */
export function limbsBeyond(
  low: SculptSurface,
  form: SculptSurface,
  samples: Float64Array,
  size: number,
  plane: MirrorPlane | null = null,
): Limb[] {
  const { far } = placesBeyond(low, samples, AWAY * size);
  if (far.length === 0) return [];
  const known = new Set<number>();
  const limbs: Limb[] = [];
  for (const { place } of far.sort((a, b) => b.away - a.away)) {
    const start = form.indices[3 * form.closest(place).triangle];
    if (known.has(start)) continue;
    const limb = limbFrom(start, low, form, ROOT * size, plane);
    for (const v of limb.along.keys()) known.add(v);
    if (limb.length > AWAY * size) limbs.push(limb);
  }
  return limbs.sort((a, b) => b.length - a.length);
}

const placeOf = ({ positions: p }: SculptSurface, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];

/** What hangs together with a vertex and is further off than the root; how far along is told by ways over the form, from there (Dijkstra 1959). */
function limbFrom(
  start: number,
  low: SculptSurface,
  form: SculptSurface,
  root: number,
  plane: MirrorPlane | null,
): Limb {
  const { starts, around } = form.around;
  const away = new Map<number, number>();
  const triangles = new Set<number>();
  const next = new WayQueue();
  const awayOf = (v: number): number => low.distanceBeyond(placeOf(form, v), root);
  const cornersOf = (t: number): Uint32Array => form.indices.subarray(3 * t, 3 * t + 3);
  const rim: number[] = [];
  for (const todo = [start]; todo.length > 0 && away.size < MOST;) {
    const v = todo.pop() as number;
    if (away.has(v)) continue;
    const own = awayOf(v);
    if (own <= root) {
      rim.push(v);
      continue;
    }
    away.set(v, own);
    for (let i = starts[v]; i < starts[v + 1]; i++) {
      triangles.add(around[i]);
      for (const w of cornersOf(around[i])) if (!away.has(w)) todo.push(w);
    }
  }
  const along = new Map<number, number>();
  for (const v of rim) next.push(v, awayOf(v));
  for (let way = next.pop(); way; way = next.pop()) {
    const { v } = way;
    if (along.has(v)) continue;
    along.set(v, way.way);
    for (let i = starts[v]; i < starts[v + 1]; i++)
      for (const w of cornersOf(around[i]))
        if (away.has(w) && !along.has(w)) next.push(w, way.way + distance(placeOf(form, v), placeOf(form, w)));
  }
  let [length, last] = [0, start];
  for (const [v, far] of along) if (far > length) [length, last] = [far, v];
  const isAcross = plane !== null && [...along.keys()].some((v) => isOnPlane(placeOf(form, v), plane));
  return { along, triangles: [...triangles], root, length, end: placeOf(form, last), across: isAcross ? plane : null };
}

/** The longest closed line round a limb, so far along it, or from the plane that it lies across to that again; null where there is none. Cost: the limb's triangles. */
export function roundLimb({ along, triangles, across }: Limb, form: SculptSurface, far: number): LineRound | null {
  const iso = isoSegments(form, triangles, (v) => (along.get(v) ?? 0) - far);
  const used = new Set<number>();
  let best: LineRound | null = null;
  for (let s = 0; s < iso.segments.length; s++) {
    if (used.has(s)) continue;
    const { points, closed } = isoLineFrom(s, iso, used);
    if (points.length < 3) continue;
    const round = closed ? points : across && fromPlaneToPlane(points, across);
    if (!round) continue;
    const length = closed ? lengthRound(round) : lengthsAlong(round)[round.length - 1];
    if (!best || length > best.length) best = { points: round, closed, length };
  }
  return best;
}

/** Of an edge of the border in the plane, how far a place on it may be off for rounding, of the line's length. */
const ROUNDED = 1e-6;

/** A line with its ends exactly in the plane; null where they are not there. */
function fromPlaneToPlane(points: Vec3[], plane: MirrorPlane): Vec3[] | null {
  const near = ROUNDED * lengthsAlong(points)[points.length - 1];
  const ends = [points[0], points[points.length - 1]];
  if (ends.some((p) => distance(p, ontoPlane(p, plane)) > near)) return null;
  return [ontoPlane(ends[0], plane), ...points.slice(1, -1), ontoPlane(ends[1], plane)];
}

/** Length of a closed line. */
export const lengthRound = (points: readonly Vec3[]): number =>
  points.reduce((sum, p, i) => sum + distance(p, points[(i + 1) % points.length]), 0);
