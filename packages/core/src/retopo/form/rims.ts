import { addScaled, dot, lerp, sub, type Vec3 } from '../../math';
import { nextHalf, prevHalf, type TriMesh } from './TriMesh';

/** Where points face alike by more than this, cosine, there is no rim between them. */
const ALIKE = 0.9;

/**
 * Which of an edge's ends, `u` or `v`, holds the place where both are drawn together, as it lies on a rim that the other is beside; null where neither does. That is the one which is off the planes of the triangles round both by less, squared and by their areas
 * (Lindstrom and Turk 1998). Cost: nothing where both face alike, else these triangles.
 */
export function rimEnd(mesh: TriMesh, u: number, v: number): number | null {
  const { facing: f, points: p } = mesh;
  const [a, b] = [3 * u, 3 * v];
  const [d, aa, bb] = [dot3(f, a, b), dot3(f, a, a), dot3(f, b, b)];
  if (d > ALIKE * Math.sqrt(aa * bb)) return null;
  const [x, y, z] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  // the planes round an end go through it: the other is off them, and the middle half as far
  const [atV, atU] = [offPlanes(mesh, u, x, y, z), offPlanes(mesh, v, x, y, z)];
  if (Math.min(atU, atV) > (atU + atV) / 4) return null;
  return atU < atV ? u : v;
}

const dot3 = (f: Float64Array, a: number, b: number): number => f[a] * f[b] + f[a + 1] * f[b + 1] + f[a + 2] * f[b + 2];

/** How far a place (x, y, z) from a point is off the planes of the triangles round it, squared, by their areas. */
function offPlanes(mesh: TriMesh, v: number, x: number, y: number, z: number): number {
  let sum = 0;
  eachNormal(mesh, v, (nx, ny, nz) => {
    const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (l > 0) sum += (nx * x + ny * y + nz * z) ** 2 / l;
  });
  return sum;
}

/** Where a point of a rim goes to be between its neighbours: along the two edges there that are sharper than a right angle, nowhere where one is, or several are; null where none is. Cost: the triangles round it. */
export function alongRim(mesh: TriMesh, v: number): Vec3 | null {
  const normals: number[] = [];
  eachNormal(mesh, v, (x, y, z) => normals.push(x, y, z));
  const ends: number[] = [];
  const fan = mesh.fan(v);
  fan.forEach((h, i) => {
    const [a, b] = [3 * i, 3 * ((i || fan.length) - 1)];
    if (normals[a] * normals[b] + normals[a + 1] * normals[b + 1] + normals[a + 2] * normals[b + 2] < 0) ends.push(mesh.to(h)); // prettier-ignore
  });
  if (ends.length === 0) return null;
  const own = placeOf(mesh, v);
  if (ends.length !== 2) return own;
  const [a, b] = ends.map((w) => placeOf(mesh, w));
  const along = sub(b, a);
  const ll = dot(along, along);
  return ll > 0 ? addScaled(own, along, dot(sub(lerp(a, b, 0.5), own), along) / ll) : own;
}

const placeOf = ({ points: p }: TriMesh, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];

function eachNormal(mesh: TriMesh, v: number, tell: (x: number, y: number, z: number) => void): void {
  const { points: p, from } = mesh;
  const o = 3 * v;
  for (const h of mesh.fan(v)) {
    const b = 3 * from[nextHalf(h)], c = 3 * from[prevHalf(h)]; // prettier-ignore
    const ex = p[b] - p[o], ey = p[b + 1] - p[o + 1], ez = p[b + 2] - p[o + 2]; // prettier-ignore
    const fx = p[c] - p[o], fy = p[c + 1] - p[o + 1], fz = p[c + 2] - p[o + 2]; // prettier-ignore
    const x = ey * fz - ez * fy, y = ez * fx - ex * fz, z = ex * fy - ey * fx; // prettier-ignore
    tell(x, y, z);
  }
}
