import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isOnPlane, seededRng, type MirrorPlane, type Vec3 } from '../../math';
import { cleaned } from '../form/clean';
import type { TriMesh } from '../form/TriMesh';
import { markLines, placesIn } from './lines';
import { planeEnds } from './planeEnds';

const N = 40;
const plane: MirrorPlane = { axis: 'x', offset: 0 };

/** A sheet of N × N cells from the plane on, two triangles each, without the cells, or the halves of cells, that are gone. */
function sheetWithout(isGone: (x: number, y: number, half: number) => boolean): TriMesh {
  const points = new Float64Array(3 * (N + 1) ** 2);
  for (let y = 0; y <= N; y++) for (let x = 0; x <= N; x++) points.set([x, y, 0], 3 * (y * (N + 1) + x));
  const corners: number[] = [];
  for (let y = 0; y < N; y++)
    for (let x = 0; x < N; x++) {
      const a = y * (N + 1) + x;
      if (!isGone(x, y, 0)) corners.push(a, a + 1, a + N + 2);
      if (!isGone(x, y, 1)) corners.push(a, a + N + 2, a + N + 1);
    }
  return cleaned({ positions: points, indices: Uint32Array.from(corners) }).parts[0];
}
const placesOf = ({ points }: TriMesh, vertices: readonly number[]): string[] =>
  vertices.map((v) => points.subarray(3 * v, 3 * v + 3).join(' ')).sort();

const openings = fc.record({
  seed: fc.nat(1e6),
  from: fc.integer({ min: 6, max: 14 }),
  high: fc.integer({ min: 8, max: 18 }),
  wide: fc.integer({ min: 4, max: 20 }),
  share: fc.constantFrom(0, 0.3),
});

describe('where an opening crosses the mirror plane', () => {
  it('its rim ends in corners on the plane, whatever its teeth, and what lies in the plane is told from it', () => {
    fc.assert(
      fc.property(openings, ({ seed, from, high, wide, share }) => {
        const rng = seededRng(seed);
        const middle = from + high / 2;
        // an ellipse of whole cells, whose rim has lost every third triangle, or none
        const teeth = new Map<string, boolean>();
        const isTooth = (key: string): boolean => teeth.get(key) ?? (teeth.set(key, rng() < share), teeth.get(key) as boolean); // prettier-ignore
        const off = (x: number, y: number): number => ((x + 0.5) / wide) ** 2 + ((y + 0.5 - middle) / (high / 2)) ** 2;
        const mesh = sheetWithout((x, y, half) => off(x, y) < 1 || (off(x, y) < 1.4 && isTooth(`${x} ${y} ${half}`)));
        const size = 3;
        const { curves, corners } = markLines(mesh, null, 4 * size, () => undefined, plane);
        const ends = planeEnds(mesh, plane, size);
        // the sheet's own border ends on the plane as well
        expect(ends).toHaveLength(4);
        for (const v of ends) {
          expect(corners[v]).toBe(1);
          expect(mesh.points[3 * v]).toBe(0);
        }
        const ys = ends.map((v) => mesh.points[3 * v + 1]).sort((a, b) => a - b);
        expect([ys[0], ys[3]]).toEqual([0, N]);
        expect(ys[1]).toBeLessThanOrEqual(middle - 1);
        expect(ys[2]).toBeGreaterThanOrEqual(middle + 1);
        const isIn = (at: Vec3): boolean => isOnPlane(at, plane);
        for (const { points, isMirrored } of curves) expect(isMirrored).toBe(placesIn(points).every(isIn));
        const inPlane = curves.filter(({ isMirrored }) => isMirrored).reduce((sum, { points }) => sum + Math.abs(points[points.length - 2] - points[1]), 0); // prettier-ignore
        // teeth may dent what lies in the plane
        if (share === 0) expect(inPlane).toBe(ys[1] + N - ys[2]);
        else expect(inPlane).toBeLessThanOrEqual(ys[1] + N - ys[2]);
      }),
      { numRuns: 60 },
    );
  });

  it('a dent shorter than two quads ends nothing, nor does a touch of less than half of one', () => {
    const size = 6;
    const dented = sheetWithout((x, y) => x === 0 && y >= 20 && y < 23);
    expect(placesOf(dented, planeEnds(dented, plane, size))).toEqual(['0 0 0', `0 ${N} 0`]);
    const touching = sheetWithout((x, y) => x < 8 && y >= 10 && y < 30 && y !== 20 && y !== 21);
    expect(placesOf(touching, planeEnds(touching, plane, size))).toEqual(['0 0 0', '0 10 0', '0 30 0', `0 ${N} 0`]);
    expect(planeEnds(touching, plane, 3)).toHaveLength(6);
  });

  it('there are none where all of a border lies in the plane, or none of it', () => {
    const flat = sheetWithout(() => false);
    expect(planeEnds(flat, { axis: 'z', offset: 0 }, 3)).toEqual([]);
    expect(planeEnds(flat, { axis: 'x', offset: -1 }, 3)).toEqual([]);
  });
});
