import type { Ground } from '../lines/ground';
import { turnsInMirrorOnly, type Curve } from '../lines/lines';
import { eulerOf, QuadLinks, rimOf } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { placesOf } from './mendApart';
import { compacted, faultsOf, refilled } from './mendQuads';

/** So many rings of quads round such a quad go. */
const RINGS = [1, 2, 3];

/** Quads that alone have a point of a mirror cut, which has two edges in the whole form then. Cost: linear. */
export function doubletsOf(soup: QuadSoup, curves: readonly Curve[]): number[] {
  const { points: p, onLine } = soup;
  const links = new QuadLinks(soup);
  const isMirrored = (v: number): boolean =>
    onLine[v] >= 0
      ? curves[onLine[v]].isMirrored
      : onLine[v] === -2 && turnsInMirrorOnly(curves, [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
  return [...rimOf(soup, links)].filter((v) => links.countAt(v) === 1 && isMirrored(v)).map((v) => links.at(v)[0]);
}

/** Filled anew round each point that would have two edges in the whole form, where that leaves fewer of them and all as sound. Cost: for each, fillings of a small hole, and passes over the quads. */
export function withoutDoublets(start: QuadSoup, ground: Ground): QuadSoup {
  const tried = new Set<string>();
  let soup = start;
  for (let bad = doubletsOf(soup, ground.curves); ;) {
    const q = bad.find((x) => !tried.has(placesOf(soup, new Set([x]))));
    if (q === undefined) return soup;
    tried.add(placesOf(soup, new Set([q])));
    const next = filledAnew(soup, q, bad.length, ground);
    if (next) [soup, bad] = [next, doubletsOf(next, ground.curves)];
  }
}

function filledAnew(soup: QuadSoup, q: number, before: number, ground: Ground): QuadSoup | null {
  const euler = eulerOf(soup);
  for (const rings of RINGS) {
    const made = refilled(soup, [q], ground, rings, { euler });
    const next = made && compacted(made.points, made.quads, made.onLine);
    if (!next || faultsOf(next, ground.curves).length > 0 || eulerOf(next) !== euler) continue;
    if (doubletsOf(next, ground.curves).length < before) return next;
  }
  return null;
}
