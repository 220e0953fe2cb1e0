import { HalfLoopError } from '../errors';
import { BARE, barenessOf, bareShare, isShort, WHOLE, type Bareness } from './bare';
import { extracted, type QuadSoup } from './extract';
import { crossingQuads } from './crossings';
import { drawnApart } from './drawnApart';
import { crossField } from './field';
import { backWhereWorse, placeKey, pointsAt } from './fit';
import { Grid } from './grid';
import { drawnToEnds, withLimbs } from './grow';
import { gridFor } from './gridFor';
import type { Ground } from './ground';
import { ontoCorners } from './ontoCorners';
import { countByRows } from './countByRows';
import { fewerPoles } from './fewerPoles';
import { withoutDoublets } from './mirrorRim';
import { faultsOf, mendedAround, withoutSplinters } from './mendQuads';
import { COUNT_OFF, type Asked } from './options';
import { mendedApart } from './mendApart';
import { foldsMended, POOR } from './mendFolds';
import { simplifyPoles } from './poles';
import { onTheForm } from './onTheForm';
import { QuadCheck } from './QuadCheck';
import { eulerOf } from './QuadLinks';
import { relaxed } from './relax';
import { DEAR, isNoWorse, settled, squared, type Checked } from './settled';
import { seamsOf } from './seams';
import { densitySizes, spreadOf } from './sizes';
import type { Stages } from './Stages';
import type { Task } from './Task';
import { tubesLaid } from './tubes';
import { linesLost, verified, type Verdict } from './verify';

/** Quads over one connected surface. */
export interface Piece extends Bareness {
  soup: QuadSoup;
  verdict: Verdict;
  route: 'grid' | 'shell' | 'paired';
  /** lines that are no chain of edges: of the form, and drawn ones */
  lost: { ofForm: number; drawn: number };
  /** quads that run through others */
  crossing: number;
  /** places of points that were drawn out to the form's tips */
  tips: ReadonlySet<string>;
}

/** How a try goes about it: poles nearer to each other than so many quads cancel out; the form is followed so strongly. */
export interface Way {
  near: number;
  follow: number;
  /** sizes by thickness at least so much, whatever was asked for */
  evenness: number;
  /** rings of quads round limbs close */
  closes: boolean;
}

/** Poles of painted density cancel out no further from each other than this. */
const NEAR_IN_DENSITY = 2.5;

export const nearestOf = ({ near }: Way, sizes: Float64Array | null): number =>
  sizes ? Math.min(near, NEAR_IN_DENSITY) : near;

/** How most forms are laid, and the flow is shown before. */
export const USUAL_WAY: Way = { near: 5, follow: 2, evenness: 0, closes: true };

/**
 * Quads by a whole-number grid over a cross field, mended, relaxed, drawn out to the form's tips and verified; null where none come out, or a limb is lost, or more handles than `most`. Cost: the
 * working mesh's triangles, and a sparse factoring of them.
 */
export function gridQuads(task: Task, way: Way, options: Asked, stages: Stages, most: number): Piece | null {
  const { work, corners, ground, size, working } = task;
  stages.begin('Flow', 0.35);
  const sizes = ground.density && densitySizes(work, ground.density, size);
  const field = crossField(work, {
    ratio: size / working,
    size,
    followForm: options.followForm * way.follow,
    sizes,
    loops: options.loops,
  });
  stages.begin('Sizes', 0.45);
  const spread = spreadOf(work, ground.surface, size, Math.max(way.evenness, options.evenness), sizes);
  const own = (v: number): number => size * spread[Math.floor(work.out[v] / 3)] * (sizes ? sizes[v] : 1);
  // where density is painted poles stand between small quads and great ones, and must stay
  const index = simplifyPoles(work, field, own, nearestOf(way, sizes), options.plane);
  stages.begin('Grid', 0.5);
  try {
    const seams = seamsOf(work, field, index);
    const grid = new Grid(work, field, seams, spread, sizes, way.closes ? size : null);
    const quadsFor = (wanted: number): QuadSoup => extracted(work, seams, gridFor(grid, wanted, size), corners);
    const first = withCountOfLimbs(task.target, (target) => laidOut({ ...task, target }, quadsFor, stages));
    if (!first || first.verdict.handlesLost > most || isShort(first.soup, task)) return null;
    const isSound = first.verdict.reasons.length === 0 || first.verdict.handlesLost > 0;
    if (isSound) stages.begin('Tips', 0.93);
    const { reached, ...drawn } = isSound ? drawnToEnds(first, task) : { ...first, reached: new Set<number>() };
    const tips = new Set([...reached].map((v) => placeKey(drawn.soup.points, v)));
    const made = isSound ? uncrossed(drawn, task, options.plane) : { ...drawn, crossing: 0 };
    return { ...made, route: 'grid', lost: linesLost(made.soup, ground.curves, size), ...barenessOf(made.soup, task), tips }; // prettier-ignore
  } catch (error) {
    if (error instanceof HalfLoopError) return null;
    throw error;
  }
}

