import { distance, type Vec3 } from '../../math';
import type { TriMesh } from '../form/TriMesh';
import { onCurve, type Curve } from '../lines/lines';
import { QuadLinks, rimOf } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';

/**
 * Points of the corners of lines exactly onto them, no further than `size`: nothing moves them later, and one beside the mirror's plane would leave a gap there. On the rim
 * of the quads only corners of borders count; where there is none, as where a sharp edge ends a hair away from the rim, a point goes onto the border nearest to it and is free to slide
 * along it. Changes the points and their lines. Cost: corner points times corners.
 */
export function ontoCorners(
  soup: QuadSoup,
  work: TriMesh,
  corners: Uint8Array,
  size: number,
  curves: readonly Curve[],
): void {
  const { points, onLine } = soup;
  const all = [...corners.keys()].filter((v) => corners[v] === 1 && work.out[v] >= 0);
  const ofBorders = all.filter((v) => work.isBorder(v));
  const rim = rimOf(soup, new QuadLinks(soup));
  const at = (p: Float64Array, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  for (let w = 0; w < onLine.length; w++) {
    if (onLine[w] !== -2) continue;
    const own = at(points, w);
    const there = rim.has(w) ? ofBorders : all;
    const away = there.map((v) => distance(at(work.points, v), own));
    const nearest = away.indexOf(Math.min(...away));
    if (nearest >= 0 && away[nearest] < size) points.set(at(work.points, there[nearest]), 3 * w);
    else if (rim.has(w)) ontoBorder(soup, w, own, curves);
  }
}

function ontoBorder({ points, onLine }: QuadSoup, w: number, own: Vec3, curves: readonly Curve[]): void {
  let near = Infinity;
  curves.forEach((curve, line) => {
    if (!curve.isBorder) return;
    const place = onCurve(curve, ...own);
    const away = distance(place, own);
    if (away >= near) return;
    near = away;
    onLine[w] = line;
    points.set(place, 3 * w);
  });
}
