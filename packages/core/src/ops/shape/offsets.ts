import { axisIndex, cross, dot, leastSquares, length, normalize, scale, sub, type Vec3 } from '../../math';
import { faceNormal, type PolyMesh } from '../../mesh';
import { isSeam, onMidline, type Ground } from '../ground';

/** An offset may grow to this many times its distance at a sharp corner. */
const LONGEST = 4;

/**
 * The shortest move that takes a point `distance` away from each plane with one of these normals: walls keep their
 * thickness and corners do not shear. Exact for up to three planes that meet in a corner, the best compromise beyond.
 */
export function evenOffset(normals: readonly Vec3[], distance: number): Vec3 {
  // on flat ground every plane says the same
  if (normals.length > 0 && normals.every((n) => dot(n, normals[0]) > 1 - 1e-12)) return scale(normals[0], distance);
  const m = leastSquares(normals, normals.map(() => distance), 1e-7); // prettier-ignore
  if (!m) return [0, 0, 0];
  const l = length(m);
  return l > LONGEST * Math.abs(distance) ? scale(m, (LONGEST * Math.abs(distance)) / l) : m;
}

/** Normals of the given faces round a vertex, with those of the mirrored half on the midline. */
export function normalsAt(mesh: PolyMesh, v: number, faces: ReadonlySet<number>, ground: Ground): Vec3[] {
  const own = mesh.vertexFaces(v).filter((f) => faces.has(f)).map((f) => faceNormal(mesh, f)); // prettier-ignore
  if (!ground.plane || !onMidline(mesh, v, ground)) return own;
  const k = axisIndex(ground.plane.axis);
  return [...own, ...own.map((n) => n.map((x, i) => (i === k ? -x : x)) as unknown as Vec3)];
}

/** The half-edges where a set of faces ends: against other faces or the open, not against the mirrored half. */
export function rimOf(mesh: PolyMesh, faces: ReadonlySet<number>, ground: Ground): number[] {
  const rim: number[] = [];
  for (const f of faces)
    for (const h of mesh.faceHalves(f)) if (!faces.has(mesh.face(h ^ 1)) && !isSeam(mesh, h, ground)) rim.push(h);
  return rim;
}

/** The direction into its face from a half-edge, square to it; unit. */
export function inwardOf(mesh: PolyMesh, h: number): Vec3 {
  const along = sub(mesh.point(mesh.target(h)), mesh.point(mesh.origin(h)));
  return normalize(cross(faceNormal(mesh, mesh.face(h)), along));
}

/** Mean of unit vectors, unit; the first where they cancel out. */
export function meanDirection(vectors: readonly Vec3[]): Vec3 {
  const sum = vectors.reduce((s, n): Vec3 => [s[0] + n[0], s[1] + n[1], s[2] + n[2]], [0, 0, 0] as Vec3);
  return length(sum) > 1e-9 ? normalize(sum) : (vectors[0] ?? [0, 0, 0]);
}
