import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { soupFromMesh } from '../../mesh';
import { WalkingForm } from '../../surface';
import { gridMesh, seededRng } from '../../testing';
import type { Ground } from '../lines/ground';
import { foldedIn } from '../quads/QuadCheck';
import { eulerOf } from '../quads/QuadLinks';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { foldsMended } from './mendFolds';
import { faultsOf } from './mendQuads';

const N = 12;

/** A flat grid of quads whose rim stays, its ground, and what is asked of it. */
function sheet(): { soup: QuadSoup; ground: Ground } {
  const { positions, corners } = soupFromMesh(gridMesh(N, N));
  const points = Float64Array.from(positions);
  const isRim = (x: number): boolean => x === 0 || x === N;
  const onLine = Int32Array.from({ length: points.length / 3 }, (_, v) => (isRim(points[3 * v]) || isRim(points[3 * v + 1]) ? -2 : -1)); // prettier-ignore
  const soup = { points, quads: Int32Array.from(corners), onLine };
  const surface = surfaceOfQuads(soup);
  const rim = Float64Array.from([0, 0, 0, N, 0, 0, N, N, 0, 0, N, 0, 0, 0, 0]);
  const form = new WalkingForm(surface);
  return { soup, ground: { surface, curves: [{ points: rim, isBorder: true, isDrawn: false, isMirrored: false }], forms: [form, form], density: null } }; // prettier-ignore
}

describe('folded quads', () => {
  it('open, and what hangs together stays so, over seeded places', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const { soup, ground } = sheet();
        const rng = seededRng(seed);
        const v = pointAt(soup, 3 + Math.floor(7 * rng()), 3 + Math.floor(7 * rng()));
        // beyond the next point but one
        soup.points[3 * v] += 1.3 + 0.6 * rng();
        soup.points[3 * v + 1] += rng() - 0.5;
        expect(foldedIn(soup, ground.forms).length).toBeGreaterThan(0);
        const made = foldsMended(soup, ground);
        expect(foldedIn(made, ground.forms)).toEqual([]);
        expect(faultsOf(made, ground.curves)).toEqual([]);
        expect(eulerOf(made)).toBe(1);
      }),
      { numRuns: 30 },
    );
  });

  it('are filled anew where moving points is not enough, all else hanging together as before', () => {
    const { soup, ground } = sheet();
    // three corners of one quad in a row, and held there: no move of the others opens it
    const [a, b, c] = [pointAt(soup, 5, 6), pointAt(soup, 6, 6), pointAt(soup, 6, 5)];
    for (const v of [a, b, c]) soup.onLine[v] = -2;
    soup.points.set([6.5, 6, 0], 3 * c);
    expect(foldedIn(soup, ground.forms).length).toBeGreaterThan(0);
    const made = foldsMended(soup, ground);
    expect(foldedIn(made, ground.forms)).toEqual([]);
    expect(faultsOf(made, ground.curves)).toEqual([]);
    expect(eulerOf(made)).toBe(1);
    expect([...made.quads].join()).not.toBe([...soup.quads].join());
  });

  it('where there are none, and no poor corners, all stays as it is', () => {
    const { soup, ground } = sheet();
    expect(foldsMended(soup, ground)).toEqual(soup);
  });
});

const pointAt = ({ points, onLine }: QuadSoup, x: number, y: number): number => [...onLine.keys()].find((v) => points[3 * v] === x && points[3 * v + 1] === y) as number; // prettier-ignore
