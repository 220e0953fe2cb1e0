import { distance, lerp, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { placeOnCurve, type Curve } from '../lines/lines';
import { cornerOf, halfKey, type QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { edgesRound, LEAST_ROUND } from '../quads/slender';
import { compacted } from './mendQuads';

/** Quads one after another, each sharing with the next the edge opposite to the one it shares with that before: round and round, or from rim to rim. */
export interface Row {
  /** the half-edge over which each quad is entered, in turn */
  entries: number[];
  /** whether it comes back to its first quad */
  isRing: boolean;
}

const opposite = (h: number): number => (h & ~3) + ((h + 2) & 3);

/** The rows of quads that neither meet themselves nor run beside themselves. Cost: linear. */
export function plainRows(soup: QuadSoup, links: QuadLinks): Row[] {
  const seen = new Uint8Array(soup.quads.length);
  const rows: Row[] = [];
  for (let h = 0; h < seen.length; h++) {
    if (seen[h]) continue;
    const row = rowThrough(h, links);
    for (const e of row.entries) seen[e] = seen[opposite(e)] = 1;
    const points = row.entries.flatMap((e) => [soup.quads[e], cornerOf(soup.quads, e, 1)]);
    if (new Set(points).size === points.length && new Set(row.entries.map((e) => e >> 2)).size === row.entries.length) rows.push(row); // prettier-ignore
  }
  return rows;
}

function rowThrough(first: number, links: QuadLinks): Row {
  // back to where it comes in from the rim, or to where it was begun
  let start = first;
  let isRing = false;
  for (let twin = links.twin(start); twin >= 0; twin = links.twin(start)) {
    start = opposite(twin);
    isRing = start === first;
    if (isRing) break;
  }
  const entries = [start];
  for (let next = links.twin(opposite(start)); next >= 0 && next !== start; next = links.twin(opposite(next))) entries.push(next); // prettier-ignore
  return { entries, isRing };
}

/** The edges across a row, as half-edges, in turn: one more than its quads where it runs from rim to rim. */
const rungsOf = ({ entries, isRing }: Row): number[] => isRing ? entries : [...entries, opposite(entries[entries.length - 1])]; // prettier-ignore

/** How wide a row is for how long its quads are: the mean length of the edges across it over that of those along it. */
export function aspectOf({ points, quads }: QuadSoup, row: Row): number {
  const long = (h: number, a: number, b: number): number => distance(at(points, cornerOf(quads, h, a)), at(points, cornerOf(quads, h, b))); // prettier-ignore
  const rungs = rungsOf(row);
  const across = rungs.reduce((sum, h) => sum + long(h, 0, 1), 0) / rungs.length;
  const along = row.entries.reduce((sum, h) => sum + long(h, 1, 2) + long(h, 3, 0), 0) / (2 * row.entries.length);
  return across / Math.max(along, Number.MIN_VALUE);
}

/** An edge whose middle is nearer to a line than this share of its length runs along it. */
const ALONG = 0.15;

/** The line that an edge runs along, or −1. Cost: the lines' points, of an edge with both ends on some. */
function lineAlong({ points, onLine }: QuadSoup, curves: readonly Curve[], u: number, v: number): number {
  if (onLine[u] === -1 || onLine[v] === -1) return -1;
  const middle = lerp(at(points, u), at(points, v), 0.5);
  const near = ALONG * distance(at(points, u), at(points, v));
  const own = [onLine[u], onLine[v]].find((line) => line >= 0);
  const lines = own === undefined ? [...curves.keys()] : [own];
  return lines.find((line) => placeOnCurve(curves[line], ...middle).away < near) ?? -1;
}

/** With a row made two: its edges across are halved, on the form, or along their line. Cost: linear, and a closest point for each. */
export function withRowHalved(soup: QuadSoup, row: Row, curves: readonly Curve[], surface: SculptSurface): QuadSoup {
  const points = [...soup.points];
  const onLine = [...soup.onLine];
  const middles = new Map<number, number>();
  for (const h of rungsOf(row)) {
    const [u, v] = [soup.quads[h], cornerOf(soup.quads, h, 1)];
    const middle = lerp(at(soup.points, u), at(soup.points, v), 0.5);
    const line = lineAlong(soup, curves, u, v);
    points.push(...(line >= 0 ? placeOnCurve(curves[line], ...middle) : surface.closest(middle)).point);
    middles.set(Math.min(halfKey(u, v), halfKey(v, u)), onLine.push(line) - 1);
  }
  const middleOf = (h: number): number => {
    const [u, v] = [soup.quads[h], cornerOf(soup.quads, h, 1)];
    return middles.get(Math.min(halfKey(u, v), halfKey(v, u))) as number;
  };
  const quads = [...soup.quads];
  for (const h of row.entries) {
    const [a, b, c, d] = [0, 1, 2, 3].map((k) => cornerOf(soup.quads, h, k));
    const [near, far] = [middleOf(h), middleOf(opposite(h))];
    const first = h & ~3;
    quads.splice(first, 4, a, near, far, d);
    quads.push(near, b, c, far);
  }
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: Int32Array.from(onLine) };
}

/** Without a row: each of its edges across comes together in one point. Null where two lines would, or a limb or hole would have fewer than four edges round it. Cost: linear. */
export function withoutRow(soup: QuadSoup, row: Row, curves: readonly Curve[], links: QuadLinks): QuadSoup | null {
  const { quads, onLine } = soup;
  const points = soup.points.slice();
  const to = Int32Array.from(onLine, (_, v) => v);
  for (const h of rungsOf(row)) {
    const [u, v] = [quads[h], cornerOf(quads, h, 1)];
    const isFixed = onLine[u] !== -1 && onLine[v] !== -1;
    if (isFixed && (onLine[u] === -2 && onLine[v] === -2 || lineAlong(soup, curves, u, v) < 0)) return null; // prettier-ignore
    if (edgesRound(h, links) <= LEAST_ROUND) return null;
    const [stays, goes] = onLine[u] === -2 || (onLine[u] >= 0 && onLine[v] === -1) ? [u, v] : [v, u];
    to[goes] = stays;
    if (onLine[stays] === -1) points.set(lerp(at(points, u), at(points, v), 0.5), 3 * stays);
  }
  const gone = new Set(row.entries.map((h) => h >> 2));
  const left = [...quads].filter((_, h) => !gone.has(h >> 2)).map((v) => to[v]);
  return compacted(points, left, onLine);
}

const at = (p: Float64Array, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
