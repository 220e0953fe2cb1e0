import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng, type Vec3 } from '../../math';
import { SculptSurface } from '../../surface';
import { crossingQuads } from './crossings';
import { FormCrossings } from './FormCrossings';
import type { QuadSoup } from './QuadSoup';

type Place = (x: number, y: number) => Vec3;

/** Sheets of n × n cells over the unit square, as quads. */
function sheets(n: number, ...places: readonly Place[]): QuadSoup {
  const points: number[] = [];
  const quads: number[] = [];
  for (const place of places) {
    const first = points.length / 3;
    for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) points.push(...place(i / n, j / n));
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) {
        const at = first + j * (n + 1) + i;
        quads.push(at, at + 1, at + n + 2, at + n + 1);
      }
  }
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: new Int32Array(points.length / 3).fill(-1) }; // prettier-ignore
}

/** The same as a form, whose triangles are finer than quads are. */
function formOf(...places: readonly Place[]): SculptSurface {
  const { points, quads } = sheets(40, ...places);
  const indices: number[] = [];
  for (let q = 0; q < quads.length; q += 4) {
    const [a, b, c, d] = quads.subarray(q, q + 4);
    indices.push(a, b, c, a, c, d);
  }
  return SculptSurface.build({ positions: Float32Array.from(points), indices: Uint32Array.from(indices) });
}

const SIZE = 1 / 8;
const flat: Place = (x, y) => [x, y, 0];

test('where sheets of the form run through each other quads may, however they lie', () => {
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      const [a, b, lean, bend, up] = [
        0.2 + 0.6 * rng(),
        0.2 + 0.6 * rng(),
        2 * rng() - 1,
        0.3 * rng(),
        0.4 + 0.2 * rng(),
      ];
      const upright: Place = (x, y) => [a + lean * (y - 0.5) + bend * (x - b) ** 2, x, y - up];
      const quads = sheets(8, flat, upright);
      const crossing = crossingQuads(quads);
      expect(crossing.length).toBeGreaterThan(8);
      const form = formOf(flat, upright);
      expect(new FormCrossings(() => form, SIZE).crossingElsewhere(quads)).toEqual([]);
    }),
    { numRuns: 20 },
  );
});

test('where the walls of a form only come near each other, none may', () => {
  const above: Place = (x, y) => [x, y, 0.02];
  const dented: Place = (x, y) => [x + 0.03, y + 0.02, 0.02 - 0.06 * Math.sin(Math.PI * x) * Math.sin(Math.PI * y)];
  const quads = sheets(8, flat, dented);
  const form = formOf(flat, above);
  const crossing = crossingQuads(quads);
  expect(crossing.length).toBeGreaterThan(8);
  expect(new FormCrossings(() => form, SIZE).crossingElsewhere(quads)).toEqual(crossing);
});

test('a crumple of a few triangles lets none through, and far from where the form crosses none may either', () => {
  const across: Place = (x, y) => [0.51, x + 0.03, y - 0.48];
  const crumpled = formOf(flat, (x, y) => [0.51, 0.51 + 0.02 * (x - 0.5), 0.04 * (y - 0.48)]);
  const quads = sheets(8, flat, across);
  expect(crossingQuads(quads).length).toBeGreaterThan(8);
  expect(new FormCrossings(() => crumpled, SIZE).crossingElsewhere(quads)).toEqual(crossingQuads(quads));
  const elsewhere = formOf(flat, (x, y) => [0.11, x, y - 0.48]);
  expect(new FormCrossings(() => elsewhere, SIZE).crossingElsewhere(quads)).toEqual(crossingQuads(quads));
});

test('the form is asked for only where quads cross', () => {
  let asked = 0;
  const form = formOf(flat);
  const formCrossings = new FormCrossings(() => (asked++, form), SIZE);
  expect(formCrossings.crossingElsewhere(sheets(8, flat))).toEqual([]);
  expect(asked).toBe(0);
  formCrossings.crossingElsewhere(sheets(8, flat, (x, y) => [0.51, x + 0.03, y - 0.48]));
  expect(asked).toBe(1);
});
