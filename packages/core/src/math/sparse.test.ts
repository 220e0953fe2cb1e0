import fc from 'fast-check';
import { expect, test } from 'vitest';
import { dissected, Factored, seededRng, SymmetricEntries } from '.';

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
    }),
    { numRuns: 60 },
  );
});
