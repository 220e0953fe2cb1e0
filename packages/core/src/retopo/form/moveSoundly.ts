import type { Vec3 } from '../../math';
import { nextHalf, prevHalf, type TriMesh } from './TriMesh';

/** Thinner than this, height over base, a triangle is a needle. */
export const THIN = 0.05;
/** A triangle that agrees with the form at its corners by less than this is turning over. */
const AGREES = 0.15;

/** Whether a triangle's normal (x, y, z), of length l, turns away from the form's at its corners: one of them told, two by their places. */
export function turnsAway(
  all: Float64Array,
  own: readonly number[],
  b: number,
  c: number,
  x: number,
  y: number,
  z: number,
  l: number,
): boolean {
  const fx = own[0] + all[b] + all[c], fy = own[1] + all[b + 1] + all[c + 1], fz = own[2] + all[b + 2] + all[c + 2]; // prettier-ignore
  const f = Math.sqrt(fx * fx + fy * fy + fz * fz);
  return f > 0.5 && x * fx + y * fy + z * fz < AGREES * f * l;
}

/** Moves a vertex unless a triangle round it would turn over; with a normal, that is the way it faces from then on. */
export function moveSoundly(mesh: TriMesh, v: number, to: Vec3, normal: Vec3 | null): void {
  const own = normal ?? [...mesh.facing.subarray(3 * v, 3 * v + 3)];
  const { points: p, from } = mesh;
  for (const h of mesh.fan(v)) {
    const b = 3 * from[nextHalf(h)],
      c = 3 * from[prevHalf(h)];
    const ex = p[c] - p[b], ey = p[c + 1] - p[b + 1], ez = p[c + 2] - p[b + 2]; // prettier-ignore
    const ox = p[3 * v] - p[b], oy = p[3 * v + 1] - p[b + 1], oz = p[3 * v + 2] - p[b + 2]; // prettier-ignore
    const nx = to[0] - p[b], ny = to[1] - p[b + 1], nz = to[2] - p[b + 2]; // prettier-ignore
    const bx = ey * oz - ez * oy, by = ez * ox - ex * oz, bz = ex * oy - ey * ox; // prettier-ignore
    const ax = ey * nz - ez * ny, ay = ez * nx - ex * nz, az = ex * ny - ey * nx; // prettier-ignore
    const wasThin = bx * bx + by * by + bz * bz < (THIN * (ex * ex + ey * ey + ez * ez)) ** 2;
    if (!wasThin && ax * bx + ay * by + az * bz <= 0) return;
    const after = Math.sqrt(ax * ax + ay * ay + az * az);
    if (normal && turnsAway(mesh.facing, own, b, c, ax, ay, az, after) && !turnsAway(mesh.facing, own, b, c, bx, by, bz, Math.sqrt(bx * bx + by * by + bz * bz))) return; // prettier-ignore
  }
  p.set(to, 3 * v);
  if (normal) mesh.facing.set(normal, 3 * v);
}
