import { add, boxCentre, boxDiagonal, cross, dot, normalize, scale, sub, type Box, type Vec3 } from '../math';

/** A perspective camera of placed space. */
export interface RasterCamera {
  eye: Vec3;
  target: Vec3;
  /** vertical field of view, degrees */
  fov: number;
}

export interface Projector {
  /** pixel x, pixel y (down), depth along the view; depth ≤ near is behind the camera */
  project(p: Vec3): Vec3;
  right: Vec3;
  up: Vec3;
  forward: Vec3;
}

/** Pixel coordinates of points for a picture of the given size. Throws nothing; a camera on its target looks along −z. */
export function projector({ eye, target, fov }: RasterCamera, width: number, height: number): Projector {
  const forward = normalize(sub(target, eye));
  const right = normalize(cross(forward, Math.abs(forward[1]) > 0.999 ? [0, 0, 1] : [0, 1, 0]));
  const up = cross(right, forward);
  const focal = height / 2 / Math.tan((fov * Math.PI) / 360);
  return {
    right,
    up,
    forward,
    project(p) {
      const d = sub(p, eye);
      const z = dot(d, forward);
      return [width / 2 + (dot(d, right) / z) * focal, height / 2 - (dot(d, up) / z) * focal, z];
    },
  };
}

/** A camera that sees the whole box from a direction (towards the viewer). */
export function frameBox(box: Box, from: Vec3, fov = 30, margin = 1.05): RasterCamera {
  const target = boxCentre(box);
  const away = (boxDiagonal(box) / 2 / Math.sin((fov * Math.PI) / 360)) * margin;
  return { eye: add(target, scale(normalize(from), away)), target, fov };
}
