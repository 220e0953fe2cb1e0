import fc from 'fast-check';
import { expect, test } from 'vitest';
import { distance, length, scale, type Vec3 } from '../../math';
import { quadsOnBall, quadsOnHalfBall } from '../../testing';
import type { QuadSoup } from '../quads/QuadSoup';
import { pulledBack, tentsIn } from './tents';

const PLANE = { axis: 'x', offset: 0 } as const;
const SIZE = 0.25;

const placeOf = ({ points: p }: QuadSoup, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];

/** With a point so much further from the middle. */
function drawnUp(soup: QuadSoup, v: number, by: number): QuadSoup {
  const points = soup.points.slice();
  const at = placeOf(soup, v);
  points.set(scale(at, (length(at) + by) / length(at)), 3 * v);
  return { ...soup, points };
}

test('a point that is drawn far out of the quads round it is the tip of a tent, and no other is', () => {
  const ball = quadsOnBall(6, 1);
  expect(tentsIn(ball, { curves: [] }, SIZE, null).size).toBe(0);
  fc.assert(
    fc.property(fc.nat(ball.onLine.length - 1), fc.double({ min: 0.7, max: 3, noNaN: true }), (v, by) => {
      const soup = drawnUp(ball, v, by);
      const tents = tentsIn(soup, { curves: [] }, SIZE, null);
      expect([...tents.keys()]).toEqual([v]);
      // its foot is where it was, about
      const flat = pulledBack(soup, tents);
      expect(distance(placeOf(flat, v), placeOf(ball, v))).toBeLessThan(0.1);
      expect(tentsIn(flat, { curves: [] }, SIZE, null).size).toBe(0);
      expect(flat.onLine).toEqual(ball.onLine);
    }),
    { numRuns: 60 },
  );
});

test('a point that is hardly drawn out is none, and neither is one on a line', () => {
  const ball = quadsOnBall(6, 1);
  fc.assert(
    fc.property(fc.nat(ball.onLine.length - 1), fc.double({ min: 0, max: 0.2, noNaN: true }), (v, by) => {
      expect(tentsIn(drawnUp(ball, v, by), { curves: [] }, SIZE, null).size).toBe(0);
      const held = drawnUp(ball, v, 1);
      held.onLine[v] = -2;
      expect(tentsIn(held, { curves: [] }, SIZE, null).size).toBe(0);
    }),
  );
});

test('of half a tent in the mirror plane the image counts, and its foot is on the line there', () => {
  // both halves of the plane's line, which turns at the tips of what lies across it only
  const curve = { points: Float64Array.from([0, -1, 0, 0, 1, 0]), isBorder: true, isDrawn: false, isMirrored: true };
  const half = quadsOnHalfBall(6, 0);
  const inPlane = [...half.onLine.keys()].filter((v) => half.onLine[v] === 0);
  expect(inPlane.length).toBeGreaterThan(8);
  fc.assert(
    fc.property(fc.constantFrom(...inPlane), fc.constantFrom(0, -2), (v, line) => {
      const soup = drawnUp(half, v, 1.5);
      soup.onLine = half.onLine.slice();
      soup.onLine[v] = line;
      const tents = tentsIn(soup, { curves: [curve] }, SIZE, PLANE);
      expect([...tents.keys()]).toEqual([v]);
      const flat = pulledBack(soup, tents);
      expect(flat.onLine[v]).toBe(0);
      expect(flat.points[3 * v]).toBe(0);
      expect(length(placeOf(flat, v))).toBeLessThan(1);
    }),
  );
});
