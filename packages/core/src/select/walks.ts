import * as z from 'zod/mini';
import { borderWalk, edgeLoop, edgeRing, NONE, type PolyMesh, type Walk } from '../mesh';
import { NoParams, only, query, unique } from './query';

const edgesOf = (walk: Walk): number[] => walk.halves.map((h) => h >> 1);

/** Loops through the picked edges. Cost: their length. */
export const loop = query({
  name: 'loop',
  title: 'Edge loop',
  params: NoParams,
  run: (mesh, { edges }) => only({ edges: unique(edges.flatMap((e) => edgesOf(edgeLoop(mesh, 2 * e)))) }),
});

export const ring = query({
  name: 'ring',
  title: 'Edge ring',
  params: NoParams,
  run: (mesh, { edges }) => only({ edges: unique(edges.flatMap((e) => edgesOf(edgeRing(mesh, 2 * e)))) }),
});

/** The strips of faces that the rings of the picked edges cross; of picked faces, both of each. */
export const strip = query({
  name: 'strip',
  title: 'Strip of faces',
  params: NoParams,
  run(mesh, { edges, faces }) {
    const starts = edges.length > 0 ? edges : faces.flatMap((f) => mesh.faceHalves(f).slice(0, 2).map((h) => h >> 1)); // prettier-ignore
    return only({ faces: unique(starts.flatMap((e) => stripFaces(mesh, e))) });
  },
});

/** The faces that an edge's ring crosses. */
export function stripFaces(mesh: PolyMesh, e: number): number[] {
  const isQuad = (f: number): boolean => f !== NONE && mesh.faceHalves(f).length === 4;
  return unique(edgeRing(mesh, 2 * e).halves.flatMap((h) => [mesh.face(h), mesh.face(h ^ 1)].filter(isQuad)));
}

/** The whole borders that the picked edges lie on. */
export const border = query({
  name: 'border',
  title: 'Whole border',
  params: NoParams,
  run: (mesh, { edges }) =>
    only({
      edges: unique(
        edges
          .filter((e) => mesh.isBorderEdge(e))
          .flatMap((e) => edgesOf(borderWalk(mesh, mesh.face(2 * e) === NONE ? 2 * e : 2 * e + 1))),
      ),
    }),
});

/**
 * The shortest way from the first to the last of the picked points, edges or faces, over edges or faces of the same kind.
 * A stretch of a loop, ring or strip is taken before other ways of the same count. Cost: what lies nearer than the goal.
 */
export const between = query({
  name: 'between',
  title: 'All between two',
  params: z.object({}),
  run(mesh, { vertices, edges, faces }) {
    if (vertices.length > 1) {
      const way = shortest(vertices[0], vertices[vertices.length - 1], (v) => straightFirst(mesh, v));
      const steps = way.slice(1).map((v, i) => mesh.findHalf(way[i], v) >> 1);
      return only({ vertices: way, edges: steps });
    }
    if (edges.length > 1) return only({ edges: edgesBetween(mesh, edges[0], edges[edges.length - 1]) });
    if (faces.length > 1) {
      const beside = (f: number): number[] => mesh.faceHalves(f).map((h) => mesh.face(h ^ 1)).filter((g) => g !== NONE); // prettier-ignore
      return only({ faces: shortest(faces[0], faces[faces.length - 1], beside) });
    }
    return only({ vertices, edges, faces });
  },
});

const straightFirst = (mesh: PolyMesh, v: number): number[] => mesh.vertexHalves(v).map((h) => mesh.target(h));

function edgesBetween(mesh: PolyMesh, a: number, b: number): number[] {
  for (const walk of [edgeLoop(mesh, 2 * a), edgeRing(mesh, 2 * a)]) {
    const run = stretch(edgesOf(walk), a, b, walk.closed);
    if (run) return run;
  }
  const touching = (e: number): number[] => [mesh.origin(2 * e), mesh.target(2 * e)].flatMap((v) => mesh.vertexHalves(v).map((h) => h >> 1)); // prettier-ignore
  return shortest(a, b, touching);
}

/** The part of a walk from one member to another, the shorter way round where it closes; null when one is not in it. */
function stretch(walk: readonly number[], a: number, b: number, closed: boolean): number[] | null {
  const [i, j] = [walk.indexOf(a), walk.indexOf(b)].sort((x, y) => x - y);
  if (i < 0) return null;
  const direct = walk.slice(i, j + 1);
  const round = [...walk.slice(j), ...walk.slice(0, i + 1)];
  return closed && round.length < direct.length ? round : direct;
}

/** A way of fewest steps (breadth first). Only its two ends when there is none. */
function shortest(from: number, to: number, next: (id: number) => number[]): number[] {
  const before = new Map<number, number>([[from, NONE]]);
  const queue = [from];
  for (const id of queue) {
    if (id === to) break;
    for (const n of next(id)) {
      if (before.has(n)) continue;
      before.set(n, id);
      queue.push(n);
    }
  }
  if (!before.has(to)) return unique([from, to]);
  const way: number[] = [];
  for (let id = to; id !== NONE; id = before.get(id) as number) way.push(id);
  return way.reverse();
}
