import fc from 'fast-check';
import { expect, test } from 'vitest';
import { distance, dot, normalize, type Vec3 } from '../../math';
import { sculptFromSoup, SculptSurface } from '../../surface';
import { ballSoup } from '../../testing';
import { wayOver } from './wayOver';

const ball = SculptSurface.build(sculptFromSoup(ballSoup(20)));
const place = fc
  .tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true })))
  .filter((p) => Math.hypot(...p) > 0.1)
  .map((p) => normalize(p as unknown as Vec3));

test('over a ball a way is no shorter than the arc, but for facets, and no longer than along rows and columns; it is as long back', () => {
  fc.assert(
    fc.property(place, place, (a, b) => {
      const way = wayOver(ball, a, b, 10);
      const arc = Math.acos(Math.max(-1, Math.min(1, dot(a, b))));
      // it begins and ends along an edge, too
      expect(way).toBeLessThan(Math.SQRT2 * arc + 0.2);
      expect(way).toBeGreaterThan(0.99 * arc - 0.01);
      expect(wayOver(ball, b, a, 10)).toBeCloseTo(way, 9);
    }),
    { numRuns: 100 },
  );
});

test('a way longer than is asked for is none, and so is one to a part that does not hang together with it', () => {
  const [north, south]: [Vec3, Vec3] = [[0, 1, 0], [0, -1, 0]]; // prettier-ignore
  expect(wayOver(ball, north, south, 3)).toBe(Infinity);
  expect(wayOver(ball, north, south, 4)).toBeLessThan(4);
  const { positions, indices } = ball;
  const both = SculptSurface.build({
    positions: Float32Array.from([...positions, ...positions.map((x, i) => (i % 3 === 1 ? x - 2.1 : x))]),
    indices: Uint32Array.from([...indices, ...indices.map((v) => v + positions.length / 3)]),
  });
  const beyond: Vec3 = [0, -1.1, 0];
  expect(distance(south, beyond)).toBeLessThan(0.2);
  expect(wayOver(both, south, beyond, 100)).toBe(Infinity);
  expect(wayOver(both, south, [0.01, -1, 0], 100)).toBeLessThan(0.1);
});
