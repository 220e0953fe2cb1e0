import { axisIndex, cross, length, meanPoint, mirrored, sub, type MirrorPlane, type Vec3 } from '../../math';
import type { Triangles } from '../form/clean';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';

/** About so many triangles tell a share. */
const MOST_ASKED = 8000;

/**
 * How much more of the side of a form that is not laid, beyond a mirror plane, lies further off its quads than `away` once it is mirrored, than of the side that is: what that side alone has, as a share of its area in [0, 1]. Cost: the triangles, and
 * a closest point for some thousand of them.
 */
export function otherSideMissed(
  { positions: p, indices }: Triangles,
  soup: QuadSoup,
  plane: MirrorPlane,
  away: number,
): number {
  const low = surfaceOfQuads(soup);
  const k = axisIndex(plane.axis);
  const laid = { all: 0, far: 0 };
  const other = { all: 0, far: 0 };
  const step = 3 * Math.max(1, Math.floor(indices.length / (3 * MOST_ASKED)));
  const at = (v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  for (let i = 0; i + 2 < indices.length; i += step) {
    const corners = [at(indices[i]), at(indices[i + 1]), at(indices[i + 2])];
    const middle = meanPoint(corners);
    const side = middle[k] > plane.offset ? laid : other;
    const area = length(cross(sub(corners[1], corners[0]), sub(corners[2], corners[0])));
    side.all += area;
    if (low.distanceBeyond(side === other ? mirrored(middle, plane) : middle, away) > away) side.far += area;
  }
  const shareOf = ({ all, far }: typeof laid): number => (all > 0 ? far / all : 0);
  return Math.max(0, shareOf(other) - shareOf(laid));
}
