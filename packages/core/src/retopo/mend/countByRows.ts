import { holding, placeKey, pointsRound } from '../fit/fit';
import { aroundOf, relaxedSafely } from '../fit/relax';
import type { Ground } from '../lines/ground';
import { QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { faultsOf } from './mendQuads';
import { aspectOf, plainRows, withoutRow, withRowHalved } from './rows';

/** No more rows than this are taken out or halved. */
const MOST = 60;
const ROUNDS = 8;

/**
 * Quads nearer to a count, by rows of them: the narrowest taken out where there are too many, the widest made two where there are too few, as against how long their quads are, each only if what is left is nearer. So limbs, whose quads are small all ways, keep theirs. The first `passed` such are passed over. As they
 * are where no row is left that may. Points that `stays` tells of do not move: it is asked by their number, which rows that go change. Cost: for each row, a pass over the quads and some rounds of evening out beside it.
 */
export function countByRows(
  start: QuadSoup,
  wanted: number,
  ground: Ground,
  stays: (points: Float64Array, v: number) => boolean,
  passed = 0,
): QuadSoup {
  let soup = start;
  for (let i = 0; i < MOST; i++) {
    const next = oneRow(soup, Math.round(wanted - soup.quads.length / 4), ground, i === 0 ? passed : 0);
    if (!next) break;
    const free = pointsRound(next, aroundOf(next), movedIn(next, soup));
    holding(next, (v) => !free.has(v) || stays(next.points, v), () => relaxedSafely(next, ground.curves, ground.surface, ROUNDS)); // prettier-ignore
    soup = next;
  }
  return soup;
}

/** Points that are where there was none. */
function movedIn(next: QuadSoup, before: QuadSoup): Set<number> {
  const known = new Set([...before.onLine.keys()].map((v) => placeKey(before.points, v)));
  return new Set([...next.onLine.keys()].filter((v) => !known.has(placeKey(next.points, v))));
}

/** With the row changed that is best for it; null where none would be. `lacking` quads are wanted, or too many if below none. */
function oneRow(soup: QuadSoup, lacking: number, { curves, surface }: Ground, passed: number): QuadSoup | null {
  const links = new QuadLinks(soup);
  const few = Math.abs(lacking);
  const rows = plainRows(soup, links)
    .filter(({ entries }) => Math.abs(few - entries.length) < few)
    .map((row) => ({ row, aspect: aspectOf(soup, row) }))
    .sort((a, b) => (lacking > 0 ? b.aspect - a.aspect : a.aspect - b.aspect));
  for (const { row } of rows) {
    const next = lacking > 0 ? withRowHalved(soup, row, curves, surface) : withoutRow(soup, row, curves, links);
    if (next && faultsOf(next, curves).length === 0 && passed-- <= 0) return next;
  }
  return null;
}
