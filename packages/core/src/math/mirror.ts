import { axisIndex, type Axis } from './placement';
import type { Vec3 } from './vec3';

/** The symmetry plane, perpendicular to one axis of file space at `offset` file units. */
export interface MirrorPlane {
  axis: Axis;
  offset: number;
}

export const planeDistance = (p: Vec3, plane: MirrorPlane): number => p[axisIndex(plane.axis)] - plane.offset;

/**
 * Whether p lies on the plane to the last bit: the only test of 'midline' anywhere,
 * since points near the plane are moved exactly onto it when they are laid.
 */
export const isOnPlane = (p: Vec3, plane: MirrorPlane): boolean => p[axisIndex(plane.axis)] === plane.offset;

export function mirrored(p: Vec3, plane: MirrorPlane): Vec3 {
  const q: [number, number, number] = [p[0], p[1], p[2]];
  const k = axisIndex(plane.axis);
  q[k] = isOnPlane(p, plane) ? plane.offset : 2 * plane.offset - p[k];
  return q;
}

/** p moved exactly onto the plane along its axis. */
export const ontoPlane = (p: Vec3, plane: MirrorPlane): Vec3 => besidePlane(p, plane, 0);

/** p moved along the plane's axis to a distance from it. */
export function besidePlane(p: Vec3, plane: MirrorPlane, distance: number): Vec3 {
  const q: [number, number, number] = [p[0], p[1], p[2]];
  q[axisIndex(plane.axis)] = plane.offset + distance;
  return q;
}

/** A direction as its mirror image points. */
export function directionAcross(d: Vec3, plane: MirrorPlane): Vec3 {
  const r: [number, number, number] = [d[0], d[1], d[2]];
  r[axisIndex(plane.axis)] *= -1;
  return r;
}
