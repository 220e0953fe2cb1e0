import { expect, test } from 'vitest';
import type { MirrorPlane } from '../../math';
import { sculptFromSoup } from '../../surface';
import { ballSoup, wildShape } from '../../testing';
import { cleaned } from '../form/clean';
import { halfOf } from '../form/halve';
import type { TriMesh } from '../form/TriMesh';
import { LAY_AS_USUAL } from '../options';
import { Prepared } from '../Prepared';
import type { Task } from '../quads/Task';
import { Stages } from '../Stages';
import { crossField, turnsAt, type CrossField } from './field';
import { simplifyPoles } from './poles';

const plane: MirrorPlane = { axis: 'x', offset: 0 };
const FACES = 400;
const SIZE = 0.2;

const sum = (all: Iterable<number>): number => [...all].reduce((a, b) => a + b, 0);

/** One half of a ball with a spike in the mirror plane. */
function spikedHalf(): TriMesh {
  const { positions, indices } = sculptFromSoup(ballSoup(40));
  const spiked = Float64Array.from(positions);
  for (let v = 0; v < spiked.length; v += 3) {
    const far = 1 + 3 * Math.exp(-90 * (1 - spiked[v + 1]));
    for (let k = 0; k < 3; k++) spiked[v + k] *= far;
  }
  const [half] = cleaned(halfOf({ positions: spiked, indices }, plane)).parts;
  return taskOf(half, plane).work;
}

function taskOf(mesh: TriMesh, across: MirrorPlane | null): Task {
  const prepared = new Prepared(mesh, FACES, { ...LAY_AS_USUAL, faces: FACES, plane: across, density: null, loops: null }, new Stages()); // prettier-ignore
  return prepared.taskOf(prepared.ready[0], 1);
}

const made = (work: TriMesh): CrossField => crossField(work, { ratio: 2, size: SIZE, followForm: 1, sizes: null, loops: null, ridges: [] }); // prettier-ignore

test('of the working mesh no edge runs across the mirror plane, where it would be its own image', () => {
  const work = spikedHalf();
  const isOn = (v: number): boolean => work.points[3 * v] === 0;
  const inner = Array.from({ length: 3 * work.triangles }, (_, h) => h).filter((h) => work.twin[h] >= 0);
  expect(inner.filter((h) => isOn(work.from[h]) && isOn(work.to(h)))).toEqual([]);
});

test('the border in the mirror plane turns nowhere: what turns it at a tip stands off it', () => {
  const work = spikedHalf();
  const border = Array.from({ length: work.vertices }, (_, v) => v).filter((v) => work.isBorder(v));
  const [as, off] = [made(work), made(work)];
  const turnsOf = (field: CrossField): number[] => border.map((v) => turnsAt(work, field, v));
  const asIndex = simplifyPoles(work, as, () => SIZE, 3, null);
  const offIndex = simplifyPoles(work, off, () => SIZE, 3, plane);
  // the tip is sharp enough to be a corner, were the plane a border like others
  expect(turnsOf(as).filter((n) => n !== 0).length).toBeGreaterThan(0);
  expect(turnsOf(off).filter((n) => n !== 0)).toEqual([]);
  // a disc has four quarters in all, wherever they stand
  expect(sum(asIndex) + sum(turnsOf(as))).toBe(4);
  expect(sum(offIndex)).toBe(4);
});

test.each([3, 12])('crosses along the bends of wild shape %i stay along them when poles go', (seed) => {
  const { work } = taskOf(cleaned(wildShape(seed)).parts[0], null);
  /** How many poles there are, and by how much crosses that the form holds turn, on the mean, radians. */
  const turned = (isHeld: boolean, near: number): { poles: number; by: number } => {
    const field = made(work);
    const [before, held] = [field.angle.slice(), field.held.slice()];
    if (!isHeld) field.held.fill(0);
    const index = simplifyPoles(work, field, () => SIZE, near, null);
    const quarter = Math.PI / 2;
    const by = field.angle.map((x, t) => Math.abs(x - before[t] - quarter * Math.round((x - before[t]) / quarter)));
    return { poles: index.filter((n) => n !== 0).length, by: sum(by.map((x, t) => x * held[t])) / sum(held) };
  };
  const [free, held] = [turned(false, 8), turned(true, 8)];
  expect(free.poles).toBe(held.poles);
  expect(held.poles).toBeLessThan(0.6 * turned(true, 0).poles);
  // free, they turn by fifteen degrees and more to where they are smoothest
  expect(held.by).toBeLessThan(0.75 * free.by);
});
