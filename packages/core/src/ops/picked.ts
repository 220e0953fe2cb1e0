import { TopologyError } from '../errors';
import { distance } from '../math';
import { NONE, type PolyMesh, type Selection } from '../mesh';

const refuse = (sentence: string): TopologyError => new TopologyError('NOTHING_PICKED', sentence);

/** The picked edges that are there; of picked faces or vertices, those that lie wholly among them. Throws NOTHING_PICKED. */
export function pickedEdges(mesh: PolyMesh, s: Selection, sentence = 'Pick at least one edge first.'): number[] {
  const edges = [...new Set(s.edges)].filter((e) => mesh.hasEdge(e));
  if (edges.length > 0) return edges;
  const found = new Set<number>();
  for (const f of s.faces) if (mesh.hasFace(f)) for (const h of mesh.faceHalves(f)) found.add(h >> 1);
  if (found.size === 0) {
    const picked = new Set(s.vertices.filter((v) => mesh.hasVertex(v)));
    for (const v of picked) for (const h of mesh.vertexHalves(v)) if (picked.has(mesh.target(h))) found.add(h >> 1);
  }
  if (found.size === 0) throw refuse(sentence);
  return [...found];
}

/** The picked faces that are there. Throws NOTHING_PICKED. */
export function pickedFaces(mesh: PolyMesh, s: Selection, sentence = 'Pick at least one face first.'): number[] {
  const faces = [...new Set(s.faces)].filter((f) => mesh.hasFace(f));
  if (faces.length === 0) throw refuse(sentence);
  return faces;
}

/** The vertices of everything that is picked. Throws NOTHING_PICKED. */
export function pickedVertices(mesh: PolyMesh, s: Selection, sentence = 'Pick something first.'): number[] {
  const found = verticesOf(mesh, s);
  if (found.size === 0) throw refuse(sentence);
  return [...found];
}

export function verticesOf(mesh: PolyMesh, s: Selection): Set<number> {
  const found = new Set(s.vertices.filter((v) => mesh.hasVertex(v)));
  for (const e of s.edges) if (mesh.hasEdge(e)) for (const h of [2 * e, 2 * e + 1]) found.add(mesh.origin(h));
  for (const f of s.faces) if (mesh.hasFace(f)) for (const v of mesh.faceVertices(f)) found.add(v);
  return found;
}

export const edgeLength = (mesh: PolyMesh, e: number): number =>
  distance(mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e)));

/** Mean length of edges, file units; 0 of none. */
export function meanLength(mesh: PolyMesh, edges: Iterable<number>): number {
  let sum = 0,
    n = 0;
  for (const e of edges) {
    sum += edgeLength(mesh, e);
    n++;
  }
  return n > 0 ? sum / n : 0;
}

/** The faces beside an edge: none, one or two. */
export const facesOf = (mesh: PolyMesh, e: number): number[] =>
  [mesh.face(2 * e), mesh.face(2 * e + 1)].filter((f) => f !== NONE);

export const only = (what: Partial<Selection>): Selection => ({ vertices: [], edges: [], faces: [], ...what });

/** Edges between vertices, as far as they are there. */
export const edgesBetween = (mesh: PolyMesh, pairs: Iterable<readonly [number, number]>): number[] =>
  [...new Set([...pairs].map(([u, v]) => mesh.findHalf(u, v)).filter((h) => h !== NONE).map((h) => h >> 1))]; // prettier-ignore
