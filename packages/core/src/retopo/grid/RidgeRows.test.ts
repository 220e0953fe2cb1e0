import fc from 'fast-check';
import { expect, test } from 'vitest';
import { nearestRows } from './RidgeRows';

const ones = (n: number): number[] => new Array<number>(n).fill(1);

test('the nearest row is chosen all along', () => {
  expect(nearestRows([0.4, 0.3, 0.6, 0.45], ones(4))).toEqual([0, 0, 0, 0]);
  expect(nearestRows([-1.4, -1.6, -1.7], ones(3))).toEqual([-2, -2, -2]);
  expect(nearestRows([3], ones(1))).toEqual([3]);
});

test('a ridge that crosses rows goes on along another where it is half-way, and once only', () => {
  const level = Array.from({ length: 41 }, (_, i) => i / 20);
  const rows = nearestRows(level, ones(41));
  const changes = rows.filter((r, i) => i > 0 && r !== rows[i - 1]);
  expect(changes).toEqual([1, 2]);
  level.forEach((x, i) => expect(Math.abs(rows[i] - x)).toBeLessThan(0.56));
});

test('no one row would be nearer for what changing costs', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: 0.1, max: 2, noNaN: true })), {
        minLength: 1,
        maxLength: 40,
      }),
      (places) => {
        const [level, lengths] = [places.map(([x]) => x), places.map(([, l]) => l)];
        const rows = nearestRows(level, lengths);
        const off = (rowAt: (i: number) => number): number =>
          level.reduce((sum, x, i) => sum + lengths[i] * (x - rowAt(i)) ** 2, 0);
        const changes = rows.filter((r, i) => i > 0 && r !== rows[i - 1]).length;
        for (let r = -3; r <= 3; r++) expect(off((i) => rows[i]) + changes).toBeLessThanOrEqual(off(() => r) + 1e-9);
      },
    ),
  );
});
