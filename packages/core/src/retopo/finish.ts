import { offRidges, onRidges } from './fit/alongRidges';
import { backWhereWorse, placeKey, pointsAt } from './fit/fit';
import { relaxedSafely } from './fit/relax';
import { throughForm } from './fit/throughForm';
import type { Piece } from './gridQuads';
import { barenessOf, DEARLY_BARE, WHOLE } from './limbs/bare';
import { onTheForm } from './limbs/onTheForm';
import { byOneRow, countByRows } from './mend/countByRows';
import { fewerPoles } from './mend/fewerPoles';
import { foldsMended, POOR } from './mend/mendFolds';
import { isNoWorse, settled, squared, type Checked } from './mend/settled';
import { sixesOpened } from './mend/sixesOpened';
import { COUNT_OFF, countMissed, mayBeOff } from './options';
import { linesLost } from './quads/linesLost';
import { QuadCheck } from './quads/QuadCheck';
import type { QuadSoup } from './quads/QuadSoup';
import type { Task } from './quads/Task';
import { verified, type Verdict } from './quads/verify';
import type { Stages } from './Stages';

/** With fewer poles, as many quads as are wanted, and as near to the form as they come. Cost: as what that takes, one after the other. */
export function finished(tried: Piece, task: Task, target: number, stages: Stages): Piece {
  const shown = (piece: Piece): Piece => {
    stages.showQuads(piece.soup);
    return piece;
  };
  stages.begin('Poles', 0);
  const few = shown(withFewerPoles(withoutPoor(tried, task), task));
  stages.begin('Count', 0.25);
  const counted = shown(withoutSixes(withCount(few, task, target), task, target));
  stages.begin('Fit', 0.4);
  return drawnOnto(counted, task);
}

/** No corner is worse than this where it was not before, for the sake of fewer poles. */
export const SOUND = 0.3;

/** What the form asks of a corner, as a point of few degrees does, comes out a little other each time. */
const AS_IT_WAS = 0.005;
/** How bad the worst corner may come out where it was as it is. */
const mayBeLeast = ({ quality }: Verdict): number => Math.min(SOUND, quality.least - AS_IT_WAS);

/** Without the poles that the form does not ask for; as it was where quads suffer from that, or a limb. Cost: fillings for each pair of poles near by. */
function withFewerPoles(first: Piece, task: Task): Piece {
  const { ground, samples, size, topology } = task;
  const few = fewerPoles(first.soup, ground, samples, size);
  if (few === first.soup) return first;
  // points that stay do not move while poles go
  squared(few, ground, pointsAt(few, first.tips));
  const second = settled(few, topology, ground);
  const isSquare = second.verdict.quality.least >= mayBeLeast(first.verdict);
  return isSquare ? insteadOf(first, second, task) : first;
}

/** With no point of six edges or more, where two of five, or fewer, can stand in its place; as it was where quads suffer from that, and never with more quads than are wanted for it. Cost: as `sixesOpened`, and a check where there are any. */
function withoutSixes(first: Piece, task: Task, wanted: number): Piece {
  const { ground, topology } = task;
  const room = wanted - first.soup.quads.length / 4;
  const soup = sixesOpened(first.soup, ground, (v) => first.tips.has(placeKey(first.soup.points, v)), room);
  if (soup === first.soup) return first;
  squared(soup, ground, pointsAt(soup, first.tips));
  const second = settled(soup, topology, ground);
  return isAsSquare(second, first, HARDLY_SQUARE) ? insteadOf(first, second, task) : first;
}

/** Whether no corner is worse than is sound, or than it was, and the least 5 % of them hardly. */
const isAsSquare = ({ verdict: { quality } }: Checked, { verdict }: Checked, dearly: number): boolean =>
  quality.least >= mayBeLeast(verdict) && quality.low > verdict.quality.low - dearly;

/** With quads whose corners are poor filled anew; as it was where no corner gets better by that, or a limb or a line suffers. Cost: as `foldsMended`, where there are any. */
function withoutPoor(first: Piece, task: Task): Piece {
  const { least } = first.verdict.quality;
  if (least > POOR) return first;
  const soup = foldsMended(first.soup, task.ground);
  const verdict = verified(soup, task.topology, task.ground.forms);
  return verdict.quality.least > least ? insteadOf(first, { soup, verdict }, task) : first;
}

/** No more of the least 5 % of corners than this is given for the count; and for a few quads over it, or for opening points. */
const DEARLY_SQUARE = 0.04;
const HARDLY_SQUARE = 0.01;
/** So many rows are tried one by one for it, and where it is only a few over. */
const ROWS_TRIED = 8;
const ROWS_TRIED_OVER = 2;
/** With more quads than this a try for a few over takes ten seconds, and stays as it is. */
const MANY_QUADS = 4000;
/** So much of the form may be bare for all rows at once. */
const NEARER_BARE = 0.02;
/** And so much more of it out of reach of its limbs, where the count is far off: points still reach for their tips afterwards. */
const NEARER_SHORT = 4e-4;

