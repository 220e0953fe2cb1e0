import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { addScaled, distance, dot, lerp, sub, type Vec3 } from '../../math';
import { addEdge, addVertex, removeLooseEdge, type PolyMesh } from '../../mesh';
import { newPlace } from '../ground';
import { operator, plural } from '../operator';
import { proposedLength } from '../params';
import { only } from '../picked';
import { requireThreads, threadEnds } from './thread';

/** Where threads do not meet though they seem to. */
export interface ThreadTroubles {
  /** an end, and the point that it nearly reaches */
  nearPoints: { end: number; point: number }[];
  /** an end, and the thread that it nearly reaches, this share along it */
  nearEdges: { end: number; edge: number; along: number }[];
  /** two threads that cross without a point, this share along each, and half way between both places */
  crossings: { edges: [number, number]; along: [number, number]; at: Vec3 }[];
}

/** Nearer than this share of the threads' mean edge is nearly there, unless a length is given. */
const NEAR = 0.15;
/** Threads cross where they do so this far from their ends, as a share. */
const INSIDE = 0.02;

/**
 * What nearly meets, and what crosses without a point, within a length in file units; null takes a share of the threads' mean edge. Cost: the threads, and
 * pairs of those whose boxes overlap along x.
 */
export function threadTroubles(mesh: PolyMesh, within: number | null = null): ThreadTroubles {
  const edges = [...mesh.edges()].filter((e) => mesh.isLooseEdge(e));
  const found: ThreadTroubles = { nearPoints: [], nearEdges: [], crossings: [] };
  if (edges.length === 0) return found;
  const spans = edges.map((e) => spanOf(mesh, e));
  const by = within ?? (NEAR * spans.reduce((sum, s) => sum + distance(s.a, s.b), 0)) / spans.length;
  const taken = new Set<number>();
  const points = [...new Set(edges.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]).concat(openVertices(mesh)))]; // prettier-ignore
  for (const end of threadEnds(mesh)) {
    if (taken.has(end)) continue;
    const p = mesh.point(end);
    const [half] = mesh.vertexHalves(end);
    const isNear = (v: number): boolean => v !== end && v !== mesh.target(half) && distance(mesh.point(v), p) <= by;
    const near = points.filter(isNear);
    if (near.length > 0) {
      const point = near.reduce((a, b) => (distance(mesh.point(b), p) < distance(mesh.point(a), p) ? b : a));
      found.nearPoints.push({ end, point });
      taken.add(end).add(point);
      continue;
    }
    const beside = spans
      .filter((s) => s.edge !== half >> 1)
      .map((s) => ({ edge: s.edge, ...nearestOn(s, p) }))
      .filter((s) => s.far <= by && s.along > INSIDE && s.along < 1 - INSIDE);
    if (beside.length === 0) continue;
    const { edge, along } = beside.reduce((a, b) => (b.far < a.far ? b : a));
    found.nearEdges.push({ end, edge, along });
    taken.add(end);
  }
  found.crossings = crossingsOf(mesh, spans, by, found);
  return found;
}

interface Span {
  edge: number;
  a: Vec3;
  b: Vec3;
}
const spanOf = (mesh: PolyMesh, edge: number): Span => ({ edge, a: mesh.point(mesh.origin(2 * edge)), b: mesh.point(mesh.target(2 * edge)) }); // prettier-ignore

const openVertices = (mesh: PolyMesh): number[] => [...mesh.vertices()].filter((v) => mesh.isBorderVertex(v));

function nearestOn({ a, b }: Span, p: Vec3): { along: number; far: number } {
  const d = sub(b, a);
  const along = Math.min(1, Math.max(0, dot(sub(p, a), d) / Math.max(dot(d, d), Number.MIN_VALUE)));
  return { along, far: distance(addScaled(a, d, along), p) };
}

