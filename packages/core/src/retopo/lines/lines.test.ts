import { expect, test } from 'vitest';
import { seededRng } from '../../testing';
import { cleaned } from '../form/clean';
import type { TriMesh } from '../form/TriMesh';
import { markLines } from './lines';

const N = 60;

/** A sheet of N × N cells, two triangles each, as high as is said. */
function sheet(height: (x: number, y: number) => number): TriMesh {
  const points = new Float64Array(3 * (N + 1) ** 2);
  for (let y = 0; y <= N; y++) for (let x = 0; x <= N; x++) points.set([x, y, height(x, y)], 3 * (y * (N + 1) + x));
  const corners: number[] = [];
  for (let y = 0; y < N; y++)
    for (let x = 0; x < N; x++) {
      const a = y * (N + 1) + x;
      corners.push(a, a + 1, a + N + 2, a, a + N + 2, a + N + 1);
    }
  return cleaned({ positions: points, indices: Uint32Array.from(corners) }).parts[0];
}
const inside = (points: Float64Array): boolean => points[1] !== points[4] && points[0] > 0 && points[0] < N;

test('sharp edges that run on are lines, however many there are', () => {
  // a ridge or a valley every two cells
  const mesh = sheet((x) => Math.abs((x % 4) - 2));
  const { curves, noise } = markLines(mesh, 40, 5);
  expect(noise).toBe(0);
  const ridges = curves.filter((curve) => !curve.isBorder && inside(curve.points));
  expect(ridges).toHaveLength(N / 2 - 1);
  for (const { points } of ridges) expect(points).toHaveLength(3 * (N + 1));
});

test('sharp edges that end and branch all over are noise, and told', () => {
  const rng = seededRng(3);
  const { curves, noise } = markLines(
    sheet(() => 1.5 * rng()),
    40,
    5,
  );
  expect(noise).toBeGreaterThan(0.1 * N * N);
  expect(curves.every((curve) => curve.isBorder)).toBe(true);
});
