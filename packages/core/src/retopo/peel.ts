import type { QuadSoup } from './extract';
import { distance, lerp, type Vec3 } from '../math';
import { compacted } from './mendQuads';
import { cornerOf, QuadLinks } from './QuadLinks';

/** The quads without those at their border, so many rings deep, and without those at points where what is left would hang together by a point; null where none are left. */
export function peeled(soup: QuadSoup, rings: number): QuadSoup | null {
  let now = soup;
  for (let ring = 0; ring < rings; ring++) now = without(now, openPoints(now));
  for (let pinched = pinchedPoints(now); pinched.size > 0; pinched = pinchedPoints(now)) now = without(now, pinched);
  return now.quads.length > 0 ? now : null;
}

function openPoints(soup: QuadSoup): Set<number> {
  const links = new QuadLinks(soup);
  const found = new Set<number>();
  for (let h = 0; h < soup.quads.length; h++)
    if (links.isOpen(h)) found.add(soup.quads[h]).add(cornerOf(soup.quads, h, 1));
  return found;
}

function pinchedPoints(soup: QuadSoup): Set<number> {
  const links = new QuadLinks(soup);
  return new Set([...soup.onLine.keys()].filter((v) => links.at(v).length > 0 && links.fansAt(v).fans > 1));
}

/** Without the quads at some points, and the points that nothing holds then. */
function without({ points, quads, onLine }: QuadSoup, gone: ReadonlySet<number>): QuadSoup {
  const kept: number[] = [];
  for (let q = 0; q < quads.length; q += 4) {
    const own = quads.subarray(q, q + 4);
    if (!own.some((v) => gone.has(v))) kept.push(...own);
  }
  return compacted(points, kept, onLine);
}

/** The border loops, their quads on the left. */
export function loopsIn(soup: QuadSoup): number[][] {
  const links = new QuadLinks(soup);
  const next = new Map<number, number>();
  for (let h = 0; h < soup.quads.length; h++) if (links.isOpen(h)) next.set(soup.quads[h], cornerOf(soup.quads, h, 1));
  const loops: number[][] = [];
  for (const first of next.keys()) {
    const loop: number[] = [];
    for (let v: number | undefined = first; v !== undefined; v = next.get(v)) {
      if (loop.length > 0 && v === first) break;
      loop.push(v);
    }
    for (const v of loop) next.delete(v);
    loops.push(loop);
  }
  return loops;
}

/** The loop whose points lie nearest to those of another, on the whole. */
export function nearestLoop(to: readonly number[], loops: readonly number[][], points: readonly Vec3[]): number[] {
  const away = (loop: readonly number[]): number =>
    loop.reduce((sum, v) => sum + Math.min(...to.map((u) => distance(points[u], points[v]))), 0) / loop.length;
  return loops.reduce((best, loop) => (away(loop) < away(best) ? loop : best));
}

/** A new loop half-way between two: a point for each outer one, two fewer where the border turns in round the patch, two more where it turns out. */
export function rowInside(
  outer: readonly number[],
  inner: readonly number[],
  outside: readonly number[],
  points: Vec3[],
): number[] {
  const counts = outer.map(() => 1);
  outside.forEach((n, i) => {
    if (n === 1) counts[i] += 2;
    if (n < 3) return;
    counts[i]--;
    counts[(i + 1) % counts.length]--;
  });
  return outer.flatMap((u, i) => {
    const near = inner.reduce((a, b) => (distance(points[b], points[u]) < distance(points[a], points[u]) ? b : a));
    const beside = [points[outer.at(i - 1) as number], points[outer[(i + 1) % outer.length]]];
    return Array.from({ length: Math.max(0, counts[i]) }, (_, k) => {
      const along = counts[i] > 1 ? lerp(beside[0], beside[1], k / (counts[i] - 1)) : points[u];
      return points.push(lerp(lerp(points[u], along, 0.25), points[near], 0.5)) - 1;
    });
  });
}

/** Named anew so that the points of the border come first, in turn; null where one is not there any more. */
export function borderFirst({ points, quads, onLine }: QuadSoup, border: readonly Vec3[]): QuadSoup | null {
  const at = new Map<string, number>();
  for (let v = 0; v < onLine.length; v++) if (onLine[v] === -2) at.set(points.subarray(3 * v, 3 * v + 3).join(), v);
  const order = border.map((p) => at.get(p.join()) ?? -1);
  if (order.includes(-1) || new Set(order).size < order.length) return null;
  const first = new Set(order);
  for (let v = 0; v < onLine.length; v++) if (!first.has(v)) order.push(v);
  const name = new Int32Array(order.length);
  order.forEach((v, i) => (name[v] = i));
  return {
    points: Float64Array.from(order.flatMap((v) => [...points.subarray(3 * v, 3 * v + 3)])),
    quads: quads.map((v) => name[v]),
    onLine: Int32Array.from(order, (v) => onLine[v]),
  };
}
