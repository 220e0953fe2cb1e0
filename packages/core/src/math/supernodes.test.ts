import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Factored, seededRng, SymmetricEntries } from '.';
import { supernodesOf, type Supernodes } from './supernodes';

/** A matrix with these entries off its diagonal, which outweighs them. */
function matrixOf(size: number, edges: readonly (readonly [number, number])[]): SymmetricEntries {
  const entries = new SymmetricEntries(size);
  for (let i = 0; i < size; i++) entries.add(i, i, 1);
  for (const [i, j] of edges) {
    entries.add(i, i, 1);
    entries.add(j, j, 1);
    entries.add(i, j, -1);
  }
  return entries;
}

const asTheyCome = (size: number): Int32Array => Int32Array.from({ length: size }, (_, i) => i);
const groupsOf = (size: number, edges: readonly (readonly [number, number])[]): Supernodes =>
  supernodesOf(matrixOf(size, edges), asTheyCome(size));
/** The group that takes what another leaves, −1 for none. */
const parentOf = ({ below }: Supernodes, s: number): number => below.findIndex((own) => own.includes(s));
const rowsIn = ({ rows, starts }: Supernodes, s: number): number[] => [...rows.subarray(starts[s], starts[s + 1])];

test('what does not hang together is no group, what all hangs together is one', () => {
  const apart = groupsOf(6, [[0, 1], [2, 3], [4, 5]]); // prettier-ignore
  expect([...apart.firsts]).toEqual([0, 2, 4, 6]);
  expect(apart.below).toEqual([[], [], []]);
  const all = [0, 1, 2, 3, 4].flatMap((i) => [0, 1, 2, 3, 4].slice(i + 1).map((j) => [i, j] as const));
  const dense = groupsOf(5, all);
  expect([...dense.firsts]).toEqual([0, 5]);
  expect(rowsIn(dense, 0)).toEqual([0, 1, 2, 3, 4]);
});

test('few columns of a chain are taken together, with the row that the next ones begin with', () => {
  const chain = groupsOf(
    20,
    Array.from({ length: 19 }, (_, i) => [i, i + 1] as const),
  );
  for (let s = 0; s < chain.below.length; s++) {
    const end = chain.firsts[s + 1];
    expect(rowsIn(chain, s).at(-1)).toBe(Math.min(19, end));
    expect(parentOf(chain, s)).toBe(end < 20 ? s + 1 : -1);
  }
});

const someEdges = fc.integer({ min: 2, max: 60 }).chain((size) =>
  fc.tuple(
    fc.constant(size),
    fc.array(fc.tuple(fc.nat(size - 1), fc.nat(size - 1)).filter(([i, j]) => i !== j), { maxLength: 3 * size }), // prettier-ignore
  ),
);

test('each group has its own columns first, and what it leaves its parent has; children come first', () => {
  fc.assert(
    fc.property(someEdges, ([size, edges]) => {
      const all = groupsOf(size, edges);
      expect([...all.to].sort((a, b) => a - b)).toEqual([...asTheyCome(size)]);
      expect([all.firsts[0], all.firsts.at(-1)]).toEqual([0, size]);
      const group = asTheyCome(size).map((j) => all.firsts.findIndex((first) => first > j) - 1);
      for (let s = 0; s < all.below.length; s++) {
        const rows = rowsIn(all, s);
        const wide = all.firsts[s + 1] - all.firsts[s];
        expect(rows).toEqual([...new Set(rows)].sort((a, b) => a - b));
        expect(rows.slice(0, wide)).toEqual([...asTheyCome(size)].slice(all.firsts[s], all.firsts[s + 1]));
        const beyond = rows.slice(wide);
        expect(parentOf(all, s)).toBe(beyond.length > 0 ? group[beyond[0]] : -1);
        if (beyond.length > 0) expect(rowsIn(all, parentOf(all, s))).toEqual(expect.arrayContaining(beyond));
      }
      for (const [i, j] of edges) {
        const [low, high] = [all.to[i], all.to[j]].sort((a, b) => a - b);
        expect(rowsIn(all, group[low])).toContain(high);
      }
    }),
  );
});

test('any graph is factored: what it is multiplied by comes back', () => {
  fc.assert(
    fc.property(someEdges, fc.integer(), ([size, edges], seed) => {
      const rng = seededRng(seed);
      const order = asTheyCome(size).sort(() => rng() - 0.5);
      const wanted = Array.from({ length: size }, () => rng() - 0.5);
      const b = wanted.slice();
      for (const [i, j] of edges) {
        b[i] += wanted[i] - wanted[j];
        b[j] += wanted[j] - wanted[i];
      }
      const found = new Factored(matrixOf(size, edges), order).solve(b);
      wanted.forEach((x, i) => expect(found[i]).toBeCloseTo(x, 9));
    }),
  );
});

test('more columns than one group may have are factored in several', () => {
  const size = 150;
  const edges = Array.from({ length: size }, (_, i) => i).flatMap((i) =>
    Array.from({ length: i }, (_, j) => [i, j] as const),
  );
  const all = groupsOf(size, edges);
  expect(all.below.length).toBeGreaterThan(2);
  const b = Array.from({ length: size }, (_, i) => 1 + size * Number(i === 7) - 1);
  // (1 + size)·x − Σx = b has x = b / (1 + size) + Σb / (1 + size)
  const found = new Factored(matrixOf(size, edges), asTheyCome(size)).solve(b);
  found.forEach((x, i) => expect(x).toBeCloseTo((b[i] + size) / (1 + size), 9));
});

test('a pivot that vanishes is held: what nothing holds does not come out endless', () => {
  const entries = new SymmetricEntries(2);
  entries.add(0, 0, 1);
  entries.add(1, 1, 1);
  entries.add(0, 1, -1);
  const [x, y] = new Factored(entries, [0, 1]).solve([1, -1]);
  expect(x - y).toBeCloseTo(1, 6);
});
