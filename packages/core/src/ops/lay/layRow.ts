import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { add, addScaled, cross, distance, dot, lerp, normalize, planeDistance, scale, sub, type Vec3 } from '../../math'; // prettier-ignore
import { addVertex, NONE, type PolyMesh } from '../../mesh';
import { pairsWithin, weld } from '../weld';
import type { Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count, Point, VertexId, proposedLength, share } from '../params';
import { meanLength, only } from '../picked';
import { stickToSeam } from '../solid/sectors';
import { rowsBetween } from './strips';

const Params = z.object({
  across: count('Quads across', { min: 1, max: 64, start: 1 }),
  width: proposedLength('Width', 'Empty: quads as wide as they are long'),
  along: count('Quads along', { min: 0, max: 2048, start: 0, hint: '0: by their length' }),
  length: proposedLength('Quad length'),
  taper: share('Width at its end', { min: 0, max: 4, start: 1 }),
  spokes: choice('Spokes', [['square', 'square to the stroke'], ['centre', 'to the picked centre']], 'square'), // prettier-ignore
  weldWithin: proposedLength('Ends weld within'),
  /** the stroke, on the form, file units */
  stroke: z.array(Point).check(z.minLength(2), z.maxLength(20_000)),
  closed: z._default(z.boolean(), false),
  centre: z.optional(Point),
  /** vertices that the first and the last spoke become, in either order, when there are as many */
  start: z.optional(z.array(VertexId)),
  end: z.optional(z.array(VertexId)),
  /** where the surface faces, at the stroke's start; used where there is no form */
  facing: z._default(Point, [0, 0, 1]),
  /** the side of the stroke that the row lies on: in its middle, or all to one side */
  side: z._default(z.enum(['middle', 'left', 'right']), 'middle'),
});
type Params = z.infer<typeof Params>;

/** A stroke that turns by more than this has a corner there; cosine of 40°. */
const CORNER = Math.cos((40 * Math.PI) / 180);

/**
 * Lays a row of quads along a stroke: a number across, evenly long from corner to corner, its spokes square to the stroke or pointing to a
 * centre, its width kept or tapering; corners are mitred. Points lie on the form. What ends near points that are there
 * is welded to them. A closed stroke gets an even count. Refuses (BAD_SIZE) a stroke too short for a quad. Cost: the quads.
 */
export const layRow = operator({
  name: 'lay-row',
  title: 'Row',
  params: Params,
  run(mesh, _selection, p, ground) {
    const line = simplified(p.stroke, p.closed);
    const total = lengthOf(line, p.closed);
    const wanted = p.length ?? (p.width !== null ? p.width / p.across : meanLength(mesh, mesh.edges()) || total / 10);
    if (!(total > 0) || !(wanted > 0)) throw new TopologyError('BAD_SIZE', 'The stroke is too short for a row; draw a longer one.'); // prettier-ignore
    const stations = stationsOn(line, p, total / wanted);
    const n = stations.length - (p.closed ? 0 : 1);
    const width = p.width ?? (p.across * total) / n;
    const lines = stations.map((s, i) => spoke(mesh, s, p, width * (1 + (p.taper - 1) * (p.closed ? 0 : i / n)), ground)); // prettier-ignore
    const rows = p.closed ? [...lines, lines[0]] : lines;
    const fresh = new Set(lines.flat());
    const like = [...mesh.edges()].filter((e) => mesh.isBorderEdge(e)).slice(0, 64).flatMap((e) => [2 * e, 2 * e + 1]).filter((h) => mesh.face(h) !== NONE); // prettier-ignore
    const faces = rowsBetween(mesh, rows, false, like);
    const welded = weldEnds(mesh, p, fresh, lines, weldsWithin(p, width));
    const stuck = ground.sectors ? stickToSeam(mesh, fresh, ground.sectors.sectors, Math.max(ground.sectors.within, weldsWithin(p, width))) : 0; // prettier-ignore
    const live = faces.filter((f) => mesh.hasFace(f));
    const end = lines[lines.length - 1].filter((v) => mesh.hasVertex(v));
    return {
      selection: only({ edges: end.slice(1).flatMap((v, i) => (mesh.findHalf(end[i], v) === NONE ? [] : [mesh.findHalf(end[i], v) >> 1])) }), // prettier-ignore
      report: {
        sentence: `Row of ${n} by ${p.across} laid${welded > 0 ? `, ${plural(welded, 'point')} welded` : ''}${stuck > 0 ? `, ${plural(stuck, 'point')} on the seam` : ''}`,
        counts: { faces: live.length, along: n, width, length: total / n, welded, stuck },
      },
    };
  },
});

