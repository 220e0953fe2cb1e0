import { NONE, type PolyMesh } from './PolyMesh';

/** Picked elements by id. */
export interface Selection {
  vertices: readonly number[];
  edges: readonly number[];
  faces: readonly number[];
}
export const EMPTY_SELECTION: Selection = { vertices: [], edges: [], faces: [] };

/** What of a selection still exists, each element once. */
export function liveSelection(mesh: PolyMesh, s: Selection): Selection {
  return {
    vertices: [...new Set(s.vertices)].filter((v) => mesh.hasVertex(v)),
    edges: [...new Set(s.edges)].filter((e) => mesh.hasEdge(e)),
    faces: [...new Set(s.faces)].filter((f) => f !== NONE && mesh.hasFace(f)),
  };
}
