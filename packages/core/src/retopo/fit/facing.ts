import type { QuadSoup } from '../quads/QuadSoup';

/** Unit normals of points by the quads round them, f64[3·V]. Cost: linear. */
export function ownNormals({ points: p, quads, onLine }: QuadSoup): Float64Array {
  const normals = new Float64Array(3 * onLine.length);
  for (let q = 0; q < quads.length; q += 4) {
    const n = quadNormal(p, quads, q);
    for (let k = 0; k < 4; k++) for (let x = 0; x < 3; x++) normals[3 * quads[q + k] + x] += n[x];
  }
  for (let i = 0; i < normals.length; i += 3) {
    const l = Math.sqrt(normals[i] ** 2 + normals[i + 1] ** 2 + normals[i + 2] ** 2) || 1;
    for (let x = 0; x < 3; x++) normals[i + x] /= l;
  }
  return normals;
}

/** The normal of quad q / 4 by its diagonals, not of unit length. */
export function quadNormal(p: Float64Array, quads: Int32Array, q: number): [number, number, number] {
  const [a, b, c, d] = [3 * quads[q], 3 * quads[q + 1], 3 * quads[q + 2], 3 * quads[q + 3]];
  const ex = p[c] - p[a], ey = p[c + 1] - p[a + 1], ez = p[c + 2] - p[a + 2]; // prettier-ignore
  const fx = p[d] - p[b], fy = p[d + 1] - p[b + 1], fz = p[d + 2] - p[b + 2]; // prettier-ignore
  return [ey * fz - ez * fy, ez * fx - ex * fz, ex * fy - ey * fx];
}

/** The normal of each quad, f64[3·Q], not of unit length. Cost: linear. */
export function facingOf({ points, quads }: QuadSoup): Float64Array {
  const facing = new Float64Array((3 * quads.length) / 4);
  for (let q = 0; q < quads.length; q += 4) facing.set(quadNormal(points, quads, q), (3 * q) / 4);
  return facing;
}