/** Quads as the grid has them, mended, relaxed, with limbs grown that end early: so many quads of all. Null where they cannot be mended. */
function laidOut(
  task: Task,
  quadsFor: (wanted: number) => QuadSoup,
  stages: Stages,
): { first: Checked; grown: number } | null {
  const { work, corners, ground, target, size, topology } = task;
  stages.begin('Grid', 0.5);
  const raw = quadsFor(target);
  stages.begin('Quads', 0.75);
  const soup = nearerCount(raw, task, quadsFor);
  if (!soup) return null;
  ontoCorners(soup, work, corners, size, ground.curves);
  stages.begin('Relax', 0.8);
  relaxed(soup, ground.curves, ground.surface);
  tubesLaid(soup, ground);
  stages.show(soup.points, soup.quads, 4);
  stages.begin('Verify', 0.9);
  const short = withoutFolds(settled(soup, topology, ground), task);
  const first = withLimbs(short, task);
  return { first, grown: (first.soup.quads.length - short.soup.quads.length) / 4 };
}

/** Where limbs that grow take the count too far off, others that have room for them, if they are as sound and nearer to it. */
function withCountOfLimbs(target: number, laid: (target: number) => ReturnType<typeof laidOut>): Checked | null {
  const off = ({ soup }: Checked): number => Math.abs(soup.quads.length / 4 / target - 1);
  const one = laid(target);
  if (!one || one.grown === 0 || off(one.first) <= COUNT_OFF) return one && one.first;
  const other = laid(Math.max(target / 2, target - one.grown));
  const isBetter = other && isNoWorse(other.first.verdict, one.first.verdict) && off(other.first) < off(one.first);
  return isBetter ? other.first : one.first;
}

/** With what is still folded filled anew, if that is sounder. */
function withoutFolds(first: Checked, { topology, ground }: Task): Checked {
  if (first.verdict.folded === 0) return first;
  const soup = foldsMended(first.soup, ground);
  const verdict = verified(soup, topology, ground.forms);
  return verdict.reasons.length < first.verdict.reasons.length ? { soup, verdict } : first;
}

/** No corner is worse than this where it was not before, for the sake of fewer poles. */
export const SOUND = 0.3;

/** Without the poles that the form does not ask for; as it was where quads suffer from that, or a limb. Cost: fillings for each pair of poles near by. */
export function withFewerPoles(first: Piece, task: Task): Piece {
  const { ground, samples, size, topology } = task;
  const few = fewerPoles(first.soup, ground, samples, size);
  if (few === first.soup) return first;
  // points that stay do not move while poles go
  squared(few, ground, pointsAt(few, first.tips));
  const second = settled(few, topology, ground);
  const isSquare = second.verdict.quality.least > Math.min(SOUND, first.verdict.quality.least);
  return isSquare ? insteadOf(first, second, task) : first;
}

/** With quads whose corners are poor filled anew; as it was where no corner gets better by that, or a limb or a line suffers. Cost: as `foldsMended`, where there are any. */
export function withoutPoor(first: Piece, task: Task): Piece {
  const { least } = first.verdict.quality;
  if (least > POOR) return first;
  const soup = foldsMended(first.soup, task.ground);
  const verdict = verified(soup, task.topology, task.ground.forms);
  return verdict.quality.least > least ? insteadOf(first, { soup, verdict }, task) : first;
}

