import { expect, test } from 'vitest';
import { TriMesh } from '../form/TriMesh';
import { roomFor } from './room';

/** A strip of triangles along x, two a square. */
function strip(squares: number): TriMesh {
  const points: number[] = [];
  const corners: number[] = [];
  for (let i = 0; i <= squares; i++) points.push(i, 0, 0, i, 1, 0);
  for (let i = 0; i < squares; i++) corners.push(2 * i, 2 * i + 2, 2 * i + 3, 2 * i, 2 * i + 3, 2 * i + 1);
  return new TriMesh(Float64Array.from(points), corners);
}

test('what is flattened though quads are wanted there is given room, less and less further out', () => {
  const mesh = strip(20);
  const wanted = new Float64Array(40).fill(0.5);
  const areas = wanted.slice();
  areas.fill(0.01, 0, 4);
  const found = roomFor(mesh, areas, wanted, new Float64Array(40).fill(1));
  // per square of two triangles the smaller
  const factors = Array.from({ length: 20 }, (_, i) => Math.min(found.get(2 * i) ?? 1, found.get(2 * i + 1) ?? 1));
  expect(factors[0]).toBe(factors[1]);
  expect(factors[1]).toBeLessThan(factors[2]);
  for (let i = 2; i < 20; i++) expect(factors[i]).toBeGreaterThanOrEqual(factors[i - 1]);
  expect(factors[2]).toBeLessThan(1);
  expect(factors[8]).toBe(1);
});

test('a single triangle at a pole, an even map, and what was made small already are left alone', () => {
  const mesh = strip(20);
  const wanted = new Float64Array(40).fill(0.5);
  const even = new Float64Array(40).fill(1);
  const areas = wanted.slice();
  expect(roomFor(mesh, areas, wanted, even).size).toBe(0);
  areas[6] = 0;
  expect(roomFor(mesh, areas, wanted, even).size).toBe(0);
  areas.fill(0, 0, 8);
  expect(roomFor(mesh, areas, wanted, new Float64Array(40).fill(0.3)).size).toBe(0);
});
