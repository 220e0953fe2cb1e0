import type { TriangleData } from '@half-loop/core/surface';
import { CUBE_EDGES, cubeLoops } from './cubeLoops';
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
 * Triangles of the zero set of a field: surface nets (Gibson 1998) on a grid evaluated only near the surface, one point
 * for each loop in which the surface crosses a cell, brought onto the surface by Newton steps. Keeps the
 * largest piece. Cost: about eight field calls a triangle.
 */
export function surfaceNets(field: Field, { min, max, cell, slack = 1.6 }: NetOptions): TriangleData {
  const cells = [0, 1, 2].map((k) => BLOCK * Math.ceil((max[k] - min[k]) / cell / BLOCK));
  const [nx, ny, nz] = cells.map((n) => n + 1);
  const values = new Float32Array(nx * ny * nz).fill(NaN);
  const at = (i: number, j: number, k: number): number => (k * ny + j) * nx + i;
  const active = fillNear(field, { min, cell, slack, cells }, values, at);
  const firstPoint = new Int32Array(nx * ny * nz).fill(-1);
  const points: number[] = [];
  eachCell(active, (i, j, k) => {
    const loops = crossings(values, at, i, j, k);
    if (loops.length === 0) return;
    firstPoint[at(i, j, k)] = points.length / 3;
    for (const p of loops)
      points.push(...onto(field, [min[0] + p[0] * cell, min[1] + p[1] * cell, min[2] + p[2] * cell], cell));
  });
  const indices = stitch({ values, firstPoint, active, at, points });
  return largestPiece(Float32Array.from(points), indices);
}

function eachCell(active: number[][], visit: (i: number, j: number, k: number) => void): void {
  for (const [bi, bj, bk] of active)
    for (let k = bk; k < bk + BLOCK; k++)
      for (let j = bj; j < bj + BLOCK; j++) for (let i = bi; i < bi + BLOCK; i++) visit(i, j, k);
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

/** Which corners of a cell are inside, bit by bit. */
function insideBits(values: Float32Array, at: At, i: number, j: number, k: number): number {
  let bits = 0;
  for (let c = 0; c < 8; c++) if (values[at(i + (c & 1), j + ((c >> 1) & 1), k + (c >> 2))] < 0) bits |= 1 << c;
  return bits;
}

/** For each loop in which the surface crosses a cell, the mean of its edge crossings, in grid units. */
function crossings(values: Float32Array, at: At, i: number, j: number, k: number): [number, number, number][] {
  const bits = insideBits(values, at, i, j, k);
  if (bits === 0 || bits === 255) return [];
  const loops = cubeLoops(bits);
  const sums: number[][] = [];
  CUBE_EDGES.forEach(([a, b], e) => {
    if (loops[e] < 0) return;
    const corner = (c: number): number[] => [i + (c & 1), j + ((c >> 1) & 1), k + (c >> 2)];
    const p = corner(a), q = corner(b); // prettier-ignore
    const u = values[at(p[0], p[1], p[2])], v = values[at(q[0], q[1], q[2])]; // prettier-ignore
    const t = u / (u - v);
    const sum = (sums[loops[e]] ??= [0, 0, 0, 0]);
    for (let d = 0; d < 3; d++) sum[d] += p[d] + (q[d] - p[d]) * t;
    sum[3]++;
  });
  return sums.map(([x, y, z, n]) => [x / n, y / n, z / n]);
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

interface Net {
  values: Float32Array;
  firstPoint: Int32Array;
  active: number[][];
  at: At;
  points: number[];
}

/** A quad round each crossed grid edge, over the points of the four cells that share it. */
function stitch({ values, firstPoint, active, at, points }: Net): Uint32Array {
  const out: number[] = [];
  const far = (a: number, b: number): number =>
    Math.hypot(
      points[3 * a] - points[3 * b],
      points[3 * a + 1] - points[3 * b + 1],
      points[3 * a + 2] - points[3 * b + 2],
    );
  const pointOf = (i: number, j: number, k: number, edge: number): number => {
    if (i < 0 || j < 0 || k < 0) return -1;
    const first = firstPoint[at(i, j, k)];
    return first < 0 ? -1 : first + cubeLoops(insideBits(values, at, i, j, k))[edge];
  };
  eachCell(active, (i, j, k) => {
    const here = values[at(i, j, k)] < 0;
    for (let axis = 0; axis < 3; axis++) {
      const [a, b, c] = [0, 1, 2].map((d) => (d === axis ? 1 : 0));
      if (here === values[at(i + a, j + b, k + c)] < 0) continue;
      const [u, v] = axis === 1 ? [2, 0] : axis === 0 ? [1, 2] : [0, 1];
      const ids = [
        [1, 1],
        [0, 1],
        [0, 0],
        [1, 0],
      ].map(([du, dv]) => {
        // prettier-ignore
        const back = [0, 0, 0];
        back[u] = du;
        back[v] = dv;
        const low = back.filter((_, d) => d !== axis);
        return pointOf(i - back[0], j - back[1], k - back[2], 4 * axis + low[0] + 2 * low[1]);
      });
      if (ids.some((id) => id < 0)) continue;
      const [p, q, r, s] = here ? ids : [...ids].reverse();
      if (far(p, r) <= far(q, s)) out.push(p, q, r, p, r, s);
      else out.push(q, r, s, q, s, p);
    }
  });
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
  const kept = indices
    .filter((v) => find(v) === best)
    .map((v) => packed.get(v) ?? (packed.set(v, packed.size), packed.size - 1));
  const points = new Float32Array(3 * packed.size);
  for (const [v, n] of packed) points.set(positions.subarray(3 * v, 3 * v + 3), 3 * n);
  return { positions: points, indices: kept };
}
