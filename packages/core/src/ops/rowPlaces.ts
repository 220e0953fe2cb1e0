import { add, addScaled, cross, normalize, sub, type Vec3 } from '../math';
import { faceNormal, NONE, type PolyMesh } from '../mesh';
import { openHalf } from './drawOut';

/** The vertices at the ends of edges, each once. */
export function uniqueEnds(mesh: PolyMesh, edges: readonly number[]): number[] {
  return [...new Set(edges.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]))];
}

/** The direction out of the mesh across a border half-edge, in its face's plane; zero for a loose edge. */
function outwardOf(mesh: PolyMesh, h: number): Vec3 {
  const f = mesh.face(h ^ 1);
  if (f === NONE) return [0, 0, 0];
  return normalize(cross(faceNormal(mesh, f), sub(mesh.point(mesh.target(h)), mesh.point(mesh.origin(h)))));
}

/** The direction out of the mesh at a vertex of picked border edges: theirs, averaged. Unit, or zero. */
export function outwardAt(mesh: PolyMesh, edges: readonly number[], v: number): Vec3 {
  let sum: Vec3 = [0, 0, 0];
  for (const e of edges) {
    const h = openHalf(mesh, e);
    if (mesh.origin(h) === v || mesh.target(h) === v) sum = add(sum, outwardOf(mesh, h));
  }
  return normalize(sum);
}

/** Where the ends of border edges go when they are drawn straight out by `distance` file units. Throws NOT_A_BORDER. */
export function rowPlaces(mesh: PolyMesh, edges: readonly number[], distance: number): Map<number, Vec3> {
  const out = new Map<number, Vec3>();
  for (const v of uniqueEnds(mesh, edges)) {
    const around = edges.filter((e) => mesh.origin(2 * e) === v || mesh.target(2 * e) === v);
    out.set(v, addScaled(mesh.point(v), outwardAt(mesh, around, v), distance));
  }
  return out;
}
