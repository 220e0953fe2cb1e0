import { lerp, meanPoint, type Vec3 } from '../../math';
import { holding, pointsRound } from '../fit/fit';
import { aroundOf, relaxedSafely } from '../fit/relax';
import type { Ground } from '../lines/ground';
import { cornerOf, edgesOff, QuadLinks, turnedBy } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { roundsOf } from '../quads/spirals';

/** Points with so many edges too many are opened. */
const OPENED = 2;
/** How far the two points that one becomes go towards what is round them. */
const APART = 1 / 3;
const ROUNDS = 8;

/**
 * Points of six edges and more made two of fewer, a quad between them: the edges too many go to two points beside it that have none too many yet, so that a loop ends nowhere in a star. Only where no rings round limbs become spirals. Points that `stays`
 * tells of do not move; no more than `most` are opened. Cost: for each such point, a pass over the quads or a few; and some rounds of evening out round them.
 */
export function sixesOpened(start: QuadSoup, ground: Ground, stays: (v: number) => boolean, most = Infinity): QuadSoup {
  const { curves, surface } = ground;
  // what is opened keeps its number
  const { length } = start.onLine;
  const first = new QuadLinks(start);
  const isStar = (v: number): boolean => first.countAt(v) >= 4 + OPENED && start.onLine[v] === -1 && first.fansAt(v).isClosed; // prettier-ignore
  const stars = [...start.onLine.keys()].filter((v) => isStar(v) && !stays(v));
  if (stars.length === 0) return start;
  const fresh = new Set<number>();
  const { spiral } = roundsOf(start);
  let soup = start;
  for (const v of stars) {
    if (fresh.size / 2 + 1 > most) break;
    const links = new QuadLinks(soup);
    const off = edgesOff(soup, links);
    const next = pairsAt(soup, links, v, off)
      .map((pair) => opened(soup, pair, ground))
      .find((one) => roundsOf(one).spiral <= spiral);
    if (!next) continue;
    fresh.add(v).add(soup.onLine.length);
    soup = next;
  }
  if (soup === start) return start;
  const free = pointsRound(soup, aroundOf(soup), fresh);
  holding(soup, (v) => !free.has(v) || (v < length && stays(v)), () => relaxedSafely(soup, curves, surface, ROUNDS)); // prettier-ignore
  return soup;
}

/** Half-edges that leave a point, in their order round it, and the two along which it is opened. */
interface Pair {
  leaving: readonly number[];
  from: number;
  to: number;
}

/** Pairs of edges that a point may be opened along: those whose other ends are best off with one more edge first. */
function pairsAt({ quads, onLine }: QuadSoup, links: QuadLinks, v: number, off: Int8Array): Pair[] {
  const first = 4 * links.at(v)[0] + [0, 1, 2, 3].findIndex((k) => quads[4 * links.at(v)[0] + k] === v);
  const leaving: number[] = [];
  for (let h = first; leaving.length === 0 || h !== first; h = links.twin(turnedBy(h, 3))) leaving.push(h);
  const half = leaving.length >> 1;
  const others = leaving.map((h) => cornerOf(quads, h, 1));
  return leaving
    .flatMap((_, from) => ({ leaving, from, to: from + half }))
    .filter(({ to }) => to < leaving.length)
    .filter(({ from, to }) => [others[from], others[to]].every((w) => off[w] <= 0 && onLine[w] === -1))
    .sort((a, b) => off[others[a.from]] + off[others[a.to]] - off[others[b.from]] - off[others[b.to]]);
}

/** With a point made two along two of its edges: it keeps the quads between them, the new one has the others. */
function opened(soup: QuadSoup, { leaving, from, to }: Pair, { surface }: Ground): QuadSoup {
  const { points, quads, onLine } = soup;
  const [v, w] = [quads[leaving[0]], onLine.length];
  const others = leaving.map((h) => cornerOf(quads, h, 1));
  const at = (u: number): Vec3 => [points[3 * u], points[3 * u + 1], points[3 * u + 2]];
  const towards = (some: readonly number[]): Vec3 => surface.closest(lerp(at(v), meanPoint(some.map(at)), APART)).point;
  const kept = others.slice(from + 1, to);
  const left = [...others.slice(to + 1), ...others.slice(0, from)];
  const next = { points: Float64Array.from([...points, ...towards(left)]), quads: Int32Array.from([...quads, others[from], v, others[to], w]), onLine: Int32Array.from([...onLine, -1]) }; // prettier-ignore
  next.points.set(towards(kept), 3 * v);
  leaving.forEach((h, i) => {
    if (i < from || i >= to) next.quads[h] = w;
  });
  return next;
}