interface Station {
  at: Vec3;
  ahead: Vec3;
  /** how much wider a spoke is here, at a corner */
  mitre: number;
}

/** The stroke without the trembling of the hand: points a few per cent of its length apart. */
function simplified(stroke: readonly Vec3[], closed: boolean): Vec3[] {
  const total = lengthOf(stroke, closed);
  const kept: Vec3[] = [];
  for (const p of stroke) if (kept.length === 0 || distance(p, kept[kept.length - 1]) > total * 0.01) kept.push(p);
  const last = stroke[stroke.length - 1];
  if (!closed && kept[kept.length - 1] !== last) kept.push(last);
  return kept;
}

const lengthOf = (line: readonly Vec3[], closed: boolean): number =>
  line.reduce((sum, p, i) => sum + (i > 0 ? distance(line[i - 1], p) : closed ? distance(line[line.length - 1], p) : 0), 0); // prettier-ignore

/** Corners of the stroke: seen over a stretch, so that trembling makes none. */
function cornersOn(line: readonly Vec3[], closed: boolean): number[] {
  const n = line.length;
  const reach = Math.max(1, Math.round(n * 0.04));
  const at = (i: number): Vec3 | null => (closed ? line[((i % n) + n) % n] : (line[i] ?? null));
  const turn = line.map((p, i) => {
    const [a, b] = [at(i - reach), at(i + reach)];
    return a && b ? dot(normalize(sub(p, a)), normalize(sub(b, p))) : 1;
  });
  // the sharpest point of each stretch that turns
  return line.flatMap((_, i) => {
    if (turn[i] > CORNER) return [];
    for (let k = -reach; k <= reach; k++) {
      const j = closed ? (((i + k) % n) + n) % n : i + k;
      if (j >= 0 && j < n && (turn[j] < turn[i] || (turn[j] === turn[i] && j < i))) return [];
    }
    return [i];
  });
}

function stationsOn(line: readonly Vec3[], p: Params, fits: number): Station[] {
  const { closed } = p;
  const n = line.length;
  const corners = cornersOn(line, closed);
  const begin = closed ? (corners[0] ?? 0) : 0;
  const run = closed ? [...line.slice(begin), ...line.slice(0, begin), line[begin]] : [...line];
  const breaks = [0, ...corners.map((c) => (c - begin + n) % n).filter((c) => c > 0 && c < run.length - 1), run.length - 1].sort((a, b) => a - b); // prettier-ignore
  const parts = breaks.slice(1).map((b, i) => run.slice(breaks[i], b + 1));
  const total = lengthOf(run, false);
  const asked = p.along > 0 ? p.along : Math.max(1, Math.round(fits));
  const even = closed && asked % 2 === 1 ? asked + 1 : asked;
  const counts = shares(
    parts.map((part) => lengthOf(part, false) / total),
    even,
  );
  const stations: Station[] = [];
  parts.forEach((part, i) => {
    for (let k = 0; k < counts[i]; k++) stations.push(stationAt(part, k / counts[i]));
  });
  if (!closed) stations.push(stationAt(parts[parts.length - 1], 1));
  return mitred(stations, counts, closed);
}

/** A whole number split by shares, none below one. */
function shares(parts: readonly number[], whole: number): number[] {
  const counts = parts.map((s) => Math.max(1, Math.round(s * whole)));
  for (let sum = counts.reduce((a, b) => a + b, 0); sum !== whole; sum = counts.reduce((a, b) => a + b, 0)) {
    const by = sum < whole ? 1 : -1;
    const fit = counts.map((c, i) => (by < 0 && c === 1 ? -Infinity : by * (parts[i] * whole - c)));
    const best = fit.indexOf(Math.max(...fit));
    if (fit[best] === -Infinity) break;
    counts[best] += by;
  }
  return counts;
}

function stationAt(part: readonly Vec3[], t: number): Station {
  let left = t * lengthOf(part, false);
  for (let i = 1; i < part.length; i++) {
    const d = distance(part[i - 1], part[i]);
    if (left <= d || i === part.length - 1) return { at: lerp(part[i - 1], part[i], d > 0 ? Math.min(1, left / d) : 0), ahead: normalize(sub(part[i], part[i - 1])), mitre: 1 }; // prettier-ignore
    left -= d;
  }
  return { at: part[0], ahead: [1, 0, 0], mitre: 1 };
}

