import type { Vec3 } from '../../math';
import { SculptSurface } from '../../surface';
import type { Triangles } from './clean';

/** How many quads of the usual ones stand in the place of one: 2 asks for twice as many as elsewhere. */
export type Density = (p: Vec3) => number;

/** Densities beyond these would leave no quads, or nothing but them. */
const LEAST = 1 / 16;
const MOST = 16;

/**
 * Density at any place near a form from values at its points, blended over the nearest triangle; kept within a sixteenth and sixteen. Cost: a BVH of the triangles, and a
 * closest point a call.
 */
export function densityOf({ positions, indices }: Triangles, values: ArrayLike<number>): Density {
  const surface = SculptSurface.build({ positions: Float32Array.from(positions), indices: Uint32Array.from(indices) });
  const { positions: q, indices: corners } = surface;
  return (p) => {
    const { point, triangle } = surface.closest(p);
    const [a, b, c] = corners.subarray(3 * triangle, 3 * triangle + 3);
    const [wa, wb, wc] = shares(q, a, b, c, point);
    const value = wa * values[a] + wb * values[b] + wc * values[c];
    return Number.isFinite(value) ? Math.min(MOST, Math.max(LEAST, value)) : 1;
  };
}

/** How much of each corner a point of a triangle is. */
function shares(q: Float32Array, a: number, b: number, c: number, p: Vec3): [number, number, number] {
  const e = (x: number, k: number): number => q[3 * x + k] - q[3 * a + k];
  let bb = 0, bc = 0, cc = 0, pb = 0, pc = 0; // prettier-ignore
  for (let k = 0; k < 3; k++) {
    const [x, y, z] = [e(b, k), e(c, k), p[k] - q[3 * a + k]];
    bb += x * x;
    bc += x * y;
    cc += y * y;
    pb += z * x;
    pc += z * y;
  }
  const det = bb * cc - bc * bc;
  if (!(det > 0)) return [1, 0, 0];
  const v = (cc * pb - bc * pc) / det;
  const w = (bb * pc - bc * pb) / det;
  return [1 - v - w, v, w];
}
