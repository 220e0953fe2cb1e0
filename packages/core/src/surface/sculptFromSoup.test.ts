import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { soupInfo } from '../inspect';
import { seededRng } from '../math';
import type { PolygonSoup } from '../mesh';
import { ballSoup } from '../testing';
import { GONE, sculptFromSoup } from './sculptFromSoup';
import { SculptSurface } from './SculptSurface';
import { measureSymmetry } from './symmetry';

/** The soup with points that are in no face, far out, put among its own; and which of all points are its own. */
function withLoose(soup: PolygonSoup, many: number, seed: number): { soup: PolygonSoup; own: number[] } {
  const rng = seededRng(seed);
  const count = soup.positions.length / 3;
  const own: number[] = [];
  const positions: number[] = [];
  let left = many;
  for (let v = 0; v < count; v++) {
    for (; left > 0 && rng() < 0.5; left--) positions.push(50 + rng(), 60 * rng(), -70 * rng());
    own.push(positions.length / 3);
    positions.push(...soup.positions.subarray(3 * v, 3 * v + 3));
  }
  for (; left > 0; left--) positions.push(50 + rng(), 60 * rng(), -70 * rng());
  return { soup: { ...soup, positions: Float64Array.from(positions), corners: soup.corners.map((v) => own[v]) }, own };
}

/** Triangles between places of a coarse grid: many share a place without sharing a point, some have no area. */
function crumpled(triangles: number, seed: number): PolygonSoup {
  const rng = seededRng(seed);
  const positions = Float64Array.from({ length: 9 * triangles }, () => Math.floor(4 * rng()) / 4);
  const corners = Uint32Array.from({ length: 3 * triangles }, () => Math.floor(3 * triangles * rng()));
  // one at least that has an area
  positions.set([0, 0, 0, 1, 0, 0, 0, 1, 0]);
  corners.set([0, 1, 2]);
  return { positions, faceStarts: Uint32Array.from({ length: triangles + 1 }, (_, f) => 3 * f), corners };
}

const looseOf = fc.record({
  seed: fc.nat(1e6),
  many: fc.integer({ min: 1, max: 40 }),
  triangles: fc.integer({ min: 1, max: 60 }),
});

describe('points in no face', () => {
  it('are left out, and all else is as it is without them', () => {
    fc.assert(
      fc.property(looseOf, ({ seed, many, triangles }) => {
        const shape = crumpled(triangles, seed);
        const { remap: plainly, loose: before, ...plain } = sculptFromSoup(shape);
        const { soup, own } = withLoose(shape, many, seed);
        const { remap, loose, ...sculpt } = sculptFromSoup(soup);
        expect(loose - before).toBe(many);
        expect(sculpt).toEqual(plain);
        expect(own.map((v) => remap[v])).toEqual([...plainly]);
        expect(remap.filter((v) => v === GONE)).toHaveLength(many + plainly.filter((v) => v === GONE).length);
        const { vertices, ...told } = soupInfo(soup);
        const { vertices: kept, ...without } = soupInfo(shape);
        expect(vertices).toBe(kept + many);
        expect(told).toEqual(without);
      }),
      { numRuns: 100 },
    );
  });

  it('mirror nothing and are no part of the size: a ball beside them is as symmetrical and as great', () => {
    const surface = SculptSurface.build(sculptFromSoup(withLoose(ballSoup(24), 500, 7).soup));
    expect(surface.diagonal).toBeCloseTo(2 * Math.sqrt(3), 2);
    for (const { sides, offset } of measureSymmetry(surface, seededRng(1))) {
      expect(sides).toBe('alike');
      expect(offset).toBeCloseTo(0, 2);
    }
  });
});
