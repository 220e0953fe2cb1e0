import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import { sculptFromSoup, SculptSurface } from '../../surface';
import { ballSoup } from '../../testing';
import type { Curve } from '../lines/lines';
import { qualityOf } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';
import { squarer } from './squarer';

const BALL = SculptSurface.build(sculptFromSoup(ballSoup(60)));
const SIDE = 7;

/** A patch of quads on the ball round its pole, points moved about; its border stays, and its middle row is a line. */
function patch(seed: number, jitter: number): { soup: QuadSoup; curves: Curve[] } {
  const rng = seededRng(seed);
  const points: number[] = [];
  const onLine: number[] = [];
  for (let j = 0; j <= SIDE; j++)
    for (let i = 0; i <= SIDE; i++) {
      const isBorder = i % SIDE === 0 || j % SIDE === 0;
      const isOnLine = j === 3;
      const off = (): number => (isBorder ? 0 : (jitter * (rng() - 0.5)) / SIDE);
      const [x, z] = [i / SIDE - 0.5 + off(), j / SIDE - 0.5 + (isOnLine ? 0 : off())];
      points.push(...BALL.closest([x, Math.sqrt(1 - x * x - z * z), z]).point);
      onLine.push(isBorder ? -2 : isOnLine ? 0 : -1);
    }
  const quads: number[] = [];
  const at = (i: number, j: number): number => j * (SIDE + 1) + i;
  for (let j = 0; j < SIDE; j++)
    for (let i = 0; i < SIDE; i++) quads.push(at(i, j), at(i, j + 1), at(i + 1, j + 1), at(i + 1, j));
  const z = 3 / SIDE - 0.5;
  const line = Array.from({ length: 101 }, (_, i) => i / 100 - 0.5).flatMap((x) => BALL.closest([x, Math.sqrt(1 - x * x - z * z), z]).point); // prettier-ignore
  const soup = { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: Int32Array.from(onLine) };
  return { soup, curves: [{ points: Float64Array.from(line), isBorder: false, isDrawn: true, isMirrored: false }] };
}

test('quads come out squarer, on the form; points on lines stay on them, and those that are held do not move', () => {
  fc.assert(
    fc.property(fc.integer(), fc.double({ min: 0.2, max: 1.1, noNaN: true }), (seed, jitter) => {
      const { soup, curves } = patch(seed, jitter);
      const before = soup.points.slice();
      const was = qualityOf(before, soup.quads).quality;
      const held = new Set([at(2, 2), at(5, 5)]);
      squarer(soup, curves, BALL, held);
      const { quality, folded } = qualityOf(soup.points, soup.quads);
      expect(folded).toBe(0);
      expect(quality.mean).toBeGreaterThanOrEqual(was.mean - 1e-9);
      expect(quality.mean).toBeGreaterThan(0.9);
      soup.onLine.forEach((line, v) => {
        const [x, y, z] = soup.points.subarray(3 * v, 3 * v + 3);
        if (line === -2 || held.has(v)) expect([x, y, z]).toEqual([...before.subarray(3 * v, 3 * v + 3)]);
        else expect(BALL.closest([x, y, z]).distance).toBeLessThan(line === 0 ? 1e-3 : 1e-6);
        if (line === 0) expect(Math.abs(z - (3 / SIDE - 0.5))).toBeLessThan(1e-3);
      });
    }),
    { numRuns: 40 },
  );
});
const at = (i: number, j: number): number => j * (SIDE + 1) + i;

test('a point is moved to the middle of its quads, and one that is there stays', () => {
  const { soup, curves } = patch(1, 0);
  const even = soup.points.slice();
  squarer(soup, curves, BALL, new Set());
  const moved = Math.max(...soup.points.map((x, i) => Math.abs(x - even[i])));
  expect(moved).toBeLessThan(0.02);
  const v = at(2, 5);
  soup.points.set(BALL.closest([even[3 * v] + 0.06, even[3 * v + 1], even[3 * v + 2] + 0.05]).point, 3 * v);
  const aside = qualityOf(soup.points, soup.quads).quality.least;
  squarer(soup, curves, BALL, new Set());
  expect(qualityOf(soup.points, soup.quads).quality.least).toBeGreaterThan(aside + 0.1);
});
