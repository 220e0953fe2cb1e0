import { axisIndex, type MirrorPlane } from '../../math';
import { qualityOf } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';
import { ownNormals } from './facing';
import { parted, type Crossed } from './parted';

/** So far, over the size of a quad, points go at once, and so often. */
const STEP = 0.04;
const ROUNDS = 12;

/** With no more quads than this that run through others points go one by one. */
const FEW = 16;

/**
 * Quads that run through others brought apart: a few by moving point after point, as where a crack is narrower than a quad; walls of them by drawing them off the form, and what is left of that point after
 * point. Points on lines stay on them; those in the mirror plane stay in it, the others on their side. Nothing folds by it. Gives what is crossed least, at best nothing; `crossingIn` tells which
 * quads do. Cost: a search for crossings a round, and some hundred tries for each point that goes by itself.
 */
export function drawnApart(
  start: QuadSoup,
  size: number,
  plane: MirrorPlane | null,
  crossingIn: (soup: QuadSoup) => number[],
): Crossed {
  const byPoints = (from: Crossed): Crossed => (from.crossing.length > FEW ? from : parted(from, plane, crossingIn));
  const first = byPoints({ soup: start, crossing: crossingIn(start) });
  if (first.crossing.length === 0) return first;
  return byPoints(wallsApart(first, size, plane, crossingIn));
}

/** Points off the form, against the way they face where two walls meet across a gap, or along it where both are the sides of a thin sheet, until nothing crosses; what is through deeper stays. Gives what is crossed least. Cost: a search for crossings a round. */
export function wallsApart(
  { soup: start, crossing: first }: Crossed,
  size: number,
  plane: MirrorPlane | null,
  crossingIn: (soup: QuadSoup) => number[],
): Crossed {
  let best = { soup: start, crossing: first };
  const folded = qualityOf(start.points, start.quads).folded;
  for (const way of [-1, 1]) {
    const soup = { ...start, points: start.points.slice() };
    for (let round = 0; round < ROUNDS && best.crossing.length > 0; round++) {
      const crossing = crossingIn(soup);
      if (crossing.length < best.crossing.length && qualityOf(soup.points, soup.quads).folded <= folded)
        best = { soup: { ...soup, points: soup.points.slice() }, crossing };
      push(soup, crossing, way * STEP * size, plane);
    }
  }
  return best;
}

/** Moves the points of some quads along the way that the quads round them face. */
function push(soup: QuadSoup, own: readonly number[], by: number, plane: MirrorPlane | null): void {
  const { points: p, quads, onLine } = soup;
  const facing = ownNormals(soup);
  const across = plane ? axisIndex(plane.axis) : -1;
  const moved = new Set(own.flatMap((q) => [...quads.subarray(4 * q, 4 * q + 4)]));
  for (const v of moved) {
    const isOnPlane = plane !== null && p[3 * v + across] === plane.offset;
    if (onLine[v] !== -1 && !isOnPlane) continue;
    for (let k = 0; k < 3; k++) {
      const to = p[3 * v + k] + by * facing[3 * v + k];
      if (k !== across || !plane || (to - plane.offset) * (p[3 * v + k] - plane.offset) > 0) p[3 * v + k] = to;
    }
  }
}
