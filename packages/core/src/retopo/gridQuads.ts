import { HalfLoopError } from '../errors';
import { crossField } from './field/field';
import { simplifyPoles } from './field/poles';
import { onRidges } from './fit/alongRidges';
import { drawnApart } from './fit/drawnApart';
import { placeKey } from './fit/fit';
import { ontoCorners } from './fit/ontoCorners';
import { relaxed } from './fit/relax';
import { densitySizes, spreadOf } from './form/sizes';
import { extracted } from './grid/extract';
import { Grid } from './grid/grid';
import { seamsOf } from './grid/seams';
import { gridFor } from './gridFor';
import { BARE, barenessOf, bareShare, DEARLY_BARE, isShort, type Bareness } from './limbs/bare';
import { drawnToEnds, withLimbs } from './limbs/grow';
import { tubesLaid } from './limbs/tubes';
import type { Ground } from './lines/ground';
import { mendedApart, MENDINGS } from './mend/mendApart';
import { foldsMended } from './mend/mendFolds';
import { faultsOf, mendedAround, withoutSplinters } from './mend/mendQuads';
import { withoutDoublets } from './mend/mirrorRim';
import { DEAR, isNoWorse, settled, type Checked } from './mend/settled';
import { countMissed, mayBeOff, type Asked } from './options';
import { linesLost } from './quads/linesLost';
import { eulerOf } from './quads/QuadLinks';
import type { QuadSoup } from './quads/QuadSoup';
import type { Task } from './quads/Task';
import { verified, type Verdict } from './quads/verify';
import type { Stages } from './Stages';

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
  /** sizes by thickness and curvature at least so much, whatever was asked for */
  evenness: number;
  /** rings of quads round limbs close */
  closes: boolean;
  /** loops run along ridges */
  ridges: boolean;
}

/** Poles of painted density cancel out no further from each other than this. */
const NEAR_IN_DENSITY = 2.5;

export const nearestOf = ({ near }: Way, sizes: Float64Array | null): number =>
  sizes ? Math.min(near, NEAR_IN_DENSITY) : near;

/** How most forms are laid, and the flow is shown before. */
export const USUAL_WAY: Way = { near: 5, follow: 2, evenness: 0, closes: true, ridges: true };

/**
 * Quads by a whole-number grid over a cross field, mended, relaxed, drawn out to the form's tips and verified; null where none come out, or a limb is lost, or more handles than `most`. Cost: the
 * working mesh's triangles, and a sparse factoring of them.
 */
