import { isOnPlane, type MirrorPlane } from '../math';
import { edgeEnds, NONE, releasedTest, type PolyMesh } from '../mesh';

export type PoleKind = 'two' | 'three' | 'five' | 'sixPlus';

/** What a low-poly is made of, the mirrored half counted in when a plane is given. */
export interface MakeUp {
  faces: number;
  quads: number;
  triangles: number;
  ngons: number;
  vertices: number;
  edges: number;
  poles: Record<PoleKind, number>;
  /** border edges that do not lie on the plane */
  openEdges: number;
  looseEdges: number;
  /** of those, what lies at points that the artist released: nobody needs to look at it */
  released: { openEdges: number; looseEdges: number; ngons: number; sixPlus: number; two: number };
}

/** An inner vertex that loops cannot run straight through. */
export interface Pole {
  vertex: number;
  /** edges in the whole model, the mirrored ones included */
  valence: number;
  onPlane: boolean;
}

export function poleKind(valence: number): PoleKind {
  if (valence < 3) return 'two';
  if (valence === 3) return 'three';
  return valence === 5 ? 'five' : 'sixPlus';
}

/** Whether an edge lies on the mirror plane, where its mirror image joins it. */
export function isMidlineEdge(mesh: PolyMesh, e: number, plane: MirrorPlane | null): boolean {
  return (
    plane !== null &&
    isOnPlane(mesh.point(mesh.origin(2 * e)), plane) &&
    isOnPlane(mesh.point(mesh.origin(2 * e + 1)), plane)
  );
}

/** Counts a mesh. Cost: one pass over it. */
export function makeUp(mesh: PolyMesh, plane: MirrorPlane | null): MakeUp {
  const sides = plane ? 2 : 1;
  const sizes = [0, 0, 0];
  const released = { openEdges: 0, looseEdges: 0, ngons: 0, sixPlus: 0, two: 0 };
  const isReleased = releasedTest(mesh);
  for (const f of mesh.faces()) {
    const n = cornerCount(mesh, f);
    sizes[n === 4 ? 0 : n === 3 ? 1 : 2] += sides;
    if (n > 4 && isReleased(mesh.faceVertices(f))) released.ngons += sides;
  }
  let openEdges = 0,
    looseEdges = 0,
    midEdges = 0,
    midVertices = 0;
  for (const e of mesh.edges()) {
    const mid = isMidlineEdge(mesh, e, plane);
    if (mid) midEdges++;
    const isLoose = mesh.isLooseEdge(e);
    if (isLoose) looseEdges += mid ? 1 : sides;
    else if (!mid && mesh.isBorderEdge(e)) openEdges += sides;
    else continue;
    if (isReleased(edgeEnds(mesh, e))) released[isLoose ? 'looseEdges' : 'openEdges'] += mid ? 1 : sides;
  }
  if (plane) for (const v of mesh.vertices()) if (isOnPlane(mesh.point(v), plane)) midVertices++;
  const poles: Record<PoleKind, number> = { two: 0, three: 0, five: 0, sixPlus: 0 };
  for (const pole of polesOf(mesh, plane)) {
    const kind = poleKind(pole.valence);
    poles[kind] += pole.onPlane ? 1 : sides;
    if ((kind === 'sixPlus' || kind === 'two') && isReleased([pole.vertex])) released[kind] += pole.onPlane ? 1 : sides;
  }
  return {
    faces: sizes[0] + sizes[1] + sizes[2],
    quads: sizes[0],
    triangles: sizes[1],
    ngons: sizes[2],
    vertices: mesh.vertexCount * sides - midVertices,
    edges: mesh.edgeCount * sides - midEdges,
    poles,
    openEdges,
    looseEdges,
    released,
  };
}

/** Sides of a face, without a list of them: this runs over whole meshes on every edit. */
function cornerCount(mesh: PolyMesh, f: number): number {
  const first = mesh.faceHalf.data[f];
  let n = 0;
  for (let h = first; n === 0 || h !== first; h = mesh.halfNext.data[h]) n++;
  return n;
}

/** The inner vertices whose valence is not four, valences counted in the whole model. Cost: one pass. */
export function polesOf(mesh: PolyMesh, plane: MirrorPlane | null): Pole[] {
  const poles: Pole[] = [];
  for (let v = 0; v < mesh.vertexRows; v++) {
    if (!mesh.hasVertex(v) || mesh.vertexHalf.data[v] === NONE) continue;
    const valence = innerValence(mesh, v, plane);
    if (valence > 0 && valence !== 4)
      poles.push({ vertex: v, valence, onPlane: plane !== null && isOnPlane(mesh.point(v), plane) });
  }
  return poles;
}

/** Edges of a vertex in the whole model; 0 when it lies on a border that the mirror does not close. */
function innerValence(mesh: PolyMesh, v: number, plane: MirrorPlane | null): number {
  const { halfNext, halfFace, vertexHalf } = mesh;
  const first = vertexHalf.data[v];
  let n = 0,
    midline = 0;
  for (let h = first; n === 0 || h !== first; h = halfNext.data[h ^ 1]) {
    n++;
    const open = (halfFace.data[h] === NONE ? 1 : 0) + (halfFace.data[h ^ 1] === NONE ? 1 : 0);
    if (open === 2 || (open === 1 && !isMidlineEdge(mesh, h >> 1, plane))) return 0;
    if (plane && isMidlineEdge(mesh, h >> 1, plane)) midline++;
  }
  return plane && isOnPlane(mesh.point(v), plane) ? 2 * n - midline : n;
}
