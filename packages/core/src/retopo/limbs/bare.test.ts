import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SculptSurface, sculptFromSoup } from '../../surface';
import { ballSoup, quadsOnBall } from '../../testing';
import { middleOf, type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { barenessOf, placesBeyond } from './bare';

/** Places of the ball, spread evenly: by Fibonacci's spiral. */
const PLACES = 6000;
const samples = Float64Array.from({ length: 3 * PLACES }, (_, i) => {
  const n = Math.floor(i / 3);
  const z = 1 - (2 * n + 1) / PLACES;
  const way = n * Math.PI * (3 - Math.sqrt(5));
  return [Math.sqrt(1 - z * z) * Math.cos(way), Math.sqrt(1 - z * z) * Math.sin(way), z][i % 3];
});
const ball = SculptSurface.build(sculptFromSoup(ballSoup(200)));
const size = (n: number): number => Math.sqrt((4 * Math.PI) / (6 * n * n));

/** The ball's quads without those that are wholly higher than `z`. */
function without(n: number, z: number): QuadSoup {
  const soup = quadsOnBall(n);
  const kept: number[] = [];
  for (let q = 0; q < soup.quads.length; q += 4) {
    const own = soup.quads.subarray(q, q + 4);
    if (own.some((v) => soup.points[3 * v + 2] < z)) kept.push(...own);
  }
  return { ...soup, quads: Int32Array.from(kept) };
}

describe('of a form', () => {
  it('nothing is bare where quads are, and all of it where there are none', () => {
    for (const n of [4, 8, 16]) {
      const { bare, short, away, astray } = barenessOf(quadsOnBall(n), { samples, size: size(n) }, ball);
      expect([bare, short, astray]).toEqual([0, 0, 0]);
      // a chord's height over its length, at most
      expect(away).toBeLessThan(size(n) / 4);
    }
    expect(barenessOf({ ...quadsOnBall(4), quads: new Int32Array(0) }, { samples, size: 1 }, ball)).toEqual({ bare: 1, short: 1, away: 1, astray: 0 }); // prettier-ignore
  });

  it('the share that is bare is that of what lies further off than half a quad, and short of what lies further than one and a half', () => {
    fc.assert(
      fc.property(fc.integer({ min: 12, max: 20 }), fc.double({ min: -0.2, max: 0.5, noNaN: true }), (n, z) => {
        const soup = without(n, z);
        const rim = Math.max(...Array.from(soup.quads, (v) => soup.points[3 * v + 2]));
        const { bare, short } = barenessOf(soup, { samples, size: size(n) }, ball);
        // the part of a ball over a height is as great a share as that of its diameter
        const over = (height: number): number => (1 - height) / 2;
        expect(bare).toBeLessThan(over(z));
        expect(bare).toBeGreaterThan(over(Math.min(1, rim + size(n))));
        expect(short).toBeLessThan(bare);
        expect(short).toBeGreaterThan(over(Math.min(1, rim + 2.2 * size(n))));
      }),
      { numRuns: 20 },
    );
  });

  it('quads are astray whose middles are further off than not quite half of one', () => {
    fc.assert(
      fc.property(fc.integer({ min: 6, max: 16 }), fc.double({ min: -1, max: 1, noNaN: true }), (n, z) => {
        const soup = quadsOnBall(n);
        const quads = soup.quads.length / 4;
        const high = Array.from({ length: quads }, (_, q) => middleOf(soup, 4 * q)[2] > z);
        // apart from the others, so that each has its own points; the high ones further out
        const count = soup.quads.length;
        const apart: QuadSoup = { points: new Float64Array(3 * count), quads: Int32Array.from(soup.quads, (_, h) => h), onLine: new Int32Array(count).fill(-1) }; // prettier-ignore
        for (const [h, v] of soup.quads.entries()) {
          const by = high[h >> 2] ? 1 + 0.6 * size(n) : 1;
          for (let k = 0; k < 3; k++) apart.points[3 * h + k] = by * soup.points[3 * v + k];
        }
        expect(barenessOf(apart, { samples, size: size(n) }, ball).astray).toBe(high.filter(Boolean).length);
      }),
      { numRuns: 20 },
    );
  });

  it('places beyond so much are just those that are, as far as they are', () => {
    const soup = without(10, 0.2);
    const low = surfaceOfQuads(soup);
    const { far, asked } = placesBeyond(low, samples, 0.1);
    expect(asked).toBe(PLACES);
    const all = Array.from({ length: PLACES }, (_, i) => low.closest([samples[3 * i], samples[3 * i + 1], samples[3 * i + 2]]).distance); // prettier-ignore
    expect(far).toHaveLength(all.filter((d) => d > 0.1).length);
    for (const { place, away } of far) expect(away).toBeCloseTo(low.closest(place).distance, 6);
  });
});

it('places of a sculpt are all asked, or one in so many', () => {
  const { positions } = SculptSurface.build(sculptFromSoup(ballSoup(200)));
  const { asked } = placesBeyond(surfaceOfQuads(quadsOnBall(4)), Float64Array.from(positions), 1);
  expect(asked).toBeGreaterThanOrEqual(15_000);
  expect(asked).toBeLessThan(30_000);
});
