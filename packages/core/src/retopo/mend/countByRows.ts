import { holding, placeKey, pointsRound } from '../fit/fit';
import { aroundOf, relaxedSafely } from '../fit/relax';
import type { Ground } from '../lines/ground';
import { QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { faultsOf } from './mendQuads';
import { aspectOf, plainRows, withoutRow, withRowHalved, type Row } from './rows';

/** No more rows than this are taken out or halved. */
const MOST = 60;
const ROUNDS = 8;

/** A row with less than this share of the quads that are wanted, or are too many, comes after those with more. */
const LONG = 0.25;

/**
 * Quads nearer to a count, by rows of them: the narrowest taken out where there are too many, the widest made two where there are too few, as against how long their quads are, each only if what is left is nearer. So limbs, whose quads are small all ways, keep theirs. As they
 * are where no row is left that may. Points that `stays` tells of do not move: it is asked by their number, which rows that go change. Cost: for each row, a pass over the quads and some rounds of evening out beside it.
 */
export function countByRows(start: QuadSoup, wanted: number, ground: Ground, stays: Stays): QuadSoup {
  let soup = start;
  for (let i = 0; i < MOST; i++) {
    const links = new QuadLinks(soup);
    const lacking = Math.round(wanted - soup.quads.length / 4);
    const rows = rowsFor(soup, lacking, links);
    const next = firstOf(rows, (row) => withRowChanged(soup, row, lacking, ground, links));
    if (!next) break;
    soup = evenedBeside(next, soup, ground, stays);
  }
  return soup;
}

/**
 * Quads with one row of them changed for a count, as `countByRows` does it: those of long rows first, one for each row that may, but for those whose key is in `refused`. A row that was not taken is refused from then on.
 * Cost: for each, as `countByRows` for a row.
 */
export function* byOneRow(
  soup: QuadSoup,
  wanted: number,
  ground: Ground,
  stays: Stays,
  refused: Set<string>,
): Generator<QuadSoup> {
  const links = new QuadLinks(soup);
  const lacking = Math.round(wanted - soup.quads.length / 4);
  const isLong = ({ entries }: Row): boolean => entries.length >= LONG * Math.abs(lacking);
  const rows = rowsFor(soup, lacking, links);
  for (const row of [...rows.filter(isLong), ...rows.filter((one) => !isLong(one))]) {
    const key = placeKey(soup.points, soup.quads[row.entries[0]]);
    const next = refused.has(key) ? null : withRowChanged(soup, row, lacking, ground, links);
    if (next) yield evenedBeside(next, soup, ground, stays);
    refused.add(key);
  }
}

/** Whether a point of some, the one of this number, does not move. */
type Stays = (points: Float64Array, v: number) => boolean;

/** What is next, with what is new in it evened out. */
function evenedBeside(next: QuadSoup, before: QuadSoup, ground: Ground, stays: Stays): QuadSoup {
  const free = pointsRound(next, aroundOf(next), movedIn(next, before));
  holding(next, (v) => !free.has(v) || stays(next.points, v), () => relaxedSafely(next, ground.curves, ground.surface, ROUNDS)); // prettier-ignore
  return next;
}

/** Points that are where there was none. */
function movedIn(next: QuadSoup, before: QuadSoup): Set<number> {
  const known = new Set([...before.onLine.keys()].map((v) => placeKey(before.points, v)));
  return new Set([...next.onLine.keys()].filter((v) => !known.has(placeKey(next.points, v))));
}

/** The rows that bring the count nearer, the best first: `lacking` quads are wanted, or too many if below none. */
function rowsFor(soup: QuadSoup, lacking: number, links: QuadLinks): Row[] {
  const few = Math.abs(lacking);
  return plainRows(soup, links)
    .filter(({ entries }) => Math.abs(few - entries.length) < few)
    .map((row) => ({ row, aspect: aspectOf(soup, row) }))
    .sort((a, b) => (lacking > 0 ? b.aspect - a.aspect : a.aspect - b.aspect))
    .map(({ row }) => row);
}

/** With a row taken out, or made two; null where that leaves faults. */
function withRowChanged(
  soup: QuadSoup,
  row: Row,
  lacking: number,
  { curves, surface }: Ground,
  links: QuadLinks,
): QuadSoup | null {
  const next = lacking > 0 ? withRowHalved(soup, row, curves, surface) : withoutRow(soup, row, curves, links);
  return next && faultsOf(next, curves).length === 0 ? next : null;
}

/** What comes of the first of some of which anything does. */
function firstOf<T, U>(all: readonly T[], made: (one: T) => U | null): U | null {
  for (const one of all) {
    const of = made(one);
    if (of) return of;
  }
  return null;
}
