import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compareSurfaces } from '../../inspect';
import { cross, normalize, seededRng, type Vec3 } from '../../math';
import { SculptSurface, sculptFromSoup, WalkingForm } from '../../surface';
import { ballSoup, quadsOnBall } from '../../testing';
import type { Ground } from '../lines/ground';
import type { Curve } from '../lines/lines';
import { qualityOf } from '../quads/QuadCheck';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { throughForm } from './throughForm';

function groundOf(surface: SculptSurface, curves: readonly Curve[] = []): Ground {
  const form = new WalkingForm(surface);
  return { surface, curves, forms: [form, form], density: null };
}
const BALL = groundOf(SculptSurface.build(sculptFromSoup(ballSoup(60, 1))));

const sizeOf = ({ quads }: QuadSoup): number => Math.sqrt((4 * Math.PI) / (quads.length / 4));
const awayFrom = (surface: SculptSurface, soup: QuadSoup): number =>
  compareSurfaces(surfaceOfQuads(soup), surface, seededRng(1), 4000).rms;

test('quads run through a ball, not inside of it: at less than half the distance, and as square', () => {
  const soup = quadsOnBall(12);
  const moved = throughForm(soup, BALL, sizeOf(soup), null);
  expect(awayFrom(BALL.surface, moved)).toBeLessThan(0.5 * awayFrom(BALL.surface, soup));
  for (let i = 0; i < moved.points.length; i += 3)
    expect(Math.hypot(...moved.points.subarray(i, i + 3))).toBeGreaterThan(1);
  const [now, then] = [moved, soup].map(({ points, quads }) => qualityOf(points, quads));
  expect(now.folded).toBe(0);
  expect(now.quality.low).toBeGreaterThan(then.quality.low - 0.01);
});

test('points on lines stay, to the last bit; those in the mirror plane stay in it, and move', () => {
  const line = (isMirrored: boolean): Curve => ({ points: new Float64Array(6), isBorder: true, isDrawn: false, isRidge: false, isMirrored }); // prettier-ignore
  const soup = quadsOnBall(12);
  for (let v = 0; v < soup.onLine.length; v++)
    if (Math.abs(soup.points[3 * v]) < 1e-9) soup.onLine[v] = soup.points[3 * v] = 0;
  const own = [...soup.onLine.keys()].filter((v) => soup.onLine[v] === 0);
  expect(own.length).toBeGreaterThan(8);
  for (const isMirrored of [true, false]) {
    const ground = { ...BALL, curves: [line(isMirrored)] };
    const { points } = throughForm(soup, ground, sizeOf(soup), { axis: 'x', offset: 0 });
    for (const v of own) {
      expect(points[3 * v]).toBe(0);
      const moved = Math.hypot(...points.subarray(3 * v, 3 * v + 3)) - 1;
      expect(moved > 1e-4).toBe(isMirrored);
    }
  }
});

/** A plate over ±2 by ±2, of triangles much finer than the quads, turned. */
function plateAndQuads([x, y]: readonly [Vec3, Vec3], by: number): { surface: SculptSurface; soup: QuadSoup } {
  const grid = (n: number, wide: number): number[] =>
    Array.from({ length: (n + 1) ** 2 }, (_, v) => [(v % (n + 1)) / n, Math.floor(v / (n + 1)) / n])
      .map(([i, j]) => [by * wide * (i - 0.5), by * wide * (j - 0.5)])
      .flatMap(([i, j]) => [0, 1, 2].map((k) => i * x[k] + j * y[k]));
  const cells = (n: number): number[] => {
    const first = Array.from({ length: n * n }, (_, c) => Math.floor(c / n) * (n + 1) + (c % n));
    return first.flatMap((a) => [a, a + 1, a + n + 2, a + n + 1]);
  };
  const fine = cells(40);
  const indices = Uint32Array.from({ length: fine.length * 1.5 }, (_, i) => fine[4 * Math.floor(i / 6) + [0, 1, 2, 0, 2, 3][i % 6]]); // prettier-ignore
  const surface = SculptSurface.build({ positions: Float32Array.from(grid(40, 4)), indices });
  const points = Float64Array.from(grid(6, 3));
  return { surface, soup: { points, quads: Int32Array.from(cells(6)), onLine: new Int32Array(49).fill(-1) } };
}

const direction = fc
  .tuple(fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }))
  .map(([a, z]): Vec3 => [Math.cos(a) * Math.sqrt(1 - z * z), Math.sin(a) * Math.sqrt(1 - z * z), z]);

test('on a plate nothing moves, however it lies and whatever its size', () => {
  fc.assert(
    fc.property(direction, fc.constantFrom(0.01, 1, 300), (out, by) => {
      const x = normalize(cross(out, Math.abs(out[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
      const { surface, soup } = plateAndQuads([x, cross(out, x)], by);
      const { points } = throughForm(soup, groundOf(surface), by / 2, null);
      const moved = points.reduce((most, p, i) => Math.max(most, Math.abs(p - soup.points[i])), 0);
      expect(moved).toBeLessThan(1e-5 * by);
    }),
    { numRuns: 20 },
  );
});

test('no point goes further than a fifth of the shortest edge at it, though the form is far', () => {
  const soup = quadsOnBall(12);
  soup.points.set(soup.points.map((x) => 0.9 * x));
  const moved = throughForm(soup, BALL, sizeOf(soup), null);
  const by = Array.from(soup.onLine, (_, v) => Math.hypot(...[0, 1, 2].map((k) => moved.points[3 * v + k] - soup.points[3 * v + k]))); // prettier-ignore
  const edges = [...soup.quads.keys()].map((h) => {
    const [a, b] = [soup.quads[h], soup.quads[(h & ~3) + ((h + 1) & 3)]];
    return { a, l: Math.hypot(...[0, 1, 2].map((k) => soup.points[3 * a + k] - soup.points[3 * b + k])) };
  });
  for (const { a, l } of edges) expect(by[a]).toBeLessThanOrEqual(0.2 * l + 1e-9);
  expect(Math.max(...by)).toBeGreaterThan(0.01);
});
