import { compacted } from '../mend/mendQuads';
import { cornerOf, QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';

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
  return new Set([...soup.onLine.keys()].filter((v) => links.countAt(v) > 0 && links.fansAt(v).fans > 1));
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
