import fc from 'fast-check';
import { expect, test } from 'vitest';
import { EdgeList } from './EdgeList';
import { nextHalf } from './TriMesh';

/** Half-edges by the two points that they join. */
function byEdge(corners: Int32Array): number[][] {
  const all = new Map<string, number[]>();
  corners.forEach((v, h) => {
    const w = corners[nextHalf(h)];
    const key = `${Math.min(v, w)} ${Math.max(v, w)}`;
    all.set(key, [...(all.get(key) ?? []), h]);
  });
  return [...all.values()];
}

const ascending = (list: readonly number[]): number[] => [...list].sort((a, b) => a - b);

test('two on an edge are twins, more are a crowd, one is alone', () => {
  const triangle = fc.uniqueArray(fc.nat(7), { minLength: 3, maxLength: 3 });
  fc.assert(
    fc.property(fc.array(triangle, { minLength: 1, maxLength: 25 }), (triangles) => {
      const corners = Int32Array.from(triangles.flat());
      const { twin, crowds } = new EdgeList(corners, 8);
      const edges = byEdge(corners);
      const expected = new Int32Array(corners.length).fill(-1);
      for (const [a, b] of edges.filter(({ length }) => length === 2)) [expected[a], expected[b]] = [b, a];
      expect(twin).toEqual(expected);
      const many = edges.filter(({ length }) => length > 2).map((own) => ascending(own).join(' '));
      expect(crowds.map((own) => ascending(own).join(' ')).sort()).toEqual(many.sort());
    }),
  );
});

test('a hundred thousand triangles round one point are paired as fast as any', () => {
  const n = 100_000;
  const corners = Int32Array.from({ length: 3 * n }, (_, h) => (h % 3 === 0 ? 0 : 1 + ((Math.floor(h / 3) + (h % 3) - 1) % n))); // prettier-ignore
  const { twin, crowds } = new EdgeList(corners, n + 1);
  expect(crowds).toEqual([]);
  expect(twin.filter((g) => g < 0).length).toBe(n);
});
