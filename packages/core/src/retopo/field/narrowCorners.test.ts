import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { sculptFromSoup } from '../../surface';
import { prismSoup, starOutline } from '../../testing';
import { cleaned } from '../form/clean';
import type { TriMesh } from '../form/TriMesh';
import { LAY_AS_USUAL } from '../options';
import { Prepared } from '../Prepared';
import { Stages } from '../Stages';
import { crossField, type CrossField } from './field';
import { flatSectors } from './narrowCorners';
import { simplifyPoles } from './poles';

/** The working mesh of a prism, its sharp edges lines; its crosses, and the edge length of quads. */
function crossed(outline: readonly (readonly [number, number])[]): { work: TriMesh; field: CrossField; size: number } {
  const asked = { ...LAY_AS_USUAL, faces: 300, keepEdges: 30, density: null, loops: null };
  const [mesh] = cleaned(sculptFromSoup(prismSoup(outline, 0.4))).parts;
  const prepared = new Prepared(mesh, 300, asked, new Stages());
  const { work, size, working } = prepared.taskOf(prepared.ready[0], 1);
  const field = crossField(work, { ratio: size / working, size, followForm: 2, sizes: null, loops: null, ridges: [] });
  return { work, field, size };
}

/** A wedge, its tip at the left. */
const wedge = (degrees: number): [number, number][] => [[0, 0], [2, 0], [2, 2 * Math.tan((degrees * Math.PI) / 180)]]; // prettier-ignore

describe('a corner of lines', () => {
  test('has no quad of its own by the smoothest crosses where it is narrower than half a right angle', () => {
    for (const [degrees, flat] of [[20, 2], [35, 2], [55, 0]]) {
      const { work, field } = crossed(wedge(degrees));
      const found = flatSectors(work, field);
      // at both ends of the thin edge; at 55 degrees those at its other end are narrow
      const atTip = found.filter(({ v }) => Math.abs(work.points[3 * v]) < 1e-6 && Math.abs(work.points[3 * v + 1]) < 1e-6); // prettier-ignore
      expect(atTip).toHaveLength(flat);
      for (const { quads, inner } of atTip) {
        expect(quads).toBeCloseTo(0);
        expect(inner.length).toBeGreaterThan(0);
      }
    }
  }); // prettier-ignore

  test('has one in the end, a pole a little inside for it, and all poles still make up for the form', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 9 }), fc.double({ min: 0.3, max: 0.8, noNaN: true }), (tips, inner) => {
        const { work, field, size } = crossed(starOutline(tips, inner));
        const index = simplifyPoles(work, field, () => size, 5, null);
        expect(flatSectors(work, field)).toEqual([]);
        // Poincaré and Hopf: two for a closed form without handles, in quarters
        expect(index.reduce((sum, x) => sum + x, 0)).toBe(8);
      }),
      { numRuns: 8 },
    );
  });
});
