import { TopologyError } from '../errors';
import { isFinite3, type Vec3 } from '../math';
import { NONE, type PolyMesh } from './PolyMesh';

/** A new isolated vertex at p. Throws NOT_FINITE. */
export function addVertex(mesh: PolyMesh, p: Vec3): number {
  if (!isFinite3(p)) throw new TopologyError('NOT_FINITE', 'A point needs three finite coordinates.');
  const v = mesh.allocVertex();
  mesh.setPoint(v, p);
  return v;
}

/** The border half-edge that arrives at v, or NONE when v is isolated or has faces all round. */
function borderInto(mesh: PolyMesh, v: number): number {
  const first = mesh.vertexHalf.data[v];
  if (first === NONE) return NONE;
  let h = first;
  do {
    if (mesh.face(h ^ 1) === NONE) return h ^ 1;
    h = mesh.next(h ^ 1);
  } while (h !== first);
  return NONE;
}

/**
 * The half-edge u → v, made as a loose edge when there is none.
 * Throws VERTEX_CLOSED when an end has faces all round. Cost: the valences of u and v.
 */
export function addEdge(mesh: PolyMesh, u: number, v: number): number {
  if (u === v) throw new TopologyError('VERTEX_REPEATED', 'An edge needs two different points.', { vertices: [u] });
  const known = mesh.findHalf(u, v);
  return known !== NONE ? known : joinByEdge(mesh, u, v);
}

/** A loose edge between two different vertices that have none. */
function joinByEdge(mesh: PolyMesh, u: number, v: number): number {
  const [atU, atV] = [gapAt(mesh, u), gapAt(mesh, v)];
  const h = 2 * mesh.allocEdge();
  const g = h ^ 1;
  mesh.halfOrigin.set(h, u);
  mesh.halfOrigin.set(g, v);
  insertAt(mesh, u, atU, h);
  insertAt(mesh, v, atV, g);
  return h;
}

function gapAt(mesh: PolyMesh, v: number): number {
  const into = borderInto(mesh, v);
  if (into === NONE && mesh.vertexHalf.data[v] !== NONE)
    throw new TopologyError('VERTEX_CLOSED', 'A point with faces all round it can take no further edge.', {
      vertices: [v],
    });
  return into;
}

/** Hooks the half-edge `out` (leaving v) into the gap after the border half-edge `into`. */
function insertAt(mesh: PolyMesh, v: number, into: number, out: number): void {
  if (into === NONE) {
    mesh.link(out ^ 1, out);
    mesh.vertexHalf.set(v, out);
    return;
  }
  const after = mesh.next(into);
  mesh.link(into, out);
  mesh.link(out ^ 1, after);
}

/**
 * A new face over the given vertices, in winding order; missing edges are made.
 * Throws EDGE_FULL where an edge has a face on that side already, VERTEX_CLOSED where the face would
 * give a vertex a second closed fan, VERTEX_REPEATED, TOO_FEW_CORNERS. A refusal half-way leaves
 * changes behind: callers are operators, whose transaction rolls back. Cost: the corners' valences.
 */
export function addFace(mesh: PolyMesh, vertices: readonly number[]): number {
  const n = vertices.length;
  if (n < 3) throw new TopologyError('TOO_FEW_CORNERS', 'A face needs at least three corners.');
  if (namesOneTwice(vertices))
    throw new TopologyError('VERTEX_REPEATED', 'A face cannot use one point twice.', { vertices: [...vertices] });
  if (vertices.some((v) => !mesh.hasVertex(v)))
    throw new TopologyError('NOTHING_PICKED', 'A corner is no longer there; pick it again.');
  const halves = vertices.map((u, i) => {
    const known = mesh.findHalf(u, vertices[(i + 1) % n]);
    if (known !== NONE && mesh.face(known) !== NONE)
      throw new TopologyError('EDGE_FULL', 'This edge already has a face on that side.', { edges: [known >> 1] });
    return known;
  });
  for (let i = 0; i < n; i++) if (halves[i] === NONE) halves[i] = joinByEdge(mesh, vertices[i], vertices[(i + 1) % n]);
  for (let i = 0; i < n; i++) joinAtCorner(mesh, halves[i], halves[(i + 1) % n]);
  const f = mesh.allocFace();
  for (const h of halves) mesh.halfFace.set(h, f);
  mesh.faceHalf.set(f, halves[0]);
  return f;
}

