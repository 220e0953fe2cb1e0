import type { Vec3 } from '../math';
import type { WalkingForm } from '../surface';
import type { QuadSoup } from './extract';
import { onCurve, type Curve } from './lines';

const ROUNDS = 30;
/** Of the way to where its quads want it, how far a point goes in a round. */
const STEP = 0.6;

/**
 * Evens quads out on the form: each pulls its corners to the square that fits it best, in the plane that the form has there (its own plane would keep
 * folds as they are), points go part of the way and back onto the form; those on lines stay on their curves, corners stay. Changes the points.
 * Cost: rounds times points, with a walked closest point each.
 */
export function relaxed(soup: QuadSoup, curves: readonly Curve[], form: WalkingForm, rounds = ROUNDS): void {
  const { points: p, quads, onLine } = soup;
  const n = p.length / 3;
  const normals = new Float64Array(3 * n);
  const place = (v: number, x: number, y: number, z: number): void => {
    const { point, normal } = form.closest([x, y, z], v);
    normals.set(normal, 3 * v);
    p.set(onLine[v] >= 0 ? onCurve(curves[onLine[v]], x, y, z) : point, 3 * v);
  };
  for (let v = 0; v < n; v++) {
    const { normal } = form.closest([p[3 * v], p[3 * v + 1], p[3 * v + 2]], v);
    normals.set(normal, 3 * v);
  }
  // a quad with no corner off the lines has the form's normal in its middle
  const facing = new Map<number, Vec3>();
  for (let q = 0; q < quads.length; q += 4) {
    const own = quads.subarray(q, q + 4);
    if (own.some((v) => onLine[v] === -1)) continue;
    const middle = [0, 1, 2].map((k) => own.reduce((s, v) => s + p[3 * v + k] / 4, 0));
    facing.set(q, form.closest(middle as unknown as Vec3).normal);
  }
  const sum = new Float64Array(3 * n);
  const count = new Int32Array(n);
  for (let round = 0; round < rounds; round++) {
    sum.fill(0);
    count.fill(0);
    for (let q = 0; q < quads.length; q += 4) pullSquare(soup, normals, facing, q, sum, count);
    for (let v = 0; v < n; v++) {
      if (onLine[v] === -2 || count[v] === 0) continue;
      const at = (k: number): number => p[3 * v + k] + STEP * (sum[3 * v + k] / count[v] - p[3 * v + k]);
      place(v, at(0), at(1), at(2));
    }
  }
}

/** Adds where a quad wants its corners. */
function pullSquare(
  { points: p, quads, onLine }: QuadSoup,
  normals: Float64Array,
  facing: ReadonlyMap<number, Vec3>,
  q: number,
  sum: Float64Array,
  count: Int32Array,
): void {
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
  [nx, ny, nz] = facing.get(q) ?? [nx, ny, nz];
  const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
  if (!(l > 1e-12)) return;
  nx /= l;
  ny /= l;
  nz /= l;
  // a = mean of the corners turned back by their quarters, as vectors in the plane: corner k wants to be at a turned k quarters
  let ax = 0, ay = 0, az = 0; // prettier-ignore
  for (let k = 0; k < 4; k++) {
    const v = 3 * quads[q + k];
    let x = p[v] - cx, y = p[v + 1] - cy, z = p[v + 2] - cz; // prettier-ignore
    const off = x * nx + y * ny + z * nz;
    x -= off * nx;
    y -= off * ny;
    z -= off * nz;
    const [tx, ty, tz] = [ny * z - nz * y, nz * x - nx * z, nx * y - ny * x];
    // turned back by k quarters
    ax += (k === 0 ? x : k === 1 ? -tx : k === 2 ? -x : tx) / 4;
    ay += (k === 0 ? y : k === 1 ? -ty : k === 2 ? -y : ty) / 4;
    az += (k === 0 ? z : k === 1 ? -tz : k === 2 ? -z : tz) / 4;
  }
  const tx = ny * az - nz * ay, ty = nz * ax - nx * az, tz = nx * ay - ny * ax; // prettier-ignore
  for (let k = 0; k < 4; k++) {
    const v = quads[q + k];
    sum[3 * v] += cx + (k === 0 ? ax : k === 1 ? tx : k === 2 ? -ax : -tx);
    sum[3 * v + 1] += cy + (k === 0 ? ay : k === 1 ? ty : k === 2 ? -ay : -ty);
    sum[3 * v + 2] += cz + (k === 0 ? az : k === 1 ? tz : k === 2 ? -az : -tz);
    count[v]++;
  }
}
