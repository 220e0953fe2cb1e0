import type { Vec3 } from '@half-loop/core/math';

/** One segment of the Crab pincer's middle line: x is its thickness, it bends in the plane of y (up) and z (ahead); cm. */
export interface Limb {
  from: Vec3;
  to: Vec3;
  /** how far the middle bulges square to the line, in its plane */
  bow: number;
}

export const ARM: Limb = { from: [0, 0.4, -1.2], to: [0, 9.2, -3.6], bow: -0.5 };
export const WRIST: Limb = { from: [0, 9.2, -3.6], to: [0, 10.6, 0.6], bow: 0.2 };
export const PALM: Limb = { from: [0, 10.6, 0.6], to: [0, 11.2, 6.4], bow: 0 };
/** the moving finger, above, and the fixed one, below */
export const FINGER: Limb = { from: [0, 12.9, 6.2], to: [0, 11.7, 14.6], bow: 1.5 };
export const THUMB: Limb = { from: [0, 9.5, 6.2], to: [0, 10.6, 14.2], bow: -1.4 };

/** The place at `t` (0 to 1) along a limb, and the direction there. A parabola through its bow. */
export function along({ from, to, bow }: Limb, t: number): { point: Vec3; ahead: Vec3 } {
  const dy = to[1] - from[1], dz = to[2] - from[2]; // prettier-ignore
  const length = Math.hypot(dy, dz);
  const rise = 4 * bow * t * (1 - t), slope = 4 * bow * (1 - 2 * t); // prettier-ignore
  const [uy, uz] = [dz / length, -dy / length];
  const ay = dy + slope * uy, az = dz + slope * uz; // prettier-ignore
  const a = Math.hypot(ay, az);
  return { point: [0, from[1] + dy * t + rise * uy, from[2] + dz * t + rise * uz], ahead: [0, ay / a, az / a] };
}
