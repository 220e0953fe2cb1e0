import { lerp } from '../../math';
import { between, NONE, Rebuild, type PolyMesh } from '../../mesh';
import { newPlace, type Ground } from '../ground';

/** Where on an edge a new vertex shall stand: a fraction from origin(2e). */
export interface EdgePoint {
  edge: number;
  at: number;
}

/**
 * New vertices on edges, in the order asked for; the faces beside take them as further corners. Several on one edge
 * may come in any order. Cost: the faces beside.
 */
export function addEdgePoints(mesh: PolyMesh, points: readonly EdgePoint[], ground: Ground): number[] {
  const byEdge = new Map<number, { at: number; index: number; vertex: number }[]>();
  points.forEach(({ edge, at }, index) => byEdge.set(edge, [...(byEdge.get(edge) ?? []), { at, index, vertex: NONE }]));
  const faces = new Set<number>();
  for (const e of byEdge.keys()) for (const h of [2 * e, 2 * e + 1]) if (mesh.face(h) !== NONE) faces.add(mesh.face(h));
  const outlines = [...faces].map((f) => ({ f, halves: mesh.faceHalves(f), corners: mesh.faceVertices(f) }));
  const ends = new Map([...byEdge.keys()].map((e) => [e, [mesh.origin(2 * e), mesh.target(2 * e)] as const]));
  const rebuild = new Rebuild(mesh, faces);
  const made: number[] = [];
  for (const [e, list] of byEdge) {
    const [u, v] = ends.get(e) as readonly [number, number];
    list.sort((p, q) => p.at - q.at);
    for (const p of list) {
      const place = newPlace(mesh, lerp(mesh.point(u), mesh.point(v), p.at), [u, v], ground);
      p.vertex = made[p.index] = rebuild.vertex(place, between(u, v, p.at));
    }
    const run = [u, ...list.map((p) => p.vertex), v];
    for (let i = 1; i < run.length; i++) rebuild.edge(run[i - 1], run[i], e);
  }
  for (const { f, halves, corners } of outlines)
    rebuild.face(
      halves.flatMap((h, i) => {
        const list = (byEdge.get(h >> 1) ?? []).map((p) => p.vertex);
        return [corners[i], ...(h % 2 === 0 ? list : list.reverse())];
      }),
      f,
    );
  rebuild.finish();
  return made;
}

/**
 * Splits a face between two of its corners, by a straight edge or over points inside. The corners must not be
 * neighbours, unless points lie between. Returns the two faces.
 */
export function splitFace(mesh: PolyMesh, f: number, a: number, b: number, inside: readonly number[] = []): number[] {
  const corners = mesh.faceVertices(f);
  const around = [...corners.slice(corners.indexOf(a)), ...corners.slice(0, corners.indexOf(a))];
  const k = around.indexOf(b);
  const rebuild = new Rebuild(mesh, [f]);
  for (const outline of [
    [...around.slice(0, k + 1), ...[...inside].reverse()],
    [b, ...around.slice(k + 1), a, ...inside],
  ])
    rebuild.face(outline, f);
  return rebuild.finish();
}

/** The face in which two vertices can be joined by a new edge, or NONE. */
export function commonFace(mesh: PolyMesh, a: number, b: number): number {
  const beside = new Set(mesh.vertexFaces(b));
  return mesh.vertexFaces(a).find((f) => beside.has(f)) ?? NONE;
}
