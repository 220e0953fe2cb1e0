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
 * A camera that sees all points of some lists, xyz, from a direction (towards the viewer): as large as they fit a picture of a width over its height, in its middle. `margin` is how much wider the picture is than they are. Without
 * points it looks at the origin. Cost: one pass.
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
  const tall = Math.tan((fov * Math.PI) / 360) / margin;
  const wide = aspect * tall;
  // each side of the picture is a plane through the eye: how far out it must be for the outermost point
  const out = { left: -Infinity, right: -Infinity, below: -Infinity, above: -Infinity };
  for (const list of points)
    for (let i = 0; i < list.length; i += 3) {
      const p: Vec3 = [list[i], list[i + 1], list[i + 2]];
      const [x, y, z] = [dot(p, right), dot(p, up), dot(p, ahead)];
      out.right = Math.max(out.right, x - wide * z);
      out.left = Math.max(out.left, -x - wide * z);
      out.above = Math.max(out.above, y - tall * z);
      out.below = Math.max(out.below, -y - tall * z);
    }
  if (out.right === -Infinity) return { eye: scale(ahead, -1), target: [0, 0, 0], fov };
  const back = Math.max((out.left + out.right) / (2 * wide), (out.above + out.below) / (2 * tall));
  const [x, y] = [(out.right - out.left) / 2, (out.above - out.below) / 2];
  const eye = add(add(scale(right, x), scale(up, y)), scale(ahead, -back));
  return { eye, target: add(eye, ahead), fov };
}
