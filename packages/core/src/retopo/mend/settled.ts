import type { WalkingForm } from '../../surface';
import { onRidges } from '../fit/alongRidges';
import { backWhereWorse } from '../fit/fit';
import { relaxedSafely } from '../fit/relax';
import { squarer } from '../fit/squarer';
import type { Ground } from '../lines/ground';
import { foldedIn, QuadCheck } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';
import { verified, type Topology, type Verdict } from '../quads/verify';
import { openedIn } from './mendFolds';
import { mendedAround, withoutSplinters } from './mendQuads';

/** Quads and how sound they are. */
export interface Checked {
  soup: QuadSoup;
  verdict: Verdict;
}

/** How far from sound: a fold is less than anything else that is wrong. */
const badness = ({ reasons, folded }: Verdict): number => 1000 * (reasons.length - (folded > 0 ? 1 : 0)) + folded;

/** Unfolds what relaxing left folded, or lays it again, a few times, and checks. Cost: a check, and for each time another with what is laid again. */
export function settled(start: QuadSoup, topology: Topology, ground: Ground): Checked {
  const { curves, surface, forms } = ground;
  let best = { soup: start, verdict: verified(start, topology, forms) };
  for (let round = 0; round < 4 && best.verdict.folded > 0; round++) {
    const tried =
      round === 0
        ? { ...start, points: start.points.slice() }
        : mendedAround(best.soup, foldedIn(best.soup, forms), ground, 1 + (round >> 1));
    if (!tried) continue;
    const next = withoutSplinters(tried);
    // rows along ridges stay on these: the rim of a thin blade would be drawn in
    relaxedSafely(onRidges(next, curves), curves, surface, 12);
    openedIn(next, foldedIn(next, forms), ground);
    const verdict = verified(next, topology, forms);
    if (badness(verdict) < badness(best.verdict)) best = { soup: next, verdict };
  }
  return best;
}

/** A least corner worse than this, and than it was, is too dear. */
export const DEAR = 0.1;

/** Whether nothing is wrong that was not, and the least corner as good as it was, or good enough. */
export const isNoWorse = (now: Verdict, then: Verdict): boolean =>
  now.reasons.length <= then.reasons.length && now.handlesLost === then.handlesLost && now.quality.least > Math.min(DEAR, then.quality.least); // prettier-ignore

/** As square as points come without folding a quad, by its own corners or against every form. Changes the points; `held` ones stay. */
export function squared(
  soup: QuadSoup,
  { curves, surface, forms }: Pick<Ground, 'curves' | 'surface'> & { forms: readonly WalkingForm[] },
  held: ReadonlySet<number>,
): void {
  const before = soup.points.slice();
  squarer(soup, curves, surface, held);
  backWhereFolded(soup, before, forms);
}

/** Puts the points of quads that are folded, by their own corners or against every form, back to where they were. */
function backWhereFolded(soup: QuadSoup, before: Float64Array, forms: readonly WalkingForm[]): void {
  const now = new QuadCheck(soup.points, soup.quads, forms);
  backWhereWorse(soup, before, (q) => now.isFolded(q));
}