/** Whether a short list has an element twice; most faces have four corners, for which a set is slow. */
function namesOneTwice(list: readonly number[]): boolean {
  if (list.length > 12) return new Set(list).size !== list.length;
  for (let i = 1; i < list.length; i++) for (let j = 0; j < i; j++) if (list[i] === list[j]) return true;
  return false;
}

/**
 * Reorders the fans round a vertex until the border half-edge `out` follows the border half-edge `into`:
 * …into|n … p|out … b|d… becomes …into|out … b|n … p|d… (bars are gaps, dots are fans).
 */
function joinAtCorner(mesh: PolyMesh, into: number, out: number): void {
  const n = mesh.next(into);
  if (n === out) return;
  const p = mesh.prev(out);
  let b = out ^ 1;
  while (mesh.face(b) !== NONE) b = mesh.next(b) ^ 1;
  if (b === into)
    throw new TopologyError(
      'VERTEX_CLOSED',
      'The face would close one fan of this point and leave another outside it.',
      {
        vertices: [mesh.origin(out)],
      },
    );
  const d = mesh.next(b);
  mesh.link(into, out);
  mesh.link(b, n);
  mesh.link(p, d);
}

/** Takes a face away; its edges stay, loose where no face is left. */
export function removeFaceOnly(mesh: PolyMesh, f: number): void {
  for (const h of mesh.faceHalves(f)) mesh.halfFace.set(h, NONE);
  mesh.freeFace(f);
}

/** Takes a loose edge away; its ends stay, isolated where nothing else holds them. */
export function removeLooseEdge(mesh: PolyMesh, e: number): void {
  for (const h of [2 * e, 2 * e + 1]) {
    const v = mesh.origin(h);
    const into = mesh.prev(h);
    const after = mesh.next(h ^ 1);
    if (into === (h ^ 1)) mesh.vertexHalf.set(v, NONE);
    else {
      mesh.link(into, after);
      if (mesh.vertexHalf.data[v] === h) mesh.vertexHalf.set(v, after);
    }
  }
  mesh.freeEdge(e);
}

/** Takes faces away, and with them the edges and vertices that nothing else holds. */
export function removeFaces(mesh: PolyMesh, faces: readonly number[]): void {
  const edges = new Set<number>();
  const vertices = new Set<number>();
  for (const f of faces) {
    for (const h of mesh.faceHalves(f)) {
      edges.add(h >> 1);
      vertices.add(mesh.origin(h));
    }
    removeFaceOnly(mesh, f);
  }
  for (const e of edges) if (mesh.isLooseEdge(e)) removeLooseEdge(mesh, e);
  for (const v of vertices) if (mesh.vertexHalf.data[v] === NONE) mesh.freeVertex(v);
}

/** Takes vertices away with everything round them. */
export function removeVertices(mesh: PolyMesh, vertices: readonly number[]): void {
  for (const v of vertices) {
    if (!mesh.hasVertex(v)) continue;
    removeFaces(mesh, mesh.vertexFaces(v));
    if (!mesh.hasVertex(v)) continue;
    for (const h of mesh.vertexHalves(v)) removeEdgeAndStrays(mesh, h >> 1, v);
    mesh.freeVertex(v);
  }
}

/** Takes edges away with the faces beside them. */
export function removeEdges(mesh: PolyMesh, edges: readonly number[]): void {
  for (const e of edges) {
    if (!mesh.hasEdge(e)) continue;
    const faces = [2 * e, 2 * e + 1].map((h) => mesh.face(h)).filter((f, i, all) => f !== NONE && all.indexOf(f) === i);
    if (faces.length > 0) removeFaces(mesh, faces);
    if (mesh.hasEdge(e)) removeEdgeAndStrays(mesh, e, NONE);
  }
}

function removeEdgeAndStrays(mesh: PolyMesh, e: number, keep: number): void {
  const ends = [mesh.origin(2 * e), mesh.origin(2 * e + 1)];
  removeLooseEdge(mesh, e);
  for (const v of ends) if (v !== keep && mesh.vertexHalf.data[v] === NONE) mesh.freeVertex(v);
}
