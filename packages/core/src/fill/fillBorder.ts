import { distance, type Vec3 } from '../math';
import { Patch, type Plan, type Side } from './Patch';
import { placePatch, type Onto } from './place';
import { fillPlans } from './plans';

/** A border filled: quads over its points, then those inside. */
export interface Filling {
  points: Vec3[];
  quads: Patch['quads'];
  plan: Plan;
  /** the least corner quality of its quads */
  least: number;
  /** its points are not where they would come to: that was hopeless */
  isGivenUp: boolean;
}

/** What else is asked of fillings. */
export interface FillWish {
  /** ways with more irregular points than this are none, nor are hopeless ones then */
  fewest?: number;
  /** what soon looks hopeless is not placed to the end: sooner by half and more where most ways are. On a form one good way in thirty is missed by it, in free space more */
  mayGiveUp?: boolean;
}

/** A filling with a worse corner comes after those without. */
const GOOD_ENOUGH = 0.22;
/** So many ways are placed and compared; where few irregular points are all that is wanted, so many. */
const MOST_TRIED = 10;
const FEW_TRIED = 2;

/**
 * Fills a closed border with quads, the best way first: without bad corners, then with few irregular points. `corners` are places in the border where sides begin, in order. Empty for an odd border. Cost: for each way tried, rounds
 * of placing its points; the first `most` ways are given.
 */
export function fillBorder(
  border: readonly Vec3[],
  corners: readonly number[],
  onto: Onto | null,
  most = 1,
  { fewest = Infinity, mayGiveUp = false }: FillWish = {},
): Filling[] {
  const sides = sidesOf(border.length, corners);
  const mean = border.reduce((sum, p, i) => sum + distance(p, border[(i + 1) % border.length]), 0) / border.length;
  const apart = (a: number, b: number): number => Math.max(0.5, distance(border[a], border[b]) / mean);
  const tried = (plan: Plan): Filling => filled(border, plan, onto, mayGiveUp);
  if (most === 1) {
    const quick = fillPlans(sides, apart, true).filter(({ irregular }) => irregular <= fewest);
    if (quick.length === 0 && fewest < Infinity) return [];
    for (const plan of quick.filter(({ irregular }) => irregular === quick[0].irregular)) {
      const way = tried(plan);
      if (way.least >= GOOD_ENOUGH) return [way];
    }
  }
  const plans = fillPlans(sides, apart).filter(({ irregular }) => irregular <= fewest);
  const found = kindsFirst(plans)
    .slice(0, fewest < Infinity ? FEW_TRIED : MOST_TRIED)
    .map(tried);
  if (fewest === Infinity && found.every(({ least }) => least < GOOD_ENOUGH))
    for (const plan of plans.slice(MOST_TRIED).slice(-4)) found.push(tried(plan));
  const good = found.filter(({ least }) => least >= GOOD_ENOUGH),
    bad = found.filter(({ least }) => least < GOOD_ENOUGH);
  // one of each kind first, so that a few are a choice
  const kinds = new Set<string>();
  const first = good.filter(({ plan }) => !kinds.has(plan.words) && kinds.add(plan.words));
  const more = good.filter((way) => !first.includes(way));
  return [...first, ...more, ...bad.sort((a, b) => b.least - a.least)].slice(0, most).flatMap((way) => {
    if (!way.isGivenUp) return [way];
    return fewest < Infinity ? [] : [filled(border, way.plan, onto)];
  });
}

/** The plans in their order, but no more than two of a kind before the others had their turn. */
function kindsFirst(plans: readonly Plan[]): Plan[] {
  const seen = new Map<string, number>();
  const early: Plan[] = [],
    late: Plan[] = [];
  for (const plan of plans) {
    const n = seen.get(plan.words) ?? 0;
    seen.set(plan.words, n + 1);
    (n < 2 ? early : late).push(plan);
  }
  return [...early, ...late];
}

/** One way carried out, its poles slid along. Cost: rounds of placing its points. */
export function filled(border: readonly Vec3[], plan: Plan, onto: Onto | null, mayGiveUp = false): Filling {
  const patch = new Patch(border.length);
  plan.build(patch);
  return { ...placePatch(patch, border, onto, mayGiveUp), quads: patch.quads, plan };
}

/** The border cut at its corners; without any it is one side on two. */
export function sidesOf(count: number, corners: readonly number[]): Side[] {
  return corners.map((from, i) => {
    const to = corners[(i + 1) % corners.length];
    const edges = (((to - from) % count) + count) % count || count;
    return Array.from({ length: edges + 1 }, (_, k) => (from + k) % count);
  });
}
