import { lerp, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { FacingForm } from '../form/FacingForm';
import { onCurve, type Curve } from '../lines/lines';
import type { QuadSoup } from '../quads/QuadSoup';
import { slenderQuads } from '../quads/slender';
import { ownNormals, quadNormal } from './facing';
import { goesRoundRim, heldOut, rimsOf } from './roundRims';

const ROUNDS = 30;
/** Of the way to where its quads want it, how far a point goes in a round. */
const STEP = 0.6;

/**
 * Evens quads out on the form: each pulls its corners to the square that fits it best, or along a slender limb to the rectangle, in the plane that the form has there (its own plane would keep
 * folds as they are), points go part of the way and back onto the form; those on lines stay on their curves, corners stay. Changes the points.
 * Cost: rounds times points that may move, with a walked closest point each.
 */
export function relaxed(soup: QuadSoup, curves: readonly Curve[], surface: SculptSurface, rounds = ROUNDS): void {
  const { points: p, onLine } = soup;
  const n = onLine.length;
  const form = new FacingForm(surface);
  const normals = ownNormals(soup);
  const place = (v: number, to: Vec3): void => {
    const { point, normal } = form.closest(to, [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]], v);
    normals.set(normal, 3 * v);
    p.set(onLine[v] >= 0 ? onCurve(curves[onLine[v]], ...to) : point, 3 * v);
  };
  for (let v = 0; v < n; v++) if (onLine[v] !== -2) place(v, [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
  eachPull(soup, normals, rounds, (v, to) => {
    const at = (k: number): number => p[3 * v + k] + STEP * (to[k] - p[3 * v + k]);
    place(v, [at(0), at(1), at(2)]);
  });
}

/** In each round, where the quads round every point that may move want it on the whole. */
function eachPull(soup: QuadSoup, normals: Float64Array, rounds: number, move: (v: number, to: Vec3) => void): void {
  const { quads, onLine } = soup;
  const n = onLine.length;
  const sum = new Float64Array(3 * n);
  const count = new Int32Array(n);
  const slender = slenderQuads(soup);
  const asked = quadsWith(quads, (v) => onLine[v] !== -2);
  for (let round = 0; round < rounds; round++) {
    sum.fill(0);
    count.fill(0);
    for (const q of asked) pullSquare(soup, normals, q, slender[q >> 2] === 1, sum, count);
    const rims = rimsOf(soup, normals);
    for (let v = 0; v < n; v++) {
      if (onLine[v] === -2 || count[v] === 0) continue;
      const to = meanPull(v, sum, count[v]);
      move(v, onLine[v] === -1 && rims?.isOn(v) ? heldOut(soup.points, to, v, rims) : to);
    }
  }
}

/** Where the quads round a point want it on the mean. */
const meanPull = (v: number, sum: Float64Array, count: number): Vec3 => [sum[3 * v] / count, sum[3 * v + 1] / count, sum[3 * v + 2] / count]; // prettier-ignore

/** The quads, as 4·q, that have a corner of which something is so. */
function quadsWith(quads: Int32Array, isSo: (v: number) => boolean): number[] {
  const found: number[] = [];
  for (let q = 0; q < quads.length; q += 4) if ([0, 1, 2, 3].some((k) => isSo(quads[q + k]))) found.push(q);
  return found;
}

/** Adds where a quad wants its corners: on the square that fits them best, or the rectangle, which keeps its length. */
function pullSquare(
  { points: p, quads, onLine }: QuadSoup,
  normals: Float64Array,
  q: number,
  keepsLength: boolean,
  sum: Float64Array,
  count: Int32Array,
): void {
  // round a rim it would be as wide as long, which the form is further in only
  if (goesRoundRim(normals, quads, q)) return;
  let cx = 0, cy = 0, cz = 0, nx = 0, ny = 0, nz = 0; // prettier-ignore
  for (let k = 0; k < 4; k++) {
    const v = 3 * quads[q + k];
    cx += p[v] / 4;
    cy += p[v + 1] / 4;
    cz += p[v + 2] / 4;
    // on a line the form faces two ways
    if (onLine[v / 3] !== -1) continue;
    nx += normals[v];
    ny += normals[v + 1];
    nz += normals[v + 2];
  }
  // a quad with no corner off the lines has but its own
  if (nx === 0 && ny === 0 && nz === 0) [nx, ny, nz] = quadNormal(p, quads, q);
  const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
  if (!(l > 1e-12)) return;
  nx /= l;
  ny /= l;
  nz /= l;
  // a, b = mean of the corners turned back by their quarters, and turned on by them, as vectors in the plane: those of a rectangle are at a·iᵏ + b·i⁻ᵏ, with b along −i·a, of a square b is none
  let ax = 0, ay = 0, az = 0, bx = 0, by = 0, bz = 0; // prettier-ignore
  for (let k = 0; k < 4; k++) {
    const v = 3 * quads[q + k];
    let x = p[v] - cx, y = p[v + 1] - cy, z = p[v + 2] - cz; // prettier-ignore
    const off = x * nx + y * ny + z * nz;
    x -= off * nx;
    y -= off * ny;
    z -= off * nz;
    const tx = ny * z - nz * y, ty = nz * x - nx * z, tz = nx * y - ny * x; // prettier-ignore
    const c = COS[k] / 4, s = SIN[k] / 4; // prettier-ignore
    ax += c * x - s * tx;
    ay += c * y - s * ty;
    az += c * z - s * tz;
    bx += c * x + s * tx;
    by += c * y + s * ty;
    bz += c * z + s * tz;
  }
  const tx = ny * az - nz * ay, ty = nz * ax - nx * az, tz = nx * ay - ny * ax; // prettier-ignore
  const aa = ax * ax + ay * ay + az * az;
  const long = keepsLength && aa > 0 ? (bx * tx + by * ty + bz * tz) / aa : 0;
  for (let k = 0; k < 4; k++) {
    const v = quads[q + k];
    const along = COS[k] + long * SIN[k], across = SIN[k] + long * COS[k]; // prettier-ignore
    sum[3 * v] += cx + along * ax + across * tx;
    sum[3 * v + 1] += cy + along * ay + across * ty;
    sum[3 * v + 2] += cz + along * az + across * tz;
    count[v]++;
  }
}
/** Of a corner's quarters. */
const COS = [1, 0, -1, 0];
const SIN = [0, 1, 0, -1];

/** Moves that leave a corner better than this are always taken. */
const GOOD = 0.35;

/**
 * As `relaxed`, but a point moves only where no quad round it gets worse than it was, or all stay good; what is sound never folds. Tries shorter moves too.
 * Quads should face as the form does at their corners, or as `facing` tells, f64[3·Q]. Changes the points. Cost: rounds times points
 * times the quads round each.
 */
export function relaxedSafely(
  soup: QuadSoup,
  curves: readonly Curve[],
  surface: SculptSurface,
  rounds: number,
  facing: Float64Array | null = null,
): void {
  const { points: p, quads, onLine } = soup;
  const n = onLine.length;
  const form = new FacingForm(surface);
  const normals = ownNormals(soup);
  const around = aroundOf(soup);
  const normalOf = (v: number): Vec3 => [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]];
  const held = (v: number, to: Vec3): Vec3 =>
    onLine[v] >= 0 ? onCurve(curves[onLine[v]], ...to) : form.closest(to, normalOf(v), v).point;
  for (let v = 0; v < n; v++) if (onLine[v] === -1) normals.set(form.closest([p[3 * v], p[3 * v + 1], p[3 * v + 2]], normalOf(v), v).normal, 3 * v); // prettier-ignore
  const wanted = (q: number): [number, number, number] => {
    if (facing) return [facing[(3 * q) / 4], facing[(3 * q) / 4 + 1], facing[(3 * q) / 4 + 2]];
    const sum: [number, number, number] = [0, 0, 0];
    for (let k = 0; k < 4; k++) for (let x = 0; x < 3; x++) sum[x] += normals[3 * quads[q + k] + x];
    return sum;
  };
  const worst = (v: number): number => Math.min(...around[v].map((q) => soundness(soup, q, wanted(q))));
  eachPull(soup, normals, rounds, (v, goal) => {
    const before = worst(v);
    const was: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    for (const step of [STEP, STEP / 3]) {
      p.set(held(v, lerp(was, goal, step)), 3 * v);
      if (worst(v) >= Math.min(before, GOOD)) break;
      p.set(was, 3 * v);
    }
  });
}

/** Vertex → the quads round it, as 4·q. */
export function aroundOf({ quads, onLine }: QuadSoup): number[][] {
  const around: number[][] = Array.from({ length: onLine.length }, () => []);
  for (let h = 0; h < quads.length; h++) around[quads[h]].push(h & ~3);
  return around;
}

/** A quad's least corner by its own normal where it faces as wanted; else how far it is from that, below zero. Makes nothing: it is asked most of all. */
export function soundness({ points: p, quads }: QuadSoup, q: number, wanted: ArrayLike<number>): number {
  const a = 3 * quads[q], b = 3 * quads[q + 1], c = 3 * quads[q + 2], d = 3 * quads[q + 3]; // prettier-ignore
  const ex = p[c] - p[a], ey = p[c + 1] - p[a + 1], ez = p[c + 2] - p[a + 2]; // prettier-ignore
  const fx = p[d] - p[b], fy = p[d + 1] - p[b + 1], fz = p[d + 2] - p[b + 2]; // prettier-ignore
  const x = ey * fz - ez * fy, y = ez * fx - ex * fz, z = ex * fy - ey * fx; // prettier-ignore
  const l = Math.sqrt(x * x + y * y + z * z);
  const w = Math.sqrt(wanted[0] * wanted[0] + wanted[1] * wanted[1] + wanted[2] * wanted[2]);
  const agrees = l > 0 && w > 0 ? (x * wanted[0] + y * wanted[1] + z * wanted[2]) / (l * w) : -1;
  if (agrees > 0) return leastTurn(p, quads, q, x, y, z, l);
  return Math.min(0, leastTurn(p, quads, q, wanted[0], wanted[1], wanted[2], w || 1)) + agrees - 1e-9;
}

/** A quad's least corner, its turns measured against the normal (x, y, z) of length l. */
function leastTurn(p: Float64Array, quads: Int32Array, q: number, x: number, y: number, z: number, l: number): number {
  let least = 1;
  // the edge that comes in at a corner, and its squared length
  let last = 3 * quads[q + 3], at = 3 * quads[q]; // prettier-ignore
  let vx = p[last] - p[at], vy = p[last + 1] - p[at + 1], vz = p[last + 2] - p[at + 2]; // prettier-ignore
  let vv = vx * vx + vy * vy + vz * vz;
  for (let k = 1; k <= 4; k++) {
    [last, at] = [at, 3 * quads[q + (k & 3)]];
    const ux = p[at] - p[last], uy = p[at + 1] - p[last + 1], uz = p[at + 2] - p[last + 2]; // prettier-ignore
    const uu = ux * ux + uy * uy + uz * uz;
    const turn = (uy * vz - uz * vy) * x + (uz * vx - ux * vz) * y + (ux * vy - uy * vx) * z;
    const size = Math.sqrt(uu * vv);
    least = Math.min(least, size > 0 ? turn / size / l : 0);
    [vx, vy, vz, vv] = [-ux, -uy, -uz, uu];
  }
  return least;
}
