import { expect, test } from 'vitest';
import type { MirrorPlane } from '../math';
import { sculptFromSoup } from '../surface';
import { ballSoup } from '../testing';
import { cleaned } from './clean';
import { crossField, turnsAt } from './field';
import { halfOf } from './halve';
import { LAY_AS_USUAL } from './options';
import { simplifyPoles } from './poles';
import { Prepared } from './Prepared';
import { Stages } from './Stages';
import type { TriMesh } from './TriMesh';

const plane: MirrorPlane = { axis: 'x', offset: 0 };
const FACES = 400;

/** One half of a ball with a spike in the mirror plane. */
function spikedHalf(): TriMesh {
  const { positions, indices } = sculptFromSoup(ballSoup(40));
  const spiked = Float64Array.from(positions);
  for (let v = 0; v < spiked.length; v += 3) {
    const far = 1 + 3 * Math.exp(-90 * (1 - spiked[v + 1]));
    for (let k = 0; k < 3; k++) spiked[v + k] *= far;
  }
  const [half] = cleaned(halfOf({ positions: spiked, indices }, plane)).parts;
  const prepared = new Prepared(half, FACES, { ...LAY_AS_USUAL, faces: FACES, plane, density: null, loops: null }, new Stages()); // prettier-ignore
  return prepared.taskOf(prepared.ready[0], 1).work;
}

test('of the working mesh no edge runs across the mirror plane, where it would be its own image', () => {
  const work = spikedHalf();
  const isOn = (v: number): boolean => work.points[3 * v] === 0;
  const inner = Array.from({ length: 3 * work.triangles }, (_, h) => h).filter((h) => work.twin[h] >= 0);
  expect(inner.filter((h) => isOn(work.from[h]) && isOn(work.to(h)))).toEqual([]);
});

const sum = (all: Iterable<number>): number => [...all].reduce((a, b) => a + b, 0);

test('the border in the mirror plane turns nowhere: what turns it at a tip stands off it', () => {
  const work = spikedHalf();
  const made = (): ReturnType<typeof crossField> => crossField(work, { ratio: 2, size: 0.2, followForm: 1, sizes: null, loops: null }); // prettier-ignore
  const border = Array.from({ length: work.vertices }, (_, v) => v).filter((v) => work.isBorder(v));
  const [as, off] = [made(), made()];
  const turnsOf = (field: typeof as): number[] => border.map((v) => turnsAt(work, field, v));
  const asIndex = simplifyPoles(work, as, () => 0.2, 3, null);
  const offIndex = simplifyPoles(work, off, () => 0.2, 3, plane);
  // the tip is sharp enough to be a corner, were the plane a border like others
  expect(turnsOf(as).filter((n) => n !== 0).length).toBeGreaterThan(0);
  expect(turnsOf(off).filter((n) => n !== 0)).toEqual([]);
  // a disc has four quarters in all, wherever they stand
  expect(sum(asIndex) + sum(turnsOf(as))).toBe(4);
  expect(sum(offIndex)).toBe(4);
});
