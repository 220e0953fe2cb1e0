import fc from 'fast-check';
import { expect, test } from 'vitest';
import { accumulate, solveWhole, turned, type GaussSum } from './grid/gauss';
import { WholeNumbers } from './grid/wholeNumbers';

const unit = fc.integer({ min: 0, max: 3 });

test('whole equations with units are solved for every value of what is left free', () => {
  const term = fc.tuple(fc.integer({ min: 0, max: 9 }), unit);
  fc.assert(
    fc.property(
      fc.array(fc.array(term, { minLength: 1, maxLength: 4 }), { maxLength: 6 }),
      fc.infiniteStream(fc.integer({ min: -9, max: 9 })),
      (rows, values) => {
        // prettier-ignore
        const equations = rows.map((row): GaussSum => new Map(row.map(([s, k]) => [s, turned([1, 0], k)])));
        let solution;
        try {
          solution = solveWhole(equations, 10, 10);
        } catch {
          // no unit was left to solve for: told, not guessed
          return;
        }
        const free = solution.free.map((): [number, number] => [values.next().value as number, values.next().value as number]); // prettier-ignore
        const valueOf = (sum: GaussSum): [number, number] => {
          const total: GaussSum = new Map();
          for (const [f, c] of sum) accumulate(total, new Map([[0, free[f]]]), c);
          return [...(total.get(0) ?? [0, 0])] as [number, number];
        };
        const symbols = solution.of.map(valueOf);
        for (const equation of equations) {
          const total: GaussSum = new Map();
          for (const [s, c] of equation) accumulate(total, new Map([[0, symbols[s]]]), c);
          expect(total.get(0) ?? [0, 0]).toEqual([0, 0]);
        }
      },
    ),
    { numRuns: 300 },
  );
});

test('rounding finds the best whole numbers of small problems, or comes within a tenth of them', () => {
  const k = 3;
  const value = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(
      fc.array(value, { minLength: 9, maxLength: 9 }),
      fc.array(fc.double({ min: -6, max: 6, noNaN: true }), { minLength: 3, maxLength: 3 }),
      (m, wish) => {
        // prettier-ignore
        // S = MᵀM + 1: no direction is free
        const s = new Float64Array(9);
        for (let i = 0; i < k; i++)
          for (let j = 0; j < k; j++)
            s[i * k + j] = (i === j ? 1 : 0) + [0, 1, 2].reduce((sum, l) => sum + m[l * k + i] * m[l * k + j], 0);
        const r = Float64Array.from([0, 1, 2], (i) => wish.reduce((sum, w, j) => sum + s[i * k + j] * w, 0));
        const energy = (z: readonly number[]): number =>
          z.reduce((sum, zi, i) => sum - zi * r[i] + z.reduce((t, zj, j) => t + 0.5 * zi * zj * s[i * k + j], 0), 0);
        const floor = energy(wish);
        const found = energy([...new WholeNumbers(k, s.slice(), r).rounded(1)]) - floor;
        let best = Infinity;
        const near = (x: number): number[] => [-2, -1, 0, 1, 2].map((d) => Math.round(x) + d);
        for (const a of near(wish[0])) for (const b of near(wish[1])) for (const c of near(wish[2])) best = Math.min(best, energy([a, b, c]) - floor); // prettier-ignore
        expect(found).toBeLessThan(best * 1.1 + 0.1);
      },
    ),
    { numRuns: 300 },
  );
});
