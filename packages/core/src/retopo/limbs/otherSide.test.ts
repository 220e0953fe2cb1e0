import { expect, test } from 'vitest';
import { ballSoup, quadsOnBall } from '../../testing';
import { sculptFromSoup } from '../../surface';
import { otherSideMissed } from './otherSide';

const plane = { axis: 'x', offset: 0 } as const;
/** A ball with a limb towards one side, of about an eightieth of its half. */
function withLimb(side: 1 | -1): { positions: Float64Array; indices: Uint32Array } {
  const { positions, indices } = sculptFromSoup(ballSoup(80));
  const points = Float64Array.from(positions);
  for (let i = 0; i < points.length; i += 3) if (side * points[i] > 0.98) points[i] *= 1.5;
  return { positions: points, indices };
}

test('what only the side has that is not laid is told by its share, and nothing where sides are alike', () => {
  // both halves' quads: what is asked of either side is as near
  const ball = quadsOnBall(12);
  expect(otherSideMissed({ ...sculptFromSoup(ballSoup(80)) }, ball, plane, 0.2)).toBe(0);
  const missed = otherSideMissed(withLimb(-1), ball, plane, 0.2);
  expect(missed).toBeGreaterThan(0.01);
  expect(missed).toBeLessThan(0.3);
  // on the side that is laid it is no fault of the mirror
  expect(otherSideMissed(withLimb(1), ball, plane, 0.2)).toBe(0);
});

test('a half alone misses nothing', () => {
  const { positions, indices } = sculptFromSoup(ballSoup(40));
  const half = Array.from({ length: indices.length / 3 }, (_, t) => indices.subarray(3 * t, 3 * t + 3))
    .filter((corners) => corners.every((v) => positions[3 * v] >= 0))
    .flatMap((corners) => [...corners]);
  expect(otherSideMissed({ positions, indices: half }, quadsOnBall(8), plane, 0.1)).toBe(0);
});
