import * as z from 'zod/mini';
import { NONE, type PolyMesh, type Selection } from '../mesh';
import { only, query, unique } from './query';
import { cornersOf } from './whole';

const Params = z.object({
  /** only elements that lie wholly among what is picked; else all that touch it */
  wholly: z._default(z.boolean(), true),
});

export const toVertices = query({
  name: 'to-vertices',
  title: 'Their points',
  params: z.object({}),
  run: (mesh, selection) => only({ vertices: [...cornersOf(mesh, selection)] }),
});

export const toEdges = query({
  name: 'to-edges',
  title: 'Their edges',
  params: Params,
  run(mesh, selection, { wholly }) {
    const own = [...selection.edges, ...selection.faces.flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1))];
    return only({ edges: unique([...own, ...edgesAmong(mesh, new Set(selection.vertices), wholly)]) });
  },
});

export const toFaces = query({
  name: 'to-faces',
  title: 'Their faces',
  params: Params,
  run(mesh, selection, { wholly }) {
    const corners = cornersOf(mesh, selection);
    const edges = new Set(selection.edges);
    const beside = unique([...corners].flatMap((v) => mesh.vertexFaces(v)));
    const isIn = (f: number): boolean =>
      wholly ? mesh.faceVertices(f).every((v) => corners.has(v)) : touches(mesh, f, selection, edges);
    return only({ faces: unique([...selection.faces, ...beside.filter(isIn)]) });
  },
});

function edgesAmong(mesh: PolyMesh, vertices: ReadonlySet<number>, wholly: boolean): number[] {
  const halves = [...vertices].flatMap((v) => mesh.vertexHalves(v));
  return halves.filter((h) => !wholly || vertices.has(mesh.target(h))).map((h) => h >> 1);
}

/** Faces touch picked points by a corner, picked edges by a side. */
function touches(mesh: PolyMesh, f: number, { vertices }: Selection, edges: ReadonlySet<number>): boolean {
  return mesh.faceHalves(f).some((h) => edges.has(h >> 1) || vertices.includes(mesh.origin(h)));
}

/** One ring further all round. */
export const grow = query({
  name: 'grow',
  title: 'Grow',
  params: z.object({}),
  run(mesh, s) {
    const edgesAt = (v: number): number[] => mesh.vertexHalves(v).map((h) => h >> 1);
    const ends = (e: number): number[] => [mesh.origin(2 * e), mesh.target(2 * e)];
    return {
      vertices: unique(s.vertices.flatMap((v) => [v, ...mesh.vertexHalves(v).map((h) => mesh.target(h))])),
      edges: unique(s.edges.flatMap((e) => ends(e).flatMap(edgesAt))),
      faces: unique(s.faces.flatMap((f) => mesh.faceVertices(f).flatMap((v) => mesh.vertexFaces(v)))),
    };
  },
});

/** One ring less: what touches anything that is not picked goes. Borders of the mesh are no reason to go. */
export const shrink = query({
  name: 'shrink',
  title: 'Shrink',
  params: z.object({}),
  run(mesh, s) {
    const [vertices, edges, faces] = [new Set(s.vertices), new Set(s.edges), new Set(s.faces)];
    const around = (e: number): number[] =>
      [mesh.origin(2 * e), mesh.target(2 * e)].flatMap((v) => mesh.vertexHalves(v).map((h) => h >> 1));
    return {
      vertices: s.vertices.filter((v) => mesh.vertexHalves(v).every((h) => vertices.has(mesh.target(h)))),
      edges: s.edges.filter((e) => around(e).every((g) => edges.has(g))),
      faces: s.faces.filter((f) =>
        mesh.faceVertices(f).every((v) => mesh.vertexFaces(v).every((g) => g === NONE || faces.has(g))),
      ),
    };
  },
});
