import { WalkingForm } from '../../surface';
import { squarer } from '../fit/squarer';
import type { Ground } from '../lines/ground';
import { QuadCheck } from '../quads/QuadCheck';
import { eulerOf, QuadLinks } from '../quads/QuadLinks';
import { surfaceOfQuads, type QuadSoup } from '../quads/QuadSoup';
import { placesOf, touching } from './mendApart';
import { compacted, faultsOf, refilled } from './mendQuads';

/** A corner that falls short of this is poor. */
export const POOR = 0.35;
/** A fold falls short by so much, and a filling must fall short by so much less than what it is for. */
const FOLDED = 2;
const WORTH = 0.12;
/** With no more left of it, a filling is good enough. */
const LEFT = 0.1;
/** Points up to so many rings of quads from a poor quad move with it. */
const AROUND = 3;
const ROUNDS = 40;
/** So many rings of quads round it go where moving its points is not enough. */
const RINGS = [0, 1, 2];
/** No more quads are filled anew than so many times. */
const MOST = 60;

/**
 * Quads whose folds were opened, and poor ones made squarer, by moving the points round them; where that is not enough, group by group is taken out with as few quads round it as
 * will do and filled anew, as long as that leaves them better. What hangs together, and where, stays. Cost: for each group a pass over the quads for each ring.
 */
export function foldsMended(start: QuadSoup, ground: Ground): QuadSoup {
  let soup: QuadSoup = { ...start, points: start.points.slice() };
  openedIn(soup, shortIn(soup, ground).bad, ground);
  const tried = new Set<string>();
  for (let i = 0; i < MOST; i++) {
    const next = oneMended(soup, ground, tried);
    if (!next) break;
    soup = next;
  }
  return soup;
}

/** By how much quad q / 4 falls short. */
const shortOf = (check: QuadCheck, q: number): number => check.isFolded(q) ? FOLDED : Math.max(0, 1 - check.least(q) / POOR); // prettier-ignore

/** Folded and poor quads, by their number, and how far they fall short in all. */
function shortIn({ points, quads }: QuadSoup, { forms }: Ground): { bad: number[]; short: number } {
  const check = new QuadCheck(points, quads, forms);
  const bad: number[] = [];
  let short = 0;
  for (let q = 0; q < quads.length; q += 4) {
    const by = shortOf(check, q);
    if (by <= 0) continue;
    bad.push(q / 4);
    short += by;
  }
  return { bad, short };
}

/** With the first of the bad quads filled anew that can be, by the best of some ways; null where none can be, or all were tried. */
function oneMended(soup: QuadSoup, ground: Ground, tried: Set<string>): QuadSoup | null {
  const links = new QuadLinks(soup);
  const euler = eulerOf(soup);
  const { bad, short } = shortIn(soup, ground);
  const there = new WalkingForm(surfaceOfQuads(soup));
  const local: Ground = { ...ground, forms: [there, there] };
  const check = new QuadCheck(soup.points, soup.quads, ground.forms);
  for (const group of touching(links, bad)) {
    const key = placesOf(soup, group);
    if (tried.has(key)) continue;
    tried.add(key);
    const own = [...group].reduce((sum, q) => sum + shortOf(check, 4 * q), 0);
    let best: { soup: QuadSoup; short: number } | null = null;
    for (const rings of RINGS) {
      const made = refilled(soup, [...group], local, rings, { euler });
      if (!made) continue;
      const next = compacted(made.points, made.quads, made.onLine);
      if (faultsOf(next, ground.curves).length > 0 || eulerOf(next) !== euler) continue;
      const first = soup.quads.length / 4 - made.gone.size;
      openedIn(next, Array.from({ length: next.quads.length / 4 - first }, (_, k) => first + k), ground); // prettier-ignore
      const left = shortIn(next, ground).short;
      if (left < (best?.short ?? short - WORTH)) best = { soup: next, short: left };
      if (left <= short - own + LEFT) break;
    }
    if (best) return best.soup;
  }
  return null;
}

/** Moves the points round some quads to where those are as square as they come; the others stay. */
export function openedIn(soup: QuadSoup, some: readonly number[], { curves, surface }: Ground): void {
  if (some.length === 0) return;
  const links = new QuadLinks(soup);
  const free = new Set(some);
  for (let ring = 0; ring < AROUND; ring++) for (const q of [...free]) for (const v of cornersOf(soup, q)) for (const x of links.at(v)) free.add(x); // prettier-ignore
  const may = new Set([...free].flatMap((q) => [...cornersOf(soup, q)]));
  const held = new Set([...soup.onLine.keys()].filter((v) => !may.has(v)));
  squarer(soup, curves, surface, held, ROUNDS);
}

const cornersOf = ({ quads }: QuadSoup, q: number): Int32Array => quads.subarray(4 * q, 4 * q + 4);
