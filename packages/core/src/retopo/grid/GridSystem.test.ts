import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import { GridSystem } from './GridSystem';
import type { Squares } from './squares';

const REALS = 14;
const NUMBERS = 3;

/** Differences of neighbours on a ring of reals, some across a step of whole numbers, and one real held at a whole number. */
function ringOf(rng: () => number): { squares: Squares; weight: Float64Array; wish: Float64Array } {
  const count = 2 * REALS + 1;
  const pick = (n: number): number => Math.floor(n * rng());
  const row = Int32Array.from({ length: 2 * count }, (_, i) => (i % 2 === 0 ? (i / 2) % REALS : pick(REALS)));
  const sign = Int8Array.from(row, () => (rng() < 0.5 ? -1 : 1));
  row[2 * count - 1] = -1;
  const terms = [[], [[0, 1]], [[0, 1], [1, -2]], [[2, 1]]]; // prettier-ignore
  const starts = Int32Array.from([0, ...terms.map((_, i) => terms.slice(0, i + 1).flat().length)]);
  const sums = { count: terms.length, starts, number: Int32Array.from(terms.flat(), ([s]) => s), factor: Int32Array.from(terms.flat(), ([, c]) => c) }; // prettier-ignore
  const sum = Int32Array.from({ length: count }, () => pick(terms.length));
  const squares = { count, row, sign, sum, sums, half: new Int32Array(count), axis: new Uint8Array(count) };
  const weight = Float64Array.from({ length: count }, () => 0.1 + rng());
  return { squares, weight, wish: Float64Array.from({ length: count }, () => rng() - 0.5) };
}

const order = Int32Array.from({ length: REALS }, (_, i) => (5 * i) % REALS);

/** The energy, told square by square. */
function energy(own: ReturnType<typeof ringOf>, x: ArrayLike<number>, z: ArrayLike<number>, size: number): number {
  const { row, sign, sum, sums } = own.squares;
  let total = 0;
  own.weight.forEach((w, k) => {
    let e = -own.wish[k] / size;
    for (const i of [2 * k, 2 * k + 1]) if (row[i] >= 0) e += sign[i] * x[row[i]];
    for (let t = sums.starts[sum[k]]; t < sums.starts[sum[k] + 1]; t++) e += sums.factor[t] * z[sums.number[t]];
    total += (w * e * e) / 2;
  });
  return total;
}

const made = (own: ReturnType<typeof ringOf>): GridSystem =>
  new GridSystem(own.squares, REALS, NUMBERS, order, own.weight, own.wish);

test('the reals are at their best for any size and whole numbers, with the weights that were factored and with others', () => {
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      const own = ringOf(rng);
      const system = made(own);
      const z = Int32Array.from({ length: NUMBERS }, () => Math.floor(9 * rng()) - 4);
      const size = 0.3 + rng();
      for (let round = 0; round < 8; round++) {
        const x = system.realsFor(size, z);
        const least = energy(own, x, z, size);
        // no way leads further down
        for (let i = 0; i < REALS; i++) for (const by of [-1e-3, 1e-3]) expect(energy(own, x.map((v, k) => (k === i ? v + by : v)), z, size)).toBeGreaterThan(least - 1e-9); // prettier-ignore
        const anew = made(own).realsFor(size, z);
        // where nothing but softness holds a place it may drift: the energy tells
        expect(Math.abs(energy(own, anew, z, size) - least)).toBeLessThan(1e-7);
        // stiffer and stiffer in a few places, as folded triangles are
        for (let k = 0; k < own.weight.length; k += 5) own.weight[k] *= 4;
        system.reweighted();
      }
    }),
    { numRuns: 40 },
  );
});

test('what is left for the whole numbers is the energy with the reals at their best', () => {
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      const own = ringOf(rng);
      const system = made(own);
      const { s, right } = system.forWhole();
      const r = right();
      const left = (z: Int32Array): number => {
        let sum = 0;
        for (let i = 0; i < NUMBERS; i++) {
          sum -= z[i] * r[i];
          for (let j = 0; j < NUMBERS; j++) sum += (z[i] * s[i * NUMBERS + j] * z[j]) / 2;
        }
        return sum;
      };
      const best = (z: Int32Array): number => energy(own, system.realsFor(1, z), z, 1);
      const none = best(new Int32Array(NUMBERS));
      for (let i = 0; i < 5; i++) {
        const z = Int32Array.from({ length: NUMBERS }, () => Math.floor(9 * rng()) - 4);
        expect(Math.abs(best(z) - none - left(z))).toBeLessThan(1e-5);
      }
    }),
    { numRuns: 40 },
  );
});
