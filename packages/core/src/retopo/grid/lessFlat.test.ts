import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import { GaussSums } from './gauss';
import { FLAT, LessFlat } from './lessFlat';
import { MoreRings } from './moreRings';
import { valueAt, type Ring } from './rings';
import { RoomRound } from './RoomRound';
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
  const seams: Seams = { index: none, angle: new Float64Array(0), quarter: none, wedge: Int32Array.from(wedge), vertex, turn: new Int8Array(2 * numbers), steps, across: new Map(), free: 2 * numbers }; // prettier-ignore
  return { seams, unknown: new Int32Array(0), answers: new Float32Array(0), placesFor: (z) => Float64Array.from(z) };
}

/** What numbers are wished for: ½·sum of w·(z_a − z_b − d)², or of z_a alone where b is −1. */
function wishes(k: number): {
  s: Float64Array;
  r: Float64Array;
  wish: (a: number, b: number, d: number, weight: number) => void;
} {
  const s = new Float64Array(k * k);
  const r = new Float64Array(k);
  const wish = (a: number, b: number, d: number, weight: number): void => {
    s[a * k + a] += weight;
    r[a] += weight * d;
    if (b < 0) return;
    s[b * k + b] += weight;
    s[a * k + b] -= weight;
    s[b * k + a] -= weight;
    r[b] -= weight * d;
  };
  return { s, r, wish };
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
    const { s, r, wish } = wishes(k);
    // low places at height 0, high ones at 1; both begin at 0
    for (let j = 0; j < n; j++) {
      wish(4 * j + 1, -1, 0, 10);
      wish(4 * j + 3, -1, 1, 10);
      wish(4 * j + 2, 4 * j, 0, 10);
    }
    wish(0, -1, 0, 10);
    for (let j = 0; j + 1 < n; j++) wish(4 * j + 4, 4 * j, long[j], 0.5);
    const whole = new WholeNumbers(k, s, r);
    const flat = new LessFlat(seams, unknown, whole, answers, new RoomRound(whole, [], [], r));
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

const COLUMNS = 6;
const LAST = 4 * (COLUMNS - 1);

/** A strip that is to end so much higher than it begins, between a low and a high row one apart; rounded, and what a ring along it is worth. */
function rising(
  by: number,
  quads: number,
): { before: Int32Array; after: Int32Array; energy: (z: Int32Array) => number; flat: (z: Int32Array) => number } {
  const { seams, unknown, answers, placesFor } = strip(COLUMNS);
  const k = 4 * COLUMNS;
  const { s, r, wish } = wishes(k);
  for (let j = 0; j < COLUMNS; j++) {
    wish(4 * j + 3, 4 * j + 1, 1, 10);
    wish(4 * j + 2, 4 * j, 0, 10);
  }
  wish(0, -1, 0, 10);
  wish(1, -1, 0, 10);
  for (let j = 0; j + 1 < COLUMNS; j++) {
    wish(4 * j + 4, 4 * j, 1, 10);
    wish(4 * j + 5, 4 * j + 1, 0, 0.01);
  }
  wish(LAST + 1, 1, by, 1);
  const whole = new WholeNumbers(k, s.slice(), r);
  const none = new RoomRound(whole, [], [], r);
  const flatness = new LessFlat(seams, unknown, whole, answers, none);
  // how much higher its end is than its start
  const missed = new Int32Array(k);
  missed[LAST + 1] = 1;
  missed[1] = -1;
  const round = new Int32Array(k);
  round[LAST] = 1;
  round[0] = -1;
  const rings: Ring[] = [{ round, missed, quads }];
  const least = new Float64Array(seams.wedge.length / 3).fill(0.15);
  const before = whole.rounded(1);
  const after = new MoreRings(whole, flatness, rings, none).from(before, placesFor(before), 1, least);
  const energy = (z: Int32Array): number =>
    z.reduce((sum, zi, i) => sum - zi * r[i] + 0.5 * zi * valueAt(z, s.subarray(i * k, (i + 1) * k)), 0);
  return { before, after, energy, flat: (z) => flatness.flatness(placesFor(z), least) };
}

const rises = (z: Int32Array): number => z[LAST + 1] - z[1];

test('a ring that misses its start by a row is closed where its quads are worth that, and else left', () => {
  // that costs a third of a quad, as three quads that spiral do
  const worth = rising(0.8, 100);
  expect(rises(worth.before)).toBe(1);
  expect(rises(worth.after)).toBe(0);
  const idle = rising(0.8, 1);
  expect(idle.after).toEqual(idle.before);
  // far off: no ring, however many quads run there
  const steep = rising(6, 10);
  expect(rises(steep.before)).toBe(6);
  expect(steep.after).toEqual(steep.before);
});

test('what closes rings is taken by its cost in stretch and in flat quads', () => {
  const rng = seededRng(5);
  let closed = 0;
  for (let round = 0; round < 60; round++) {
    const [by, quads] = [3 * rng(), 100 * rng() ** 3];
    const { before, after, energy, flat } = rising(by, quads);
    const spirals = (z: Int32Array): number => (rises(z) === 0 ? 0 : 0.1 * quads);
    const price = (z: Int32Array): number => energy(z) + FLAT * flat(z) + spirals(z);
    expect(price(after)).toBeLessThanOrEqual(price(before) + 1e-9);
    expect(flat(after)).toBeLessThanOrEqual(flat(before) + 0.5);
    if (rises(after) === 0 && rises(before) !== 0) closed++;
  }
  expect(closed).toBeGreaterThan(5);
});
