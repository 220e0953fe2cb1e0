import fc from 'fast-check';
import { expect, test } from 'vitest';
import { conjugateGradients, dissected, Factored, seededRng, SymmetricEntries } from '.';

/** A grid's Laplacian with something on its diagonal, and its nodes' places. */
function gridMatrix(n: number, seed: number): { entries: SymmetricEntries; dense: number[][]; places: number[] } {
  const rng = seededRng(seed);
  const size = n * n;
  const entries = new SymmetricEntries(size);
  const dense = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  const add = (i: number, j: number, x: number): void => {
    entries.add(i, j, x);
    dense[i][j] += x;
    if (i !== j) dense[j][i] += x;
  };
  for (let y = 0; y < n; y++)
    for (let x = 0; x < n; x++) {
      const v = y * n + x;
      add(v, v, 0.1 + rng());
      for (const w of [x + 1 < n && v + 1, y + 1 < n && v + n]) {
        if (w === false) continue;
        const c = rng();
        add(v, v, c);
        add(w, w, c);
        add(w, v, -c);
      }
    }
  return { entries, dense, places: Array.from({ length: size }, (_, v) => [v % n, Math.floor(v / n), 0]).flat() };
}

test('a factored matrix solves what its entries say, in any order of elimination', () => {
  fc.assert(
    fc.property(fc.integer({ min: 2, max: 12 }), fc.integer(), fc.boolean(), (n, seed, cut) => {
      const { entries, dense, places } = gridMatrix(n, seed);
      const size = n * n;
      const around = (v: number): number[] => dense[v].flatMap((x, w) => (x !== 0 && w !== v ? [w] : []));
      const order = cut ? dissected(places, size, around) : Int32Array.from({ length: size }, (_, i) => size - 1 - i);
      expect([...order].sort((a, b) => a - b)).toEqual([...Array(size).keys()]);
      const rng = seededRng(seed + 1);
      const wanted = Array.from({ length: size }, () => rng() - 0.5);
      const b = dense.map((row) => row.reduce((sum, x, j) => sum + x * wanted[j], 0));
      const found = new Factored(entries, order).solve(b);
      for (let i = 0; i < size; i++) expect(Math.abs(found[i] - wanted[i])).toBeLessThan(1e-9);
      const factored = new Factored(entries, order);
      const sides = [b, wanted, b.map((x) => 2 * x), b.map(() => 0)].map((x) => Float64Array.from(x)) as [Float64Array, Float64Array, Float64Array, Float64Array]; // prettier-ignore
      const alone = sides.map((side) => factored.solve(side));
      factored.solveFour(sides);
      expect(sides).toEqual(alone);
    }),
    { numRuns: 60 },
  );
});

test('conjugate gradients find the same, in fewer steps the nearer the first guess of the inverse is', () => {
  fc.assert(
    fc.property(fc.integer({ min: 3, max: 9 }), fc.integer(), (n, seed) => {
      const { entries, dense } = gridMatrix(n, seed);
      const size = n * n;
      const rng = seededRng(seed + 2);
      const wanted = Float64Array.from({ length: size }, () => rng() - 0.5);
      const times = (x: Float64Array, into: Float64Array): void =>
        dense.forEach((row, i) => (into[i] = row.reduce((sum, a, j) => sum + a * x[j], 0)));
      const solved = (nearly: (r: Float64Array, into: Float64Array) => void): number => {
        const r = new Float64Array(size);
        times(wanted, r);
        const x = new Float64Array(size);
        const steps = conjugateGradients({ times, nearly }, x, r, 1e-22, 500);
        for (let i = 0; i < size; i++) expect(Math.abs(x[i] - wanted[i])).toBeLessThan(1e-7);
        return steps;
      };
      const plain = solved((r, into) => into.set(r));
      const exact = new Factored(
        entries,
        Int32Array.from({ length: size }, (_, i) => i),
      );
      expect(solved((r, into) => into.set(exact.solve(r)))).toBeLessThanOrEqual(2);
      expect(plain).toBeGreaterThan(2);
    }),
    { numRuns: 30 },
  );
});

test('a coil is cut across: hardly a row of it is taken last', () => {
  // a strip of 5 by 400 nodes wound up to ten turns beside each other
  const [across, along] = [5, 400];
  const places: number[] = [];
  for (let i = 0; i < along; i++)
    for (let k = 0; k < across; k++) {
      const way = (20 * Math.PI * i) / along;
      const r = 1 + i / 40 + k / 100;
      places.push(r * Math.cos(way), r * Math.sin(way), 0);
    }
  const around = (v: number): number[] =>
    [v % across > 0 ? v - 1 : -1, v % across < across - 1 ? v + 1 : -1, v - across, v + across].filter((w) => w >= 0 && w < across * along); // prettier-ignore
  const order = dissected(places, across * along, around);
  const last = new Set(order.slice(-across));
  // what is left falls apart into two halves without those nodes
  const seen = new Set<number>([[...Array(across * along).keys()].find((v) => !last.has(v)) as number]);
  for (const v of seen) for (const w of around(v)) if (!last.has(w)) seen.add(w);
  expect(Math.abs(seen.size / (across * along) - 0.5)).toBeLessThan(0.02);
});
