import { flow } from './flow';
import { hover } from './hover';
import { lay } from './lay';
import { opening, type Machine } from './opening';
import { operators } from './operators';
import { readers } from './readers';
import { forms, isFormAt, parts as layParts, retopo, sharp } from './retopo';
import { shapes } from './shapes';

/** Runs the named parts of the table, all of them without names. Words like hand:600 tell what the part `forms` lays. */
export async function bench(words: string[], machine: Machine): Promise<void> {
  const names = words.map((word) => (isFormAt(word) ? 'forms' : word));
  const parts: Record<string, () => Promise<void> | void> = {
    readers,
    hover,
    operators,
    flow,
    lay,
    retopo,
    sharp,
    forms: () => forms(words.filter(isFormAt)),
    parts: layParts,
    shapes: () => shapes(machine),
    opening: () => opening(machine),
  };
  const unknown = names.find((n) => !Object.hasOwn(parts, n));
  if (unknown) throw new Error(`There is no part “${unknown}”; there are ${Object.keys(parts).join(', ')}.`);
  for (const [name, run] of Object.entries(parts)) if (words.length === 0 || names.includes(name)) await run();
}