/** As many quads as are wanted, or a few less, if they are not nearly, or more: by rows of them, all at once, or one by one where quads suffer from that, or a limb; as it was where they do from each. What is wanted is mostly a budget. Cost: as `countByRows`, and a check of what came of it, and of each row that is tried. */
function withCount(first: Piece, task: Task, wanted: number): Piece {
  const share = (soup: QuadSoup): number => soup.quads.length / 4 / wanted;
  const missedBy = ({ soup }: Pick<Piece, 'soup'>): number => countMissed(soup.quads.length / 4, wanted);
  if (missedBy(first) === 0) return first;
  const isFar = Math.abs(share(first.soup) - 1) > mayBeOff(wanted);
  if (!isFar && first.soup.quads.length / 4 > MANY_QUADS) return first;
  const { ground, topology } = task;
  const near = (1 - COUNT_OFF / 2) * wanted;
  const isTip = (points: Float64Array, v: number): boolean => first.tips.has(placeKey(points, v));
  const isNearer = (soup: QuadSoup, sofar: Piece): boolean => missedBy({ soup }) < (isFar ? missedBy(sofar) : Number.MIN_VALUE); // prettier-ignore
  /** in the place of what was taken so far, if that stays nearer and nothing suffers by more than is `dear` */
  const taken = (soup: QuadSoup, sofar: Piece, dear: number): Piece | null => {
    squared(soup, ground, pointsAt(soup, first.tips));
    const second = settled(soup, topology, ground);
    if (!isAsSquare(second, first, isFar ? DEARLY_SQUARE : HARDLY_SQUARE) || missedBy(second) >= missedBy(sofar))
      return null;
    // quads are drawn nearer to the form after this
    const made = insteadOf(first, second, task, dear, isFar ? NEARER_SHORT : 0);
    return made === first ? null : made;
  };
  const all = countByRows(first.soup, near, ground, isTip);
  let best = (isNearer(all, first) && taken(all, first, isFar ? NEARER_BARE : DEARLY_BARE)) || first;
  const refused = new Set<string>();
  for (let tries = isFar ? ROWS_TRIED : ROWS_TRIED_OVER; tries > 0 && missedBy(best) > 0;) {
    let next: Piece | null = null;
    for (const soup of byOneRow(best.soup, near, ground, isTip, refused)) {
      if (!isNearer(soup, best)) continue;
      next = taken(soup, best, DEARLY_BARE);
      if (next || --tries === 0) break;
    }
    if (!next) break;
    best = next;
  }
  return best;
}

/** Other quads in the place of a piece's; the piece where they cost it more of the form, or a line, or run through each other more. */
function insteadOf(first: Piece, second: Checked, task: Task, dear = DEARLY_BARE, shorter = 0): Piece {
  const bareness = barenessOf(second.soup, task, task.ground.surface);
  const { bare, short } = bareness;
  if (
    bare > first.bare + dear ||
    short > Math.max(first.short + shorter, WHOLE) ||
    !isNoWorse(second.verdict, first.verdict)
  )
    return first;
  const lost = linesLost(second.soup, task.ground.curves, task.size);
  if (lost.drawn > first.lost.drawn || lost.ofForm > first.lost.ofForm) return first;
  const crossing = task.formCrossings.crossingElsewhere(second.soup).length;
  return crossing > first.crossing ? first : { ...first, ...second, ...bareness, crossing, lost };
}

/** So often points of quads that run through others for it go back. */
const BACK = 6;

/** Rounds of relaxing that draw rows onto their ridges. */
const ONTO_RIDGES = 2;

/** As near to the form as its quads come, rows along ridges on these; as they were where they suffer from that, or run through others for it. */
function drawnOnto(first: Piece, task: Task): Piece {
  const soup = onRidges(first.soup, task.ground.curves);
  if (soup === first.soup) return nearerTo(first, task);
  const drawn = { ...soup, points: soup.points.slice() };
  relaxedSafely(drawn, task.ground.curves, task.ground.surface, ONTO_RIDGES);
  squared(drawn, task.ground, pointsAt(drawn, first.tips));
  const held = insteadOf({ ...first, soup }, settled(drawn, task.topology, task.ground), task);
  const made = nearerTo(held, task);
  return { ...made, soup: offRidges(made.soup, task.ground.curves) };
}

function nearerTo(first: Piece, task: Task): Piece {
  const soup = throughForm(onTheForm(first, task).soup, task.ground, task.size, task.plane);
  const { points, quads } = first.soup;
  const hasMoved = (v: number): boolean => [0, 1, 2].some((k) => soup.points[3 * v + k] !== points[3 * v + k]);
  const then = new QuadCheck(points, quads);
  for (let round = 0; round < BACK; round++) {
    const crossing = new Set(task.formCrossings.crossingElsewhere(soup));
    const now = verified(soup, task.topology, task.ground.forms);
    if (crossing.size <= first.crossing && now.quality.least >= Math.min(SOUND, first.verdict.quality.least))
      return isNoWorse(now, first.verdict) ? { ...first, soup, verdict: now, crossing: crossing.size, ...barenessOf(soup, task, task.ground.surface) } : first; // prettier-ignore
    const check = new QuadCheck(soup.points, quads, task.ground.forms);
    const suffers = (q: number): boolean => crossing.has(q / 4) || check.least(q) < Math.min(SOUND, then.least(q)) || check.isFolded(q); // prettier-ignore
    backWhereWorse(soup, points, (q) => quads.subarray(q, q + 4).some(hasMoved) && suffers(q));
  }
  return first;
}
