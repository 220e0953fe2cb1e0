import fc from 'fast-check';
import { expect, test } from 'vitest';
import { levelSet, seededRng, type Vec3 } from '../../math';
import { SculptSurface, sculptFromSoup } from '../../surface';
import { ballSoup, limbedSoup } from '../../testing';
import { crossField } from '../field/field';
import { simplifyPoles } from '../field/poles';
import { cleaned, type Triangles } from '../form/clean';
import { gridFor } from '../gridFor';
import { layAll } from '../layAll';
import type { DrawnLine } from '../lines/drawn';
import { LAY_AS_USUAL } from '../options';
import { Prepared } from '../Prepared';
import { roundsOf } from '../quads/spirals';
import { Stages } from '../Stages';
import { closingNumbers, tiedNumbers } from './closedRings';
import { Grid } from './grid';
import { polePairs, type PolePair } from './polePairs';
import { ringsOf, type Ring } from './rings';
import { seamsOf } from './seams';

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number =>
  Array.from(a).reduce((sum, x, i) => sum + x * b[i], 0);

/** A form's rings, poles beside each other, and the whole numbers for so many quads on it. */
function ringsAndNumbers(input: Triangles, faces: number): { rings: Ring[]; pairs: PolePair[]; whole: Int32Array } {
  const [mesh] = cleaned(input).parts;
  const prepared = new Prepared(mesh, faces, { ...LAY_AS_USUAL, faces, density: null, loops: null }, new Stages());
  const { work, size, working } = prepared.taskOf(prepared.ready[0], 1);
  const field = crossField(work, { ratio: size / working, size, followForm: 2, sizes: null, loops: null, ridges: [] });
  const seams = seamsOf(
    work,
    field,
    simplifyPoles(work, field, () => size, 5, null),
  );
  const grid = new Grid(work, field, seams, new Float64Array(work.triangles).fill(1), null, size, []);
  const { whole } = gridFor(grid, faces, size);
  const wanted = new Float64Array(work.triangles).fill(size);
  return { rings: ringsOf(work, field, seams, wanted, grid.numbers), pairs: polePairs(work, seams, wanted, grid.numbers), whole }; // prettier-ignore
}

test('a form with limbs has a ring round each, and the numbers close them', () => {
  const { rings, whole } = ringsAndNumbers(sculptFromSoup(limbedSoup(50)), 900);
  // a limb is no more than some quads round, and longer than that
  const limbs = rings.filter(({ round, quads }) => {
    const length = Math.abs(dot(round, whole));
    return length < 20 && quads > 0.4 * length ** 2;
  });
  expect(limbs.length).toBeGreaterThanOrEqual(5);
  for (const { round, missed } of limbs) {
    expect(dot(missed, whole)).toBe(0);
    // and has four sides
    expect(Math.abs(dot(round, whole))).toBeGreaterThanOrEqual(4);
  }
});

/** Three by three bars each of three ways: 28 handles. */
function frameOfBars(): Triangles {
  const [cells, reach, thick] = [48, 1.1, 0.15];
  const step = (2 * reach) / cells;
  const bars = [-0.8, 0, 0.8];
  const toBar = (x: number): number => Math.min(...bars.map((bar) => Math.abs(x - bar)));
  // so far beyond the ends of a bar along it, and off its axis
  const off = (x: number, y: number, z: number): number =>
    Math.hypot(Math.max(0, Math.abs(x) - 0.8), toBar(y), toBar(z));
  const values = Float64Array.from({ length: (cells + 1) ** 3 }, (_, i) => {
    const [x, y, z] = [i, i / (cells + 1), i / (cells + 1) ** 2].map(
      (n) => step * (Math.floor(n) % (cells + 1)) - reach,
    );
    return Math.min(off(x, y, z), off(y, z, x), off(z, x, y)) - thick + 1e-6;
  });
  return levelSet(values, [-reach, -reach, -reach], [cells + 1, cells + 1, cells + 1], step);
}

test('rings round the bars of a frame of many handles close, too', () => {
  const { rings, whole } = ringsAndNumbers(frameOfBars(), 1500);
  expect(whole.length).toBeGreaterThan(400);
  const wide = rings.filter(({ round, quads }) => quads > 0.5 * Math.abs(dot(round, whole)) ** 2);
  expect(wide.length).toBeGreaterThan(15);
  const quadsIn = (some: readonly Ring[]): number => some.reduce((sum, { quads }) => sum + quads, 0);
  const closed = wide.filter(({ missed }) => dot(missed, whole) === 0);
  expect(quadsIn(closed)).toBeGreaterThan(0.9 * quadsIn(wide));
  for (const { round } of wide) expect(Math.abs(dot(round, whole))).toBeGreaterThanOrEqual(4);
});

test('four quads go round a strand that is thinner than they are long, and the poles at its ends are apart', () => {
  const strand = sculptFromSoup(ballSoup(40));
  for (let i = 0; i < strand.positions.length; i++) strand.positions[i] *= i % 3 === 2 ? 3 : 0.2;
  const { rings, pairs, whole } = ringsAndNumbers(strand, 60);
  const round = rings.map((ring) => Math.abs(dot(ring.round, whole)));
  expect(Math.min(...round)).toBe(4);
  // of the four poles at either end each two, none onto each other
  const apart = pairs.map(({ re, im }) => Math.max(Math.abs(dot(re, whole)), Math.abs(dot(im, whole))));
  expect(apart).toHaveLength(12);
  expect(Math.min(...apart)).toBe(1);
});

