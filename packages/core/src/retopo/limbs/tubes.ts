import { meanPoint, stepsAlong, sub, type Vec3 } from '../../math';
import { sectionNear, type SculptSurface } from '../../surface';
import type { Ground } from '../lines/ground';
import { QuadCheck } from '../quads/QuadCheck';
import { QuadLinks, turnedBy } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { lengthRound } from './limbs';
import { RoundLine } from './RoundLine';

/** With more quads round it than this, a limb is thick enough for points to find their places one by one. */
const ROUND = 8;
/** A corner that falls short of this is worth laying the rings beside it anew; a fold counts as so much worse than a flat corner. */
const POOR = 0.5;
const FOLDED = 2;
/** So many rings on either side of a poor one are laid anew with it. */
const BESIDE = 2;
/** So often rings move along their limb's middle line, and that line to where the rings' middles are. */
const ROUNDS = 4;
/** A section that is so many times as long as the rings at the ends is one of more than the limb. */
const LONGEST = 3;

/** A thin limb or handle. */
interface Tube {
  /** as many points each, one ring beside the other; those at the ends may have poles, or be the same */
  rings: number[][];
  /** the quads between each two of them, as 4·q */
  between: number[][];
}

/**
 * Lays the rings of quads anew that are folded or pinched round thin limbs and handles: a few points round a tube much thinner than they are apart are pulled onto one side of it. Each ring goes onto the section across
 * its limb, evenly spaced, turned as the rings at the ends are; as they were where that is no better. Changes the points. Cost: the quads; for each ring laid anew some sections.
 */
export function tubesLaid(soup: QuadSoup, { surface, forms }: Pick<Ground, 'surface' | 'forms'>): void {
  const check = new QuadCheck(soup.points, soup.quads, forms);
  const off = (q: number): number => (check.isFolded(q) ? FOLDED : Math.max(0, 1 - check.least(q) / POOR));
  const links = new QuadLinks(soup);
  for (const tube of tubesOf(soup, links))
    for (const [from, to] of poorRuns(tube, off))
      if (!laidAnew(soup, tube.rings.slice(from, to + 1), links, surface, off))
        laidAnew(soup, tube.rings, links, surface, off);
}

/** The thin limbs and handles of some quads; only rings off the lines, whose points have four edges, may lie between the ends. Cost: linear. */
export function tubesOf(soup: QuadSoup, links: QuadLinks): Tube[] {
  const { quads, onLine } = soup;
  const known = new Set<number>();
  const from = (h: number): number => quads[h];
  const to = (h: number): number => quads[turnedBy(h, 1)];
  const isFree = (v: number): boolean => onLine[v] === -1 && links.countAt(v) === 4 && links.fansAt(v).isClosed;
  const tubes: Tube[] = [];
  for (let h = 0; h < quads.length; h++) {
    const first = known.has(h) ? null : stripRound(links, h);
    if (!first) continue;
    const quadsIn = (strip: readonly number[]): number[] => strip.map((s) => s & ~3);
    const tube: Tube = { rings: [first.map(from), first.map(to)], between: [quadsIn(first)] };
    const met = (strip: readonly number[]): void => strip.forEach((s) => known.add(s).add(turnedBy(s, 2)));
    met(first);
    // over the ring where its edges end, then over the one where they begin
    for (const isAhead of [true, false])
      for (let strip = first; strip.map(isAhead ? to : from).every(isFree);) {
        const side = isAhead ? 1 : 3;
        strip = strip.map((s) => turnedBy(links.twin(turnedBy(s, side)), side));
        if (known.has(strip[0])) break;
        met(strip);
        tube.rings.splice(isAhead ? tube.rings.length : 0, 0, strip.map(isAhead ? to : from));
        tube.between.splice(isAhead ? tube.between.length : 0, 0, quadsIn(strip));
      }
    if (tube.rings.length > 2) tubes.push(tube);
  }
  return tubes;
}

