import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../../math';
import { SculptSurface, sculptFromSoup, WalkingForm } from '../../surface';
import { ballSoup, pick, quadsOnBall } from '../../testing';
import type { Ground } from '../lines/ground';
import type { QuadSoup } from '../quads/QuadSoup';
import { verified, type Topology, type Verdict } from '../quads/verify';
import { isNoWorse, settled, squared } from './settled';

const RINGS = 40;
/** How far the ball is off its triangles: a chord's height one way and the other. */
const OFF = (Math.PI / RINGS) ** 2 / 4;
const surface = SculptSurface.build(sculptFromSoup(ballSoup(RINGS)));
const form = new WalkingForm(surface);
const BALL: Ground = { surface, curves: [], forms: [form, form], density: null };
const CLOSED: Topology = { euler: 2, borders: 0, parts: 1 };

/** Some points drawn over their neighbours. */
function crumpled(n: number, seed: number, often: number): QuadSoup {
  const soup = quadsOnBall(n);
  const rng = seededRng(seed);
  const points = Array.from(soup.onLine.keys());
  for (let i = 0; i < often; i++) {
    const v = pick(rng, points);
    const far = 3.2 / n;
    const [x, y, z] = [0, 1, 2].map((k) => soup.points[3 * v + k] + far * (rng() - 0.5));
    soup.points.set(surface.closest([x, y, z]).point, 3 * v);
  }
  return soup;
}

describe('quads', () => {
  it('that are folded are opened, or laid again; what they are stays', () => {
    let folded = 0;
    fc.assert(
      fc.property(fc.integer({ min: 6, max: 10 }), fc.nat(), fc.integer({ min: 1, max: 12 }), (n, seed, often) => {
        const soup = crumpled(n, seed, often);
        const before = verified(soup, CLOSED, BALL.forms);
        folded += before.folded;
        const { soup: made, verdict } = settled(soup, CLOSED, BALL);
        expect(verdict.reasons).toEqual([]);
        expect(verified(made, CLOSED, BALL.forms)).toEqual(verdict);
        // points that never moved are on the ball itself
        for (let i = 0; i < made.points.length; i += 3)
          expect(surface.closest([made.points[i], made.points[i + 1], made.points[i + 2]]).distance).toBeLessThan(OFF);
      }),
      { numRuns: 25 },
    );
    expect(folded).toBeGreaterThan(0);
  });

  it('that are sound are left as they are', () => {
    const soup = quadsOnBall(8);
    expect(settled(soup, CLOSED, BALL).soup).toBe(soup);
  });

  it('made square fold nowhere, and held points stay', () => {
    fc.assert(
      fc.property(fc.nat(), fc.integer({ min: 1, max: 20 }), (seed, often) => {
        const soup = settled(crumpled(9, seed, often), CLOSED, BALL).soup;
        const before = soup.points.slice();
        const then = verified(soup, CLOSED, BALL.forms);
        const held = new Set([seed % soup.onLine.length, 3]);
        squared(soup, BALL, held);
        const now = verified(soup, CLOSED, BALL.forms);
        expect(now.folded).toBe(0);
        expect(now.quality.mean).toBeGreaterThan(then.quality.mean - 1e-3);
        for (const v of held) expect(soup.points.subarray(3 * v, 3 * v + 3)).toEqual(before.subarray(3 * v, 3 * v + 3));
      }),
      { numRuns: 15 },
    );
  });
});

it('no worse is what lacks nothing more, with a least corner as good or good enough', () => {
  const verdict = (reasons: string[], handlesLost: number, least: number): Verdict => ({ reasons, handlesLost, folded: 0, irregular: 0, interior: 9, quality: { least, low: 1, mean: 1 } }); // prettier-ignore
  const then = verdict(['it fell apart'], 0, 0.6);
  expect(isNoWorse(verdict([], 0, 0.7), then)).toBe(true);
  expect(isNoWorse(verdict([], 0, 0.2), then)).toBe(true);
  expect(isNoWorse(verdict([], 0, 0.05), then)).toBe(false);
  expect(isNoWorse(verdict(['it fell apart', 'there is no quad'], 0, 0.7), then)).toBe(false);
  expect(isNoWorse(verdict([], 1, 0.7), then)).toBe(false);
  expect(isNoWorse(verdict([], 0, 0.05), verdict([], 0, 0.04))).toBe(true);
});
