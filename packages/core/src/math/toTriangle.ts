/** A triangle with a lesser squared sine at its first corner has no plane that could be told; its sides are all of it. */
const NEEDLE = 1e-16;

/**
 * Squared distance of a place to a triangle, each told by where its coordinates begin in a flat array: `i` in `at`, `a`, `b`, `c` in `p`. A triangle without an area is the
 * longest of its sides. Makes nothing; some 30 ns.
 */
export function squaredToTriangle(
  at: Float64Array,
  i: number,
  p: Float64Array | Float32Array,
  a: number,
  b: number,
  c: number,
): number {
  const ux = p[b] - p[a], uy = p[b + 1] - p[a + 1], uz = p[b + 2] - p[a + 2]; // prettier-ignore
  const vx = p[c] - p[a], vy = p[c + 1] - p[a + 1], vz = p[c + 2] - p[a + 2]; // prettier-ignore
  const x = at[i] - p[a], y = at[i + 1] - p[a + 1], z = at[i + 2] - p[a + 2]; // prettier-ignore
  const nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx; // prettier-ignore
  const nn = nx * nx + ny * ny + nz * nz;
  if (nn > NEEDLE * (ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz)) {
    // its foot in the plane, by how much of the area each side's triangle has
    const toC = (uy * z - uz * y) * nx + (uz * x - ux * z) * ny + (ux * y - uy * x) * nz;
    const toB = (y * vz - z * vy) * nx + (z * vx - x * vz) * ny + (x * vy - y * vx) * nz;
    if (toC >= 0 && toB >= 0 && toB + toC <= nn) return (x * nx + y * ny + z * nz) ** 2 / nn;
  }
  const first = squaredToSide(x, y, z, ux, uy, uz);
  const second = squaredToSide(x, y, z, vx, vy, vz);
  const third = squaredToSide(x - ux, y - uy, z - uz, vx - ux, vy - uy, vz - uz);
  return first < second ? (first < third ? first : third) : second < third ? second : third;
}

/** Squared distance of (x, y, z) to the line from the origin to (u, v, w). */
function squaredToSide(x: number, y: number, z: number, u: number, v: number, w: number): number {
  const d = x * u + y * v + z * w;
  const l = u * u + v * v + w * w;
  const t = d <= 0 || l === 0 ? 0 : d >= l ? 1 : d / l;
  return (x - t * u) ** 2 + (y - t * v) ** 2 + (z - t * w) ** 2;
}
