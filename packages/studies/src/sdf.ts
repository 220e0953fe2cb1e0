/**
 * Implicit shapes as signed distances in centimetres, negative inside. Allocation-free: points are three numbers.
 * Blends after Quilez's polynomial smooth minimum; ellipsoid by the usual first-order bound.
 */
export type Field = (x: number, y: number, z: number) => number;

/** Union with a fillet of width k. */
export function blend(a: number, b: number, k: number): number {
  const h = Math.max(k - Math.abs(a - b), 0) / k;
  return Math.min(a, b) - (h * h * k) / 4;
}
/** a without b, the rim rounded by k. */
export const carve = (a: number, b: number, k: number): number => -blend(-a, b, k);
/** The common part, rounded by k. */
export const common = (a: number, b: number, k: number): number => -blend(-a, -b, k);

export const ball = (x: number, y: number, z: number, r: number): number => Math.hypot(x, y, z) - r;

export function ellipsoid(x: number, y: number, z: number, a: number, b: number, c: number): number {
  const k0 = Math.hypot(x / a, y / b, z / c);
  const k1 = Math.hypot(x / (a * a), y / (b * b), z / (c * c));
  return k1 < 1e-9 ? -Math.min(a, b, c) : (k0 * (k0 - 1)) / k1;
}

/** A capsule from p to q whose radius goes from r to s. */
export function cone(
  x: number,
  y: number,
  z: number,
  p: readonly number[],
  q: readonly number[],
  r: number,
  s: number,
): number {
  const bx = q[0] - p[0], by = q[1] - p[1], bz = q[2] - p[2]; // prettier-ignore
  const ax = x - p[0], ay = y - p[1], az = z - p[2]; // prettier-ignore
  const t = Math.max(0, Math.min(1, (ax * bx + ay * by + az * bz) / (bx * bx + by * by + bz * bz)));
  return Math.hypot(ax - t * bx, ay - t * by, az - t * bz) - (r + (s - r) * t);
}

/** A ring of radius R in the plane of (x, y), as thick as r, pressed flat by `flat` along z. */
export const ring = (x: number, y: number, z: number, R: number, r: number, flat = 1): number =>
  Math.hypot(Math.hypot(x, y) - R, z * flat) - r;

/** Turn in the plane of the two coordinates: [a', b']. */
export function turn(a: number, b: number, degrees: number): [number, number] {
  const c = Math.cos((degrees * Math.PI) / 180),
    s = Math.sin((degrees * Math.PI) / 180);
  return [a * c - b * s, a * s + b * c];
}
