import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compareSurfaces } from '../../inspect';
import { seededRng, type Vec3 } from '../../math';
import { SculptSurface } from '../../surface';
import { qualityOf } from '../quads/QuadCheck';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { awayCost } from './awayCost';
import { nearer } from './nearer';
import { aroundOf } from './relax';
import { Spans } from './Spans';

const SIDE = 9;
/** Nearer than this places are left alone. */
const NEAR_ENOUGH = 0.12 * (2 / SIDE);

/** A sheet over ±1 whose height is told, of triangles much finer than the quads. */
function sheet(height: (x: number, y: number) => number, n = 90): SculptSurface {
  const positions = new Float32Array(3 * (n + 1) ** 2);
  const indices: number[] = [];
  for (let j = 0; j <= n; j++)
    for (let i = 0; i <= n; i++) {
      const [x, y] = [(2 * i) / n - 1, (2 * j) / n - 1];
      const v = j * (n + 1) + i;
      positions.set([x, y, height(x, y)], 3 * v);
      if (i < n && j < n) indices.push(v, v + 1, v + n + 2, v, v + n + 2, v + n + 1);
    }
  return SculptSurface.build({ positions, indices: Uint32Array.from(indices) });
}

/** Quads over the sheet, a little askew; their border stays. */
function quadsOn(surface: SculptSurface, jitter: number, seed: number): QuadSoup {
  const rng = seededRng(seed);
  const points: number[] = [];
  const onLine: number[] = [];
  const quads: number[] = [];
  for (let j = 0; j <= SIDE; j++)
    for (let i = 0; i <= SIDE; i++) {
      const isBorder = i % SIDE === 0 || j % SIDE === 0;
      const off = (): number => (isBorder ? 0 : (jitter * (rng() - 0.5)) / SIDE);
      const [x, y] = [(2 * i) / SIDE - 1 + off(), (2 * j) / SIDE - 1 + off()];
      const hit = surface.raycast([x * (1 - 1e-6), y * (1 - 1e-6), 9], [0, 0, -1]);
      points.push(...(hit as { point: Vec3 }).point);
      onLine.push(isBorder ? -2 : -1);
      const v = j * (SIDE + 1) + i;
      if (i < SIDE && j < SIDE) quads.push(v, v + 1, v + SIDE + 2, v + SIDE + 1);
    }
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: Int32Array.from(onLine) };
}

const awayFrom = (surface: SculptSurface, soup: QuadSoup): number =>
  compareSurfaces(surfaceOfQuads(soup), surface, seededRng(1), 4000).rms;

test('a loop beside a ridge goes up onto it', () => {
  // the ridge runs along the middle of a strip of quads
  const ridge = sheet((x) => 0.35 * Math.exp(-((x / 0.09) ** 2)));
  const soup = quadsOn(ridge, 0, 1);
  const before = awayFrom(ridge, soup);
  const moved = nearer(soup, { curves: [], surface: ridge }, 2 / SIDE);
  expect(awayFrom(ridge, soup)).toBeLessThan(0.5 * before);
  const heights = [...moved].map((v) => soup.points[3 * v + 2]);
  expect(heights.filter((z) => z > 0.25).length).toBe(SIDE - 1);
});

test('quads come nearer to the form, or squarer, on it, sound; the border and what is not off stay', () => {
  const bump = fc.record({
    x: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
    y: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
    wide: fc.double({ min: 0.06, max: 0.2, noNaN: true }),
    high: fc.double({ min: 0.15, max: 0.4, noNaN: true }),
  });
  fc.assert(
    fc.property(
      bump,
      fc.integer(),
      fc.double({ min: 0, max: 0.5, noNaN: true }),
      ({ x, y, wide, high }, seed, jitter) => {
        const form = sheet((a, b) => high * Math.exp(-((a - x) ** 2 + (b - y) ** 2) / wide ** 2));
        const soup = quadsOn(form, jitter, seed);
        const start = { ...soup, points: soup.points.slice() };
        const was = qualityOf(start.points, start.quads).quality;
        const moved = nearer(soup, { curves: [], surface: form }, 2 / SIDE);
        const { quality, folded } = qualityOf(soup.points, soup.quads);
        const [away, before] = [awayFrom(form, soup), awayFrom(form, start)];
        // what is near enough is not asked about; a point that stood on the top already may leave it a little, for squarer quads
        expect(away).toBeLessThanOrEqual(Math.max(1.25 * before, NEAR_ENOUGH / 4));
        if (away > Math.max(1.02 * before, NEAR_ENOUGH / 4)) expect(quality.mean).toBeGreaterThan(was.mean);
        expect(folded).toBe(0);
        expect(quality.least).toBeGreaterThan(Math.min(0.35, was.least - 1e-6));
        soup.onLine.forEach((line, v) => {
          const at = [...soup.points.subarray(3 * v, 3 * v + 3)] as unknown as Vec3;
          if (line === -2 || !moved.has(v)) expect(at).toEqual([...start.points.subarray(3 * v, 3 * v + 3)]);
          else expect(form.closest(at).distance).toBeLessThan(1e-6);
          // far from the bump nothing is off
          if (Math.hypot(at[0] - x, at[1] - y) > 3 * wide + 0.6) expect(moved.has(v)).toBe(false);
        });
      },
    ),
    // each run takes a third of a second: a failure is told as it is, not made smaller for half an hour
    { numRuns: 25, endOnFailure: true },
  );
});

