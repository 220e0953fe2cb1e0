import type { Vec3 } from '../../math';
import type { QuadSoup } from '../quads/QuadSoup';
import { ownNormals, quadNormal } from './facing';

/** A quad goes round a rim where the form's unit normals at its corners come to less than this on the mean, … */
const APART = 0.5;
/** … and both on either side of the rim face alike by more than this, cosine: round the cap of a limb all four face apart. */
const ALIKE = 0.5;

/** Whether quad q / 4 goes round a rim, by the form's unit normals at points. Makes nothing. */
export function goesRoundRim(normals: Float64Array, quads: Int32Array, q: number): boolean {
  const [a, b, c, d] = [3 * quads[q], 3 * quads[q + 1], 3 * quads[q + 2], 3 * quads[q + 3]];
  let squared = 0;
  for (let k = 0; k < 3; k++) squared += (normals[a + k] + normals[b + k] + normals[c + k] + normals[d + k]) ** 2;
  if (squared > (4 * APART) ** 2) return false;
  const isAlike = (u: number, v: number): boolean =>
    normals[u] * normals[v] + normals[u + 1] * normals[v + 1] + normals[u + 2] * normals[v + 2] > ALIKE;
  return (isAlike(a, b) && isAlike(c, d)) || (isAlike(b, c) && isAlike(d, a));
}

/** Where quads go round rims of the form. */
export interface Rims {
  /** point → unit normal of the quads round it */
  own: Float64Array;
  /** point → which way the form ends there, out to a ridge or down to the bottom of a groove, unit; zero off the rims */
  out: Float64Array;
  isOn(v: number): boolean;
}

/** The rims that some quads go round; null where none does. Cost: linear. */
export function rimsOf(soup: QuadSoup, normals: Float64Array): Rims | null {
  const { points: p, quads, onLine } = soup;
  let out: Float64Array | null = null;
  for (let q = 0; q < quads.length; q += 4) {
    if (!goesRoundRim(normals, quads, q)) continue;
    const corners = [3 * quads[q], 3 * quads[q + 1], 3 * quads[q + 2], 3 * quads[q + 3]];
    // the form faces apart on a ridge, together in a groove
    let apart = 0;
    for (let k = 0; k < 3; k++) {
      const middle = corners.reduce((sum, v) => sum + p[v + k], 0) / 4;
      for (const v of corners) apart += normals[v + k] * (p[v + k] - middle);
    }
    const n = quadNormal(p, quads, q);
    const by = Math.sign(apart) / (Math.hypot(...n) || 1);
    out ??= new Float64Array(3 * onLine.length);
    for (const v of corners) for (let k = 0; k < 3; k++) out[v + k] += by * n[k];
  }
  if (!out) return null;
  const unit = out;
  for (let i = 0; i < unit.length; i += 3) {
    const l = Math.sqrt(unit[i] ** 2 + unit[i + 1] ** 2 + unit[i + 2] ** 2) || 1;
    for (let k = 0; k < 3; k++) unit[i + k] /= l;
  }
  const isOn = (v: number): boolean => unit[3 * v] !== 0 || unit[3 * v + 1] !== 0 || unit[3 * v + 2] !== 0;
  return { own: ownNormals(soup), out: unit, isOn };
}

/** Of a pull what leads along a rim, or further out: nothing off the quads there, from where the form would lead back inward. */
export function heldOut(p: Float64Array, to: Vec3, v: number, { own, out }: Rims): Vec3 {
  const without = (from: Vec3, way: Float64Array, most: number): Vec3 => {
    const by = Math.min(
      most,
      [0, 1, 2].reduce((t, k) => t + (from[k] - p[3 * v + k]) * way[3 * v + k], 0),
    );
    return [from[0] - by * way[3 * v], from[1] - by * way[3 * v + 1], from[2] - by * way[3 * v + 2]];
  };
  return without(without(to, own, Infinity), out, 0);
}
