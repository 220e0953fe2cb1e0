import { add, distance, lengthsAlong, meanPoint, scale, sub, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { quadsByTriangle } from '../fit/FollowedPlaces';
import { relaxed } from '../fit/relax';
import type { Ground } from '../lines/ground';
import { onCurve, placeOnCurve } from '../lines/lines';
import { isNoWorse, settled, squared, type Checked } from '../mend/settled';
import { QuadCheck } from '../quads/QuadCheck';
import { QuadLinks } from '../quads/QuadLinks';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { LEAST_ROUND } from '../quads/slender';
import type { Task } from '../quads/Task';
import { BARE, bareShare, isShort, LOST, SHORT, WHOLE } from './bare';
import { lengthRound, limbsBeyond, roundLimb, type Limb, type LineRound } from './limbs';
import { reaching } from './onTheForm';
import {
  drawnOut,
  outlineOffPlane,
  polesOfDrawing,
  rectanglesWith,
  sidesOf,
  type Outline,
  type Patch,
} from './patches';
import { placesAlong, RoundLine } from './RoundLine';
import { pulledBack, tentsIn } from './tents';

/** Patches of no more quads across, and along, are drawn out. */
const WIDEST = 3;
const LONGEST = 10;
/** A patch that is no cap has no more and no less than so many times the edges round it that a limb there should have. */
const FITS = 1.7;
/** What an edge too many or too few of a point costs, against a patch that is off by its own length. */
const POLE = 0.25;
/** What it costs that a patch has twice as many edges round it as the limb, or half. */
const ROUND = 1;
/** Edges along a limb are no shorter than this share of those of the quads it grows from. */
const SHORTEST = 0.5;
/** The outermost ring stays this share of an edge short of the end. */
const TIP = 0.35;
/** The first ring is no nearer than so many times as far as where the limb begins. */
const FIRST = 1.2;
/** How thick a limb is is told at this share of its length. */
const BASE = 0.33;
/** What is kept reaches for what sticks out by so many quads' lengths only: nearer than that quads are drawn when all else is in place, and points that reach for a rim one by one tear it. Whether limbs are short is told by the farther reach. */
const KEPT_REACHES = 1;
/** So near to a tent's tip, over the length of quads, the end of its limb is. */
const NEAR_TIP = 2;
/** So often limbs grow that are short still. */
const ROUNDS = 2;
/** So often limbs are left out whose quads came out poor. */
const TRIES = 3;
/** No more limbs grow at once. */
const MOST = 60;
/** Limbs grow for so many poles. */
const NONE = 0;
/** What has grown is evened out so often. */
const EVENED = 6;
/** A limb whose quads have a worse corner than this does not grow. */
const POOR = 0.1;

/**
 * With the limbs grown on that end early and have a cap of quads already, which costs no poles; where a part of the form has no quads even so, with its limbs, poles and all, and those across the mirror plane anyhow: a point of
 * the plane that reaches for the end of one, a tail, leaves a spike. Cost: as `limbsBeyond`, and a check where there are any.
 */
export function withLimbs(first: Checked, task: Task): Checked {
  // a speck may lose all its quads while it is mended
  if (first.soup.quads.length === 0) return first;
  const own = withGrown(first, task, NONE, () => true);
  const next = bareShare(own.soup, task, BARE) < bareShare(first.soup, task, BARE) ? own : first;
  const lacksAny = isShort(next.soup, task);
  const grown =
    lacksAny || task.plane
      ? withGrown(next, task, Infinity, ({ length, across }) => length > LOST.away * task.size && (lacksAny || across !== null)) // prettier-ignore
      : next;
  return withTentsGrown(grown, task);
}

/** With limbs in the place of tents. Cost: linear, and as `limbsBeyond` where there are any. */
function withTentsGrown(first: Checked, task: Task): Checked {
  const { ground, size, plane } = task;
  const tents = tentsIn(first.soup, ground, size, plane);
  if (tents.size === 0) return first;
  const back = { ...first, soup: pulledBack(first.soup, tents) };
  const tips = [...tents.keys()].map((v) => at(first.soup, v));
  const made = withGrown(back, task, Infinity, ({ length, end }) => length > LOST.away * size && tips.some((tip) => distance(tip, end) < NEAR_TIP * size)); // prettier-ignore
  return made === back ? first : made;
}

/** Drawn out to the form's tips; limbs that are short however far points reach are grown first, poles and all, if that leaves less of the form out of reach. Cost: as `reaching`, a few times where limbs are short. */
export function drawnToEnds(first: Checked, task: Task): ReturnType<typeof reaching> {
  const little = reaching(first, task, undefined, KEPT_REACHES);
  // nothing sticks out so far that a limb could be short
  if (bareShare(first.soup, task, KEPT_REACHES) === 0) return little;
  const { base, drawn, short } = grownToEnds(first, task);
  const kept = base === first ? little : reaching(base, task, undefined, KEPT_REACHES);
  return bareShare(kept.soup, task, SHORT) <= Math.max(WHOLE, short) ? kept : drawn;
}

/** With limbs grown that points do not reach the ends of, as far as they reach, and what that is drawn out of. */
function grownToEnds(first: Checked, task: Task): { base: Checked; drawn: ReturnType<typeof reaching>; short: number } {
  const away = SHORT * task.size;
  let [base, last] = [first, reaching(first, task)];
  let best = { base, drawn: last, short: bareShare(last.soup, task, SHORT) };
  for (let round = 0; round < ROUNDS && best.short > WHOLE; round++) {
    const low = surfaceOfQuads(last.soup);
    const longer = withGrown(base, task, Infinity, ({ end }) => low.distanceBeyond(end, away) > away);
    if (longer === base) break;
    [base, last] = [longer, reaching(longer, task)];
    const short = bareShare(last.soup, task, SHORT);
    if (short < best.short && isNoWorse(last.verdict, first.verdict)) best = { base, drawn: last, short };
  }
  return best;
}

/** With limbs grown that are wanted and cost no more poles than that, if all is as sound then; as it was otherwise. */
function withGrown(first: Checked, task: Task, dearest: number, isWanted: (limb: Limb) => boolean): Checked {
  const { ground, samples, size, topology, plane } = task;
  const low = surfaceOfQuads(first.soup);
  let limbs = limbsBeyond(low, ground.surface, samples, size, plane).filter(isWanted).slice(0, MOST);
  for (let tries = 0, left = limbs.length + 1; tries < TRIES && limbs.length < left && limbs.length > 0; tries++) {
    left = limbs.length;
    const { soup, owner } = grown(first.soup, low, limbs, ground, { dearest, size });
    if (owner.length === 0) return first;
    relaxed(soup, ground.curves, ground.surface, EVENED);
    squared(soup, ground, new Set());
    const second = settled(soup, topology, ground);
    if (isNoWorse(second.verdict, first.verdict)) return second;
    // those whose quads came out poor stay as they were
    const check = new QuadCheck(soup.points, soup.quads, ground.forms);
    const start = first.soup.quads.length;
    const poor = new Set(owner.filter((_, i) => check.least(start + 4 * i) < POOR || check.isFolded(start + 4 * i)));
    limbs = limbs.filter((_, i) => !poor.has(i));
  }
  return first;
}

/** For how many poles limbs grow, and how long quads are. */
interface Terms {
  dearest: number;
  size: number;
}

/** With rings of quads for each limb, on a patch at its root that is drawn out along it. Gives whose limb each new quad is, too. Cost: each limb's triangles for each of its rings, and its quads' links. */
function grown(
  start: QuadSoup,
  low: SculptSurface,
  limbs: readonly Limb[],
  ground: Ground,
  terms: Terms,
): { soup: QuadSoup; owner: number[] } {
  const quadOf = quadsByTriangle(start);
  const owner: number[] = [];
  let soup = start;
  limbs.forEach((limb, i) => {
    const root = roundLimb(limb, ground.surface, limb.length * BASE);
    if (!root) return;
    const [a, b] = low.indices.subarray(3 * low.closest(meanPoint(root.points)).triangle);
    const next = withLimb(soup, quadOf(a, b) / 4, limb, root, ground, terms);
    for (let q = soup.quads.length; q < next.quads.length; q += 4) owner.push(i);
    soup = next;
  });
  return { soup, owner };
}

/** With a limb grown out of a patch round a quad. */
function withLimb(
  soup: QuadSoup,
  q: number,
  limb: Limb,
  root: LineRound,
  ground: Ground,
  { dearest, size }: Terms,
): QuadSoup {
  const from = patchFor(soup, new QuadLinks(soup), q, root, ground, dearest);
  if (!from) return soup;
  const { points: outline, closed } = from.outline;
  let before = outline.map((v) => at(soup, v));
  const sides = sidesOf(from.outline);
  const edge = (closed ? lengthRound(before) : lengthsAlong(before)[sides]) / sides;
  const round = root.length / sides;
  // where so few go round a limb that they are longer than wide, rings are as far apart as quads are long elsewhere
  const isThin = (closed ? 1 : 2) * sides <= LEAST_ROUND;
  const along = Math.max(isThin ? size : 0, Math.min(edge, Math.max(SHORTEST * edge, round)));
  const end = limb.length - TIP * Math.min(round, edge);
  // the first ring lies beyond the root
  const count = Math.max(1, Math.min(Math.round(end / along), Math.floor(end / (FIRST * limb.root))));
  const rings: Float64Array[] = [];
  for (let i = 1; i <= count; i++) {
    const line = roundLimb(limb, ground.surface, (i / count) * end);
    if (line?.closed !== closed) return soup;
    before = closed ? placesRound(line.points, before) : placesAlong(line.points, before);
    rings.push(Float64Array.from(before.flat()));
  }
  const onLines = withEndsOn(soup, from.outline, rings[0], ground);
  return drawnOut(onLines, from.patch, rings, innerOf(onLines, from, before, limb.end, ground), from.outline);
}

/** With both ends of an outline in the mirror plane on the line there that the first ring's are nearest to: where a limb's end is a corner of the plane's line, its one side is another than the other. */
function withEndsOn(soup: QuadSoup, { points, closed }: Outline, ring: Float64Array, { curves }: Ground): QuadSoup {
  if (closed) return soup;
  const onLine = soup.onLine.slice();
  for (const k of [0, points.length - 1]) {
    const [x, y, z] = ring.subarray(3 * k, 3 * k + 3);
    let least = Infinity;
    for (const [line, curve] of curves.entries()) {
      if (!curve.isMirrored) continue;
      const { away } = placeOnCurve(curve, x, y, z);
      if (away < least) [least, onLine[points[k]]] = [away, line];
    }
  }
  return { ...soup, onLine };
}

/** A ring's points on the next line round its limb. */
function placesRound(line: readonly Vec3[], before: readonly Vec3[]): Vec3[] {
  const round = new RoundLine(line, before);
  return round.places(before.length, round.shareLike(before));
}

const at = ({ points: p }: QuadSoup, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];

/** What a limb grows from. */
interface From {
  patch: Patch;
  outline: Outline;
}

/** The patch that a limb had best grow from for no more poles than that: a cap at a quad or beside it, or what has about as many edges round it as the limb; of one across the mirror plane, with a side there. Null where there is none off other lines. */
function patchFor(
  soup: QuadSoup,
  links: QuadLinks,
  q: number,
  root: LineRound,
  { curves }: Ground,
  dearest: number,
): From | null {
  const middle = meanPoint(root.points);
  const corners = [...soup.quads.subarray(4 * q, 4 * q + 4)];
  const edge = lengthRound(corners.map((v) => at(soup, v))) / 4;
  const wanted = Math.max(root.closed ? LEAST_ROUND : LEAST_ROUND / 2, root.length / edge);
  const near = [...new Set(corners.flatMap((v) => links.at(v)))];
  const isInPlane = (v: number): boolean => curves[soup.onLine[v]]?.isMirrored ?? false;
  const isCorner = (v: number): boolean => !root.closed || links.countAt(v) === 3;
  let best: (From & { cost: number }) | null = null;
  const look = (patch: Patch, most: number, isAsRound: boolean): void => {
    const outline = outlineOffPlane(links, patch, isInPlane);
    if (outline?.closed !== root.closed) return;
    const off = Math.abs(Math.log(sidesOf(outline) / wanted));
    if (isAsRound && off >= Math.log(FITS)) return;
    const poles = polesOfDrawing(links, patch, outline);
    const points = [...new Set(patch.halves.flatMap((h) => [...soup.quads.subarray(h & ~3, (h & ~3) + 4)]))];
    if (poles > most || points.some((v) => soup.onLine[v] !== -1 && !isInPlane(v))) return;
    const away = distance(meanPoint(points.map((v) => at(soup, v))), middle) / edge;
    const cost = away + ROUND * off + POLE * poles;
    if (!best || cost < best.cost) best = { patch, outline, cost };
  };
  for (let rows = 1; rows <= WIDEST; rows++)
    for (let columns = rows; columns <= LONGEST; columns++) {
      for (const one of near)
        for (const cap of rectanglesWith(links, one, columns, rows, isCorner)) look(cap, NONE, false);
      if (dearest > 0) for (const other of rectanglesWith(links, q, columns, rows)) look(other, dearest, true);
    }
  return best;
}

/** Where a patch's inner points go, on the form, or on its line in the mirror plane: as they lay between those of its outline, beyond the last ring at the limb's end. */
function innerOf(
  soup: QuadSoup,
  { patch, outline: { points: outline } }: From,
  ring: readonly Vec3[],
  end: Vec3,
  { curves, surface }: Ground,
): Map<number, Vec3> {
  const inner = new Map<number, Vec3>();
  const ahead = sub(end, meanPoint(ring));
  for (const h of patch.halves)
    for (const v of soup.quads.subarray(h & ~3, (h & ~3) + 4)) {
      if (inner.has(v) || outline.includes(v)) continue;
      const shares = outline.map((w) => 1 / Math.max(1e-300, distance(at(soup, v), at(soup, w)) ** 2));
      const all = shares.reduce((sum, x) => sum + x, 0);
      const to = ring.reduce((sum: Vec3, p, k) => add(sum, scale(p, shares[k] / all)), ahead);
      inner.set(v, soup.onLine[v] >= 0 ? onCurve(curves[soup.onLine[v]], ...to) : surface.closest(to).point);
    }
  return inner;
}
