import { expect, test } from 'vitest';
import { distance, type MirrorPlane } from '../../math';
import { sculptFromSoup } from '../../surface';
import { ballSoup, limbedSoup, quadsOnBall, quadsOnHalfBall } from '../../testing';
import { cleaned, type Triangles } from '../form/clean';
import { halfOf } from '../form/halve';
import { settled, type Checked } from '../mend/settled';
import { LAY_AS_USUAL } from '../options';
import { Prepared } from '../Prepared';
import { mirrored } from '../quads/mirrored';
import { eulerOf, QuadLinks } from '../quads/QuadLinks';
import { surfaceOfQuads } from '../quads/QuadSoup';
import type { Task } from '../quads/Task';
import { Stages } from '../Stages';
import { bareShare, SHORT } from './bare';
import { drawnToEnds, withLimbs } from './grow';
import { limbsBeyond, roundLimb } from './limbs';
import { reaching } from './onTheForm';
import { tentsIn } from './tents';

function taskFor(input: Triangles, faces = 600, plane: MirrorPlane | null = null): Task {
  const [mesh] = cleaned(plane ? halfOf(input, plane) : input).parts;
  const options = { ...LAY_AS_USUAL, faces, plane, density: null, loops: null };
  const prepared = new Prepared(mesh, faces, options, new Stages());
  return prepared.taskOf(prepared.ready[0], 1);
}

const onBody = (task: Task): Checked => settled(quadsOnBall(5, 0.8), task.topology, task.ground);

test('what stands out beyond quads is a limb each, as long as it is', () => {
  const task = taskFor(sculptFromSoup(limbedSoup(60)));
  const low = surfaceOfQuads(quadsOnBall(8, 0.8));
  const limbs = limbsBeyond(low, task.ground.surface, task.samples, task.size);
  expect(limbs).toHaveLength(5);
  for (const limb of limbs) {
    // from 0.8 to 2.8 off the middle; over the form, and by edges, it is further
    expect(limb.length).toBeGreaterThan(1.9);
    expect(limb.length).toBeLessThan(2.5);
    expect(distance(limb.end, [0, 0, 0])).toBeGreaterThan(2.7);
    // thinner and thinner
    const lengths = [0.3, 0.6, 0.9].map((at) => roundLimb(limb, task.ground.surface, at * limb.length)?.length ?? NaN);
    expect(lengths[0]).toBeGreaterThan(lengths[1]);
    expect(lengths[1]).toBeGreaterThan(lengths[2]);
  }
  expect(roundLimb(limbs[0], task.ground.surface, 3)).toBeNull();
});

test('limbs that have no quads grow out of the body, with eight poles each, to their ends', () => {
  const task = taskFor(sculptFromSoup(limbedSoup(60)));
  const body = onBody(task);
  expect(body.verdict.irregular).toBe(8);
  const grown = withLimbs(body, task);
  expect(grown.verdict).toMatchObject({ reasons: [], handlesLost: 0, folded: 0 });
  expect(grown.verdict.irregular).toBeGreaterThanOrEqual(4 * 5);
  expect(grown.verdict.irregular).toBeLessThanOrEqual(8 + 8 * 5);
  const drawn = drawnToEnds(grown, task);
  expect(bareShare(drawn.soup, task, SHORT)).toBe(0);
  expect(drawn.verdict.quality.least).toBeGreaterThan(0.3);
});

test('limbs grow where a point of flat quads is all that there is of them', () => {
  const task = taskFor(sculptFromSoup(limbedSoup(60)));
  const body = quadsOnBall(5, 0.8);
  const tips = limbsBeyond(surfaceOfQuads(body), task.ground.surface, task.samples, task.size).map(({ end }) => end);
  for (const tip of tips) {
    // the nearest of the points with four edges goes there
    const off = (v: number): number => distance([body.points[3 * v], body.points[3 * v + 1], body.points[3 * v + 2]], tip); // prettier-ignore
    const regular = [...body.onLine.keys()].filter((v) => new QuadLinks(body).countAt(v) === 4);
    body.points.set(tip, 3 * regular.reduce((a, b) => (off(b) < off(a) ? b : a)));
  }
  const first = settled(body, task.topology, task.ground);
  expect(tentsIn(first.soup, task.ground, task.size, null).size).toBe(5);
  const { soup, verdict } = withLimbs(first, task);
  expect(verdict).toMatchObject({ reasons: [], handlesLost: 0, folded: 0 });
  expect(tentsIn(soup, task.ground, task.size, null).size).toBe(0);
  expect(verdict.irregular).toBeGreaterThanOrEqual(4 * 5);
  expect(verdict.quality.least).toBeGreaterThan(first.verdict.quality.least);
});