/** The half-edges across a closed strip of few quads, all the same way, from one on; null where it ends or goes on. */
function stripRound(links: QuadLinks, h: number): number[] | null {
  const strip: number[] = [];
  for (let now = h; strip.length < ROUND;) {
    strip.push(now);
    now = links.twin(turnedBy(now, 2));
    if (now < 0) return null;
    if (now === h) return strip.length > 2 ? strip : null;
  }
  return null;
}

/** From which ring to which poor quads lie between, with some beside them: first and last stay. */
function poorRuns({ rings, between }: Tube, off: (q: number) => number): [number, number][] {
  const runs: [number, number][] = [];
  between.forEach((strip, i) => {
    if (!strip.some((q) => off(q) > 0)) return;
    const [from, to] = [Math.max(0, i - BESIDE), Math.min(rings.length - 1, i + 1 + BESIDE)];
    const last = runs[runs.length - 1];
    if (last && from <= last[1]) last[1] = to;
    else runs.push([from, to]);
  });
  return runs.filter(([from, to]) => to - from > 1);
}

/** Lays the rings between the first and the last of some; false, and as they were, where that leaves more amiss. */
function laidAnew(
  soup: QuadSoup,
  rings: readonly number[][],
  links: QuadLinks,
  surface: SculptSurface,
  off: (q: number) => number,
): boolean {
  const lines = linesAlong(soup, rings, surface);
  if (!lines) return false;
  const inner = rings.slice(1, -1);
  const near = [...new Set(inner.flat().flatMap((v) => links.at(v)))];
  const amiss = (): number => near.reduce((sum, q) => sum + off(4 * q), 0);
  const [before, was] = [amiss(), inner.map((ring) => ring.map((v) => placeOf(soup, v)))];
  const put = (places: readonly Vec3[][]): void => inner.forEach((ring, i) => ring.forEach((v, k) => soup.points.set(places[i][k], 3 * v))); // prettier-ignore
  put(ringsOn(lines, placesOf(soup, rings[0]), placesOf(soup, rings[rings.length - 1])));
  if (amiss() < before) return true;
  put(was);
  return false;
}

const placeOf = ({ points: p }: QuadSoup, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
const placesOf = (soup: QuadSoup, ring: readonly number[]): Vec3[] => ring.map((v) => placeOf(soup, v));

/** Sections across a limb for the rings between two, at even steps along its middle line; null where there is none, or of more than the limb. */
function linesAlong(soup: QuadSoup, rings: readonly number[][], surface: SculptSurface): RoundLine[] | null {
  const last = rings.length - 1;
  const ends = [rings[0], rings[last]].map((ring) => placesOf(soup, ring));
  const most = (LONGEST / 2) * (lengthRound(ends[0]) + lengthRound(ends[1]));
  let middles = rings.map((ring) => meanPoint(placesOf(soup, ring)));
  const lines: RoundLine[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    middles = [...stepsAlong(middles, last), middles[last]];
    let like: readonly Vec3[] = ends[0];
    for (let i = 1; i < last; i++) {
      const line = sectionNear(surface, middles[i], sub(middles[i + 1], middles[i - 1]));
      if (!line?.closed) return null;
      lines[i - 1] = new RoundLine(line.points, like);
      if (lines[i - 1].length > most) return null;
      like = lines[i - 1].places(ends[0].length, 0);
    }
    middles = middles.map((p, i) => lines[i - 1]?.middle ?? p);
  }
  return lines;
}

/** Points on closed lines, turned from how one ring lies before the first of them to how one does behind the last, little by little. */
function ringsOn(lines: readonly RoundLine[], first: readonly Vec3[], last: readonly Vec3[]): Vec3[][] {
  const n = first.length;
  const sharesFrom = (start: readonly Vec3[], order: readonly RoundLine[]): number[] => {
    let before = start;
    return order.map((line) => {
      const share = line.shareLike(before);
      before = line.places(n, share);
      return share;
    });
  };
  const there = sharesFrom(first, lines);
  const back = sharesFrom(last, [...lines].reverse()).reverse();
  return lines.map((line, i) => {
    const by = back[i] - there[i];
    return line.places(n, there[i] + ((i + 1) / (lines.length + 1)) * (by - Math.round(by)));
  });
}
