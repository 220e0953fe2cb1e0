import type { TriangleData } from '@half-loop/core/surface';
import type { Field } from './sdf';

export interface NetOptions {
  min: readonly [number, number, number];
  max: readonly [number, number, number];
  /** side of a grid cell, cm */
  cell: number;
  /** how far the field may overstate a distance; blocks further away than this factor are skipped */
  slack?: number;
}

const BLOCK = 8;

/**
 * Triangles of the zero set of a field: surface nets (Gibson 1998) on a grid evaluated only near the surface, each point
 * then brought onto the surface by Newton steps. Keeps the largest piece. Cost: about eight field calls a triangle.
 */
export function surfaceNets(field: Field, { min, max, cell, slack = 1.6 }: NetOptions): TriangleData {
  const cells = [0, 1, 2].map((k) => BLOCK * Math.ceil((max[k] - min[k]) / cell / BLOCK));
  const [nx, ny, nz] = cells.map((n) => n + 1);
  const values = new Float32Array(nx * ny * nz).fill(NaN);
  const at = (i: number, j: number, k: number): number => (k * ny + j) * nx + i;
  const active = fillNear(field, { min, cell, slack, cells }, values, at);
  const vertexOf = new Int32Array(nx * ny * nz).fill(-1);
  const points: number[] = [];
  for (const [bi, bj, bk] of active)
    for (let k = bk; k < bk + BLOCK; k++)
      for (let j = bj; j < bj + BLOCK; j++)
        for (let i = bi; i < bi + BLOCK; i++) {
          const p = crossing(values, at, i, j, k);
          if (!p) continue;
          vertexOf[at(i, j, k)] = points.length / 3;
          points.push(...onto(field, [min[0] + p[0] * cell, min[1] + p[1] * cell, min[2] + p[2] * cell], cell));
        }
  const indices = stitch(values, vertexOf, active, at, points);
  return largestPiece(Float32Array.from(points), indices);
}

type At = (i: number, j: number, k: number) => number;
interface Grid {
  min: readonly number[];
  cell: number;
  slack: number;
  cells: number[];
}

function fillNear(field: Field, { min, cell, slack, cells }: Grid, values: Float32Array, at: At): number[][] {
  const active: number[][] = [];
  const half = (BLOCK * cell) / 2;
  for (let k = 0; k < cells[2]; k += BLOCK)
    for (let j = 0; j < cells[1]; j += BLOCK)
      for (let i = 0; i < cells[0]; i += BLOCK) {
        const d = field(min[0] + i * cell + half, min[1] + j * cell + half, min[2] + k * cell + half);
        if (Math.abs(d) > half * Math.sqrt(3) * slack) continue;
        active.push([i, j, k]);
        for (let c = k; c <= k + BLOCK; c++)
          for (let b = j; b <= j + BLOCK; b++)
            for (let a = i; a <= i + BLOCK; a++) {
              const n = at(a, b, c);
              if (Number.isNaN(values[n])) values[n] = field(min[0] + a * cell, min[1] + b * cell, min[2] + c * cell);
            }
      }
  return active;
}

/** Mean of the cell's edge crossings in grid units, or null where all corners agree. */
function crossing(values: Float32Array, at: At, i: number, j: number, k: number): [number, number, number] | null {
  const sign = values[at(i, j, k)] < 0;
  let corner = 1;
  while (corner < 8 && values[at(i + (corner & 1), j + ((corner >> 1) & 1), k + (corner >> 2))] < 0 === sign) corner++;
  if (corner === 8) return null;
  let n = 0, x = 0, y = 0, z = 0; // prettier-ignore
  for (let axis = 0; axis < 3; axis++)
    for (let c = 0; c < 4; c++) {
      const o = [c & 1, c >> 1];
      const a = axis === 0 ? [0, ...o] : axis === 1 ? [o[0], 0, o[1]] : [...o, 0];
      const b = [...a];
      b[axis] = 1;
      const u = values[at(i + a[0], j + a[1], k + a[2])],
        v = values[at(i + b[0], j + b[1], k + b[2])];
      if (u < 0 === v < 0) continue;
      const t = u / (u - v);
      n++;
      x += a[0] + (b[0] - a[0]) * t;
      y += a[1] + (b[1] - a[1]) * t;
      z += a[2] + (b[2] - a[2]) * t;
    }
  return n === 0 ? null : [i + x / n, j + y / n, k + z / n];
}

