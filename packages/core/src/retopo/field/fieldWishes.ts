import { cross, dot, meanPoint, normalize, sub, type Vec3 } from '../../math';
import { normalsOf } from '../form/surgery';
import type { TriMesh } from '../form/TriMesh';
import type { RidgeChain } from '../lines/ridgeChains';
import type { LoopsThere } from './loopsThere';

/** Weight of the form's bends, over that of smoothness. */
const FORM = 0.05;
/** Weight of ridges: as much as of the greatest bends. */
const RIDGE = 0.5;
/** Weight of loops that are there: more than of any bend. */
const THERE = 1;

/** Crosses wanted along the greater bend, by how much it outweighs the lesser over the size of a quad. */
export function followBends(
  mesh: TriMesh,
  p: Float64Array,
  size: number,
  strength: number,
  wanted: Float64Array,
  weight: Float64Array,
): void {
  const { from } = mesh;
  const normals = normalsOf(mesh, p);
  const frames: { e: number[]; f: number[]; at: number[] }[] = [];
  for (let t = 0; t < mesh.triangles; t++) {
    const [a, b, c] = [3 * from[3 * t], 3 * from[3 * t + 1], 3 * from[3 * t + 2]];
    const u = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const v = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const lu = Math.hypot(u[0], u[1], u[2]) || 1,
      ln = Math.hypot(n[0], n[1], n[2]) || 1;
    const e = u.map((x) => x / lu);
    const m = n.map((x) => x / ln);
    const f = [m[1] * e[2] - m[2] * e[1], m[2] * e[0] - m[0] * e[2], m[0] * e[1] - m[1] * e[0]];
    frames.push({ e, f, at: [a, b, c] });
  }
  const along = (d: number[], x: number[]): number => d[0] * x[0] + d[1] * x[1] + d[2] * x[2];
  // per triangle the symmetric 2×2 form that best explains how normals turn along its edges
  const bends = frames.map(({ e, f, at }) => {
    let a11 = 0, a12 = 0, a22 = 0, a33 = 0, b1 = 0, b2 = 0, b3 = 0; // prettier-ignore
    for (let k = 0; k < 3; k++) {
      const [i, j] = [at[k], at[(k + 1) % 3]];
      const d = [0, 1, 2].map((x) => p[j + x] - p[i + x]);
      const dn = [0, 1, 2].map((x) => normals[j + x] - normals[i + x]);
      const [x, y, m, n] = [along(d, e), along(d, f), along(dn, e), along(dn, f)];
      a11 += x * x;
      a12 += x * y;
      a22 += y * y;
      a33 += x * x + y * y;
      b1 += x * m;
      b2 += y * m + x * n;
      b3 += y * n;
    }
    return solve3(a11, a12, 0, a33, a12, a22, b1, b2, b3);
  });
  for (let t = 0; t < mesh.triangles; t++) {
    const [xx, xy, yy] = bends[t];
    const spread = Math.hypot(xx - yy, 2 * xy);
    const w = strength * FORM * Math.min(6, (1.5 * size * spread) ** 2);
    if (!(w > 0)) continue;
    const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
    wanted[2 * t] = w * Math.cos(4 * angle);
    wanted[2 * t + 1] = w * Math.sin(4 * angle);
    weight[t] = w;
  }
}

/** Crosses wanted along ridges, on both sides; `direction` is that of each half-edge in its triangle's plane, radians. */
export function followRidges(
  { twin }: TriMesh,
  direction: Float64Array,
  ridges: readonly RidgeChain[],
  wanted: Float64Array,
  weight: Float64Array,
): void {
  for (const chain of ridges)
    for (const h of chain.flatMap((own) => [own, twin[own]])) {
      const t = Math.floor(h / 3);
      wanted[2 * t] += RIDGE * Math.cos(4 * direction[h]);
      wanted[2 * t + 1] += RIDGE * Math.sin(4 * direction[h]);
      weight[t] += RIDGE;
    }
}

/** Crosses wanted along loops that are there. */
export function followLoops(
  mesh: TriMesh,
  p: Float64Array,
  loops: LoopsThere,
  wanted: Float64Array,
  weight: Float64Array,
): void {
  const at = (v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  for (let t = 0; t < mesh.triangles; t++) {
    const [a, b, c] = [0, 1, 2].map((k) => at(mesh.from[3 * t + k]));
    const way = loops(meanPoint([a, b, c]));
    if (!way) continue;
    const x = normalize(sub(b, a));
    const y = normalize(cross(cross(x, sub(c, a)), x));
    const [u, v] = [dot(way, x), dot(way, y)];
    const turn = 4 * Math.atan2(v, u);
    // what stands square to the form tells nothing
    const w = THERE * Math.hypot(u, v);
    wanted[2 * t] += w * Math.cos(turn);
    wanted[2 * t + 1] += w * Math.sin(turn);
    weight[t] += w;
  }
}

/** The symmetric system [[a, b, c], [b, d, e], [c, e, f]] x = (r, s, t); zeros where it has no answer. */
function solve3(
  a: number,
  b: number,
  c: number,
  d: number,
  e: number,
  f: number,
  r: number,
  s: number,
  t: number,
): [number, number, number] {
  const A = d * f - e * e, B = c * e - b * f, C = b * e - c * d; // prettier-ignore
  const det = a * A + b * B + c * C;
  if (Math.abs(det) < 1e-300) return [0, 0, 0];
  const D = a * f - c * c, E = b * c - a * e, F = a * d - b * b; // prettier-ignore
  return [(A * r + B * s + C * t) / det, (B * r + D * s + E * t) / det, (C * r + E * s + F * t) / det];
}
