import { expect, test } from 'vitest';
import { distance, nearestOnLine, type Vec3 } from '../../math';
import { sculptFromSoup } from '../../surface';
import { ballSoup } from '../../testing';
import { LAY_AS_USUAL, layAll, qualityOf, regionBorders, type LaidAll } from '..';
import { linesOfHalf, runsNear, type DrawnLine } from './drawn';

const BALL = sculptFromSoup(ballSoup(50, 1));
const PLAIN = { ...LAY_AS_USUAL, faces: 400, evenness: 0 };

/** What was told but for the count, which small shapes have few of. */
const repairs = ({ mended }: LaidAll): string[] => mended.filter((line) => !line.endsWith('than were asked for'));

/** A circle on the unit ball where it meets the plane through `at` along the normal. */
function circle(normal: Vec3, at: number, n = 60): Vec3[] {
  const [x, y, z] = normal;
  const u: Vec3 = Math.abs(x) < 0.9 ? [0, z, -y] : [-z, 0, x];
  const lu = Math.hypot(...u);
  const e = u.map((c) => c / lu);
  const f = [y * e[2] - z * e[1], z * e[0] - x * e[2], x * e[1] - y * e[0]];
  const r = Math.sqrt(1 - at * at);
  return Array.from({ length: n }, (_, i): Vec3 => {
    const [c, s] = [r * Math.cos((2 * Math.PI * i) / n), r * Math.sin((2 * Math.PI * i) / n)];
    return [0, 1, 2].map((k) => at * normal[k] + c * e[k] + s * f[k]) as unknown as Vec3;
  });
}

/** Length of the edges of which both ends lie within `near` of a line, and so does the middle. */
function lengthAlong({ soup: { points, quads } }: LaidAll, { points: line, closed }: DrawnLine, near: number): number {
  const away = (p: Vec3): number => distance(p, nearestOnLine(p, line, closed).point);
  const at = (v: number): Vec3 => [points[3 * v], points[3 * v + 1], points[3 * v + 2]];
  const seen = new Set<string>();
  let sum = 0;
  for (let h = 0; h < quads.length; h++) {
    const [u, v] = [quads[h], quads[(h & ~3) + ((h + 1) & 3)]].sort((a, b) => a - b);
    if (seen.has(`${u} ${v}`)) continue;
    seen.add(`${u} ${v}`);
    const [p, q] = [at(u), at(v)];
    if (away(p) < near && away(q) < near) sum += distance(p, q);
  }
  return sum;
}

test.each([
  ['a ring', { points: circle([0.48, 0.6, 0.64], 0.5), closed: true }],
  ['a line that ends on the form', { points: circle([0.6, 0, 0.8], 0.2).slice(0, 22), closed: false }],
  ['two that cross', { points: circle([0, 1, 0], 0.1), closed: true }],
] as const)('quads follow %s drawn askew on a ball', (what, line) => {
  const lines = what === 'two that cross' ? [line, { points: circle([1, 0, 0], 0.1), closed: true }] : [line];
  const laid = layAll(BALL, { ...PLAIN, lines });
  expect(repairs(laid)).toEqual([]);
  expect(laid.routes.map((r) => r.route)).toEqual(['grid']);
  expect(qualityOf(laid.soup.points, laid.soup.quads).folded).toBe(0);
  for (const drawn of lines) {
    const run = drawn.closed ? [...drawn.points, drawn.points[0]] : drawn.points;
    const length = run.slice(1).reduce((sum, p, i) => sum + distance(p, run[i]), 0);
    // chords are shorter than arcs; an open end may stop half a quad short
    const along = lengthAlong(laid, drawn, 0.02);
    expect(along).toBeGreaterThan(0.97 * length - (drawn.closed ? 0 : 0.2));
    expect(along).toBeLessThan(1.02 * length + (drawn.closed ? 0 : 0.2));
  }
});

test('on twelve triangles a guide is followed too', () => {
  const positions = Array.from({ length: 24 }, (_, i) => ((Math.floor(i / 3) >> (i % 3)) & 1) * 2 - 1);
  const indices = [0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5]; // prettier-ignore
  const square: Vec3[] = [[-1, 0.35, -1], [1, 0.35, -1], [1, 0.35, 1], [-1, 0.35, 1]]; // prettier-ignore
  const ring: DrawnLine = { points: square, closed: true };
  const laid = layAll({ positions, indices }, { ...PLAIN, faces: 200, keepEdges: 40, lines: [ring] });
  expect(repairs(laid)).toEqual([]);
  expect(lengthAlong(laid, ring, 1e-3)).toBeCloseTo(8, 3);
});

