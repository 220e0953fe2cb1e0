import { dot, lerp, nearestOnLine, normalize, sub, type Vec3 } from '../math';
import { SculptSurface, WalkingForm } from '../surface';
import type { TriangleMesh } from './TriangleMesh';

/** The surface that points of a remesher are brought back onto. */
export type RemeshForm = WalkingForm;

/** A line that stays: its points in order, and whether it closes. */
export interface KeptLine {
  points: readonly Vec3[];
  closed: boolean;
}

/** A line that turns by more than this at a point has a corner there; cosine of 40°. */
const CORNER = Math.cos((40 * Math.PI) / 180);
const ROUNDS = 6;

/**
 * Remeshes triangles in place to edges of about a length: long edges are split, short ones collapsed, edges turned towards six round each
 * point, points evened out on the surface; over and over (Botsch and Kobbelt 2004). Lines keep their place: their points only slide on
 * them, and their corners stay. `form` is the surface that points are brought back onto; `tell` hears how far it is. Cost: rounds times triangles, with a closest-point query for each point moved.
 */
export function isotropic(
  mesh: TriangleMesh,
  lines: readonly KeptLine[],
  form: RemeshForm,
  wanted: number,
  tell: (done: number) => void = () => undefined,
): void {
  const longest = (4 / 3) * wanted,
    shortest = (4 / 5) * wanted;
  for (let round = 0; round < ROUNDS; round++) {
    splitLong(mesh, lines, longest);
    collapseShort(mesh, shortest, longest);
    turnEdges(mesh);
    evenOut(mesh, lines, form);
    tell((round + 1) / ROUNDS);
  }
  turnEdges(mesh);
}

/** The triangles as they are now as a surface that points are brought back onto. */
export function surfaceOf(mesh: TriangleMesh): RemeshForm {
  const indices: number[] = [];
  for (const t of mesh.triangles()) indices.push(...mesh.triangle(t));
  const positions = new Float32Array(3 * mesh.points.length);
  mesh.points.forEach((p, i) => positions.set(p, 3 * i));
  return new WalkingForm(SculptSurface.build({ positions, indices: Uint32Array.from(indices) }));
}

function splitLong(mesh: TriangleMesh, lines: readonly KeptLine[], longest: number): void {
  for (let again = true, pass = 0; again && pass < 12; pass++) {
    again = false;
    const edges = mesh.edges();
    for (let i = 0; i < edges.length; i += 2) {
      const [u, v] = [edges[i], edges[i + 1]];
      if (mesh.far(u, v) <= longest || !mesh.hasEdge(u, v)) continue;
      const line = mesh.line(u, v);
      const m = mesh.split(u, v);
      if (line !== undefined) mesh.points[m] = nearestOnLine(mesh.points[m], lines[line].points, lines[line].closed).point; // prettier-ignore
      again = true;
    }
  }
}

/** Whether a line from a over p to b has a corner at p. */
export const turnsAt = (p: Vec3, a: Vec3, b: Vec3): boolean =>
  dot(normalize(sub(p, a)), normalize(sub(b, p))) <= CORNER;

/** 0: free, 1: slides on a line, 2: a corner that stays. */
function bound(mesh: TriangleMesh, v: number): 0 | 1 | 2 {
  const ends = mesh.lineNeighbours(v);
  if (ends.length === 0) return 0;
  if (ends.length !== 2) return 2;
  const isOneLine = mesh.line(v, ends[0]) === mesh.line(v, ends[1]);
  return isOneLine && !turnsAt(mesh.points[v], mesh.points[ends[0]], mesh.points[ends[1]]) ? 1 : 2;
}

function collapseShort(mesh: TriangleMesh, shortest: number, longest: number): void {
  const edges = mesh.edges();
  const short: { u: number; v: number; far: number }[] = [];
  for (let i = 0; i < edges.length; i += 2) {
    const far = mesh.far(edges[i], edges[i + 1]);
    if (far < shortest) short.push({ u: edges[i], v: edges[i + 1], far });
  }
  short.sort((a, b) => a.far - b.far);
  for (const { u: a, v: b } of short) {
    if (mesh.far(a, b) >= shortest || !mesh.hasEdge(a, b)) continue;
    const [ba, bb] = [bound(mesh, a), bound(mesh, b)];
    const [u, v, bu, bv] = ba <= bb ? [a, b, ba, bb] : [b, a, bb, ba];
    // a point of a line goes along it only; a corner never goes
    if (bu === 2 || (bu === 1 && mesh.line(u, v) === undefined)) continue;
    mesh.collapse(u, v, bv === 0 ? lerp(mesh.points[u], mesh.points[v], 0.5) : mesh.points[v], longest);
  }
}

/** Turns edges where that brings the points round them nearer to six neighbours, or four at a border. */
function turnEdges(mesh: TriangleMesh): void {
  // turning changes no border
  const wanted = mesh.points.map((_, v) => (mesh.isRim(v) ? 3 : 6));
  /** how far off a point is, in squares, with so many triangles more; a border point has one neighbour more than triangles */
  const off = (v: number, by: number): number => (mesh.around[v].length - wanted[v] + by) ** 2;
  const edges = mesh.edges();
  for (let i = 0; i < edges.length; i += 2) {
    const [u, v] = [edges[i], edges[i + 1]];
    const shared = mesh.sharedBy(u, v);
    if (shared.length !== 2) continue;
    const [c, d] = shared.map((t) => mesh.opposite(t, u, v));
    const before = off(u, 0) + off(v, 0) + off(c, 0) + off(d, 0);
    const after = off(u, -1) + off(v, -1) + off(c, 1) + off(d, 1);
    if (after < before) mesh.turn(u, v);
  }
}

function evenOut(mesh: TriangleMesh, lines: readonly KeptLine[], form: RemeshForm): void {
  const places = mesh.points.map((p, v): Vec3 => {
    if (mesh.around[v].length === 0) return p;
    const kind = bound(mesh, v);
    if (kind === 2) return p;
    if (kind === 1) return onLine(mesh, lines, v);
    const next = mesh.neighbours(v);
    let x = 0, y = 0, z = 0; // prettier-ignore
    for (const w of next) {
      const q = mesh.points[w];
      x += q[0];
      y += q[1];
      z += q[2];
    }
    return form.closest([x / next.length, y / next.length, z / next.length], v).point;
  });
  // a move that folds a triangle is left for the next round
  places.forEach((to, v) => {
    if (!mesh.wouldFold(v, to)) mesh.points[v] = to;
  });
}

function onLine(mesh: TriangleMesh, lines: readonly KeptLine[], v: number): Vec3 {
  const [a, b] = mesh.lineNeighbours(v);
  const line = lines[mesh.line(v, a) as number];
  const middle = lerp(mesh.points[a], mesh.points[b], 0.5);
  return nearestOnLine(lerp(mesh.points[v], middle, 0.7), line.points, line.closed).point;
}
