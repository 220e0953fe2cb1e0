import { expect, test } from 'vitest';
import type { MirrorPlane } from '../../math';
import { sculptFromSoup } from '../../surface';
import { ballSoup } from '../../testing';
import { cleaned } from '../form/clean';
import { halfOf } from '../form/halve';
import { smoothed } from './field';

const plane: MirrorPlane = { axis: 'x', offset: 0 };

test('crinkles go at the midline as they go elsewhere, and its points stay in the plane', () => {
  const ball = sculptFromSoup(ballSoup(40));
  // the same bumps on both sides of the plane
  const bumps = ball.positions.map((x, i) => {
    const [y, z] = [ball.positions[i - (i % 3) + 1], ball.positions[i - (i % 3) + 2]];
    return x * (1 + 0.02 * Math.sin(37 * y) * Math.cos(41 * z));
  });
  const [half] = cleaned(halfOf({ positions: Float64Array.from(bumps), indices: ball.indices }, plane)).parts;
  const n = half.points.length;
  // the half and its mirror image, welded where they meet
  const turned = half.points.map((x, i) => (i % 3 === 0 ? -x : x));
  const corners = [...half.from.subarray(0, 3 * half.triangles)];
  const image = corners.map((_, i) => corners[i - (i % 3) + (2 - (i % 3))] + n / 3);
  const both = Float64Array.from([...half.points, ...turned]);
  const [whole] = cleaned({ positions: both, indices: [...corners, ...image] }).parts;
  const key = (p: Float64Array, v: number): string => [...p.subarray(3 * v, 3 * v + 3)].map((x) => x + 0).join();
  const named = new Map(Array.from({ length: whole.vertices }, (_, v) => [key(whole.points, v), v]));
  const [held, free, asWhole] = [smoothed(half, 20), smoothed(half, 20, plane), smoothed(whole, 20)];
  let [onPlane, moved] = [0, 0];
  for (let v = 0; v < half.vertices; v++) {
    const w = named.get(key(half.points, v)) as number;
    for (let k = 0; k < 3; k++) expect(free[3 * v + k]).toBeCloseTo(asWhole[3 * w + k], 10);
    if (half.points[3 * v] !== 0) continue;
    onPlane++;
    expect(free[3 * v]).toBe(0);
    if (free[3 * v + 1] !== held[3 * v + 1]) moved++;
  }
  expect(onPlane).toBeGreaterThan(40);
  expect(moved).toBe(onPlane);
});
