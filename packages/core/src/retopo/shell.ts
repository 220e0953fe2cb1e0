import type { SculptSurface } from '../surface';
import type { Triangles } from './clean';

/** How far out the shell lies, in cells. */
const OUT = 0.8;
/** No more cells along the longest side than this. */
const MOST_CELLS = 220;

/**
 * The outer shell of a closed surface, a little way out of it, on a grid of `cell`: what is thinner than a cell or two, inner walls, tiny handles and self-crossings
 * are gone. Distances near the surface, flooded from outside; triangles by marching tetrahedra (Doi and Koide 1991), which are manifold whatever the values are. Cost:
 * a closest point for each grid place near the surface.
 */
export function shellOf(surface: SculptSurface, cell: number): Triangles & { out: number } {
  const { min, max } = surface.box;
  const longest = Math.max(...max.map((x, k) => x - min[k]));
  const c = Math.max(cell, longest / MOST_CELLS);
  const origin = min.map((x) => x - 3 * c);
  const dims = max.map((x, k) => Math.ceil((x - min[k]) / c) + 7);
  const values = flooded(distances(surface, origin, dims, c), dims, OUT * c);
  return { ...tetrahedra(values, origin, dims, c), out: OUT * c };
}

/** Distance to the surface at grid places within two cells of it, negative behind it, Infinity elsewhere. */
function distances(
  surface: SculptSurface,
  origin: readonly number[],
  [nx, ny, nz]: readonly number[],
  c: number,
): Float64Array {
  const near = new Uint8Array(nx * ny * nz);
  const { positions: p, indices } = surface;
  for (let t = 0; t < indices.length; t += 3) {
    const [lo, hi] = [0, 1].map((side) =>
      [0, 1, 2].map((k) => {
        const xs = [p[3 * indices[t] + k], p[3 * indices[t + 1] + k], p[3 * indices[t + 2] + k]];
        const x = ((side === 0 ? Math.min(...xs) : Math.max(...xs)) - origin[k]) / c;
        return side === 0 ? Math.floor(x) - 2 : Math.ceil(x) + 2;
      }),
    );
    for (let z = Math.max(0, lo[2]); z <= Math.min(nz - 1, hi[2]); z++)
      for (let y = Math.max(0, lo[1]); y <= Math.min(ny - 1, hi[1]); y++)
        near.fill(1, (z * ny + y) * nx + Math.max(0, lo[0]), (z * ny + y) * nx + Math.min(nx - 1, hi[0]) + 1);
  }
  const d = new Float64Array(near.length).fill(Infinity);
  for (let i = 0; i < near.length; i++) {
    if (!near[i]) continue;
    const [x, y, z] = [i % nx, Math.floor(i / nx) % ny, Math.floor(i / (nx * ny))];
    d[i] = surface.signedDistance([origin[0] + x * c, origin[1] + y * c, origin[2] + z * c]);
  }
  return d;
}

/** Signed: positive where the outside reaches without coming nearer than `out`, negative elsewhere. */
function flooded(d: Float64Array, [nx, ny, nz]: readonly number[], out: number): Float64Array {
  const reached = new Uint8Array(d.length);
  const queue = [0];
  reached[0] = 1;
  for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
    const [x, y, z] = [at % nx, Math.floor(at / nx) % ny, Math.floor(at / (nx * ny))];
    const next = [x > 0 && at - 1, x < nx - 1 && at + 1, y > 0 && at - nx, y < ny - 1 && at + nx, z > 0 && at - nx * ny, z < nz - 1 && at + nx * ny]; // prettier-ignore
    for (const to of next)
      if (to !== false && !reached[to] && Math.abs(d[to]) > out) {
        reached[to] = 1;
        queue.push(to);
      }
  }
  const limit = 2 * out;
  // never zero: a corner of the grid on the shell itself would flatten a triangle
  return d.map((x, i) => {
    if (reached[i]) return Math.max(1e-3 * out, Math.min(limit, Math.abs(x) - out));
    return x === Infinity ? -limit : Math.min(-1e-3 * out, Math.max(-limit, x - out));
  });
}

/** The six ways from a cell's low corner to its high one: tetrahedra that fit together from cell to cell (Kuhn 1960). */
const WAYS = [[0, 1, 2], [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0]] as const; // prettier-ignore

function tetrahedra(values: Float64Array, origin: readonly number[], dims: readonly number[], c: number): Triangles {
  const [nx, ny, nz] = dims;
  const step = [1, nx, nx * ny];
  const points: number[] = [];
  const indices: number[] = [];
  const known = new Map<number, number>();
  const placeOf = (i: number, k: number): number =>
    k === 0 ? i % nx : k === 1 ? Math.floor(i / nx) % ny : Math.floor(i / (nx * ny));
  const cut = (a: number, b: number): number => {
    const key = Math.min(a, b) * values.length + Math.max(a, b);
    const found = known.get(key);
    if (found !== undefined) return found;
    const t = values[a] / (values[a] - values[b]);
    for (let k = 0; k < 3; k++) points.push(origin[k] + c * (placeOf(a, k) + t * (placeOf(b, k) - placeOf(a, k))));
    const v = points.length / 3 - 1;
    known.set(key, v);
    return v;
  };
  for (let z = 0; z + 1 < nz; z++)
    for (let y = 0; y + 1 < ny; y++)
      for (let x = 0; x + 1 < nx; x++) {
        const low = (z * ny + y) * nx + x;
        const isIn = values[low] < 0;
        const corners = [1, nx, nx + 1, nx * ny, nx * ny + 1, nx * ny + nx, nx * ny + nx + 1];
        if (corners.every((o) => values[low + o] < 0 === isIn)) continue;
        for (const [i, way] of WAYS.entries()) {
          const four = [low, low + step[way[0]], low + step[way[0]] + step[way[1]], low + nx * ny + nx + 1];
          sliced(four, values, cut, indices, i === 0 || i === 3 || i === 4);
        }
      }
  return { positions: Float64Array.from(points), indices };
}

/** The triangles in which the shell cuts a tetrahedron, facing out. `isEven` tells the tetrahedron's handedness. */
function sliced(
  four: readonly number[],
  values: Float64Array,
  cut: (a: number, b: number) => number,
  indices: number[],
  isEven: boolean,
): void {
  const inside = [0, 1, 2, 3].filter((k) => values[four[k]] < 0);
  if (inside.length === 0 || inside.length === 4) return;
  const outside = [0, 1, 2, 3].filter((k) => values[four[k]] >= 0);
  const order = [...inside, ...outside];
  // the handedness of the corners in the order taken
  let even = isEven;
  for (let i = 0; i < 4; i++) for (let j = i + 1; j < 4; j++) if (order[i] > order[j]) even = !even;
  const [a, b, c, d] = order.map((k) => four[k]);
  const put = (u: number, v: number, w: number): void => void (even ? indices.push(u, v, w) : indices.push(u, w, v));
  if (inside.length === 1) put(cut(a, b), cut(a, c), cut(a, d));
  else if (inside.length === 3) put(cut(a, d), cut(b, d), cut(c, d));
  else {
    const [p, q, r, s] = [cut(a, c), cut(a, d), cut(b, d), cut(b, c)];
    put(p, q, r);
    put(p, r, s);
  }
}