/** Where parts meet the spoke halves the turn, and is as much wider as keeps the row's width. */
function mitred(stations: readonly Station[], counts: readonly number[], closed: boolean): Station[] {
  const n = stations.length;
  let at = 0;
  const joints = new Set(counts.map((c) => (at += c)).map((i) => (closed ? i % n : i)));
  return stations.map((s, i) => {
    const before = stations[closed ? (i + n - 1) % n : i - 1],
      after = stations[closed ? (i + 1) % n : i + 1];
    if (!before || !after) return s;
    const a = normalize(sub(s.at, before.at)),
      b = normalize(sub(after.at, s.at));
    const ahead = normalize(add(a, b));
    const cosine = Math.max(0.35, dot(ahead, b));
    return { at: s.at, ahead, mitre: joints.has(i) ? 1 / cosine : 1 };
  });
}

/** The points across at a station, on the form, from the left of the stroke to its right. */
function spoke(mesh: PolyMesh, { at, ahead, mitre }: Station, p: Params, width: number, ground: Ground): number[] {
  const { form, plane } = ground;
  const foot = form ? form.closest(at) : { point: at, normal: p.facing };
  const toCentre = p.spokes === 'centre' && p.centre ? normalize(sub(p.centre, at)) : null;
  const square = normalize(cross(ahead, foot.normal));
  const across = toCentre ? normalize(addScaled(toCentre, foot.normal, -dot(toCentre, foot.normal))) : square;
  const way = dot(across, square) < 0 ? scale(across, -1) : across;
  const from = p.side === 'left' ? -1 : p.side === 'right' ? 0 : -0.5;
  const side = plane ? Math.sign(planeDistance(at, plane)) : 0;
  const points: Vec3[] = Array.from({ length: p.across + 1 }, (_, j) => {
    const q = addScaled(at, way, width * mitre * (from + j / p.across));
    return form ? form.closest(q).point : q;
  });
  if (plane && points.some((q) => planeDistance(q, plane) * side < 0))
    throw new TopologyError('OFF_MIDLINE', 'The row would lie across the midline, where the mirrored half is; draw it on one side.'); // prettier-ignore
  return points.map((q) => addVertex(mesh, q));
}

/** How near to older points, and to the seam, a row's ends join. */
const weldsWithin = ({ weldWithin, across }: Params, width: number): number => weldWithin ?? (0.45 * width) / across;

/** Points of the first and last spoke that lie near older ones become those. */
function weldEnds(
  mesh: PolyMesh,
  p: Params,
  fresh: ReadonlySet<number>,
  lines: readonly number[][],
  within: number,
): number {
  const given = p.closed
    ? []
    : [...joinedTo(mesh, lines[0], p.start), ...joinedTo(mesh, lines[lines.length - 1], p.end)];
  const taken = new Set(given.flat());
  const ends = p.closed ? [] : [...lines[0], ...lines[lines.length - 1]].filter((v) => !taken.has(v));
  const old = [...mesh.vertices()].filter(
    (v) => !fresh.has(v) && !taken.has(v) && (mesh.isBorderVertex(v) || mesh.valence(v) === 0),
  );
  const near = within <= 0 || ends.length === 0 ? [] : pairsWithin(mesh, within, [...ends, ...old]).flatMap(([a, b]): [number, number][] => (fresh.has(a) === fresh.has(b) ? [] : [fresh.has(a) ? [a, b] : [b, a]])); // prettier-ignore
  const pairs = [...given, ...near];
  if (pairs.length === 0) return 0;
  weld.run(mesh, only({}), { pairs }, { plane: null, form: null });
  return pairs.length;
}

/** A spoke paired with the vertices that it shall become, from whichever end is nearer. */
function joinedTo(mesh: PolyMesh, spoke: readonly number[], to: readonly number[] | undefined): [number, number][] {
  if (!to || to.length !== spoke.length || !to.every((v) => mesh.hasVertex(v))) return [];
  const way = (list: readonly number[]): number => spoke.reduce((sum, v, i) => sum + distance(mesh.point(v), mesh.point(list[i])), 0); // prettier-ignore
  const back = [...to].reverse();
  const list = way(back) < way(to) ? back : to;
  return spoke.map((v, i) => [v, list[i]]);
}
