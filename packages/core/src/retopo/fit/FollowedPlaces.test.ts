import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import { SculptSurface, sculptFromSoup } from '../../surface';
import { ballSoup, quadsOnBall } from '../../testing';
import type { QuadSoup } from '../quads/QuadSoup';
import { FollowedPlaces } from './FollowedPlaces';

const N = 6;
/** An edge's length, about. */
const SIZE = 0.25;
const surface = SculptSurface.build(sculptFromSoup(ballSoup(24)));

/** A cube's quads on the ball, and the quads round each point as 4·q. */
function onBall(): { soup: QuadSoup; around: number[][] } {
  const soup = quadsOnBall(N);
  const around = Array.from(soup.onLine, (): number[] => []);
  soup.quads.forEach((v, h) => around[v].push(h & ~3));
  return { soup, around };
}

/** By how much a place is nearer to some other quad than to the one that it is told for, at most; and how many are told. */
function wrongBy(places: FollowedPlaces, { quads }: QuadSoup): { most: number; told: number } {
  let [most, told] = [0, 0];
  places.beyond(0).forEach((own, q) => {
    for (const i of own) {
      let least = Infinity;
      for (let x = 0; x < quads.length; x += 4) least = Math.min(least, places.squaredTo(i, x));
      most = Math.max(most, Math.sqrt(places.squaredTo(i, 4 * q)) - Math.sqrt(least));
      told++;
    }
  });
  return { most, told };
}

test('each place belongs to the quad that is nearest of all, and still does when points have moved', () => {
  fc.assert(
    fc.property(fc.integer(), fc.double({ min: 0, max: 0.3, noNaN: true }), (seed, far) => {
      const { soup, around } = onBall();
      const places = new FollowedPlaces(soup, around, surface, SIZE, 3);
      const first = wrongBy(places, soup);
      expect(first.most).toBeLessThan(1e-6);
      expect(first.told).toBeGreaterThan(soup.quads.length / 4);
      const rng = seededRng(seed);
      const moved = new Uint8Array(soup.quads.length / 4);
      for (let v = 0; v < around.length; v += 2) {
        for (let k = 0; k < 3; k++) soup.points[3 * v + k] += far * SIZE * (rng() - 0.5);
        for (const q of around[v]) moved[q / 4] = 1;
      }
      places.follow(moved);
      const then = wrongBy(places, soup);
      // those that were at a quad to the last bit are told too now
      expect(then.told).toBeGreaterThanOrEqual(first.told);
      expect(then.most).toBeLessThan(1e-6);
    }),
    { numRuns: 12 },
  );
});

test('what lies beyond the quads, or on their far side, is left out', () => {
  const { soup, around } = onBall();
  const all = new FollowedPlaces(soup, around, surface, SIZE, 3);
  // turned inside out, every quad faces away from the places by it
  const inside = { ...soup, quads: soup.quads.slice() };
  for (let q = 0; q < inside.quads.length; q += 4) inside.quads.subarray(q, q + 4).reverse();
  expect(new FollowedPlaces(inside, around, surface, SIZE, 3).beyond(0).flat()).toEqual([]);
  // with quads so small the ball is too far off from one that shrank to its middle
  const shrunk = { ...soup, points: soup.points.map((x) => 0.1 * x) };
  expect(new FollowedPlaces(shrunk, around, surface, SIZE / 2, 3).beyond(0).flat()).toEqual([]);
  // nothing lies further off than the ball's chords
  expect(all.beyond(0).flat().length).toBeGreaterThan(0);
  expect(all.beyond(SIZE).flat()).toEqual([]);
});