/** No more of the least 5 % of corners than this is given for the count; and for a few quads over it. */
const DEARLY_SQUARE = 0.04;
const HARDLY_SQUARE = 0.01;
/** So many rows are tried first for it, or where it is only a few over; and so much of the form may be bare for it. */
const ROWS_TRIED = 4;
const ROWS_TRIED_OVER = 2;
/** With more quads than this a try for a few over takes ten seconds, and stays as it is. */
const MANY_QUADS = 4000;
const NEARER_BARE = 0.02;

/** As many quads as are wanted, or a few less, if they are not nearly, or more: by rows of them; as it was where quads suffer from that, or a limb. What is wanted is mostly a budget. Cost: as `countByRows`. */
export function withCount(first: Piece, task: Task, wanted: number): Piece {
  const share = (soup: QuadSoup): number => soup.quads.length / 4 / wanted;
  const missedBy = (soup: QuadSoup): number => Math.max(0, share(soup) - 1, 1 - COUNT_OFF - share(soup));
  if (missedBy(first.soup) === 0) return first;
  const isFar = Math.abs(share(first.soup) - 1) > COUNT_OFF;
  if (!isFar && first.soup.quads.length / 4 > MANY_QUADS) return first;
  const isTip = (points: Float64Array, v: number): boolean => first.tips.has(placeKey(points, v));
  for (let passed = 0; passed < (isFar ? ROWS_TRIED : ROWS_TRIED_OVER); passed++) {
    const soup = countByRows(first.soup, (1 - COUNT_OFF / 2) * wanted, task.ground, isTip, passed);
    if (soup === first.soup) break;
    if (missedBy(soup) >= (isFar ? missedBy(first.soup) : Number.MIN_VALUE)) continue;
    squared(soup, task.ground, pointsAt(soup, first.tips));
    const second = settled(soup, task.topology, task.ground);
    const { least, low } = second.verdict.quality;
    const dearly = isFar ? DEARLY_SQUARE : HARDLY_SQUARE;
    const isSquare = least > Math.min(SOUND, first.verdict.quality.least) && low > first.verdict.quality.low - dearly;
    if (!isSquare || missedBy(second.soup) >= missedBy(first.soup)) continue;
    // quads are drawn nearer to the form after this
    const made = insteadOf(first, second, task, isFar ? NEARER_BARE : DEARLY_BARE);
    if (made !== first) return made;
  }
  return first;
}

/** Other quads in the place of a piece's; the piece where they cost it more of the form, or a line, or run through each other more. */
function insteadOf(first: Piece, second: Checked, task: Task, dear = DEARLY_BARE): Piece {
  const bareness = barenessOf(second.soup, task);
  const { bare, short } = bareness;
  if (bare > first.bare + dear || short > Math.max(first.short, WHOLE) || !isNoWorse(second.verdict, first.verdict))
    return first;
  const lost = linesLost(second.soup, task.ground.curves, task.size);
  if (lost.drawn > first.lost.drawn || lost.ofForm > first.lost.ofForm) return first;
  const crossing = crossingQuads(second.soup).length;
  return crossing > first.crossing ? first : { ...first, ...second, ...bareness, crossing, lost };
}

/** So often points of quads that run through others for it go back. */
const BACK = 6;

/** As near to the form as its quads come; as they were where they suffer from that, or run through others for it. */
export function drawnOnto(first: Piece, task: Task): Piece {
  const { soup, verdict } = onTheForm(first, task);
  const { points, quads } = first.soup;
  const hasMoved = (v: number): boolean => [0, 1, 2].some((k) => soup.points[3 * v + k] !== points[3 * v + k]);
  const then = new QuadCheck(points, quads);
  for (let round = 0; round < BACK && soup !== first.soup; round++) {
    const crossing = new Set(crossingQuads(soup));
    const now = round === 0 ? verdict : verified(soup, task.topology, task.ground.forms);
    if (crossing.size <= first.crossing && now.quality.least >= Math.min(SOUND, first.verdict.quality.least))
      return isNoWorse(now, first.verdict) ? { ...first, soup, verdict: now, crossing: crossing.size, ...barenessOf(soup, task) } : first; // prettier-ignore
    const check = new QuadCheck(soup.points, quads, task.ground.forms);
    const suffers = (q: number): boolean => crossing.has(q / 4) || check.least(q) < Math.min(SOUND, then.least(q)) || check.isFolded(q); // prettier-ignore
    backWhereWorse(soup, points, (q) => quads.subarray(q, q + 4).some(hasMoved) && suffers(q));
  }
  return first;
}

