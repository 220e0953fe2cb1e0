import { boxOf } from '../../math';
import { placeOnCurve, type Curve } from '../lines/lines';
import { cornerOf } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';

/** Points no further from a ridge than this share of their edges lie on it: rows that run along it were drawn there. */
const NEAR = 0.3;
/** An edge runs along a ridge where its ends are at least so much of its length apart along that. */
const ALONG = 0.75;
/** Rows of no more points than this are let go. */
const SHORT = 2;

interface OnRidge {
  ridge: number;
  along: number;
  away: number;
  /** of the ridge */
  length: number;
}

/** The soup with the points of rows that run along ridges, each nearer to it than the rows beside, on these as lines; as it was where there are none. Its points stay where they are. Cost: the points near ridges times the ridges' own. */
export function onRidges(soup: QuadSoup, curves: readonly Curve[]): QuadSoup {
  const near = nearRidges(soup, curves);
  const rows = rowsAmong(soup, near);
  if (rows.length === 0) return soup;
  const onLine = soup.onLine.slice();
  for (const v of rows) onLine[v] = (near.get(v) as OnRidge).ridge;
  return { ...soup, onLine };
}

/** The soup with no point on a ridge. Cost: linear. */
export const offRidges = (soup: QuadSoup, curves: readonly Curve[]): QuadSoup => ({
  ...soup,
  onLine: soup.onLine.map((line) => (line >= 0 && curves[line].isRidge ? -1 : line)),
});

function nearRidges(soup: QuadSoup, curves: readonly Curve[]): Map<number, OnRidge> {
  const { points: p, onLine } = soup;
  const found = new Map<number, OnRidge>();
  const ridges = curves.flatMap((curve, ridge) => (curve.isRidge ? [{ curve, ridge, box: boxOf(curve.points) }] : [])); // prettier-ignore
  if (ridges.length === 0) return found;
  const edges = meanEdges(soup);
  for (const { curve, ridge, box } of ridges)
    for (let v = 0; v < onLine.length; v++) {
      if (onLine[v] !== -1) continue;
      const most = Math.min(NEAR * edges[v], found.get(v)?.away ?? Infinity);
      if ([0, 1, 2].some((k) => p[3 * v + k] < box.min[k] - most || p[3 * v + k] > box.max[k] + most)) continue;
      const { along, away, length } = placeOnCurve(curve, p[3 * v], p[3 * v + 1], p[3 * v + 2]);
      if (away < most && along > 0 && along < length) found.set(v, { ridge, along, away, length });
    }
  return found;
}

/** Those that lie in a row along a ridge. */
function rowsAmong({ points: p, quads }: QuadSoup, near: ReadonlyMap<number, OnRidge>): number[] {
  const beside = new Set<number>();
  const rows: [number, number][] = [];
  for (let h = 0; h < quads.length; h++) {
    const [u, v] = [quads[h], cornerOf(quads, h, 1)];
    const [a, b] = [near.get(u), near.get(v)];
    if (!a || !b || a.ridge !== b.ridge) continue;
    const apart = Math.abs(a.along - b.along);
    if (Math.min(apart, a.length - apart) > ALONG * lengthOf(p, u, v)) rows.push([u, v]);
    else beside.add(a.away > b.away ? u : v);
  }
  return longRows(rows.filter(([u, v]) => !beside.has(u) && !beside.has(v)));
}

/** The points of edges that hang together over more than a few. */
function longRows(edges: readonly (readonly [number, number])[]): number[] {
  const next = new Map<number, Set<number>>();
  const join = (u: number, v: number): void => void next.set(u, (next.get(u) ?? new Set()).add(v));
  for (const [u, v] of edges) {
    join(u, v);
    join(v, u);
  }
  const seen = new Set<number>();
  const long: number[] = [];
  for (const start of next.keys()) {
    if (seen.has(start)) continue;
    const row = [start];
    seen.add(start);
    for (const v of row)
      for (const w of next.get(v) as Set<number>) {
        if (seen.has(w)) continue;
        seen.add(w);
        row.push(w);
      }
    if (row.length > SHORT) long.push(...row);
  }
  return long;
}

/** The mean length of the edges at each point. */
function meanEdges({ points: p, quads, onLine }: QuadSoup): Float64Array {
  const sum = new Float64Array(onLine.length);
  const count = new Int32Array(onLine.length);
  for (let h = 0; h < quads.length; h++) {
    const [u, v] = [quads[h], cornerOf(quads, h, 1)];
    for (const w of [u, v]) {
      sum[w] += lengthOf(p, u, v);
      count[w]++;
    }
  }
  return sum.map((length, v) => length / Math.max(1, count[v]));
}

const lengthOf = (p: Float64Array, u: number, v: number): number =>
  Math.hypot(p[3 * u] - p[3 * v], p[3 * u + 1] - p[3 * v + 1], p[3 * u + 2] - p[3 * v + 2]);
