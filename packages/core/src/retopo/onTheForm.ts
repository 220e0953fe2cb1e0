import { fitted } from './fit';
import type { Task } from './gridQuads';
import { nearer } from './nearer';
import { backWhereFolded, isNoWorse, settled, squared, type Checked } from './settled';
import { verified } from './verify';

const NONE: ReadonlySet<number> = new Set();

/** Drawn out to the form's tips, and as near to the form between them as quads come; where they suffer from that, as they were. Gives the points that moved for it, too. */
export function onTheForm(first: Checked, task: Task): Checked & { moved: ReadonlySet<number> } {
  const { moved: reached, ...drawn } = reaching(drawnNearer(first, task), task);
  const { moved, ...made } = drawnNearer(drawn, task);
  return { ...made, moved: new Set([...reached, ...moved]) };
}

function reaching(first: Checked, { ground, samples, size, topology }: Task): Checked & { moved: ReadonlySet<number> } {
  const drawn = { ...first.soup, points: first.soup.points.slice() };
  const reached = fitted(drawn, ground.curves, ground.surface, samples, size);
  squared(drawn, ground, reached);
  const second = settled(drawn, topology, ground);
  if (!isNoWorse(second.verdict, first.verdict)) return { ...first, moved: NONE };
  // laid again where it was folded, its points have other numbers
  return { ...second, moved: second.soup === drawn ? reached : NONE };
}

/** As near to the form as points off the lines come along it. Cost: as `nearer`, and a check. */
export function drawnNearer(
  first: Checked,
  { ground, size, topology }: Task,
): Checked & { moved: ReadonlySet<number> } {
  const soup = { ...first.soup, points: first.soup.points.slice() };
  const moved = nearer(soup, ground.surface, size);
  backWhereFolded(soup, first.soup.points, ground.forms);
  const verdict = verified(soup, topology, ground.forms);
  return isNoWorse(verdict, first.verdict) ? { soup, verdict, moved } : { ...first, moved: NONE };
}