/** Quads of one surface, how sound they are, and how many run through others. */
interface Apart extends Checked {
  crossing: number;
}
/** What filling anew may cost of the form. */
const DEARLY_BARE = 0.005;

/**
 * Quads that run through others are taken out and filled anew, a few times over a wider patch, as long as that leaves fewer of them, all is sound and no limb goes; what still
 * crosses is drawn apart. Where neither does, what goes with it goes.
 */
function uncrossed(start: Checked, task: Task, plane: Asked['plane']): Apart {
  const { ground, topology, size } = task;
  let best = start;
  let crossing = crossingQuads(best.soup);
  let dear: Apart | null = null;
  const bare = crossing.length > 0 ? bareShare(start.soup, task, BARE) : 0;
  for (let rings = 0; rings < 3 && crossing.length > 0; rings++) {
    const soup = mendedAround(best.soup, crossing, ground, rings);
    if (!soup) continue;
    const next = settled(soup, topology, ground);
    const left = crossingQuads(next.soup);
    const isSound = next.verdict.reasons.length <= best.verdict.reasons.length && next.verdict.handlesLost === best.verdict.handlesLost; // prettier-ignore
    if (!isSound || left.length >= crossing.length) continue;
    const isDear = next.verdict.quality.least < Math.min(DEAR, best.verdict.quality.least) || bareShare(next.soup, task, BARE) > bare + DEARLY_BARE; // prettier-ignore
    if (isDear) dear ??= { ...next, crossing: left.length };
    else [best, crossing] = [next, left];
  }
  if (crossing.length === 0) return { ...best, crossing: 0 };
  const apart = drawnApart(best.soup, size, plane);
  const verdict = verified(apart.soup, topology, ground.forms);
  const isBetter = apart.crossing.length < crossing.length && verdict.reasons.length <= best.verdict.reasons.length;
  const drawn = isBetter
    ? { soup: apart.soup, verdict, crossing: apart.crossing.length }
    : { ...best, crossing: crossing.length };
  return dear && dear.crossing < drawn.crossing ? dear : drawn;
}

/** So many times as many quads as wanted come of a map that is torn all over: they are not worth mending. */
const TORN = 5;

/** Sound quads whose count comes nearer: where the map collapses, what is mended has fewer or more quads than the map has area, and others are made for as many more. */
function nearerCount(
  raw: QuadSoup,
  { ground, target, topology }: Task,
  made: (wanted: number) => QuadSoup,
): QuadSoup | null {
  const countOf = ({ quads }: QuadSoup): number => quads.length / 4;
  const off = (soup: QuadSoup): number => Math.abs(countOf(soup) / target - 1);
  const isTorn = (soup: QuadSoup): boolean => countOf(soup) > TORN * target;
  const soundOf = (soup: QuadSoup): QuadSoup | null => {
    const sound = isTorn(soup) ? null : mended(soup, ground, topology.euler);
    return sound && withoutDoublets(sound, ground);
  };
  const first = soundOf(raw);
  if (first ? off(first) < COUNT_OFF : !isTorn(raw)) return first;
  const second = soundOf(made((target * target) / countOf(first ?? raw)));
  return second && (!first || off(second) < off(first)) ? second : first;
}

/** Sound by its making: faults mended one by one, so that what hangs together stays as it is if that is as it should be; or all at once where one needs another's room. */
function mended(raw: QuadSoup, ground: Ground, euler: number): QuadSoup | null {
  const off = (soup: QuadSoup): number => Math.abs(eulerOf(soup) - euler);
  const apart = mendedApart(raw, ground, true);
  const other = !apart || off(apart) > 0 ? mendedApart(raw, ground, false) : null;
  if (apart || other)
    return withoutSplinters(!apart || (other && off(other) < off(apart)) ? (other as QuadSoup) : apart);
  let soup: QuadSoup | null = raw;
  for (let rings = 1; rings < 4 && soup; rings++) {
    const bad = faultsOf(soup, ground.curves);
    if (bad.length === 0) return withoutSplinters(soup);
    soup = mendedAround(soup, bad, ground, rings);
  }
  return soup && faultsOf(soup, ground.curves).length === 0 ? withoutSplinters(soup) : null;
}
