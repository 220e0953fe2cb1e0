import { expect, test } from 'vitest';
import { levelSet } from '../math';
import { cleaned } from './form/clean';
import { LAY_AS_USUAL } from './options';
import { Prepared } from './Prepared';
import { Stages } from './Stages';

type Distance = (x: number, y: number, z: number) => number;

const ball: Distance = (x, y, z) => Math.hypot(x, y, z) - 1;
/** A limb along y from one height to another, at some x. */
const rod = (at: number, from: number, to: number, radius: number): Distance => (x, y, z) =>
  Math.hypot(x - at, Math.max(0, from - y, y - to), z) - radius; // prettier-ignore
const all =
  (...parts: readonly Distance[]): Distance =>
  (x, y, z) =>
    Math.min(...parts.map((part) => part(x, y, z)));

/** What is told of a form that is made ready for so many quads. */
function told(form: Distance, faces: number): { mended: readonly string[]; parts: number; euler: number[] } {
  const [cells, reach] = [80, 1.6];
  const step = (2 * reach) / cells;
  const n = cells + 1;
  // a little off the grid's own places, as scans are
  const at = (k: number): number => step * k - reach + 0.003;
  const values = Float64Array.from({ length: n ** 3 }, (_, i) =>
    form(at(i % n), at(Math.floor(i / n) % n), at(Math.floor(i / n ** 2))),
  );
  const { positions, indices } = levelSet(values, [at(0), at(0), at(0)], [n, n, n], step);
  const [mesh] = cleaned({ positions, indices }).parts;
  const options = { ...LAY_AS_USUAL, faces, density: null, loops: null };
  const { mended, ready } = new Prepared(mesh, faces, options, new Stages());
  return { mended, parts: ready.length, euler: ready.map(({ topology }) => topology.euler) };
}

test('of a form without thin handles and necks nothing is told, however its triangles lie', () => {
  for (const faces of [60, 600]) {
    const limbs = [-0.5, -0.1, 0.3, 0.7].map((x, i) => rod(x, 0, 1.2 + 0.07 * i, 0.13));
    expect(told(all(ball, ...limbs), faces)).toEqual({ mended: [], parts: 1, euler: [2] });
  }
});

test('a handle and a neck thinner than a quad are told as closed, a crumb behind such a neck as dropped', () => {
  const ring: Distance = (x, y, z) => Math.hypot(Math.hypot(x, y - 1) - 0.3, z) - 0.055;
  expect(told(all(ball, ring), 24)).toEqual({
    mended: ['1 handle(s) thinner than 0.6 of a quad closed'],
    parts: 1,
    euler: [2],
  });
  const budded = (radius: number): Distance =>
    all(ball, rod(0, 0, 1.35, 0.04), (x, y, z) => Math.hypot(x, y - 1.35, z) - radius);
  // a part of its own is laid by itself
  expect(told(budded(0.2), 24)).toEqual({
    mended: ['1 neck(s) thinner than 0.6 of a quad closed'],
    parts: 2,
    euler: [2, 2],
  });
  expect(told(budded(0.14), 24)).toEqual({
    mended: ['1 crumb(s) behind necks thinner than 0.6 of a quad dropped'],
    parts: 1,
    euler: [2],
  });
});
