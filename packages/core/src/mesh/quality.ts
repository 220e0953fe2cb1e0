import { cross, dot, length, normalize, sub, type Vec3 } from '../math';
import { areaNormal } from './triangulate';

/**
 * How square a polygon is at its worst corner: least of the corners' (e1 × e2)·n / (|e1||e2|), n its mean normal. 1 square,
 * 0 degenerate, below 0 folded.
 */
export function cornerQuality(points: readonly Vec3[]): number {
  const n = normalize(areaNormal(points));
  return points.reduce((least, p, i) => {
    const on = sub(points[(i + 1) % points.length], p),
      back = sub(points[(i + points.length - 1) % points.length], p);
    const size = length(on) * length(back);
    return Math.min(least, size > 0 ? dot(cross(on, back), n) / size : 0);
  }, 1);
}
