import fc from 'fast-check';
import { expect, test } from 'vitest';
import { soupFromMesh } from '../../mesh';
import { seededRng } from '../../math';
import { SculptSurface, sculptFromSoup } from '../../surface';
import { tubeMesh } from '../../testing';
import type { QuadSoup } from '../quads/QuadSoup';
import { nearer } from './nearer';
import { Turns } from './Turns';

const RINGS = 20;
const ROUND = 4;
/** Points begin turned aside by half of this at most, radians. */
const ASKEW = 0.3;

/** A tube whose rings are turned by so much each, radians, with some quads round it. */
function tube(turnOf: (ring: number) => number, round = ROUND): QuadSoup {
  const { positions, corners } = soupFromMesh(tubeMesh(round, RINGS, 1, 0.5));
  const points = Float64Array.from(positions);
  for (let v = 0; v < points.length / 3; v++) {
    const by = ((v % round) * 2 * Math.PI) / round + turnOf(Math.floor(v / round));
    points[3 * v] = Math.cos(by);
    points[3 * v + 2] = -Math.sin(by);
  }
  return { points, quads: Int32Array.from(corners), onLine: new Int32Array(points.length / 3).fill(-1) };
}

const costs = ({ onLine }: QuadSoup, turns: Turns): number => onLine.reduce((sum, _, v) => sum + turns.cost(v), 0);

test('rings turned more and more one way cost nothing, nor does what was there; one turned aside does, the more the further', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -0.02, max: 0.02, noNaN: true }),
      fc.double({ min: 0.15, max: 0.4, noNaN: true }),
      fc.integer({ min: 3, max: RINGS - 3 }),
      (bow, by, ring) => {
        const soup = tube(() => 0);
        const normals = soup.points.map((x, i) => (i % 3 === 1 ? 0 : x));
        const turns = new Turns(soup, normals);
        soup.points.set(tube((j) => bow * (j - RINGS / 2) ** 2).points);
        expect(costs(soup, turns)).toBeCloseTo(0, 12);
        const putAside = (far: number): number => {
          soup.points.set(tube((j) => (j === ring ? far : 0)).points);
          return turns.cost(ROUND * ring);
        };
        const near = putAside(by);
        expect(near).toBeGreaterThan(0);
        expect(putAside(by + 0.05)).toBeGreaterThan(near);
        expect(costs(soup, new Turns(soup, normals))).toBe(0);
        // with more quads round it is no slender limb
        const thick = tube(() => 0, 8);
        const free = new Turns(
          thick,
          thick.points.map((x, i) => (i % 3 === 1 ? 0 : x)),
        );
        thick.points.set(tube((j) => (j === ring ? by : 0), 8).points);
        expect(costs(thick, free)).toBe(0);
      },
    ),
    { numRuns: 50 },
  );
});

test('a tube with four quads round it comes nearer to its form without its rings turning one way and back', () => {
  const form = SculptSurface.build(sculptFromSoup(soupFromMesh(tubeMesh(96, RINGS, 1, 0.5))));
  const isEnd = (v: number): boolean => v < ROUND || v >= ROUND * RINGS;
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e6 }), (seed) => {
      const { positions, corners } = soupFromMesh(tubeMesh(ROUND, RINGS, 1, 0.5));
      const soup: QuadSoup = {
        points: Float64Array.from(positions),
        quads: Int32Array.from(corners),
        onLine: Int32Array.from({ length: positions.length / 3 }, (_, v) => (isEnd(v) ? -2 : -1)),
      };
      const rng = seededRng(seed);
      for (const v of soup.onLine.keys()) {
        if (isEnd(v)) continue;
        const by = ((v % ROUND) * 2 * Math.PI) / ROUND + ASKEW * (rng() - 0.5);
        soup.points[3 * v] = Math.cos(by);
        soup.points[3 * v + 2] = -Math.sin(by);
      }
      /** by how much a point is turned round the tube against those before and behind it, radians */
      const against = (v: number): number => {
        const angle = (w: number): number => Math.atan2(-soup.points[3 * w + 2], soup.points[3 * w]);
        const from = (w: number): number => Math.atan2(Math.sin(angle(v) - angle(w)), Math.cos(angle(v) - angle(w)));
        return isEnd(v) ? 0 : Math.abs(from(v - ROUND) + from(v + ROUND)) / 2;
      };
      const mean = (): number =>
        Math.sqrt(soup.onLine.reduce((sum, _, v) => sum + against(v) ** 2, 0) / soup.onLine.length);
      expect(nearer(soup, { curves: [], surface: form }, 0.6).size).toBeGreaterThan(0);
      // they begin at .08 to .125, and came to .137 to .2 without what this is about
      expect(mean()).toBeLessThan(0.125);
    }),
    { numRuns: 8 },
  );
});