/** Newton steps onto the zero set, within half a cell of where the point began. */
function onto(field: Field, p: [number, number, number], cell: number): number[] {
  let [x, y, z] = p;
  const e = cell * 0.05;
  for (let step = 0; step < 2; step++) {
    const d = field(x, y, z);
    const gx = (field(x + e, y, z) - d) / e, gy = (field(x, y + e, z) - d) / e, gz = (field(x, y, z + e) - d) / e; // prettier-ignore
    const g = gx * gx + gy * gy + gz * gz;
    if (g < 0.05) break;
    const limit = (0.5 * cell) / Math.max(0.5 * cell, Math.abs(d) / Math.sqrt(g));
    x -= (gx * d * limit) / g;
    y -= (gy * d * limit) / g;
    z -= (gz * d * limit) / g;
  }
  const far = Math.hypot(x - p[0], y - p[1], z - p[2]);
  return far > 0.6 * cell ? p : [x, y, z];
}

function stitch(values: Float32Array, vertexOf: Int32Array, active: number[][], at: At, points: number[]): Uint32Array {
  const out: number[] = [];
  const far = (a: number, b: number): number =>
    Math.hypot(points[3 * a] - points[3 * b], points[3 * a + 1] - points[3 * b + 1], points[3 * a + 2] - points[3 * b + 2]);
  const quad = (ids: number[], flip: boolean): void => {
    if (ids.some((v) => v < 0)) return;
    const [a, b, c, d] = flip ? [...ids].reverse() : ids;
    if (far(a, c) <= far(b, d)) out.push(a, b, c, a, c, d);
    else out.push(b, c, d, b, d, a);
  };
  for (const [bi, bj, bk] of active)
    for (let k = bk; k < bk + BLOCK; k++)
      for (let j = bj; j < bj + BLOCK; j++)
        for (let i = bi; i < bi + BLOCK; i++) {
          const here = values[at(i, j, k)] < 0;
          const v = (a: number, b: number, c: number): number => (a < 0 || b < 0 || c < 0 ? -1 : vertexOf[at(a, b, c)]);
          if (here !== values[at(i + 1, j, k)] < 0)
            quad([v(i, j - 1, k - 1), v(i, j, k - 1), v(i, j, k), v(i, j - 1, k)], !here);
          if (here !== values[at(i, j + 1, k)] < 0)
            quad([v(i - 1, j, k - 1), v(i - 1, j, k), v(i, j, k), v(i, j, k - 1)], !here);
          if (here !== values[at(i, j, k + 1)] < 0)
            quad([v(i - 1, j - 1, k), v(i, j - 1, k), v(i, j, k), v(i - 1, j, k)], !here);
        }
  return Uint32Array.from(out);
}

/** The piece with most triangles, points packed. */
function largestPiece(positions: Float32Array, indices: Uint32Array): TriangleData {
  const parent = new Int32Array(positions.length / 3).map((_, i) => i);
  const find = (a: number): number => {
    while (parent[a] !== a) a = parent[a] = parent[parent[a]];
    return a;
  };
  for (let t = 0; t < indices.length; t += 3) {
    parent[find(indices[t])] = find(indices[t + 1]);
    parent[find(indices[t + 1])] = find(indices[t + 2]);
  }
  const sizes = new Map<number, number>();
  for (let t = 0; t < indices.length; t += 3) sizes.set(find(indices[t]), (sizes.get(find(indices[t])) ?? 0) + 1);
  const best = [...sizes].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
  const packed = new Map<number, number>();
  const kept = indices.filter((v) => find(v) === best).map((v) => packed.get(v) ?? (packed.set(v, packed.size), packed.size - 1));
  const points = new Float32Array(3 * packed.size);
  for (const [v, n] of packed) points.set(positions.subarray(3 * v, 3 * v + 3), 3 * n);
  return { positions: points, indices: kept };
}
