import { NONE, type PolyMesh } from './PolyMesh';

/** Picked elements by id. */
export interface Selection {
  vertices: readonly number[];
  edges: readonly number[];
  faces: readonly number[];
}
export const EMPTY_SELECTION: Selection = { vertices: [], edges: [], faces: [] };

/** What of a selection still exists. */
export function liveSelection(mesh: PolyMesh, s: Selection): Selection {
  return {
    vertices: s.vertices.filter((v) => mesh.hasVertex(v)),
    edges: s.edges.filter((e) => mesh.hasEdge(e)),
    faces: s.faces.filter((f) => f !== NONE && mesh.hasFace(f)),
  };
}
