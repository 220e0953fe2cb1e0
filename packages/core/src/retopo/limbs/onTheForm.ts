import { backWhereWorse, fitted, pointsAt } from '../fit/fit';
import { nearer } from '../fit/nearer';
import { isNoWorse, settled, squared, type Checked } from '../mend/settled';
import { QuadCheck } from '../quads/QuadCheck';
import type { Task } from '../quads/Task';
import { verified } from '../quads/verify';

/** Where a corner gets worse than this, by the quad's own normal, and than it was, points go back. */
const SOUND = 0.2;
const NONE: ReadonlySet<number> = new Set();

/** What quads are drawn onto, and what they must come to. */
export type FormTask = Pick<Task, 'ground' | 'samples' | 'size' | 'topology'>;

/** Drawn out to the form's tips, those that are `tips` already held, to what sticks out `beyond` so many quads' lengths; where quads suffer from that, as they were. Gives the points that reached out, too. Cost: as `fitted`, and a check. */
export function reaching(
  first: Checked,
  { ground, samples, size, topology }: FormTask,
  tips = NONE,
  beyond?: number,
): Checked & { reached: ReadonlySet<number> } {
  const drawn = { ...first.soup, points: first.soup.points.slice() };
  const reached = fitted(drawn, ground.curves, ground.surface, samples, size, tips, beyond);
  squared(drawn, ground, new Set([...tips, ...reached]));
  const second = settled(drawn, topology, ground);
  if (!isNoWorse(second.verdict, first.verdict)) return { ...first, reached: NONE };
  // laid again where it was folded, its points have other numbers
  return { ...second, reached: second.soup === drawn ? reached : NONE };
}

/** As near to the form as quads come, and drawn out to its tips; where they suffer from that, as they were. The quads are the same, their points move. Cost: as `nearer` and `fitted`, twice the first. */
export function onTheForm(first: Checked & { tips: ReadonlySet<string> }, task: FormTask): Checked {
  const near = drawnNearer(first, task);
  if (near === first) return first;
  const far = reaching(near, task, pointsAt(first.soup, first.tips));
  return far.soup !== near.soup && far.soup.quads === near.soup.quads ? drawnNearer(far, task) : near;
}

/** As near to the form as points off the lines come along it; what came in where nothing moves. */
function drawnNearer(first: Checked, { ground, size, topology }: FormTask): Checked {
  const soup = { ...first.soup, points: first.soup.points.slice() };
  if (nearer(soup, ground, size).size === 0) return first;
  const [now, then] = [soup.points, first.soup.points].map((p) => new QuadCheck(p, soup.quads, ground.forms));
  backWhereWorse(soup, first.soup.points, (q) => now.least(q) < Math.min(SOUND, then.least(q)) || now.isFolded(q));
  const verdict = verified(soup, topology, ground.forms);
  return isNoWorse(verdict, first.verdict) ? { soup, verdict } : first;
}
