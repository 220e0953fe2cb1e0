import {
  addScaled,
  distance,
  dot,
  leastSquares,
  lerp,
  mirrored,
  normalize,
  roundedCorner,
  scale,
  sub,
  type Vec3,
} from '../../math';
import { TopologyError } from '../../errors';
import { faceNormal, NONE, type PolyMesh } from '../../mesh';
import { isSeam, settledPlace, type Ground } from '../ground';
import { inwardOf } from './offsets';

/** Faces round a vertex between two bevelled edges (or the open): they share one new vertex. */
export interface Sector {
  at: Vec3;
  /** the old edge it lies on, or NONE inside a face */
  on: number;
}
/** What becomes of a vertex where bevelled edges meet. */
export interface Corner {
  vertex: number;
  halves: number[];
  /** indices of bevelled edges in `halves`, in their turn (clockwise) */
  spokes: number[];
  sectors: Sector[];
  /** for each place between halves[i - 1] and halves[i] (where the face of halves[i] is): its sector, NONE in a gap */
  sectorAt: number[];
  /** the one bevelled edge runs out to nothing here */
  tapers: boolean;
  open: boolean;
  /** the vertex lies on the midline and bevelled edges run along it: one half of each strip is made here */
  seam: boolean;
}

/** A new vertex may go this far along an edge that is shortened from both ends, or from one. */
const MOST = { both: 0.48, one: 0.95 };

/**
 * Plans a vertex of bevelled edges: which faces share a new vertex, and where it lies: `width` away from the bevelled
 * edges beside, inside a face or on an edge between. Cost: the valence.
 */
export function planCorner(
  mesh: PolyMesh,
  vertex: number,
  bevelled: ReadonlySet<number>,
  width: number,
  ground: Ground,
): Corner {
  const halves = turnFromGap(mesh, vertex);
  const n = halves.length;
  const open = mesh.face(halves[0]) === NONE;
  const spokes = halves.map((h, i) => (bevelled.has(h >> 1) ? i : NONE)).filter((i) => i !== NONE);
  const sectorAt = new Array<number>(n).fill(NONE);
  const sectors: Sector[] = [];
  const seams = spokes.filter((i) => isSeamEdge(mesh, halves[i] >> 1, ground));
  if (seams.length > 0 && seams.length < spokes.length)
    throw new TopologyError('NO_WAY', 'A bevel along the midline cannot meet another one there; bevel one after the other.', { vertices: [vertex] }); // prettier-ignore
  const seam = seams.length > 0;
  const ends = seam ? halves.some((h) => !bevelled.has(h >> 1) && isSeamEdge(mesh, h >> 1, ground)) : !open;
  const tapers = spokes.length === 1 && ends;
  const bare = { ...ground, form: null };
  // the turn is clockwise: halves[i] has its own face before it, towards halves[i - 1]
  const starts = open ? [0, ...spokes] : spokes;
  starts.forEach((start, k) => {
    const end = starts[k + 1] ?? (open ? n - 1 : starts[0] + n);
    if (end === start) return;
    const between: number[] = [];
    for (let i = start + 1; i <= end; i++) {
      sectorAt[i % n] = sectors.length;
      if (i < end) between.push(halves[i % n]);
    }
    if (open && !bevelled.has(halves[start] >> 1)) between.unshift(halves[start]);
    if (open && k === starts.length - 1 && !bevelled.has(halves[end] >> 1)) between.push(halves[end]);
    const lines = [halves[start], halves[end % n]].filter((h) => bevelled.has(h >> 1));
    const at = tapers
      ? { at: mesh.point(vertex), on: NONE }
      : sectorPlace(mesh, vertex, lines, between, width, bevelled);
    // beside a bevelled midline the new vertex leaves it
    sectors.push(seam ? at : { ...at, at: settledPlace(mesh.point(vertex), at.at, bare) });
  });
  return { vertex, halves, spokes, sectors, sectorAt, tapers, open, seam };
}

