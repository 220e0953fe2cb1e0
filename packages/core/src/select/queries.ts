import { borderWalk, edgeLoop, edgeRing, EMPTY_SELECTION, NONE, type PolyMesh, type Selection } from '../mesh';
import type { SelectionQuery } from './query';

const edgesOnly = (edges: Iterable<number>): Selection => ({ ...EMPTY_SELECTION, edges: [...new Set(edges)] });

export const all: SelectionQuery = {
  name: 'all',
  title: 'Everything',
  run: (mesh) => ({ vertices: [], edges: [], faces: [...mesh.faces()] }),
};

export const none: SelectionQuery = { name: 'none', title: 'Nothing', run: () => EMPTY_SELECTION };

export const loop: SelectionQuery = {
  name: 'loop',
  title: 'Edge loop',
  run: (mesh, { edges }) => edgesOnly(edges.flatMap((e) => edgeLoop(mesh, 2 * e).halves.map((h) => h >> 1))),
};

export const ring: SelectionQuery = {
  name: 'ring',
  title: 'Edge ring',
  run: (mesh, { edges }) => edgesOnly(edges.flatMap((e) => edgeRing(mesh, 2 * e).halves.map((h) => h >> 1))),
};

/** The whole borders that the picked edges lie on. */
export const border: SelectionQuery = {
  name: 'border',
  title: 'Whole border',
  run: (mesh, { edges }) =>
    edgesOnly(
      edges
        .filter((e) => mesh.isBorderEdge(e))
        .flatMap((e) => borderWalk(mesh, mesh.face(2 * e) === NONE ? 2 * e : 2 * e + 1).halves.map((h) => h >> 1)),
    ),
};

/** Every border edge of the mesh. */
export const open: SelectionQuery = {
  name: 'open',
  title: 'Open edges',
  run: (mesh) => edgesOnly([...mesh.edges()].filter((e) => mesh.isBorderEdge(e))),
};

/** All faces that hang together with what is picked. */
export const connected: SelectionQuery = {
  name: 'connected',
  title: 'All connected',
  run(mesh, selection) {
    const seen = new Set<number>(selection.vertices);
    for (const e of selection.edges) [2 * e, 2 * e + 1].forEach((h) => seen.add(mesh.origin(h)));
    for (const f of selection.faces) mesh.faceVertices(f).forEach((v) => seen.add(v));
    for (const v of seen) for (const h of mesh.vertexHalves(v)) seen.add(mesh.target(h));
    return { vertices: [], edges: [], faces: facesTouching(mesh, seen) };
  },
};

function facesTouching(mesh: PolyMesh, vertices: ReadonlySet<number>): number[] {
  const faces = new Set<number>();
  for (const v of vertices) for (const f of mesh.vertexFaces(v)) faces.add(f);
  return [...faces];
}

/** Of each kind of element that is picked, the others instead; with nothing picked, every face. */
export const invert: SelectionQuery = {
  name: 'invert',
  title: 'The other ones',
  run(mesh, s) {
    const others = (ids: Iterable<number>, picked: readonly number[]): number[] => {
      const set = new Set(picked);
      return [...ids].filter((id) => !set.has(id));
    };
    if (s.vertices.length > 0) return { ...EMPTY_SELECTION, vertices: others(mesh.vertices(), s.vertices) };
    if (s.edges.length > 0) return { ...EMPTY_SELECTION, edges: others(mesh.edges(), s.edges) };
    return { ...EMPTY_SELECTION, faces: others(mesh.faces(), s.faces) };
  },
};
