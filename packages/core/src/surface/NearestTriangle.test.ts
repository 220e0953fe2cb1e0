import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { squaredToTriangle, type Vec3 } from '../math';
import { soupFromMesh } from '../mesh';
import { ballSoup, foldedSheet, torusMesh } from '../testing';
import { sculptFromSoup } from './sculptFromSoup';
import { SculptSurface } from './SculptSurface';

const SURFACES = [ballSoup(24), foldedSheet(), soupFromMesh(torusMesh(40, 12))].map((soup) =>
  SculptSurface.build(sculptFromSoup(soup)),
);
const number = fc.double({ min: -5, max: 5, noNaN: true });
const place = fc.tuple(number, number, number);

/** By asking every triangle. */
function leastOfAll({ positions, indices }: SculptSurface, p: Vec3): number {
  let least = Infinity;
  for (let i = 0; i < indices.length; i += 3)
    least = Math.min(least, squaredToTriangle(Float64Array.from(p), 0, positions, 3 * indices[i], 3 * indices[i + 1], 3 * indices[i + 2])); // prettier-ignore
  return Math.sqrt(least);
}

describe('the nearest triangle', () => {
  it.each(SURFACES.map((surface, i) => [i, surface] as const))('of surface %i is as near as any', (_, surface) => {
    fc.assert(
      fc.property(place, (p) => {
        const { point, triangle, distance } = surface.closest(p);
        const least = leastOfAll(surface, p);
        expect(distance).toBeCloseTo(least, 6);
        expect(Math.hypot(point[0] - p[0], point[1] - p[1], point[2] - p[2])).toBeCloseTo(distance, 9);
        const own = [0, 1, 2].map((k) => 3 * surface.indices[3 * triangle + k]);
        expect(squaredToTriangle(Float64Array.from(point), 0, surface.positions, own[0], own[1], own[2])).toBeLessThan(1e-10); // prettier-ignore
      }),
      { numRuns: 60 },
    );
  });

  it('beyond a distance is told exactly, and any within it up to that', () => {
    fc.assert(
      fc.property(place, fc.double({ min: 0, max: 3, noNaN: true }), (p, near) => {
        const least = leastOfAll(SURFACES[0], p);
        const told = SURFACES[0].distanceBeyond(p, near);
        if (least > near) expect(told).toBeCloseTo(least, 6);
        else expect(told).toBeLessThanOrEqual(near + 1e-9);
        expect(told).toBeGreaterThan(least - 1e-6);
      }),
    );
  });

  it('of one triangle, and of a surface taken over from another thread, is found too', () => {
    const one = SculptSurface.build({ positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), indices: Uint32Array.of(0, 1, 2) }); // prettier-ignore
    expect(one.closest([0.25, 0.25, -2])).toMatchObject({ point: [0.25, 0.25, 0], triangle: 0, distance: 2 });
    const again = SculptSurface.fromData(structuredClone(SURFACES[2].toData()));
    for (const p of [[0, 0, 0], [3, 1, 2], [-4, 0.5, 0.1]] as const) expect(again.closest(p)).toEqual(SURFACES[2].closest(p)); // prettier-ignore
  });
});
