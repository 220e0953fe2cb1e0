import { axisIndex, type MirrorPlane } from '../../math';
import type { QuadSoup } from './QuadSoup';

/** Both halves, joined along the plane. Exact: a mirrored point differs in the sign of its distance alone. */
export function mirrored({ points, quads, onLine }: QuadSoup, plane: MirrorPlane): QuadSoup {
  const k = axisIndex(plane.axis);
  const all = [...points];
  const lines = [...onLine];
  const partner = Array.from(onLine, (line, v) => {
    if (points[3 * v + k] === plane.offset) return v;
    const p = [points[3 * v], points[3 * v + 1], points[3 * v + 2]];
    p[k] = 2 * plane.offset - p[k];
    all.push(...p);
    return lines.push(line) - 1;
  });
  const both = [...quads];
  for (let q = 0; q < quads.length; q += 4) both.push(...[0, 3, 2, 1].map((c) => partner[quads[q + c]]));
  return { points: Float64Array.from(all), quads: Int32Array.from(both), onLine: Int32Array.from(lines) };
}

/** Points of a half near to the plane, over the diagonal, that belong on it. */
const NEAR = 1e-4;

/**
 * Open edges near the plane put on it to the last bit, and every other point short of it: the half can then be mirrored exactly. Changes the
 * points. Cost: linear.
 */
export function keptOnHalf({ points, quads }: QuadSoup, plane: MirrorPlane): void {
  const k = axisIndex(plane.axis);
  const n = points.length / 3;
  const sides = new Set<number>();
  const next = (h: number): number => quads[(h & ~3) + ((h + 1) & 3)];
  for (let h = 0; h < quads.length; h++) sides.add(quads[h] * n + next(h));
  const open: number[] = [];
  for (let h = 0; h < quads.length; h++) if (!sides.has(next(h) * n + quads[h])) open.push(quads[h], next(h));
  const size = points.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  const away = (v: number): number => points[3 * v + k] - plane.offset;
  // one alone, off the cut, would join both halves by a point
  const onCut = new Uint8Array(n);
  for (let i = 0; i < open.length; i += 2) {
    const [u, v] = [open[i], open[i + 1]];
    if (Math.abs(away(u)) <= NEAR * size && Math.abs(away(v)) <= NEAR * size) onCut[u] = onCut[v] = 1;
  }
  for (let v = 0; v < n; v++)
    if (onCut[v] === 1) points[3 * v + k] = plane.offset;
    else if (away(v) <= 0) points[3 * v + k] = plane.offset + NEAR * size;
}
