import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import { LEAST_ROUND } from '../quads/slender';
import { valueAt, type Ring } from './rings';
import { RoomRound } from './RoomRound';
import { bestNumbers, WholeNumbers } from './wholeNumbers';

const LIMBS = 5;

/**
 * Limbs with a cap of w by h quads each, 2w + 2h of which go round, all of them wished for at so many, and each pair of neighbours as wide together as was wished too: w is the number 2i, h is 2i + 1.
 */
function limbs(wished: readonly number[], ties: number): { whole: WholeNumbers; rings: Ring[]; best: Float64Array } {
  const k = 2 * wished.length;
  const s = new Float64Array(k * k);
  const r = new Float64Array(k);
  const wish = (numbers: readonly number[], value: number, weight: number): void => {
    for (const a of numbers) {
      r[a] += weight * value;
      for (const b of numbers) s[a * k + b] += weight;
    }
  };
  wished.forEach((half, i) => {
    wish([2 * i], half / 2, 0.3);
    wish([2 * i + 1], half / 2, 0.3);
    wish([2 * i, 2 * i + 1], half, 1);
    if (i > 0) wish([2 * i, 2 * i - 2], (half + wished[i - 1]) / 2, ties);
  });
  const rings = wished.map((_, i) => ({ round: new Int32Array(k).fill(i % 2 === 0 ? 2 : -2, 2 * i, 2 * i + 2), missed: new Int32Array(k), quads: 10 })); // prettier-ignore
  return { whole: new WholeNumbers(k, s.slice(), r), rings, best: bestNumbers(s, r) };
}

test('enough quads go round every limb, and where enough do already nothing changes', () => {
  let thin = 0;
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      const wished = Array.from({ length: LIMBS }, () => 0.6 + 3 * rng());
      const { whole, rings, best } = limbs(wished, rng());
      const room = new RoomRound(whole, rings, [], best);
      const start = whole.rounded(1);
      const before = room.at(start).rounds;
      const z = room.from(start, 1);
      const after = room.at(z).rounds;
      expect([...after].every((n) => n >= LEAST_ROUND)).toBe(true);
      // forward is the way that they are round at their best, whichever sign the ring came with
      rings.forEach(({ round }, i) => expect(Math.abs(valueAt(round, z))).toBe(after[i]));
      if (before.every((n) => n >= LEAST_ROUND)) expect(z).toBe(start);
      else thin++;
      // no more than is needed: they are as near as the rounded ones but for those that were too thin
      after.forEach((n, i) => expect(n).toBeLessThanOrEqual(Math.max(before[i], LEAST_ROUND) + 2));
    }),
    { numRuns: 60 },
  );
  expect(thin).toBeGreaterThan(0);
});

test('poles that were rounded onto each other come apart, others stay so', () => {
  // w of each limb is how far two poles of its cap are from each other, h of the next is the other axis
  const { whole, best } = limbs([0.4, 0.4, 3], 0.5);
  const row = (number: number): Int32Array => new Int32Array(whole.k).fill(1, number, number + 1);
  const pairs = [0, 2, 4].map((number) => ({ re: row(number), im: row((number + 3) % 6) }));
  const room = new RoomRound(whole, [], pairs, best);
  const start = whole.rounded(1);
  const { re, im } = room.at(start);
  expect([...re.keys()].filter((i) => re[i] === 0 && im[i] === 0)).toEqual([0]);
  const after = room.at(room.from(start, 1));
  expect([...after.re.keys()].filter((i) => after.re[i] === 0 && after.im[i] === 0)).toEqual([]);
});

test('a step that would leave too few round a limb is none, others are', () => {
  const { whole, rings, best } = limbs([2, 2, 4], 0);
  const room = new RoomRound(whole, rings, [], best);
  const z = Int32Array.from([1, 1, 1, 1, 2, 2]);
  const thin = room.at(z);
  expect([...thin.rounds]).toEqual([4, 4, 8]);
  for (let vector = 0; vector < whole.vectors; vector++)
    for (const way of [1, -1]) {
      const along = [{ vector, way }];
      const next = { ...thin, rounds: thin.rounds.slice() };
      room.count(next, along);
      const then = z.map((x, i) => x + way * whole.vector(vector)[i]);
      expect(next).toEqual(room.at(then));
      expect(room.allows(thin, along)).toBe(next.rounds.every((n, i) => n >= thin.rounds[i] || n >= LEAST_ROUND));
    }
});
