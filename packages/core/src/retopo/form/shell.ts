import { levelSet } from '../../math';
import type { SculptSurface } from '../../surface';
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
  return { ...levelSet(values, origin, dims, c), out: OUT * c };
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
