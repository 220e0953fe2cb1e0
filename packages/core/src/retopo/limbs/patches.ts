import type { QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';

/** Quads in rows and columns, as half-edges: each runs along the side of its quad that is the first row's outer one. */
export interface Patch {
  halves: number[];
  columns: number;
  rows: number;
}

const next = (h: number): number => (h & ~3) + ((h + 1) & 3);
const opposite = (h: number): number => (h & ~3) + ((h + 2) & 3);
const before = (h: number): number => (h & ~3) + ((h + 3) & 3);

/** The rectangle of quads that begins at a half-edge; null where there is none: at rims, and where rows do not run beside each other. Cost: its quads. */
export function rectangle(links: QuadLinks, first: number, columns: number, rows: number): Patch | null {
  const halves: number[] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const ways = [
        ...(i > 0 ? [onward(links, halves[j * columns + i - 1])] : []),
        ...(j > 0 ? [links.twin(opposite(halves[(j - 1) * columns + i]))] : []),
      ];
      // both ways to a quad must come to the same of its sides
      if (ways.some((h) => h < 0 || h !== ways[0])) return null;
      halves.push(ways[0] ?? first);
    }
  const patch = { halves, columns, rows };
  const round = outlineOf(patch).map((h) => links.quads[h]);
  return new Set(halves.map((h) => h >> 2)).size === halves.length && new Set(round).size === round.length ? patch : null; // prettier-ignore
}

/** The same side of the quad to the right, or −1. */
function onward(links: QuadLinks, h: number): number {
  const twin = links.twin(next(h));
  return twin < 0 ? -1 : next(twin);
}

/** The rectangles, columns by rows, that a quad is part of; those whose first corner is as wanted. Cost: as many as it has quads, twice, of each their quads. */
export function rectanglesWith(
  links: QuadLinks,
  q: number,
  columns: number,
  rows: number,
  isCorner: (v: number) => boolean = () => true,
): Patch[] {
  const found: Patch[] = [];
  for (const turn of columns === rows ? [0] : [0, 1])
    for (let i = 0; i < columns; i++)
      for (let j = 0; j < rows; j++) {
        let first = 4 * q + turn;
        for (let k = 0; k < i && first >= 0; k++) {
          const twin = links.twin(before(first));
          first = twin < 0 ? -1 : before(twin);
        }
        for (let k = 0; k < j && first >= 0; k++) {
          const twin = links.twin(first);
          first = twin < 0 ? -1 : opposite(twin);
        }
        const patch = first >= 0 && isCorner(links.quads[first]) ? rectangle(links, first, columns, rows) : null;
        if (patch) found.push(patch);
      }
  return found;
}

/** The half-edges round a patch, which keep it on their left. */
export function outlineOf({ halves, columns, rows }: Patch): number[] {
  const at = (i: number, j: number): number => halves[j * columns + i];
  const round: number[] = [];
  for (let i = 0; i < columns; i++) round.push(at(i, 0));
  for (let j = 0; j < rows; j++) round.push(next(at(columns - 1, j)));
  for (let i = columns - 1; i >= 0; i--) round.push(opposite(at(i, rows - 1)));
  for (let j = rows - 1; j >= 0; j--) round.push(before(at(0, j)));
  return round;
}

/** The points round a patch in turn; of one with a side in the mirror plane those from the one end of that to the other, on the way that is none of it. */
export interface Outline {
  points: number[];
  closed: boolean;
}

/** How many edges an outline has. */
export const sidesOf = ({ points, closed }: Outline): number => points.length - (closed ? 0 : 1);

/** A patch's outline, closed where it is off the mirror plane; null where it meets the mirror plane, which `isInPlane` tells of points, otherwise than along one stretch of its sides. Cost: the patch's quads. */
export function outlineOffPlane(links: QuadLinks, patch: Patch, isInPlane: (v: number) => boolean): Outline | null {
  const round = outlineOf(patch);
  const pointOf = (h: number): number => links.quads[h];
  const touching = new Set(patch.halves.flatMap((h) => [0, 1, 2, 3].map((k) => pointOf((h & ~3) + k))).filter(isInPlane)); // prettier-ignore
  if (touching.size === 0) return { points: round.map(pointOf), closed: true };
  const isSide = (h: number): boolean => links.twin(h) < 0 && isInPlane(pointOf(h)) && isInPlane(pointOf(next(h)));
  const first = round.findIndex((h, i) => !isSide(h) && isSide(round[(i + round.length - 1) % round.length]));
  if (first < 0) return null;
  const turned = [...round.slice(first), ...round.slice(0, first)];
  const sides = turned.filter(isSide).length;
  const open = turned.length - sides;
  if (turned.slice(open).some((h) => !isSide(h)) || touching.size !== sides + 1) return null;
  return { points: turned.slice(0, open + 1).map(pointOf), closed: false };
}

/**
 * How many more edges too many or too few points have once a patch is drawn out: its corners become poles, or those of a cap stay what they are. Where it has a side in the mirror plane its image counts, too. Cost: its
 * outline.
 */
export function polesOfDrawing(links: QuadLinks, patch: Patch, { points, closed }: Outline): number {
  const inside = new Set(patch.halves.map((h) => h >> 2));
  let more = 0;
  points.forEach((v, i) => {
    const all = links.at(v).length;
    const own = links.at(v).filter((q) => inside.has(q)).length;
    const isEnd = !closed && (i === 0 || i === points.length - 1);
    // in the plane each quad has an image at the same point, elsewhere the point has one
    const [each, beside] = isEnd ? [2, 1] : [1, 2];
    const off = (quads: number): number => Math.abs(each * quads - 4);
    const change = off(all - own + beside) + off(own + beside) - off(all);
    more += closed || isEnd ? change : 2 * change;
  });
  return more;
}

/**
 * A patch drawn out by rings of quads: `rings` are their points in turn, xyz, from the first that is new to the outermost, in the order of the outline `round` it; the patch's own inner points go to `inner`.
 * The patch's quads keep their numbers, the new ones come last. Cost: linear.
 */
export function drawnOut(
  soup: QuadSoup,
  patch: Patch,
  rings: readonly Float64Array[],
  inner: ReadonlyMap<number, readonly number[]>,
  round: Outline,
): QuadSoup {
  const outline = round.points;
  const m = outline.length;
  const sides = sidesOf(round);
  const first = soup.onLine.length;
  const points = new Float64Array(soup.points.length + 3 * m * rings.length);
  points.set(soup.points);
  rings.forEach((ring, i) => points.set(ring, 3 * (first + i * m)));
  for (const [v, to] of inner) points.set(to, 3 * v);
  const quads = [...soup.quads];
  const at = (ring: number, k: number): number => (ring < 0 ? outline[k % m] : first + ring * m + (k % m));
  const to = new Map(outline.map((v, k) => [v, at(rings.length - 1, k)]));
  for (const half of patch.halves) for (let h = half & ~3, k = 0; k < 4; k++) quads[h + k] = to.get(quads[h + k]) ?? quads[h + k]; // prettier-ignore
  for (let i = 0; i < rings.length; i++)
    for (let k = 0; k < sides; k++) quads.push(at(i - 1, k), at(i - 1, k + 1), at(i, k + 1), at(i, k));
  const onLine = new Int32Array(first + m * rings.length).fill(-1);
  onLine.set(soup.onLine);
  // the plane's line goes on at both ends
  if (!round.closed) for (let i = 0; i < rings.length; i++) for (const k of [0, m - 1]) onLine[first + i * m + k] = soup.onLine[outline[k]]; // prettier-ignore
  return { points, quads: Int32Array.from(quads), onLine };
}
