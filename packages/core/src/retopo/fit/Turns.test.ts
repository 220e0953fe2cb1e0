import fc from 'fast-check';
import { expect, test } from 'vitest';
import { soupFromMesh } from '../../mesh';
import { seededRng } from '../../math';
import { SculptSurface, sculptFromSoup } from '../../surface';
import { tubeMesh } from '../../testing';
import type { QuadSoup } from '../quads/QuadSoup';
import { nearer } from './nearer';
import { ownNormals } from './relax';
import { Turns } from './Turns';

const SIDE = 6;
const MIDDLE = (SIDE / 2) * (SIDE + 1) + SIDE / 2;

/** Quads in a plane, rows of them bent by so much; their border is free, too. */
function sheet(bend = 0): QuadSoup {
  const points: number[] = [];
  const quads: number[] = [];
  for (let j = 0; j <= SIDE; j++)
    for (let i = 0; i <= SIDE; i++) {
      points.push(i, j + bend * (i - SIDE / 2) ** 2, 0);
      const v = j * (SIDE + 1) + i;
      if (i < SIDE && j < SIDE) quads.push(v, v + 1, v + SIDE + 2, v + SIDE + 1);
    }
  return {
    points: Float64Array.from(points),
    quads: Int32Array.from(quads),
    onLine: new Int32Array(points.length / 3).fill(-1),
  };
}

const costs = ({ onLine }: QuadSoup, turns: Turns): number => onLine.reduce((sum, _, v) => sum + turns.cost(v), 0);

test('loops bent one way cost nothing, nor does what was there; a point put aside does, the more the further', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -0.2, max: 0.2, noNaN: true }),
      fc.double({ min: 0.3, max: 0.6, noNaN: true }),
      fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
      (bend, by, way) => {
        const soup = sheet();
        const turns = new Turns(soup, ownNormals(soup));
        soup.points.set(sheet(bend).points);
        expect(costs(soup, turns)).toBe(0);
        const at = sheet().points;
        const putAside = (far: number): number => {
          soup.points.set(at);
          soup.points[3 * MIDDLE] += far * Math.cos(way);
          soup.points[3 * MIDDLE + 1] += far * Math.sin(way);
          return turns.cost(MIDDLE);
        };
        const near = putAside(by);
        expect(near).toBeGreaterThan(0);
        expect(putAside(by + 0.1)).toBeGreaterThan(near);
        expect(costs(soup, new Turns(soup, ownNormals(soup)))).toBe(0);
      },
    ),
    { numRuns: 50 },
  );
});

const RINGS = 20;
const ROUND = 4;
/** Points begin turned aside by half of this at most, radians. */
const ASKEW = 0.3;

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