export function gridQuads(task: Task, way: Way, options: Asked, stages: Stages, most: number): Piece | null {
  const { work, corners, ground, size, working } = task;
  stages.begin('Flow', 0);
  const sizes = ground.density && densitySizes(work, ground.density, size);
  const field = crossField(work, {
    ratio: size / working,
    size,
    followForm: options.followForm * way.follow,
    sizes,
    loops: options.loops,
    ridges: way.ridges ? task.ridges : [],
  });
  stages.begin('Sizes', 0.1);
  const spread = spreadOf(work, ground.surface, size, Math.max(way.evenness, options.evenness), sizes, options.plane);
  const own = (v: number): number => size * spread[Math.floor(work.out[v] / 3)] * (sizes ? sizes[v] : 1);
  // where density is painted poles stand between small quads and great ones, and must stay
  const index = simplifyPoles(work, field, own, nearestOf(way, sizes), options.plane);
  stages.showFlow(work, field, index, size);
  stages.begin('Grid', 0.18);
  try {
    const seams = seamsOf(work, field, index);
    const grid = new Grid(work, field, seams, spread, sizes, way.closes ? size : null, way.ridges ? task.ridges : [], options.plane); // prettier-ignore
    const quadsFor = (wanted: number): QuadSoup => extracted(work, seams, gridFor(grid, wanted, size), corners);
    const first = withCountOfLimbs(task.target, (target) => laidOut({ ...task, target }, quadsFor, stages));
    if (!first || first.verdict.handlesLost > most || isShort(first.soup, task)) return null;
    const isSound = first.verdict.reasons.length === 0 || first.verdict.handlesLost > 0;
    if (isSound) stages.begin('Tips', 0.6);
    const { reached, ...drawn } = isSound ? drawnToEnds(first, task) : { ...first, reached: new Set<number>() };
    const tips = new Set([...reached].map((v) => placeKey(drawn.soup.points, v)));
    const made = isSound ? uncrossed(drawn, task) : { ...drawn, crossing: 0 };
    return { ...made, route: 'grid', lost: linesLost(made.soup, ground.curves, size), ...barenessOf(made.soup, task, ground.surface), tips }; // prettier-ignore
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
  stages.begin('Grid', 0.3);
  const raw = quadsFor(target);
  stages.begin('Quads', 0.48);
  const soup = nearerCount(raw, task, quadsFor);
  if (!soup) return null;
  ontoCorners(soup, work, corners, size, ground.curves);
  stages.begin('Relax', 0.53);
  // rows along ridges stay on these while all is evened out
  relaxed(onRidges(soup, ground.curves), ground.curves, ground.surface);
  tubesLaid(soup, ground);
  stages.showQuads(soup);
  stages.begin('Verify', 0.56);
  const short = withoutFolds(settled(soup, topology, ground), task);
  const first = withLimbs(short, task);
  return { first, grown: (first.soup.quads.length - short.soup.quads.length) / 4 };
}

/** Where limbs that grow take the count too far off, others that have room for them, if they are as sound and nearer to it. */
function withCountOfLimbs(target: number, laid: (target: number) => ReturnType<typeof laidOut>): Checked | null {
  const off = ({ soup }: Checked): number => Math.abs(soup.quads.length / 4 / target - 1);
  const one = laid(target);
  if (!one || one.grown === 0 || off(one.first) <= mayBeOff(target)) return one && one.first;
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

/** Quads of one surface, how sound they are, and how many run through others. */
interface Apart extends Checked {
  crossing: number;
}

/**
 * Quads that run through others where the form does not are taken out and filled anew, a few times over a wider patch, as long as that leaves fewer of them, all is sound and no limb goes; what still
 * crosses is drawn apart. Where neither does, what goes with it goes.
 */
function uncrossed(start: Checked, task: Task): Apart {
  const { ground, topology, size, plane } = task;
  const crossingIn = task.formCrossings.crossingElsewhere;
  let best = start;
  let crossing = crossingIn(best.soup);
  let dear: Apart | null = null;
  const bare = crossing.length > 0 ? bareShare(start.soup, task, BARE) : 0;
  for (let rings = 0; rings < 3 && crossing.length > 0; rings++) {
    const soup = mendedAround(best.soup, crossing, ground, rings);
    if (!soup) continue;
    const next = settled(soup, topology, ground);
    const left = crossingIn(next.soup);
    const isSound = next.verdict.reasons.length <= best.verdict.reasons.length && next.verdict.handlesLost === best.verdict.handlesLost; // prettier-ignore
    if (!isSound || left.length >= crossing.length) continue;
    const isDear = next.verdict.quality.least < Math.min(DEAR, best.verdict.quality.least) || bareShare(next.soup, task, BARE) > bare + DEARLY_BARE; // prettier-ignore
    if (isDear) dear ??= { ...next, crossing: left.length };
    else [best, crossing] = [next, left];
  }
  if (crossing.length === 0) return { ...best, crossing: 0 };
  const apart = drawnApart(best.soup, size, plane, crossingIn);
  const verdict = verified(apart.soup, topology, ground.forms);
  const isBetter = apart.crossing.length < crossing.length && verdict.reasons.length <= best.verdict.reasons.length;
  const drawn = isBetter
    ? { soup: apart.soup, verdict, crossing: apart.crossing.length }
    : { ...best, crossing: crossing.length };
  return dear && dear.crossing < drawn.crossing ? dear : drawn;
}

/** So many times as many quads as wanted come of a map that is torn all over: they are not worth mending. */
const TORN = 5;

/** Sound quads whose count comes nearer, with no more handles lost: where the map collapses, what is mended has fewer or more quads than the map has area, and others are made for as many more. */
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
  if (first ? off(first) < mayBeOff(target) : !isTorn(raw)) return first;
  const second = soundOf(made((target * target) / countOf(first ?? raw)));
  if (!first || !second) return first ?? second;
  // a row more or less is soon had, a handle is not
  const lacking = (soup: QuadSoup): number => Math.abs(eulerOf(soup) - topology.euler);
  const fewer = lacking(first) - lacking(second);
  const missed = (soup: QuadSoup): number => countMissed(countOf(soup), target);
  return fewer > 0 || (fewer === 0 && missed(second) < missed(first)) ? second : first;
}

/** Sound by its making: faults mended one by one, by the first way that leaves the Euler number as it should be, or nearest to it; or all at once where one needs another's room. */
function mended(raw: QuadSoup, ground: Ground, euler: number): QuadSoup | null {
  const off = (soup: QuadSoup): number => Math.abs(eulerOf(soup) - euler);
  let best: QuadSoup | null = null;
  for (const way of MENDINGS) {
    const apart = mendedApart(raw, ground, way);
    if (apart && (!best || off(apart) < off(best))) best = apart;
    if (best && off(best) === 0) break;
  }
  if (best) return withoutSplinters(best);
  let soup: QuadSoup | null = raw;
  for (let rings = 1; rings < 4 && soup; rings++) {
    const bad = faultsOf(soup, ground.curves);
    if (bad.length === 0) return withoutSplinters(soup);
    soup = mendedAround(soup, bad, ground, rings);
  }
  return soup && faultsOf(soup, ground.curves).length === 0 ? withoutSplinters(soup) : null;
}
