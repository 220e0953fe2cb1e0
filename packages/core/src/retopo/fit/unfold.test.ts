import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import { soupFromMesh } from '../../mesh';
import { gridMesh } from '../../testing';
import { foldedIn, qualityOf } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';
import { unfold } from './unfold';

const N = 6;
const PLANE = { axis: 'x', offset: 0 } as const;

function sheet(): QuadSoup {
  const { positions, corners } = soupFromMesh(gridMesh(N, N));
  return { points: Float64Array.from(positions), quads: Int32Array.from(corners), onLine: new Int32Array(positions.length / 3).fill(-1) }; // prettier-ignore
}

test('quads folded by points that went astray come out sound; points on the plane stay on it and others beyond it', () => {
  fc.assert(
    fc.property(fc.integer(), fc.integer({ min: 1, max: 4 }), (seed, many) => {
      const rng = seededRng(seed);
      const soup = sheet();
      const { points: p } = soup;
      for (let i = 0; i < many; i++) {
        const v = Math.floor(rng() * soup.onLine.length);
        // across a neighbour, or just short of it
        for (let k = 0; k < 2; k++) if (k !== 0 || p[3 * v] !== 0) p[3 * v + k] = Math.max(k === 0 ? 0.01 : -2, p[3 * v + k] + 2.2 * (rng() - 0.5)); // prettier-ignore
      }
      const onPlane = [...soup.onLine.keys()].filter((v) => p[3 * v] === 0);
      const before = p.slice();
      const had = foldedIn(soup, []).length;
      expect(unfold(soup, PLANE)).toBe(0);
      expect(foldedIn(soup, [])).toEqual([]);
      if (had === 0) expect(p).toEqual(before);
      for (const v of soup.onLine.keys()) {
        if (onPlane.includes(v)) expect(p[3 * v]).toBe(0);
        else expect(p[3 * v]).toBeGreaterThan(0);
      }
    }),
    { numRuns: 60, examples: [[1445833480, 3]] },
  );
});

test('a quad without area on the plane is opened in the plane', () => {
  const soup: QuadSoup = {
    points: Float64Array.from([0, 0, 0, 0, 1, 0, 0, 2, 0, 0, 3, 0]),
    quads: Int32Array.from([0, 1, 2, 3]),
    onLine: new Int32Array(4).fill(-1),
  };
  expect(foldedIn(soup, [])).toEqual([0]);
  expect(unfold(soup, PLANE)).toBe(0);
  expect(soup.points.every((x, i) => i % 3 !== 0 || x === 0)).toBe(true);
  expect(qualityOf(soup.points, soup.quads).quality.least).toBeGreaterThan(0);
});
