import { describe, expect, it } from 'vitest';
import { seededRng } from '../math';
import { sculptFromSoup, SculptSurface } from '../surface';
import { ballSoup, CUBE_SOUP } from '../testing';
import { compareSurfaces } from './compareSurfaces';

const ball = SculptSurface.build(sculptFromSoup(ballSoup(80)));
const cube = SculptSurface.build(sculptFromSoup(CUBE_SOUP));

describe('surfaces compared', () => {
  it.each([
    ['a cube with the ball in it', cube, ball],
    ['the ball with its cube', ball, cube],
  ])('%s: furthest apart at the corners, whichever is asked first', (_, one, other) => {
    const { max, worstAt, rms, lowToHigh, highToLow } = compareSurfaces(one, other, seededRng(1));
    expect(max).toBeGreaterThan(0.95 * (Math.sqrt(3) - 1));
    expect(max).toBeLessThan(Math.sqrt(3) - 1 + 1e-3);
    for (const x of worstAt) expect(Math.abs(Math.abs(x) - 1)).toBeLessThan(0.1);
    // from the ball the cube is nowhere further than where a corner is over it
    const fromBall = one === ball ? lowToHigh : highToLow;
    expect(fromBall.max).toBeLessThan(1 - 1 / Math.sqrt(3) + 1e-3);
    expect(Math.abs(Math.hypot(...fromBall.worstAt) - 1)).toBeLessThan(1e-3);
    expect(rms).toBeLessThan(max);
  });

  it('tells no distance between a surface and itself', () => {
    const { max, rms, relative } = compareSurfaces(ball, ball, seededRng(2), 500);
    expect([max, rms, relative.max].every((x) => x < 1e-6)).toBe(true);
  });
});
