import { add, cross, dot, normalize, scale, sub, type Vec3 } from '../math';

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

/**
 * A camera that sees points from a direction (towards the viewer), as large and as much in the middle as they fit a picture of a width over its height, with `margin` around. Some lists of xyz; none are looked at as if
 * one was at the origin, a single one from there itself. Cost: two passes.
 */
export function frame(
  points: readonly ArrayLike<number>[],
  from: Vec3,
  aspect: number,
  fov = 30,
  margin = 1.06,
): RasterCamera {
  const ahead = scale(normalize(from), -1);
  const { right, up } = projector({ eye: scale(ahead, -1), target: [0, 0, 0], fov }, 1, 1);
  const tan = Math.tan((fov * Math.PI) / 360) / margin;
  const each = (visit: (x: number, y: number, z: number) => void): void => {
    for (const list of points)
      for (let i = 0; i < list.length; i += 3) {
        const p: Vec3 = [list[i], list[i + 1], list[i + 2]];
        visit(dot(p, right), dot(p, up), dot(p, ahead));
      }
  };
  // each side of the frame is a plane through the eye: how far out the outermost point is that it must leave inside
  const out = { left: -Infinity, right: -Infinity, below: -Infinity, above: -Infinity };
  each((x, y, z) => {
    out.right = Math.max(out.right, x - aspect * tan * z);
    out.left = Math.max(out.left, -x - aspect * tan * z);
    out.above = Math.max(out.above, y - tan * z);
    out.below = Math.max(out.below, -y - tan * z);
  });
  if (out.right === -Infinity) return { eye: scale(ahead, -1), target: [0, 0, 0], fov };
  const back = Math.max((out.left + out.right) / (2 * aspect * tan), (out.above + out.below) / (2 * tan));
  const [x, y] = [(out.right - out.left) / 2, (out.above - out.below) / 2];
  const eye = add(add(scale(right, x), scale(up, y)), scale(ahead, -back));
  return { eye, target: add(eye, ahead), fov };
}
