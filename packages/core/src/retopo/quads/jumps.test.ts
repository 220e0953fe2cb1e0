import fc from 'fast-check';
import { expect, test } from 'vitest';
import { SculptSurface } from '../../surface';
import { nearer } from '../fit/nearer';
import { EdgePairs, jumpShare, JUMPS } from './jumps';
import { qualityOf } from './QuadCheck';
import type { QuadSoup } from './QuadSoup';

/** Flat quads whose columns and rows lie at these places; the border stays. */
function gridAt(xs: readonly number[], ys: readonly number[]): QuadSoup {
  const points: number[] = [];
  const quads: number[] = [];
  const onLine: number[] = [];
  for (let j = 0; j < ys.length; j++)
    for (let i = 0; i < xs.length; i++) {
      points.push(xs[i], ys[j], 0);
      const isBorder = i === 0 || j === 0 || i === xs.length - 1 || j === ys.length - 1;
      onLine.push(isBorder ? -2 : -1);
      const v = j * xs.length + i;
      if (i + 1 < xs.length && j + 1 < ys.length) quads.push(v, v + 1, v + xs.length + 1, v + xs.length);
    }
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: Int32Array.from(onLine) };
}

/** Places that so many steps lead to. */
const placesAfter = (steps: readonly number[]): number[] =>
  steps.reduce((at, by) => [...at, at[at.length - 1] + by], [0]);
const steps = fc.array(fc.double({ min: 0.1, max: 3, noNaN: true }), { minLength: 2, maxLength: 7 });

test('edges lie beside each other across quads, and in line over inner points', () => {
  fc.assert(
    fc.property(steps, steps, (across, up) => {
      const [n, m] = [across.length, up.length];
      const soup = gridAt(placesAfter(across), placesAfter(up));
      expect(new EdgePairs(soup).count).toBe(2 * n * m + 2 * (n - 1) * (m - 1));
      // across quads nothing jumps in a grid; in line it does where steps do, once for each line between them
      const jumps = (by: readonly number[]): number =>
        by.slice(1).filter((b, i) => Math.max(b / by[i], by[i] / b) > JUMPS).length;
      const over = jumps(across) * (m - 1) + jumps(up) * (n - 1);
      expect(jumpShare(soup)).toBeCloseTo(over / (2 * n * m + 2 * (n - 1) * (m - 1)), 12);
    }),
  );
});

test('what jumps costs something, at the points of its edges alone, and finitely much', () => {
  const soup = gridAt([0, 1, 2, 3, 3.2, 4.2, 5.2, 6.2, 7.2], [0, 1, 2, 3, 4]);
  const pairs = new EdgePairs(soup);
  const row = [0, 1, 2, 3, 4, 5, 6, 7, 8].map((i) => 2 * 9 + i);
  expect(row.map((v) => pairs.isAny(v))).toEqual([false, false, true, true, true, true, false, false, false]);
  for (const v of row) expect(pairs.cost(v) > 0).toBe(pairs.isAny(v));
  // points on top of each other
  soup.points.set(soup.points.subarray(3 * row[3], 3 * row[3] + 3), 3 * row[4]);
  expect(pairs.cost(row[3])).toBeGreaterThan(1);
  expect(pairs.cost(row[3])).toBeLessThan(100);
});

test('a row that was squeezed is as wide again as those beside it', () => {
  const flat = SculptSurface.build({
    positions: Float32Array.of(-1, -1, 0, 9, -1, 0, 9, 7, 0, -1, 7, 0),
    indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
  });
  const soup = gridAt([0, 1, 2, 3, 4, 5, 6, 7, 8], [0, 1, 2, 3, 4, 5, 6]);
  // inside the border, which stays where it is
  for (let j = 1; j < 6; j++) soup.points[3 * (9 * j + 4)] = 3.05;
  const before = jumpShare(soup);
  expect(nearer(soup, { curves: [], surface: flat }, 1).size).toBeGreaterThan(0);
  expect(before).toBeGreaterThan(0.05);
  expect(jumpShare(soup)).toBeLessThan(before / 4);
  expect(qualityOf(soup.points, soup.quads).quality.low).toBeGreaterThan(0.8);
});

test('going over to a jump costs more than a quad that lacks a fifth of square, coming near to one less', () => {
  // columns as wide as one until the fourth line, and so many times as wide after it
  const costOf = (ratio: number, areWanted = false): number => {
    const soup = gridAt([0, 1, 2, 3, 3 + ratio, 3 + 2 * ratio, 3 + 3 * ratio], [0, 1, 2, 3, 4]);
    return new EdgePairs(soup, areWanted).cost(2 * 7 + 3);
  };
  const corner = 0.2 ** 2;
  expect(costOf(1.5)).toBe(0);
  expect(costOf(1.8)).toBeGreaterThan(0);
  expect(costOf(1.8)).toBeLessThan(corner);
  expect(costOf(2.1) - costOf(1.8)).toBeGreaterThan(corner);
  // not where density is painted
  expect(costOf(1.8, true)).toBe(costOf(1.8));
  expect(costOf(2.1, true)).toBeLessThan(corner);
});
