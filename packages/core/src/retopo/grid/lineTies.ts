import type { Seams } from './seams';
import { coordinateOf, wholeTerms, type OnLine } from './squares';

/** Factors of whole numbers, by the number, whose sum must be 0. */
export type Tie = ReadonlyMap<number, number>;

/**
 * What the whole numbers of lines must fulfil, exactly: a point that a cut parts lies on one line under two numbers, and at a pole a line's number is that of the pole. Held as squares alone such numbers were rounded to values that contradict
 * each other wherever that cost less than what they would do elsewhere, and quads lay half on a line. `unknown` is the real's of each vertex, −1 at poles. Cost: the lines' points.
 */
export function lineTies(seams: Seams, unknown: Int32Array, lines: readonly OnLine[]): Tie[] {
  const ties = new Map<string, Tie>();
  const add = (tie: Map<number, number>): void => {
    const own = [...tie].filter(([, by]) => by !== 0).sort((a, b) => a[0] - b[0]);
    if (own.length > 0) ties.set(own.join(), new Map(own));
  };
  /** by the real: what it is, as one of its lines has it */
  const known = new Map<number, Map<number, number>>();
  for (const { wedge, axis, line } of lines) {
    const { row, sign } = coordinateOf(seams, unknown, wedge, axis);
    const own = new Map([[2 * seams.free + line, row < 0 ? -1 : sign]]);
    wholeTerms(seams, wedge, axis, row < 0 ? 1 : -sign, own);
    if (row < 0) {
      add(own);
      continue;
    }
    const first = known.get(row);
    if (!first) {
      known.set(row, own);
      continue;
    }
    for (const [number, by] of first) own.set(number, (own.get(number) ?? 0) - by);
    add(own);
  }
  return [...ties.values()];
}
