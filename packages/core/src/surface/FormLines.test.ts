import fc from 'fast-check';
import { expect, test } from 'vitest';
import { distance, nearestOnLine, seededRng, type Vec3 } from '../math';
import { ballSoup } from '../testing';
import { FormLines, sculptFromSoup, SculptSurface, type Section } from '.';

test('the nearest point of lines is what trying every line finds, and none beyond the reach', () => {
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      const point = (): Vec3 => [rng() * 4 - 2, rng() * 3, rng() * 0.5];
      const lines = Array.from({ length: 1 + Math.floor(rng() * 4) }, (): Section => ({ points: Array.from({ length: 3 + Math.floor(rng() * 20) }, point), closed: rng() < 0.5 })); // prettier-ignore
      const formLines = new FormLines(lines);
      for (let i = 0; i < 20; i++) {
        const p = point().map((x) => 1.5 * x) as unknown as Vec3;
        const within = rng() * 2;
        const away = Math.min(...lines.map((l) => distance(p, nearestOnLine(p, l.points, l.closed).point)));
        const found = formLines.nearest(p, within);
        if (away > within) expect(found).toBeNull();
        else expect(distance(p, found as Vec3)).toBeCloseTo(away, 9);
      }
    }),
    { numRuns: 60 },
  );
});

test('one straight line along an axis, as flat as a line can be, is found too', () => {
  const line = new FormLines([{ points: [[0, 0, 0], [3, 0, 0]], closed: false }]); // prettier-ignore
  expect(line.nearest([1.25, 0.1, 0], 0.2)).toEqual([1.25, 0, 0]);
  expect(line.nearest([4, 0, 0], 0.9)).toBeNull();
});

test('a distance beyond what counts as near is exact, and one within is never told as beyond', () => {
  const ball = SculptSurface.build(sculptFromSoup(ballSoup(30, 1)));
  const rng = seededRng(8);
  for (let i = 0; i < 300; i++) {
    const p: Vec3 = [3 * rng() - 1.5, 3 * rng() - 1.5, 3 * rng() - 1.5];
    const near = rng();
    const exact = ball.closest(p).distance;
    const told = ball.distanceBeyond(p, near);
    if (exact > near) expect(told).toBeCloseTo(exact, 9);
    else expect(told).toBeLessThanOrEqual(near);
  }
});
