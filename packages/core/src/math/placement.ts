import type { Box } from './box';
import type { Vec3 } from './vec3';

export const AXES = ['x', 'y', 'z'] as const;
export type Axis = (typeof AXES)[number];
/** An axis with a sense, as files name it: which way is up, which way the asset looks. */
export const SIGNED_AXES = ['+x', '-x', '+y', '-y', '+z', '-z'] as const;
export type SignedAxis = (typeof SIGNED_AXES)[number];

export const axisIndex = (axis: Axis): 0 | 1 | 2 => AXES.indexOf(axis) as 0 | 1 | 2;
export function axisVector(axis: SignedAxis): Vec3 {
  const v: [number, number, number] = [0, 0, 0];
  v[axisIndex(axis[1] as Axis)] = axis[0] === '-' ? -1 : 1;
  return v;
}

/** The front to use with an up axis: the given one, or another when both lie on one axis. */
export const frontBeside = (up: SignedAxis, front: SignedAxis): SignedAxis =>
  up[1] !== front[1] ? front : up[1] === 'z' ? '-y' : '+z';

/** Row-major rotation of file space into placed space (+y up, +z front) and a lift, in file units. */
export interface Placement {
  rotation: readonly [Vec3, Vec3, Vec3];
  lift: number;
}

/**
 * The rotation that brings `up` to +y and `front` to +z, and the lift that stands `box` on y = 0.
 * A front along the up axis is replaced by the next axis in order. Determinant is always +1.
 */
export function placementOf(up: SignedAxis, front: SignedAxis, box: Box, onFloor: boolean): Placement {
  const y = axisVector(up);
  const z = axisVector(frontBeside(up, front));
  const x: Vec3 = [y[1] * z[2] - y[2] * z[1], y[2] * z[0] - y[0] * z[2], y[0] * z[1] - y[1] * z[0]];
  const low = axisVector(up);
  const k = axisIndex(up[1] as Axis);
  const lowest = low[k] > 0 ? box.min[k] : -box.max[k];
  return { rotation: [x, y, z], lift: onFloor ? -lowest : 0 };
}

/** A point of file space in placed space. */
export function toPlaced(p: Vec3, { rotation: [x, y, z], lift }: Placement): Vec3 {
  return [
    x[0] * p[0] + x[1] * p[1] + x[2] * p[2],
    y[0] * p[0] + y[1] * p[1] + y[2] * p[2] + lift,
    z[0] * p[0] + z[1] * p[1] + z[2] * p[2],
  ];
}

/** The inverse of `toPlaced`. */
export function fromPlaced(p: Vec3, { rotation: [x, y, z], lift }: Placement): Vec3 {
  const h = p[1] - lift;
  return [
    x[0] * p[0] + y[0] * h + z[0] * p[2],
    x[1] * p[0] + y[1] * h + z[1] * p[2],
    x[2] * p[0] + y[2] * h + z[2] * p[2],
  ];
}

/** A direction of placed space in file space. */
export function directionFromPlaced(d: Vec3, { rotation: [x, y, z] }: Placement): Vec3 {
  return [
    x[0] * d[0] + y[0] * d[1] + z[0] * d[2],
    x[1] * d[0] + y[1] * d[1] + z[1] * d[2],
    x[2] * d[0] + y[2] * d[1] + z[2] * d[2],
  ];
}