test('borders of regions are lines from junction to junction, and quads keep to one region', () => {
  // three regions: a cap, and the rest halved
  const regionOf = new Uint8Array(BALL.indices.length / 3);
  const middle = (t: number, k: number): number => (BALL.positions[3 * BALL.indices[3 * t] + k] + BALL.positions[3 * BALL.indices[3 * t + 1] + k] + BALL.positions[3 * BALL.indices[3 * t + 2] + k]) / 3; // prettier-ignore
  const of = (x: number, y: number): number => (y > 0.4 ? 0 : x > 0 ? 1 : 2);
  for (let t = 0; t < regionOf.length; t++) regionOf[t] = of(middle(t, 0), middle(t, 1));
  const lines = regionBorders(BALL, regionOf);
  expect(lines.length).toBe(3);
  expect(lines.every((line) => !line.closed)).toBe(true);
  const laid = layAll(BALL, { ...PLAIN, faces: 600, lines });
  expect(repairs(laid)).toEqual([]);
  const { points, quads } = laid.soup;
  let astride = 0;
  for (let q = 0; q < quads.length; q += 4) {
    const own = [...quads.subarray(q, q + 4)];
    // well inside another region than a corner of the same quad that is well inside its own
    const regions = new Set(own.filter((v) => Math.abs(points[3 * v + 1] - 0.4) > 0.05 && (points[3 * v + 1] > 0.4 || Math.abs(points[3 * v]) > 0.05)).map((v) => of(points[3 * v], points[3 * v + 1]))); // prettier-ignore
    if (regions.size > 1) astride++;
  }
  expect(astride).toBe(0);
});

test('where the density is greater quads are smaller, and there are as many in all', () => {
  const density = Float64Array.from({ length: BALL.positions.length / 3 }, (_, v) => (BALL.positions[3 * v] > 0 ? 4 : 1)); // prettier-ignore
  const laid = layAll(BALL, { ...PLAIN, faces: 800, density });
  const { points, quads } = laid.soup;
  let [right, left] = [0, 0];
  for (let q = 0; q < quads.length; q += 4) {
    const x = [...quads.subarray(q, q + 4)].reduce((sum, v) => sum + points[3 * v] / 4, 0);
    if (x > 0) right++;
    else left++;
  }
  expect(Math.abs(quads.length / 4 - 800)).toBeLessThan(40);
  // sizes grade from one to the other, so that it is not four times
  expect(right / left).toBeGreaterThan(2);
  expect(right / left).toBeLessThan(4);
});

test('a half has the part of a line on its side; what is drawn on the other side alone is mirrored', () => {
  const plane = { axis: 'x', offset: 0 } as const;
  const line: Vec3[] = [[-1, 0, 0], [1, 0, 0], [1, 2, 0], [-1, 2, 0]]; // prettier-ignore
  expect(linesOfHalf([{ points: line, closed: false }], plane)).toEqual([
    { points: [[0, 0, 0], [1, 0, 0], [1, 2, 0], [0, 2, 0]], closed: false }, // prettier-ignore
  ]);
  expect(linesOfHalf([{ points: line.slice(1, 3), closed: false }], plane)[0].points).toEqual(line.slice(1, 3));
  expect(linesOfHalf([{ points: [[-1, 0, 0], [-2, 0, 0]], closed: false }], plane)[0].points).toEqual([[1, 0, 0], [2, 0, 0]]); // prettier-ignore
  const ring = linesOfHalf([{ points: [[1, 0, 0], [1, 1, 0], [-1, 1, 0], [-1, 0, 0]], closed: true }], plane); // prettier-ignore
  expect(ring).toEqual([{ points: [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]], closed: false }]); // prettier-ignore
});

test('a line is taken over the runs of it that are near alone; a closed one is cut where it is away', () => {
  const points: Vec3[] = [-3, -2, -1, 0, 1, 2, 3].map((x) => [x, 0, 0]);
  const isNear = ([x]: Vec3): boolean => Math.abs(x) >= 2;
  const xs = (lines: readonly DrawnLine[]): number[][] => lines.map((line) => line.points.map(([x]) => x));
  expect(xs(runsNear({ points, closed: false }, isNear))).toEqual([[-3, -2], [2, 3]]); // prettier-ignore
  expect(xs(runsNear({ points, closed: true }, isNear))).toEqual([[2, 3, -3, -2]]);
  expect(runsNear({ points, closed: true }, () => true)[0].closed).toBe(true);
  expect(runsNear({ points, closed: false }, ([x]) => x === 0)).toEqual([]);
});
