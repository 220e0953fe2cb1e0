import { expect, test } from 'vitest';
import { seededRng, type Vec3 } from '../../math';
import type { PolygonSoup } from '../../mesh';
import { sculptFromSoup } from '../../surface';
import { ballSoup } from '../../testing';
import { LAY_AS_USUAL, layAll } from '..';
import { cleaned } from '../form/clean';
import { markLines } from '../lines/lines';
import { crossField } from './field';
import { loopsThere } from './loopsThere';

const TURN = Math.PI / 6;

/** A flat sheet of n × n quads in x and y, turned about z; of triangles, cut along a diagonal. */
function sheet(n: number, turn: number, triangles = false): PolygonSoup {
  const positions: number[] = [];
  const faces: number[][] = [];
  for (let j = 0; j <= n; j++)
    for (let i = 0; i <= n; i++) {
      const [x, y] = [i / n - 0.5, j / n - 0.5];
      positions.push(x * Math.cos(turn) - y * Math.sin(turn), x * Math.sin(turn) + y * Math.cos(turn), 0);
    }
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [a, b, c, d] = [j * (n + 1) + i, j * (n + 1) + i + 1, (j + 1) * (n + 1) + i + 1, (j + 1) * (n + 1) + i];
      if (triangles) faces.push([a, b, c], [a, c, d]);
      else faces.push([a, b, c, d]);
    }
  const faceStarts = Uint32Array.from({ length: faces.length + 1 }, (_, f) => f * (triangles ? 3 : 4));
  return { positions: Float64Array.from(positions), faceStarts, corners: Uint32Array.from(faces.flat()) };
}
/** How far an angle is from another, crosses being alike after a quarter. */
const apart = (a: number, b: number): number => Math.abs(Math.atan2(Math.sin(4 * (a - b)), Math.cos(4 * (a - b)))) / 4;

test('quads tell the way their edges run, equilateral triangles tell none', () => {
  const way = loopsThere(sheet(6, TURN))([0.1, 0.05, 0.2]) as Vec3;
  expect(apart(Math.atan2(way[1], way[0]), TURN)).toBeLessThan(1e-6);
  expect(Math.hypot(...way)).toBeCloseTo(1, 6);
  const even = loopsThere({ positions: Float64Array.from([0, 0, 0, 1, 0, 0, 0.5, Math.sqrt(3) / 2, 0]), faceStarts: Uint32Array.of(0, 3), corners: Uint32Array.of(0, 1, 2) }); // prettier-ignore
  expect(even([0.5, 0.2, 0])).toBeNull();
});

test('crosses turn to the loops that are there, away from the border; without them they follow the border', () => {
  const mesh = cleaned(sculptFromSoup(sheet(24, 0, true))).parts[0];
  markLines(mesh, null, 1, () => undefined);
  const loops = loopsThere(sheet(6, TURN));
  const angleAtMiddle = (with_: typeof loops | null): number => {
    const field = crossField(mesh, { ratio: 2, size: 1 / 12, followForm: 1, sizes: null, loops: with_, ridges: [] });
    const off: number[] = [];
    for (let t = 0; t < mesh.triangles; t++) {
      const [a, b] = [mesh.from[3 * t], mesh.from[3 * t + 1]];
      const p = mesh.points;
      if (Math.hypot(p[3 * a], p[3 * a + 1]) > 0.25) continue;
      off.push(apart(field.angle[t] + Math.atan2(p[3 * b + 1] - p[3 * a + 1], p[3 * b] - p[3 * a]), TURN));
    }
    return off.reduce((x, y) => x + y, 0) / off.length;
  };
  expect(angleAtMiddle(loops)).toBeLessThan(0.05);
  expect(angleAtMiddle(null)).toBeGreaterThan(0.4);
});

test('a form smoothed first comes out rounder than it is, and than without', () => {
  const ball = sculptFromSoup(ballSoup(40, 1));
  const rng = seededRng(3);
  for (let v = 0; v < ball.positions.length; v += 3) {
    const by = 1 + 0.06 * (rng() - 0.5);
    for (let k = 0; k < 3; k++) ball.positions[v + k] *= by;
  }
  const spread = (points: ArrayLike<number>): number => {
    const radii = Array.from({ length: points.length / 3 }, (_, v) => Math.hypot(points[3 * v], points[3 * v + 1], points[3 * v + 2])); // prettier-ignore
    const mean = radii.reduce((a, b) => a + b) / radii.length;
    return Math.sqrt(radii.reduce((sum, r) => sum + (r - mean) ** 2, 0) / radii.length);
  };
  const laid = (smoothing: number): number =>
    spread(layAll(ball, { ...LAY_AS_USUAL, faces: 1200, smoothing }).soup.points);
  expect(laid(40)).toBeLessThan(0.31 * spread(ball.positions));
  expect(laid(0)).toBeGreaterThan(0.5 * spread(ball.positions));
});
