import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import { formIn, reducedBasis } from './reducedBasis';
import { WholeNumbers } from './wholeNumbers';

/** AᵀA + 0.01 for a random A whose rows pull at a few numbers together: some sums are stiff, as lines are that run through each other's ends, the others soft. */
function tiedForm(seed: number, k: number): Float64Array {
  const rng = seededRng(seed);
  const s = new Float64Array(k * k);
  for (let i = 0; i < k; i++) s[i * k + i] = 0.01;
  for (let row = 0; row < 2 * k; row++) {
    const stiff = row < k / 2 ? 100 : 1;
    const own = new Float64Array(k);
    for (let n = 0; n < 3; n++) own[Math.floor(rng() * k)] += rng() < 0.5 ? 1 : -1;
    for (let i = 0; i < k; i++) for (let j = 0; j < k; j++) s[i * k + j] += stiff * own[i] * own[j];
  }
  return s;
}

/** Determinant of whole numbers, by fraction-free elimination (Bareiss 1968). */
function determinant(basis: Int32Array, k: number): bigint {
  const m = Array.from({ length: k }, (_, i) => Array.from(basis.subarray(i * k, (i + 1) * k), BigInt));
  let [sign, before] = [1n, 1n];
  for (let c = 0; c + 1 < k; c++) {
    const pivot = m.findIndex((row, i) => i >= c && row[c] !== 0n);
    if (pivot < 0) return 0n;
    if (pivot !== c) {
      [m[c], m[pivot]] = [m[pivot], m[c]];
      sign = -sign;
    }
    for (let i = c + 1; i < k; i++)
      for (let j = c + 1; j < k; j++) m[i][j] = (m[i][j] * m[c][c] - m[i][c] * m[c][j]) / before;
    before = m[c][c];
  }
  return sign * m[k - 1][k - 1];
}

test('the vectors span all whole numbers, the first is short, and none has more than half of another in it', () => {
  fc.assert(
    fc.property(fc.integer(), fc.integer({ min: 2, max: 24 }), (seed, k) => {
      const s = tiedForm(seed, k);
      const basis = reducedBasis(s, k);
      const d = determinant(basis, k);
      expect(d === 1n || d === -1n).toBe(true);
      const form = formIn(basis, s, k);
      for (let i = 1; i < k; i++) {
        // square to the first of all, but for half of it at most
        expect(Math.abs(form[i * k] / form[0])).toBeLessThan(0.5 + 1e-6);
      }
      let shortest = Infinity;
      for (let i = 0; i < k; i++) shortest = Math.min(shortest, s[i * k + i]);
      // Lenstra, Lenstra and Lovász: within 2^((k−1)/2) of the shortest, in length
      expect(form[0]).toBeLessThanOrEqual(2 ** (k - 1) * shortest);
    }),
    { numRuns: 60 },
  );
});

test('what one basis sees is what the numbers see', () => {
  const k = 12;
  const s = tiedForm(5, k);
  const basis = reducedBasis(s, k);
  const form = formIn(basis, s, k);
  const steps = Array.from({ length: k }, (_, i) => (i % 5) - 2);
  const z = Array.from({ length: k }, (_, j) => steps.reduce((sum, by, i) => sum + by * basis[i * k + j], 0));
  const energy = (m: Float64Array, x: number[]): number => x.reduce((sum, a, i) => sum + x.reduce((t, b, j) => t + a * b * m[i * k + j], 0), 0); // prettier-ignore
  expect(energy(form, steps) / energy(s, z)).toBeCloseTo(1, 9);
});

/** Whole numbers near `scale` times a wish, and how much more energy they have than the wish itself. */
function rounding(
  seed: number,
  k: number,
  scale: number,
  within: Int32Array | null = null,
): { numbers: WholeNumbers; above: (z: ArrayLike<number>) => number; wish: Float64Array } {
  const s = tiedForm(seed, k);
  const rng = seededRng(seed + 1);
  const wish = Float64Array.from({ length: k }, () => 10 * (rng() - 0.5));
  const r = Float64Array.from({ length: k }, (_, i) => wish.reduce((sum, w, j) => sum + s[i * k + j] * w, 0));
  const above = (z: ArrayLike<number>): number => {
    let sum = 0;
    for (let i = 0; i < k; i++) for (let j = 0; j < k; j++) sum += (z[i] - scale * wish[i]) * s[i * k + j] * (z[j] - scale * wish[j]); // prettier-ignore
    return sum / 2;
  };
  return { numbers: new WholeNumbers(k, s, r, within), above, wish };
}

test('no single step along a vector makes what was rounded better', () => {
  fc.assert(
    fc.property(
      fc.integer(),
      fc.integer({ min: 2, max: 20 }),
      fc.double({ min: 0.3, max: 3, noNaN: true }),
      (seed, k, scale) => {
        const { numbers, above } = rounding(seed, k, scale);
        const z = numbers.rounded(scale);
        const walk = numbers.walkFrom(z, scale);
        for (let i = 0; i < k; i++)
          for (const way of [1, -1]) {
            expect(walk.change(i, way)).toBeGreaterThan(-1e-6);
            const other = z.map((x, j) => x + way * numbers.vector(i)[j]);
            expect(above(other) - above(z)).toBeCloseTo(walk.change(i, way), 4);
          }
      },
    ),
    { numRuns: 40 },
  );
});

test('of numbers that may only be sums of some vectors, those come out, and no single step makes them better', () => {
  fc.assert(
    fc.property(fc.integer(), fc.integer({ min: 3, max: 16 }), (seed, k) => {
      // pairs of neighbours are alike: k − 1 vectors, the first two numbers together
      const within = new Int32Array((k - 1) * k);
      for (let i = 0; i + 1 < k; i++) within[i * k + i + 1] = 1;
      within[0] = 1;
      const { numbers, above } = rounding(seed, k, 1, within);
      expect(numbers.vectors).toBe(k - 1);
      const z = numbers.rounded(1);
      expect(z[0]).toBe(z[1]);
      const walk = numbers.walkFrom(z, 1);
      for (let i = 0; i + 1 < k; i++)
        for (const way of [1, -1]) {
          const other = z.map((x, j) => x + way * numbers.vector(i)[j]);
          expect(above(other) - above(z)).toBeCloseTo(walk.change(i, way), 4);
          expect(above(other)).toBeGreaterThan(above(z) - 1e-6);
        }
    }),
    { numRuns: 40 },
  );
});

test('numbers that are tied to each other are rounded together: far better than each by itself', () => {
  let [together, alone] = [0, 0];
  for (let seed = 0; seed < 60; seed++) {
    const { numbers, above, wish } = rounding(seed, 16, 1);
    together += above(numbers.rounded(1));
    alone += above(wish.map((w) => Math.round(w)));
  }
  expect(together).toBeLessThan(0.5 * alone);
});

test('many numbers, rounded in the order of the basis, come out far better than each by itself, too', () => {
  const { numbers, above, wish } = rounding(7, 420, 1);
  const found = numbers.rounded(1);
  expect(above(found)).toBeLessThan(0.5 * above(wish.map((w) => Math.round(w))));
});