test('a ball has rings three ways, and poles far from each other', () => {
  const { rings, pairs, whole } = ringsAndNumbers(sculptFromSoup(ballSoup(40)), 600);
  expect(pairs).toEqual([]);
  const main = rings.slice(0, 3);
  expect(main).toHaveLength(3);
  for (const { round, quads } of main) {
    // a cube of 10 × 10 quads a side is 40 round; it need not be one as long as wide
    expect(Math.abs(dot(round, whole))).toBeGreaterThanOrEqual(34);
    expect(Math.abs(dot(round, whole))).toBeLessThanOrEqual(46);
    expect(quads).toBeGreaterThan(100);
  }
});

/** A closed line round the middle of a form, askew to all its limbs. */
function guideRound(form: SculptSurface): DrawnLine {
  const points = Array.from({ length: 40 }, (_, i): Vec3 => {
    const [c, s] = [Math.cos((Math.PI * i) / 20), Math.sin((Math.PI * i) / 20)];
    return form.closest([0.9 * c, 0.9 * s, 0.2 * c + 0.3 * s]).point;
  });
  return { points, closed: true };
}

test.each(['alone', 'beside a guide'])('limbs that are laid have rings round them, and no spirals: %s', (what) => {
  const faces = 500;
  const form = sculptFromSoup(limbedSoup(50));
  const lines = what === 'alone' ? [] : [guideRound(SculptSurface.build(form))];
  const { soup } = layAll(form, { ...LAY_AS_USUAL, faces, lines });
  const { closed, spiral } = roundsOf(soup);
  expect(closed).toBeGreaterThan(faces / 2);
  expect(spiral).toBe(0);
});

/** An open tube so many quads round, on which rings come back some rows off. */
function screw(sides: number, rows: number, off: number): ReturnType<typeof roundsOf> {
  const quads: number[] = [];
  // row by row, one below the other at the seam
  const at = (i: number, j: number): number => (i === sides ? (j + off) * sides : j * sides + i);
  for (let j = 0; j + 1 < rows - off; j++)
    for (let i = 0; i < sides; i++) quads.push(at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1));
  const points = sides * rows;
  return roundsOf({ points: new Float64Array(3 * points), quads: Int32Array.from(quads), onLine: new Int32Array(points).fill(-1) }); // prettier-ignore
}

test('strips round a tube end where they began; on a screw they come back beside it', () => {
  expect(screw(6, 40, 0)).toEqual({ closed: 39 * 6, spiral: 0 });
  for (const off of [1, 2]) {
    const { closed, spiral } = screw(6, 40, off);
    expect(closed).toBe(0);
    // all but those that leave by an end within their first round
    expect(spiral).toBeGreaterThanOrEqual((39 - 3 * off) * 6);
  }
});

const factor = fc.integer({ min: -2, max: 2 });

test('of all whole numbers those under which rings close are kept, and no others', () => {
  fc.assert(
    fc.property(
      fc.array(fc.array(factor, { minLength: 4, maxLength: 4 }), { minLength: 1, maxLength: 3 }),
      fc.integer(),
      (rows, seed) => {
        // long rings that miss their start by nothing, whatever the numbers are
        const best = new Float64Array(4);
        const rings = rows.map((missed): Ring => ({ round: new Int32Array(4), missed: Int32Array.from(missed), quads: 1 })); // prettier-ignore
        const basis = closingNumbers(tiedNumbers(4, []), rings, best);
        for (const row of basis) for (const missed of rows) expect(dot(row, missed)).toBe(0);
        // every small one that closes them all is a sum of the basis with whole factors
        const rng = seededRng(seed);
        for (let n = 0; n < 200; n++) {
          const z = Array.from({ length: 4 }, () => Math.floor(7 * rng()) - 3);
          if (rows.some((missed) => dot(z, missed) !== 0)) continue;
          for (const by of factorsOf(z, basis)) expect(by).toBeCloseTo(Math.round(by), 6);
        }
      },
    ),
    { numRuns: 200 },
  );
});

/** z by a basis: least squares, by Gauß' elimination of its own. */
function factorsOf(z: readonly number[], basis: readonly Int32Array[]): number[] {
  const m = basis.map((a) => [...basis.map((b) => dot(a, b)), dot(a, z)]);
  for (let c = 0; c < m.length; c++) {
    const pivot = m.reduce((most, row, i) => (i >= c && Math.abs(row[c]) > Math.abs(m[most][c]) ? i : most), c);
    [m[c], m[pivot]] = [m[pivot], m[c]];
    for (let i = 0; i < m.length; i++)
      if (i !== c) {
        const by = m[i][c] / m[c][c];
        m[i] = m[i].map((x, j) => x - by * m[c][j]);
      }
  }
  return m.map((row, i) => row[m.length] / row[i]);
}

test('a ring that misses its start by much, or that few rows run beside, is left as it is', () => {
  const all = tiedNumbers(2, []);
  const within = (length: number, misses: number, rows: number): readonly Int32Array[] =>
    closingNumbers(
      all,
      [{ round: Int32Array.of(1, 0), missed: Int32Array.of(0, 1), quads: rows * length }],
      Float64Array.of(length, misses),
    );
  expect(within(20, 3, 10)).toEqual([Int32Array.of(1, 0)]);
  // it would shear what is round it
  expect(within(20, 5, 40)).toEqual(all);
  // it leaves the band of its like
  expect(within(20, 3, 5)).toEqual(all);
  expect(within(20, 0.1, 1)).toEqual(all);
});