test('quads of which none are left have no limbs', () => {
  const task = taskFor(sculptFromSoup(limbedSoup(30)));
  const none = { points: new Float64Array(), quads: new Int32Array(), onLine: new Int32Array() };
  const first = settled(none, task.topology, task.ground);
  expect(first.verdict.reasons).toEqual(['there is no quad']);
  expect(withLimbs(first, task)).toBe(first);
});

test('a limb with a cap goes on without more poles', () => {
  // a ball drawn out on one side, and a cube on it that ends half way
  const drawnOut = ballSoup(40);
  for (let i = 1; i < drawnOut.positions.length; i += 3) drawnOut.positions[i] *= drawnOut.positions[i] > 0 ? 6 : 1;
  const task = taskFor(sculptFromSoup(drawnOut), 24);
  const cube = quadsOnBall(1, 1);
  for (let i = 1; i < cube.points.length; i += 3) cube.points[i] *= cube.points[i] > 0 ? 6 : 1;
  const first = settled(cube, task.topology, task.ground);
  expect(first.verdict).toMatchObject({ reasons: [], irregular: 8 });
  expect(bareShare(first.soup, task, SHORT)).toBeGreaterThan(0.01);
  const { soup, verdict } = withLimbs(first, task);
  expect(verdict).toMatchObject({ reasons: [], irregular: 8 });
  // rings of four
  expect(soup.quads.length / 4).toBeGreaterThan(6);
  expect((soup.quads.length / 4 - 6) % 4).toBe(0);
  expect(bareShare(soup, task, SHORT)).toBe(0);
});

test('a limb across the mirror plane grows on with half of its rings', () => {
  // a ball drawn out along the plane, and half of one that ends half way
  const plane = { axis: 'x', offset: 0 } as const;
  const input = ballSoup(40);
  for (let i = 1; i < input.positions.length; i += 3) input.positions[i] *= input.positions[i] > 0 ? 6 : 1;
  const task = taskFor(sculptFromSoup(input), 48, plane);
  const half = quadsOnHalfBall(2, task.ground.curves.findIndex(({ isMirrored }) => isMirrored)); // prettier-ignore
  for (let i = 1; i < half.points.length; i += 3) half.points[i] *= half.points[i] > 0 ? 3 : 1;
  const first = settled(half, task.topology, task.ground);
  expect(first.verdict).toMatchObject({ reasons: [], irregular: 4 });
  expect(bareShare(first.soup, task, SHORT)).toBeGreaterThan(0.01);
  const { soup, verdict } = withLimbs(first, task);
  // a cap of two by two quads has four of the eight edges round it on each side
  expect(verdict).toMatchObject({ reasons: [], folded: 0, irregular: 4 });
  const more = (soup.quads.length - half.quads.length) / 4;
  expect(more).toBeGreaterThan(0);
  expect(more % 4).toBe(0);
  expect(bareShare(soup, task, SHORT)).toBe(0);
  // its middle is in the plane to the last bit, and the image fits on
  soup.onLine.forEach((line, v) => expect(soup.points[3 * v] === 0).toBe(line >= 0));
  const both = mirrored(soup, plane);
  const links = new QuadLinks(both);
  for (let h = 0; h < both.quads.length; h++) expect(links.isOpen(h)).toBe(false);
  expect(eulerOf(both)).toBe(2);
});

test('points reach for what sticks out by more than a quad, and leave what is nearer to what draws quads nearer', () => {
  const task = taskFor(sculptFromSoup(ballSoup(40)));
  const within = (quads: number): Checked =>
    settled(quadsOnBall(10, 1 - quads * task.size), task.topology, task.ground);
  expect(drawnToEnds(within(0.75), task).reached.size).toBe(0);
  expect(reaching(within(0.75), task).reached.size).toBeGreaterThan(0);
  expect(drawnToEnds(within(1.25), task).reached.size).toBeGreaterThan(0);
});

test('quads that reach everywhere stay as they are', () => {
  const task = taskFor(sculptFromSoup(ballSoup(40)));
  const first = settled(quadsOnBall(10, 1), task.topology, task.ground);
  expect(withLimbs(first, task)).toBe(first);
});
