import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, seededRng, type Vec3 } from '../math';
import { ballSoup, foldedSheet } from '../testing';
import { sculptFromSoup, SculptSurface, WalkingForm } from '.';

describe('walking form', () => {
  it('finds what the tree finds, for points that wander over a ball', () => {
    const surface = SculptSurface.build(sculptFromSoup(ballSoup(24)));
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const form = new WalkingForm(surface);
        let p: Vec3 = [0, 0, 1.15];
        for (let i = 0; i < 40; i++) {
          const step = (): number => (rng() - 0.5) * 0.12;
          const q: Vec3 = [p[0] + step(), p[1] + step(), p[2] + step()];
          const walked = form.closest(q, 7).point;
          const near = surface.closest(q);
          expect(Math.abs(distance(q, walked) - near.distance)).toBeLessThan(1e-6);
          // outside a ball only the nearest foot is downhill of everything
          p = walked.map((x) => x * 1.15) as unknown as Vec3;
        }
      }),
      { numRuns: 60 },
    );
  });

  it('stays on its own sheet of a fold where the tree would jump to the next', () => {
    const surface = SculptSurface.build(sculptFromSoup(foldedSheet(4, 24, 24)));
    const form = new WalkingForm(surface);
    const start = surface.closest([0, 0.55 * Math.PI * 0.5 - 4 * 0.86, 0]).point;
    form.closest(start, 1);
    let p = start;
    for (let i = 0; i < 30; i++) p = form.closest([p[0] + 0.02, p[1] + 0.001, p[2]], 1).point;
    expect(distance(p, start)).toBeGreaterThan(0.4);
    expect(Math.abs(p[1] - start[1])).toBeLessThan(0.6);
  });
});