test('quads that lie on the form already are left as they are', () => {
  const flat = sheet(() => 0);
  const soup = quadsOn(flat, 0.5, 3);
  const before = soup.points.slice();
  expect(nearer(soup, { curves: [], surface: flat }, 2 / SIDE).size).toBe(0);
  expect(soup.points).toEqual(before);
});

test('quads that span the corner at the foot of a thin wall come down into it', () => {
  // places of the wall's near side lie nearest to the quads of its far side, which face away: they tell nothing
  const wall = sheet((x) => Math.max(0, Math.min(1, 20 * (x + 0.05), 20 * (0.15 - x))), 160);
  const columns = [[-1, 0], [-0.4, 0], [0.01, 1], [0.09, 1], [0.12, 0.5], [0.16, 0], [0.6, 0], [1, 0]]; // prettier-ignore
  const points = columns.map((_, j) => columns.map(([x, z]): Vec3 => [x, 0.3 * j - 1, z])).flat(2);
  const isBorder = (v: number): boolean => [0, 7].includes(v % 8) || [0, 7].includes(Math.floor(v / 8));
  const onLine = Int32Array.from({ length: 64 }, (_, v) => (isBorder(v) ? -2 : -1));
  const starts = [...onLine.keys()].filter((v) => v % 8 < 7 && v < 56);
  const soup = { points: Float64Array.from(points), quads: Int32Array.from(starts.flatMap((v) => [v, v + 1, v + 9, v + 8])), onLine }; // prettier-ignore
  const furthest = (): number => Math.max(...starts.filter((v) => v % 8 === 1 && v > 8 && v < 48).map((v) => {
    const middle = [0, 1, 2].map((k) => [v, v + 1, v + 8, v + 9].reduce((sum, w) => sum + soup.points[3 * w + k] / 4, 0));
    return wall.closest(middle as unknown as Vec3).distance;
  })); // prettier-ignore
  const before = furthest();
  nearer(soup, { curves: [], surface: wall }, 0.3);
  expect(furthest()).toBeLessThan(0.15 * before);
});

test('what spans something is told by how far its middle is off, and what that costs by all middles round a point, wherever it goes', () => {
  const size = 2 / SIDE;
  const far = fc.double({ min: -0.3, max: 0.3, noNaN: true });
  fc.assert(
    fc.property(
      fc.integer(),
      far,
      fc.double({ min: 0.05, max: 0.3, noNaN: true }),
      fc.nat(),
      fc.tuple(far, far, far),
      (seed, high, wide, pick, by) => {
        const form = sheet((x, y) => high * Math.exp(-((x + y) ** 2) / wide ** 2), 30);
        const soup = quadsOn(form, 0.4, seed);
        const around = aroundOf(soup);
        const spans = new Spans(soup, around, form, size);
        const middle = (...corners: number[]): Vec3 => [0, 1, 2].map((k) => corners.reduce((sum, v) => sum + soup.points[3 * v + k], 0) / corners.length) as unknown as Vec3; // prettier-ignore
        const quad = (q: number): number[] => [...soup.quads.subarray(q, q + 4)];
        const v = [...soup.onLine.keys()].filter((w) => soup.onLine[w] === -1)[pick % (SIDE - 1) ** 2];
        const isAny = around[v].some((q) => form.closest(middle(...quad(q))).distance > 0.2 * size);
        expect(spans.isAny(v)).toBe(isAny);
        spans.begin(v);
        for (let k = 0; k < 3; k++) soup.points[3 * v + k] += by[k] * size;
        const next = (q: number): number => quad(q)[(quad(q).indexOf(v) + 1) & 3];
        const middles = around[v].flatMap((q) => [middle(...quad(q)), middle(v, next(q))]);
        const cost = middles.reduce((sum, at) => sum + 0.06 * awayCost((form.closest(at).distance / size) ** 2), 0);
        expect(spans.cost(v, size * Math.hypot(...by), Infinity)).toBeCloseTo(isAny ? cost : 0, 9);
        spans.look(new Uint8Array(soup.quads.length / 4).fill(1));
        expect(spans.isAny(v)).toBe(around[v].some((q) => form.closest(middle(...quad(q))).distance > 0.2 * size));
      },
    ),
    { numRuns: 60 },
  );
});
