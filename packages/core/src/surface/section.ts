import { distance, normalize, type Vec3 } from '../math';
import { isoLineFrom, isoSegments, type Section } from './isoLines';
import type { SculptSurface } from './SculptSurface';

/**
 * The line in which a plane cuts the surface, nearest to a point: the whole loop where it closes, else up to where the surface ends. Null
 * where the plane misses it. Cost: the triangles that the plane cuts, found through the tree.
 */
export function sectionNear(surface: SculptSurface, near: Vec3, normal: Vec3): Section | null {
  const n = normalize(normal);
  const { positions } = surface;
  const far = (v: number): number => (positions[3 * v] - near[0]) * n[0] + (positions[3 * v + 1] - near[1]) * n[1] + (positions[3 * v + 2] - near[2]) * n[2]; // prettier-ignore
  const cut = isoSegments(surface, surface.trianglesOnPlane(near, n), far);
  if (cut.segments.length === 0) return null;
  let first = 0,
    least = Infinity;
  cut.segments.forEach(([a], i) => {
    const d = distance(cut.pointOf(a), near);
    if (d < least) [first, least] = [i, d];
  });
  return isoLineFrom(first, cut);
}