/** Pairs that pass each other closely inside both, swept along x. */
function crossingsOf(
  mesh: PolyMesh,
  spans: Span[],
  by: number,
  met: Omit<ThreadTroubles, 'crossings'>,
): ThreadTroubles['crossings'] {
  // prettier-ignore
  const low = (s: Span): number => Math.min(s.a[0], s.b[0]) - by;
  const sorted = [...spans].sort((s, t) => low(s) - low(t));
  const ends = (e: number): number[] => [mesh.origin(2 * e), mesh.target(2 * e)];
  /** whether an end of one is to be joined to the other anyway */
  const meets = (own: readonly number[], other: readonly number[], edge: number): boolean =>
    met.nearEdges.some((n) => n.edge === edge && own.includes(n.end)) ||
    met.nearPoints.some((n) => own.includes(n.end) && other.includes(n.point));
  const found: ThreadTroubles['crossings'] = [];
  sorted.forEach((s, i) => {
    const high = Math.max(s.a[0], s.b[0]) + by;
    const own = ends(s.edge);
    for (let k = i + 1; k < sorted.length && low(sorted[k]) <= high; k++) {
      const t = sorted[k];
      const others = ends(t.edge);
      if (others.some((v) => own.includes(v))) continue;
      if (meets(own, others, t.edge) || meets(others, own, s.edge)) continue;
      const pass = closestPass(s, t);
      if (pass && pass.far <= by) found.push({ edges: [s.edge, t.edge], along: pass.along, at: pass.at });
    }
  });
  return found;
}

/** Where two segments come closest, if that is inside both. */
function closestPass(s: Span, t: Span): { along: [number, number]; far: number; at: Vec3 } | null {
  const [u, w, r] = [sub(s.b, s.a), sub(t.b, t.a), sub(s.a, t.a)];
  const [uu, uw, ww, ur, wr] = [dot(u, u), dot(u, w), dot(w, w), dot(u, r), dot(w, r)];
  const det = uu * ww - uw * uw;
  if (det <= 1e-9 * uu * ww) return null;
  const [i, k] = [(uw * wr - ww * ur) / det, (uu * wr - uw * ur) / det];
  if (Math.min(i, k) <= INSIDE || Math.max(i, k) >= 1 - INSIDE) return null;
  const [p, q] = [addScaled(s.a, u, i), addScaled(t.a, w, k)];
  return { along: [i, k], far: distance(p, q), at: lerp(p, q, 0.5) };
}

/**
 * Ties threads together where they nearly meet: ends go to the point or the thread that they nearly reach, and threads that cross get a point there. Refuses
 * (NO_WAY) where all meet already. Cost: the threads.
 */
export const tieThreads = operator({
  name: 'tie-threads',
  title: 'Tie threads',
  params: z.object({ within: proposedLength('Within', 'Empty: a share of their mean edge') }),
  run(mesh, _selection, { within }, ground) {
    requireThreads(mesh);
    const { nearPoints, nearEdges, crossings } = threadTroubles(mesh, within);
    if (nearPoints.length + nearEdges.length + crossings.length === 0)
      throw new TopologyError('NO_WAY', 'All threads meet, or end too far from each other to be tied; choose a greater length to reach further.'); // prettier-ignore
    const cuts = new Map<number, { along: number; vertex: number }[]>();
    const cut = (edge: number, along: number, vertex: number): void =>
      void cuts.set(edge, [...(cuts.get(edge) ?? []), { along, vertex }]);
    const made: number[] = [];
    for (const { end, edge, along } of nearEdges) cut(edge, along, end);
    for (const { edges, along, at } of crossings) {
      const parents = edges.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]);
      const vertex = addVertex(mesh, newPlace(mesh, at, parents, ground));
      made.push(vertex);
      edges.forEach((e, i) => cut(e, along[i], vertex));
    }
    for (const [edge, points] of cuts) {
      const [from, to] = [mesh.origin(2 * edge), mesh.target(2 * edge)];
      const run = [from, ...points.sort((p, q) => p.along - q.along).map((p) => p.vertex), to];
      removeLooseEdge(mesh, edge);
      for (let i = 1; i < run.length; i++) addEdge(mesh, run[i - 1], run[i]);
    }
    for (const { end, point } of nearPoints) {
      const [half] = mesh.vertexHalves(end);
      const from = mesh.target(half);
      removeLooseEdge(mesh, half >> 1);
      mesh.freeVertex(end);
      addEdge(mesh, from, point);
    }
    const ends = nearPoints.length + nearEdges.length;
    const words = [ends > 0 && `${plural(ends, 'end')} joined`, made.length > 0 && `${plural(made.length, 'crossing')} given a point`]; // prettier-ignore
    return {
      selection: only({ vertices: [...nearPoints.map((n) => n.point), ...nearEdges.map((n) => n.end), ...made] }),
      report: { sentence: words.filter(Boolean).join(', '), counts: { ends, crossings: made.length } },
    };
  },
});