/** Whether an edge lies on the midline, with the mirrored half on its other side. */
export const isSeamEdge = (mesh: PolyMesh, e: number, ground: Ground): boolean =>
  isSeam(mesh, mesh.face(2 * e) === NONE ? 2 * e : 2 * e + 1, ground);

/** The half-edges out of a vertex in their turn, beginning after a gap where there is one. */
function turnFromGap(mesh: PolyMesh, v: number): number[] {
  const halves = mesh.vertexHalves(v);
  const start = halves.findIndex((h) => mesh.face(h) === NONE);
  return start > 0 ? [...halves.slice(start), ...halves.slice(0, start)] : halves;
}

function sectorPlace(
  mesh: PolyMesh,
  v: number,
  lines: readonly number[],
  between: readonly number[],
  width: number,
  bevelled: ReadonlySet<number>,
): Sector {
  const p = mesh.point(v);
  const direction = (h: number): Vec3 => normalize(sub(mesh.point(mesh.target(h)), p));
  if (between.length > 0) {
    const rail = between[(between.length - 1) >> 1];
    const d = direction(rail);
    const sines = lines.map((h) => Math.sqrt(Math.max(0, 1 - dot(d, direction(h)) ** 2))).filter((s) => s > 0.05);
    const along = sines.length > 0 ? width / (sines.reduce((a, b) => a + b, 0) / sines.length) : width;
    return { at: addScaled(p, d, Math.min(along, mostAlong(mesh, rail, bevelled))), on: rail >> 1 };
  }
  // one face only, between two bevelled edges: as far from one as from the other
  const f = mesh.face(lines[1]);
  const inward = [inwardOf(mesh, lines[1]), inwardOf(mesh, mesh.prev(lines[1]))];
  const normal = faceNormal(mesh, f);
  const m = leastSquares([...inward, scale(normal, 10)], [width, width, 0]) ?? [0, 0, 0];
  const most = Math.min(...lines.map((h) => mostAlong(mesh, h, bevelled)));
  const reach = Math.max(...lines.map((h) => dot(m, direction(h))));
  return { at: addScaled(p, m, reach > most ? most / reach : 1), on: NONE };
}

function mostAlong(mesh: PolyMesh, h: number, bevelled: ReadonlySet<number>): number {
  const l = distance(mesh.point(mesh.origin(h)), mesh.point(mesh.target(h)));
  const far = mesh.vertexHalves(mesh.target(h)).some((g) => bevelled.has(g >> 1));
  return l * (far ? MOST.both : MOST.one);
}

/** The points across a bevelled edge at one end, from its left sector to its right one as it leaves the vertex. */
export function profileAt(mesh: PolyMesh, corner: Corner, spoke: number, segments: number, { plane }: Ground): Vec3[] {
  const { halves, sectors, sectorAt, vertex } = corner;
  const h = halves[spoke];
  const p = mesh.point(vertex);
  const d = normalize(sub(mesh.point(mesh.target(h)), p));
  // where two bevelled edges go through a point their strips share it as the ridge
  const ridgeOf = (left: Vec3, right: Vec3): Vec3 => corner.spokes.length === 2 && (corner.seam || !corner.open) ? p : addScaled(p, d, dot(sub(lerp(left, right, 0.5), p), d)); // prettier-ignore
  if (corner.seam && plane) {
    const { at } = sectors[0];
    const across = mirrored(at, plane);
    const half = Array.from({ length: segments / 2 + 1 }, (_, i) => (i === 0 ? at : roundedCorner(at, ridgeOf(at, across), across, i / segments))); // prettier-ignore
    return mesh.face(h) === NONE ? half.reverse() : half;
  }
  const left = sectors[sectorAt[spoke]].at,
    right = sectors[sectorAt[(spoke + 1) % halves.length]].at;
  const ridge = ridgeOf(left, right);
  return Array.from({ length: segments + 1 }, (_, i) => (i === 0 ? left : i === segments ? right : roundedCorner(left, ridge, right, i / segments))); // prettier-ignore
}
