import { distance, WayQueue, type Vec3 } from '../../math';
import type { PolyMesh } from '../../mesh';

export type ReachKind = 'none' | 'air' | 'skin' | 'piece';

/** 1 at the middle, 0 at the radius, flat at both ends. */
export const falloff = (share: number): number => {
  const s = 1 - Math.min(1, Math.max(0, share)) ** 2;
  return s * s;
};

/**
 * How much of a move each vertex takes: 1 for the given ones, less with distance up to `radius` (file units): through the air,
 * along the edges of the mesh, or through the air but on the same piece only. Cost: 'air' the whole mesh, the
 * others what hangs together within reach.
 */
export function reachWeights(
  mesh: PolyMesh,
  vertices: readonly number[],
  kind: ReachKind,
  radius: number,
): Map<number, number> {
  const weights = new Map(vertices.map((v) => [v, 1]));
  if (kind === 'none' || !(radius > 0)) return weights;
  const ways =
    kind === 'skin' ? waysAlongEdges(mesh, vertices, radius) : waysThroughAir(mesh, vertices, radius, kind === 'piece');
  for (const [v, way] of ways) if (!weights.has(v) && way < radius) weights.set(v, falloff(way / radius));
  return weights;
}

/** Shortest ways along edges (Dijkstra 1959), as far as the radius. */
function waysAlongEdges(mesh: PolyMesh, from: readonly number[], radius: number): Map<number, number> {
  const ways = new Map<number, number>(from.map((v) => [v, 0]));
  const done = new Set<number>();
  const queue = new WayQueue();
  for (const v of from) queue.push(v, 0);
  for (let next = queue.pop(); next; next = queue.pop()) {
    const { v, way } = next;
    if (done.has(v)) continue;
    done.add(v);
    const p = mesh.point(v);
    for (const h of mesh.vertexHalves(v)) {
      const w = mesh.target(h);
      const on = way + distance(p, mesh.point(w));
      if (on >= radius || on >= (ways.get(w) ?? Infinity)) continue;
      ways.set(w, on);
      queue.push(w, on);
    }
  }
  return ways;
}

function waysThroughAir(
  mesh: PolyMesh,
  from: readonly number[],
  radius: number,
  onePiece: boolean,
): Map<number, number> {
  const points = from.map((v) => mesh.point(v));
  const ways = new Map<number, number>();
  const way = (p: Vec3): number => points.reduce((least, q) => Math.min(least, distance(p, q)), Infinity);
  for (const v of onePiece ? samePiece(mesh, from) : mesh.vertices()) {
    const d = way(mesh.point(v));
    if (d < radius) ways.set(v, d);
  }
  return ways;
}

function samePiece(mesh: PolyMesh, from: readonly number[]): Set<number> {
  const seen = new Set(from);
  for (const v of seen) for (const h of mesh.vertexHalves(v)) seen.add(mesh.target(h));
  return seen;
}
