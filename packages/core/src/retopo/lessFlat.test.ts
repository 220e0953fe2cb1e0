import { expect, test } from 'vitest';
import { seededRng } from '../math';
import { GaussSums } from './gauss';
import { LessFlat } from './lessFlat';
import type { Seams } from './seams';
import { WholeNumbers } from './wholeNumbers';

/** A strip of squares, each of two triangles, whose corners are whole numbers themselves: column j has a low and a high one. */
function strip(numbers: number): {
  seams: Seams;
  unknown: Int32Array;
  answers: Float32Array;
  placesFor: (z: ArrayLike<number>) => Float64Array;
} {
  // every wedge is a place of whole steps alone: number j across, 0 or one up
  const vertex = new Int32Array(2 * numbers).fill(-1);
  const steps = new GaussSums(Array.from({ length: 2 * numbers }, (_, w) => new Map([[w, [1, 0] as const]])));
  const wedge: number[] = [];
  for (let j = 0; j + 1 < numbers; j++) wedge.push(2 * j, 2 * j + 2, 2 * j + 1, 2 * j + 1, 2 * j + 2, 2 * j + 3);
  const none = new Int8Array(0);
  const seams: Seams = { angle: new Float64Array(0), quarter: none, wedge: Int32Array.from(wedge), vertex, turn: new Int8Array(2 * numbers), steps, across: new Map(), free: 2 * numbers }; // prettier-ignore
  return { seams, unknown: new Int32Array(0), answers: new Float32Array(0), placesFor: (z) => Float64Array.from(z) };
}

test('squares that were rounded away come back where that costs less than they are worth', () => {
  const rng = seededRng(3);
  let flatBefore = 0;
  for (let round = 0; round < 20; round++) {
    const n = 6;
    const { seams, unknown, answers, placesFor } = strip(n);
    // each square wants to be 0.4 to 1 long: alone the short ones would be rounded to nothing
    const long = Array.from({ length: n - 1 }, () => 0.4 + 0.6 * rng());
    const k = 4 * n;
    const s = new Float64Array(k * k);
    const r = new Float64Array(k);
    /** 1/2·(z_a − z_b − d)², or of z_a alone */
    const wish = (a: number, b: number, d: number, weight: number): void => {
      s[a * k + a] += weight;
      r[a] += weight * d;
      if (b < 0) return;
      s[b * k + b] += weight;
      s[a * k + b] -= weight;
      s[b * k + a] -= weight;
      r[b] -= weight * d;
    };
    // low places at height 0, high ones at 1; both begin at 0
    for (let j = 0; j < n; j++) {
      wish(4 * j + 1, -1, 0, 10);
      wish(4 * j + 3, -1, 1, 10);
      wish(4 * j + 2, 4 * j, 0, 10);
    }
    wish(0, -1, 0, 10);
    for (let j = 0; j + 1 < n; j++) wish(4 * j + 4, 4 * j, long[j], 0.5);
    const whole = new WholeNumbers(k, s, r);
    const flat = new LessFlat(seams, unknown, whole, answers);
    const least = new Float64Array(seams.wedge.length / 3).fill(0.15);
    const start = whole.rounded(1);
    const before = flat.flatness(placesFor(start), least);
    flatBefore += before;
    const end = flat.from(start, placesFor(start), 1, least);
    expect(flat.flatness(placesFor(end), least)).toBeLessThanOrEqual(before);
    // all of them have an area now, and none is turned over
    for (let j = 0; j + 1 < n; j++) expect(end[4 * j + 4] - end[4 * j]).toBeGreaterThanOrEqual(1);
  }
  // and some had none
  expect(flatBefore).toBeGreaterThan(0.5);
});
