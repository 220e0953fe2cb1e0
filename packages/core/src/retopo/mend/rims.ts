import type { Vec3 } from '../../math';
import { onCurve, type Curve } from '../lines/lines';
import { halfKey } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';

/** Whether an open edge may lie on the rim of an open form: both its ends do; corners are of the rim where there is one. */
export function mayRim({ onLine }: QuadSoup, curves: readonly Curve[], u: number, v: number): boolean {
  const may = (w: number): boolean => onLine[w] >= 0 && curves[onLine[w]].isBorder;
  if (onLine[u] === -2 && onLine[v] === -2) return curves.some((curve) => curve.isBorder);
  return (may(u) && (may(v) || onLine[v] === -2)) || (may(v) && onLine[u] === -2);
}

/** Where quads were missing along the rim, the outline of what went has a gap: closed there, over a point more where its edges would be odd. */
export function joinRim(
  left: QuadSoup,
  next: Map<number, number>,
  border: Set<number>,
  curves: readonly Curve[],
): void {
  const into = new Set(next.values());
  const starts = [...next.keys()].filter((u) => !into.has(u));
  const ends = [...into].filter((v) => !next.has(v));
  if (starts.length !== 1 || ends.length !== 1) return;
  const [start, end] = [starts[0], ends[0]];
  if (!mayRim(left, curves, start, end)) return;
  let edges = 0;
  for (let v = start; v !== end; v = next.get(v) as number) edges++;
  const join = (u: number, v: number): void => {
    next.set(u, v);
    border.add(halfKey(u, v));
  };
  if (edges % 2 === 1) return join(end, start);
  const { points: p, onLine } = left;
  const line = Math.max(onLine[start], onLine[end]);
  if (line < 0) return;
  const middle = onCurve(curves[line], (p[3 * start] + p[3 * end]) / 2, (p[3 * start + 1] + p[3 * end + 1]) / 2, (p[3 * start + 2] + p[3 * end + 2]) / 2); // prettier-ignore
  left.points = Float64Array.from([...p, ...middle]);
  left.onLine = Int32Array.from([...onLine, line]);
  join(end, onLine.length);
  join(onLine.length, start);
}

/** The first edge of an outline that lies on the rim, or −1. */
export const rimEdge = (hole: readonly number[], border: ReadonlySet<number>): number =>
  hole.findIndex((v, i) => border.has(halfKey(v, hole[(i + 1) % hole.length])));

/** The outline with a point more on the rim, which is added to the points; null where it does not run along it. */
export function withRimPoint(
  hole: readonly number[],
  border: ReadonlySet<number>,
  curves: readonly Curve[],
  points: number[],
  onLine: number[],
): number[] | null {
  const i = rimEdge(hole, border);
  if (i < 0) return null;
  const [u, v] = [hole[i], hole[(i + 1) % hole.length]];
  const line = Math.max(onLine[u], onLine[v]);
  if (line < 0) return null;
  const middle = [0, 1, 2].map((k) => (points[3 * u + k] + points[3 * v + k]) / 2) as unknown as Vec3;
  points.push(...onCurve(curves[line], ...middle));
  return [...hole.slice(0, i + 1), onLine.push(line) - 1, ...hole.slice(i + 1)];
}
