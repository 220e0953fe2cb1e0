import { expect, test } from 'vitest';
import type { Vec3 } from '../math';
import { paintedDensity } from './paintedDensity';

const at = (...points: Vec3[]): number[] => points.flat();
const stroke = { points: [[0, 0, 0], [1, 0, 0]] as Vec3[], radius: 0.4, times: 4 }; // prettier-ignore

test('a stroke counts in full near it, less towards its radius, and not beyond; strokes multiply', () => {
  const [on, half, edge, far] = paintedDensity(at([0.5, 0, 0], [0.5, 0.3, 0], [0.5, 0.4, 0], [3, 0, 0]), [stroke], null); // prettier-ignore
  expect(on).toBeCloseTo(4, 12);
  expect(half).toBeCloseTo(2, 12);
  expect([edge, far]).toEqual([1, 1]);
  const [twice] = paintedDensity(at([0.5, 0.1, 0]), [stroke, { ...stroke, times: 0.5 }], null);
  expect(twice).toBeCloseTo(2, 12);
  const [dot] = paintedDensity(at([1, 0.1, 0]), [{ ...stroke, points: [[1, 0, 0]] }], null);
  expect(dot).toBeCloseTo(4, 12);
});

test('with a plane it counts on both sides, and once where both reach', () => {
  const plane = { axis: 'x', offset: 0 } as const;
  const density = paintedDensity(at([0.9, 0, 0], [-0.9, 0, 0], [0, 0, 0], [-0.1, 0, 0]), [stroke], plane);
  for (const d of density) expect(d).toBeCloseTo(4, 12);
});
