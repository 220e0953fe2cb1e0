import { expect, test } from 'vitest';
import { TriMesh } from '../form/TriMesh';
import { type Curve, markLines } from '../lines/lines';
import { ridgesTaken } from '../lines/ridgeChains';
import type { QuadSoup } from '../quads/QuadSoup';
import { offRidges, onRidges } from './alongRidges';

const N = 8;
const RIDGE: Curve = { points: Float64Array.of(0, 0, 0, N, 0, 0), isBorder: false, isDrawn: false, isRidge: true, isMirrored: false }; // prettier-ignore

/** N × 4 unit quads, the middle row of points `off` the x axis. */
function sheet(off: number): QuadSoup {
  const points: number[] = [];
  const quads: number[] = [];
  for (let j = -2; j <= 2; j++) for (let i = 0; i <= N; i++) points.push(i, j + off, 0);
  for (let j = 0; j < 4; j++)
    for (let i = 0; i < N; i++) {
      const v = j * (N + 1) + i;
      quads.push(v, v + 1, v + N + 2, v + N + 1);
    }
  const n = points.length / 3;
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: new Int32Array(n).fill(-1) };
}

test('a row beside a ridge is on it, those further away are not', () => {
  const soup = sheet(0.2);
  const on = onRidges(soup, [RIDGE]);
  // its ends lie at the ridge's own, where that tells no way
  const row = Array.from({ length: N - 1 }, (_, i) => 2 * (N + 1) + 1 + i);
  expect([...on.onLine.keys()].filter((v) => on.onLine[v] === 0)).toEqual(row);
  expect(on.points).toEqual(soup.points);
  expect(offRidges(on, [RIDGE]).onLine).toEqual(soup.onLine);
  expect(onRidges(sheet(0.4), [RIDGE]).onLine).toEqual(soup.onLine);
});

test('rows across a ridge are none along it, and points on lines stay on these', () => {
  const across: Curve = { ...RIDGE, points: Float64Array.of(3.1, -2, 0, 3.6, -0.5, 0, 5.4, 0.5, 0, 5.9, 2, 0) };
  const soup = sheet(0);
  const on = onRidges(soup, [across]);
  // what it crosses between two rows of points is on neither
  expect(on.onLine[2 * (N + 1) + 4]).toBe(-1);
  const held = sheet(0.2);
  held.onLine.fill(1, 2 * (N + 1), 3 * (N + 1));
  expect(onRidges(held, [RIDGE, { ...RIDGE, isRidge: false }]).onLine).toEqual(held.onLine);
});

test('a ridge makes no corners in the border that it runs to, and is off the lines once it is taken', () => {
  const soup = sheet(0);
  const corners: number[] = [];
  for (let q = 0; q < soup.quads.length; q += 4) {
    const [a, b, c, d] = soup.quads.subarray(q, q + 4);
    corners.push(a, b, c, a, c, d);
  }
  const mesh = new TriMesh(soup.points, corners);
  const middle = 2 * (N + 1);
  const plain = markLines(mesh, null, 1);
  const made = markLines(mesh, null, 1, (_, ridge) => {
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const [u, v] = [mesh.from[h], mesh.to(h)];
      if (u >= middle && v >= middle && Math.max(u, v) < middle + N + 1) mesh.setLine(h, ridge);
    }
  });
  const lines = made.curves.filter(({ isRidge }) => isRidge);
  expect(lines).toHaveLength(1);
  expect(made.curves.filter(({ isRidge }) => !isRidge)).toEqual(plain.curves);
  const [chain, ...others] = ridgesTaken(mesh, made.curves, made.corners);
  expect(others).toEqual([]);
  expect(made.corners).toEqual(plain.corners);
  // one edge short of the border at either end, in order
  expect(chain).toHaveLength(N - 2);
  chain.slice(1).forEach((h, i) => expect(mesh.from[h]).toBe(mesh.to(chain[i])));
  for (let h = 0; h < 3 * mesh.triangles; h++) expect(mesh.line[h] >= 0).toBe(mesh.twin[h] < 0);
});
