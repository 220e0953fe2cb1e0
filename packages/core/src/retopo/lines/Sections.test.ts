import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cross, distance, dot, meanPoint, normalize, sub, type Vec3 } from '../../math';
import { sculptFromSoup } from '../../surface';
import { ballSoup } from '../../testing';
import { TriMesh } from '../form/TriMesh';
import { alongWay, Sections, type Spot } from './Sections';

const { positions, indices } = sculptFromSoup(ballSoup(24));
const BALL = new TriMesh(Float64Array.from(positions), indices);
const ways = new Sections(BALL);

/** The middle of a triangle of the ball, and a direction there. */
const somewhere = fc
  .tuple(fc.nat(BALL.triangles - 1), fc.double({ min: 0, max: 6.28, noNaN: true }))
  .map(([t, turn]): { spot: Spot; along: Vec3 } => {
    const [a, b, c] = ways.corners(t);
    const x = normalize(sub(b, a));
    const y = cross(ways.normal(t), x);
    const along: Vec3 = [0, 1, 2].map((k) => Math.cos(turn) * x[k] + Math.sin(turn) * y[k]) as [number, number, number];
    return { spot: { t, at: meanPoint([a, b, c]) }, along };
  });

const lengthOf = (way: readonly Spot[]): number =>
  way.slice(1).reduce((sum, { at }, i) => sum + distance(way[i].at, at), 0);

describe('ways over a form in a plane', () => {
  it('stay in it and on the triangles they are said to be in, and go as far as was asked, to both sides', () => {
    fc.assert(
      fc.property(somewhere, fc.double({ min: 0.05, max: 2.5, noNaN: true }), ({ spot, along }, far) => {
        const { left, right } = ways.across(spot, along, far);
        for (const way of [left, right]) {
          expect(way[0]).toEqual(spot);
          expect(lengthOf(way)).toBeCloseTo(far, 9);
          for (const { t, at } of way) {
            expect(Math.abs(dot(along, sub(at, spot.at)))).toBeLessThan(1e-3);
            expect(Math.abs(dot(ways.normal(t), sub(at, ways.corners(t)[0])))).toBeLessThan(1e-9);
          }
        }
        // away from each other
        expect(dot(sub(left[1].at, spot.at), sub(right[1].at, spot.at))).toBeLessThan(0);
      }),
    );
  });

  it('come back to where they began round a closed form', () => {
    fc.assert(
      fc.property(somewhere, ({ spot, along }) => {
        const way = ways.across(spot, along, 6.4).left;
        // round most of it nothing of the way is near
        const back = way.slice(Math.floor(way.length / 2)).map(({ at }) => distance(at, spot.at));
        expect(Math.min(...back)).toBeLessThan(0.2);
        expect(Math.max(...way.map(({ at }) => distance(at, spot.at)))).toBeGreaterThan(1.6);
      }),
    );
  });

  it('end where the form does', () => {
    // two triangles of a square
    const sheet = new TriMesh(Float64Array.of(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0), Uint32Array.of(0, 1, 2, 0, 2, 3));
    const own = new Sections(sheet);
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 0.4, noNaN: true }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        (y, share) => {
          const way = own.walk({ t: 0, at: [0.9, y, 0] }, [0, 1, 0], [-1, 0, 0], 5);
          expect(lengthOf(way)).toBeCloseTo(0.9, 3);
          expect(way[way.length - 1].at[0]).toBeCloseTo(0, 9);
          // over the diagonal into the other triangle
          expect(way.map(({ t }) => t)).toEqual([0, 1, 1]);
          const place = alongWay(way, share * 0.89);
          expect(place?.[0]).toBeCloseTo(0.9 - share * 0.89, 3);
          expect(alongWay(way, 0.95)).toBeNull();
        },
      ),
    );
  });
});
