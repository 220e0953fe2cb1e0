import { expect, test } from 'vitest';
import { distance, type Vec3 } from '../../math';
import { soupFromMesh } from '../../mesh';
import { sculptFromSoup } from '../../surface';
import { ballSoup, cubeMesh } from '../../testing';
import { LAY_AS_USUAL, layAll, painted } from '..';
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

test('a stroke within a large triangle is heeded: a coarse form is cut finer for it, a fine one is left as it is', () => {
  const cube = sculptFromSoup(soupFromMesh(cubeMesh()));
  const high = Math.max(...cube.positions);
  const dot = { points: [[0, high, 0]] as Vec3[], radius: high / 2, times: 8 };
  const { triangles, density } = painted(cube, [dot], null);
  expect(Math.max(...paintedDensity(cube.positions, [dot], null))).toBe(1);
  expect(Math.max(...density)).toBeCloseTo(8, 6);
  expect(triangles.indices.length).toBeGreaterThan(10 * cube.indices.length);
  const laid = layAll(triangles, { ...LAY_AS_USUAL, faces: 300, density });
  const { points: p, quads } = laid.soup;
  const middles = Array.from({ length: quads.length / 4 }, (_, q) => [0, 1, 2].map((k) => [0, 1, 2, 3].reduce((sum, c) => sum + p[3 * quads[4 * q + c] + k] / 4, 0)) as unknown as Vec3); // prettier-ignore
  const near = (at: Vec3): number => middles.filter((m) => distance(m, at) < high / 2).length;
  expect(near([0, high, 0])).toBeGreaterThan(2 * near([0, -high, 0]));
  const ball = sculptFromSoup(ballSoup(60));
  expect(painted(ball, [{ ...dot, radius: 0.5 }], null).triangles).toBe(ball);
});
