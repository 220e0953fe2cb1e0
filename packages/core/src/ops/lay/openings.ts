import { TopologyError } from '../../errors';
import { cross, distance, dot, lerp, normalize, ontoPlane, sub, type Vec3 } from '../../math';
import { areaNormal, borderWalk, type PolyMesh, type Selection } from '../../mesh';
import { isSeam, settledPlace, type Ground } from '../ground';
import { openHalf } from '../drawOut';

/** An opening: its border in order, the opening on its left. */
export interface Opening {
  vertices: number[];
  /** the half-edges of the border that are there; one fewer than vertices where the border goes on along the midline */
  halves: number[];
  /** the first and last vertex lie on the midline, and the mirrored half has the rest of the border */
  half: boolean;
}

/**
 * The opening that a picked border edge belongs to. With symmetry a border that meets the midline is half an opening. Throws
 * NOTHING_PICKED, NOT_A_BORDER, or NO_WAY for a border that runs through a point twice. Cost: the border.
 */
export function openingAt(mesh: PolyMesh, edge: number, ground: Ground): Opening {
  const start = openHalf(mesh, edge);
  if (isSeam(mesh, start, ground))
    throw new TopologyError('OFF_MIDLINE', 'This edge lies on the midline: the mirrored half is on its other side.', { edges: [edge] }); // prettier-ignore
  const loop = borderWalk(mesh, start).halves;
  const seam = loop.findIndex((h) => isSeam(mesh, h, ground));
  // begun after the midline, the walk up to the next stretch of it that holds the picked edge
  const turned = seam < 0 ? loop : [...loop.slice(seam + 1), ...loop.slice(0, seam + 1)];
  const halves = seam < 0 ? loop : runWith(turned, start, (h) => isSeam(mesh, h, ground));
  const vertices = halves.map((h) => mesh.origin(h));
  const last = mesh.target(halves[halves.length - 1]);
  if (seam >= 0 && last !== vertices[0]) vertices.push(last);
  if (new Set(vertices).size !== vertices.length)
    throw new TopologyError('NO_WAY', 'This border runs through one point twice; weld or part it there first.', { vertices: vertices.filter((v, i) => vertices.indexOf(v) !== i) }); // prettier-ignore
  return { vertices, halves, half: vertices.length > halves.length };
}

function runWith(loop: readonly number[], h: number, isBreak: (h: number) => boolean): number[] {
  let run: number[] = [];
  for (const g of loop) {
    if (!isBreak(g)) run.push(g);
    else if (run.includes(h)) return run;
    else run = [];
  }
  return run;
}

/** Edges from one end of half an opening to the other, along the midline: about as long as the border's, and so many that all are even. */
export function midlineCount(mesh: PolyMesh, { vertices, halves }: Opening): number {
  const mean = halves.reduce((sum, h) => sum + distance(mesh.point(mesh.origin(h)), mesh.point(mesh.target(h))), 0) / halves.length; // prettier-ignore
  const far = distance(mesh.point(vertices[0]), mesh.point(vertices[vertices.length - 1]));
  const wanted = Math.max(1, far / mean);
  const even = 2 * Math.round((wanted - (halves.length % 2)) / 2) + (halves.length % 2);
  return Math.max(halves.length % 2 === 0 ? 2 : 1, even);
}

/** Points between both ends of half an opening, exactly on the midline and on the form. */
export function midlinePoints(mesh: PolyMesh, { vertices }: Opening, count: number, ground: Ground): Vec3[] {
  const [a, b] = [mesh.point(vertices[vertices.length - 1]), mesh.point(vertices[0])];
  return Array.from({ length: count - 1 }, (_, i) => {
    const p = ground.plane ? ontoPlane(lerp(a, b, (i + 1) / count), ground.plane) : lerp(a, b, (i + 1) / count);
    return settledPlace(p, p, ground);
  });
}

/** At most so many corners. */
const MOST_CORNERS = 6;

/**
 * Where the sides of an opening begin: at picked vertices, else where its border turns by more than an angle (degrees), the sharpest six; with
 * fewer than two of those, four spread so that they span the most. Places in `points`.
 */
export function cornersOf(
  points: readonly Vec3[],
  vertices: readonly number[],
  selection: Selection,
  angle: number,
  fixed: readonly number[],
): number[] {
  const picked = vertices.flatMap((v, i) => (selection.vertices.includes(v) ? [i] : []));
  if (picked.length >= 2 && picked.length <= MOST_CORNERS) return picked;
  const normal = normalize(areaNormal(points));
  const n = points.length;
  const turns = points.map((p, i) => {
    const a = normalize(sub(p, points[(i + n - 1) % n])),
      b = normalize(sub(points[(i + 1) % n], p));
    const turn = (Math.acos(Math.max(-1, Math.min(1, dot(a, b)))) * 180) / Math.PI;
    // a border that turns away from the opening has no corner there
    return dot(cross(a, b), normal) > 0 ? turn : -turn;
  });
  for (const i of fixed) turns[i] = 180;
  const sharp = turns.flatMap((t, i) => (t > angle ? [i] : [])).sort((a, b) => turns[b] - turns[a]);
  const corners = sharp.slice(0, MOST_CORNERS).sort((a, b) => a - b);
  return corners.length >= 2 ? corners : spreadCorners(points);
}

/**
 * Edges of each side of an opening, between its corners, in turn from the first corner; half an opening has its sides from the midline to the midline. Cost: the
 * border. Throws as `openingAt`.
 */
export function sidesOf(
  mesh: PolyMesh,
  edge: number,
  selection: Selection,
  angle: number,
  ground: Ground,
): { sides: number[]; half: boolean } {
  // prettier-ignore
  const { vertices, half } = openingAt(mesh, edge, ground);
  const points = vertices.map((v) => mesh.point(v));
  const n = vertices.length;
  const found = cornersOf(points, vertices, selection, angle, half ? [0, n - 1] : []);
  const corners = half ? [...new Set([0, ...found, n - 1])].sort((a, b) => a - b) : found;
  const next = (i: number): number => corners[(i + 1) % corners.length];
  const sides = corners.map((c, i) => (next(i) - c + n) % n || n);
  return { sides: half ? sides.slice(0, -1) : sides, half };
}

/** Four corners with opposite sides alike that span the largest area. */
function spreadCorners(points: readonly Vec3[]): number[] {
  const n = points.length;
  const a = Math.max(1, Math.floor(n / 4)),
    b = Math.floor(n / 2) - a;
  if (b < 1) return [0, Math.floor(n / 2)];
  const at = (turn: number): number[] => [turn, turn + a, turn + a + b, turn + 2 * a + b].map((i) => i % n);
  const span = (turn: number): number => {
    const [p, q, r, s] = at(turn).map((i) => points[i]);
    const d = cross(sub(r, p), sub(s, q));
    return dot(d, d);
  };
  const best = Array.from({ length: n }, (_, t) => t).reduce((x, y) => (span(y) > span(x) * (1 + 1e-9) ? y : x), 0);
  return at(best).sort((x, y) => x - y);
}
