import { NONE, type PolyMesh } from './PolyMesh';

/** Elements that a change reached: what a view has to draw again. Ids may be gone by now. */
export interface Touched {
  vertices: Set<number>;
  edges: Set<number>;
  faces: Set<number>;
}

export const noneTouched = (): Touched => ({ vertices: new Set(), edges: new Set(), faces: new Set() });

/**
 * The elements behind changed rows, and the edges and faces round each moved vertex as the mesh is now.
 * Works on a delta's columns and on an open transaction's rows. Cost: what was touched.
 */
export function touchedElements(
  mesh: PolyMesh,
  changes: Iterable<{ column: string; rows: Iterable<number> }>,
  into = noneTouched(),
): Touched {
  const { vertices, edges, faces } = into;
  for (const { column, rows } of changes) {
    if (column === 'position' || column === 'vertexHalf' || column.startsWith('vertex:'))
      for (const v of rows) vertices.add(v);
    else if (column === 'faceHalf' || column.startsWith('face:')) for (const f of rows) faces.add(f);
    else if (column.startsWith('edge:')) for (const e of rows) edges.add(e);
    else if (column.startsWith('half') || column.startsWith('corner:')) for (const h of rows) edges.add(h >> 1);
  }
  for (const v of vertices) {
    if (!mesh.hasVertex(v)) continue;
    for (const h of mesh.vertexHalves(v)) {
      edges.add(h >> 1);
      if (mesh.face(h) !== NONE) faces.add(mesh.face(h));
    }
  }
  for (const e of edges)
    if (mesh.hasEdge(e)) for (const h of [2 * e, 2 * e + 1]) if (mesh.face(h) !== NONE) faces.add(mesh.face(h));
  return into;
}
