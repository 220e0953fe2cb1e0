import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { sculptFromSoup } from '../../surface';
import { gearOutline, prismSoup } from '../../testing';
import { crossField } from '../field/field';
import { simplifyPoles } from '../field/poles';
import { cleaned } from '../form/clean';
import { spreadOf } from '../form/sizes';
import { nextHalf } from '../form/TriMesh';
import { LAY_AS_USUAL } from '../options';
import { Prepared } from '../Prepared';
import { Stages } from '../Stages';
import { tiedNumbers } from './closedRings';
import { Grid } from './grid';
import { seamsOf } from './seams';

const keepEdges = 30;

/** The grid of a gear, its sharp edges kept: how far from whole places the map for so many times the usual size puts its lines at worst. */
function gearGrid(teeth: number, faces: number): (by: number) => number {
  const [mesh] = cleaned(sculptFromSoup(prismSoup(gearOutline(teeth), 1.2))).parts;
  const prepared = new Prepared(mesh, faces, { ...LAY_AS_USUAL, faces, keepEdges, density: null, loops: null }, new Stages()); // prettier-ignore
  const { work, size, working, ground } = prepared.taskOf(prepared.ready[0], 1);
  const field = crossField(work, { ratio: size / working, size, followForm: 2, sizes: null, loops: null, ridges: [] });
  const index = simplifyPoles(work, field, () => size, 5, null);
  const seams = seamsOf(work, field, index);
  const spread = spreadOf(work, ground.surface, size, LAY_AS_USUAL.evenness, null, null);
  const grid = new Grid(work, field, seams, spread, null, size, []);
  return (by) => {
    const { places } = grid.solve(by * size);
    let off = 0;
    for (let h = 0; h < 3 * work.triangles; h++) {
      if (work.line[h] < 0) continue;
      const way = Math.round((2 * (field.direction[h] - seams.angle[Math.floor(h / 3)])) / Math.PI);
      for (const corner of [h, nextHalf(h)]) {
        const place = places[2 * seams.wedge[corner] + ((way & 1) === 0 ? 1 : 0)];
        off = Math.max(off, Math.abs(place - Math.round(place)));
      }
    }
    return off;
  };
}

describe('whole numbers of lines', () => {
  test('put all lines of a gear on whole places, where without ties some lay half a quad off', () => {
    const offAt = gearGrid(24, 2500);
    for (const by of [0.95, 1, 1.05, 1.1]) expect(offAt(by)).toBeLessThan(0.1);
  });

  test('fulfil each tie, and all that do are sums of what is left', () => {
    const factor = fc.integer({ min: -2, max: 2 });
    const row = fc.array(factor, { minLength: 5, maxLength: 5 });
    fc.assert(
      fc.property(fc.array(row, { maxLength: 4 }), row, (rows, by) => {
        const ties = rows.map((one) => new Map(one.map((x, i) => [i, x])));
        const basis = tiedNumbers(5, ties);
        for (const vector of basis)
          for (const one of rows) expect(one.reduce((sum, x, i) => sum + x * vector[i], 0)).toBe(0);
        expect(basis.length).toBeGreaterThanOrEqual(5 - rows.length);
        // what fulfils the ties with one more added fulfils them without
        const more = tiedNumbers(5, [...ties, new Map(by.map((x, i) => [i, x]))]);
        expect(basis.length - more.length).toBeLessThanOrEqual(1);
      }),
    );
  });
});
