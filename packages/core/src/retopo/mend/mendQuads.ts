import { fillBorder } from '../../fill';
import type { Vec3 } from '../../math';
import type { WalkingForm } from '../../surface';
import type { Ground } from '../lines/ground';
import { turnsInMirrorOnly, type Curve } from '../lines/lines';
import { alongLines, cutAlongLines } from '../quads/lineGaps';
import { cornerOf, edgesOffIn, eulerOf, halfKey, QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { bandBetween } from './band';
import { joinRim, mayRim, rimEdge, withRimPoint } from './rims';

/** Holes with more edges than this are not a fault to be mended. */
const LONGEST = 64;
const ROUNDS = 8;

/**
 * Takes out the quads round every fault and fills the holes with quads again, on the form. `bad` names the faulty ones; those that share a point with
 * them go too, and more where what is left would hang together by a point. What lies on the rim of an open form keeps its edges there. Null where a hole has no sound outline, is too
 * long, or has no filling. Cost: the holes'
 * fillings.
 */
export function mendedAround(soup: QuadSoup, bad: readonly number[], ground: Ground, rings = 1): QuadSoup | null {
  const made = refilled(soup, bad, ground, rings);
  return made && compacted(made.points, made.quads, made.onLine);
}

/** Quads with some taken out and others filled in, which come last, as their new points do; some old points may have no quad any more. */
export interface Refilled {
  points: number[];
  quads: number[];
  onLine: number[];
  gone: ReadonlySet<number>;
}

/** What may be asked of a filling. */
interface Wish {
  /** half-edges by their keys that are open only because no more of the quads are given */
  fixed?: ReadonlySet<number>;
  /** so many edges fewer too many or too few must be left at points than were there, where that can be told beforehand */
  fewer?: number;
  /** whether these quads may go: asked before anything is filled in */
  may?: (gone: ReadonlySet<number>) => boolean;
  /** two holes are the ends of a band, to be filled between, rather than closed each by itself */
  band?: boolean;
  /** the Euler number that must come of it, where that can be told beforehand */
  euler?: number;
}

/** As `mendedAround`, and tells what went. */
export function refilled(
  soup: QuadSoup,
  bad: readonly number[],
  { curves, forms: [form] }: Ground,
  rings: number,
  { fixed, fewer, may, band, euler }: Wish = {},
): Refilled | null {
  const links = new QuadLinks(soup);
  const border = new Set<number>(fixed);
  for (let h = 0; h < soup.quads.length; h++) {
    const [u, v] = [cornerOf(soup.quads, h, 0), cornerOf(soup.quads, h, 1)];
    if (links.isOpen(h) && mayRim(soup, curves, u, v)) border.add(halfKey(u, v));
  }
  const gone = new Set(bad);
  for (let i = 0; i < rings; i++) grow(links, gone);
  for (let round = 0; round < ROUNDS; round++) {
    const left = without(soup, gone);
    const found = holesOf(soup, left, gone, border, curves);
    const before = gone.size;
    for (const v of found.pinched) for (const q of links.at(v)) gone.add(q);
    if (found.pinched.length === 0) {
      // one on the rim gets a point more there
      const odd = found.holes.filter((hole) => hole.length % 2 === 1 && rimEdge(hole, border) < 0);
      if (found.isBroken || (band && found.holes.length !== 2)) return null;
      if (band ? odd.length % 2 === 0 : odd.length < 2) {
        if ((may && !may(gone)) || (euler !== undefined && !comesTo(euler, left, found.holes, border, band))) return null; // prettier-ignore
        const most = fewer === undefined ? Infinity : edgesOffIn(soup, links, gone) - fewer;
        const made = filled(left, found.holes, border, curves, form, most, band);
        return made && { ...made, gone };
      }
      // quads round a hole never change whether its edges are even: two odd holes must become one
      for (const q of between(links, odd[0], odd.slice(1))) gone.add(q);
    }
    if (gone.size === before) return null;
  }
  return null;
}

/** Whether closing holes comes to an Euler number: each adds a disc, a band between two adds nothing; what lies on a rim is not told. */
function comesTo(
  euler: number,
  left: QuadSoup,
  holes: number[][],
  border: ReadonlySet<number>,
  asBand = false,
): boolean {
  if (holes.some((hole) => rimEdge(hole, border) >= 0)) return true;
  return eulerOf(left) + (asBand ? 0 : holes.length) === euler;
}

/** The quads of a shortest way from points of one hole to those of another. */
function between(links: QuadLinks, from: readonly number[], to: readonly (readonly number[])[]): number[] {
  const goals = new Set(to.flat());
  const by = new Map<number, number>();
  const queue: number[] = [];
  const reach = (q: number, before: number): void => {
    if (by.has(q)) return;
    by.set(q, before);
    queue.push(q);
  };
  for (const v of from) for (const q of links.at(v)) reach(q, -1);
  for (const q of queue) {
    const corners = [0, 1, 2, 3].map((k) => links.quads[4 * q + k]);
    if (corners.some((v) => goals.has(v))) {
      const way: number[] = [];
      for (let at = q; at >= 0; at = by.get(at) as number) way.push(at);
      return way;
    }
    for (let h = 4 * q; h < 4 * q + 4; h++) if (links.twin(h) >= 0) reach(links.twin(h) >> 2, q);
  }
  return [];
}

/** Quads that break what is promised of a surface: a point twice, an edge with two faces on a side, several fans round a point, a point with two edges, an open edge off the lines that is not `fixed`. */
export function faultsOf(soup: QuadSoup, curves: readonly Curve[], fixed: ReadonlySet<number> = new Set()): number[] {
  const { quads, onLine } = soup;
  const links = new QuadLinks(soup);
  const bad = new Set<number>();
  for (let q = 0; q < quads.length; q += 4) {
    if (new Set(quads.subarray(q, q + 4)).size < 4) bad.add(q / 4);
    for (let h = q; h < q + 4; h++) {
      if (links.isCrowded(h)) for (const x of links.sharing(h)) bad.add(x >> 2);
      const [u, v] = [cornerOf(quads, h, 0), cornerOf(quads, h, 1)];
      if (links.isOpen(h) && !fixed.has(halfKey(u, v)) && !mayRim(soup, curves, u, v)) bad.add(h >> 2);
    }
  }
  for (let v = 0; v < onLine.length; v++) {
    const own = links.at(v);
    if (own.length === 0) continue;
    const { fans, isClosed } = links.fansAt(v);
    if (fans > 1 || (isClosed && own.length < 3)) for (const q of own) bad.add(q);
  }
  return [...bad];
}

/** Splinters of a connected form with less than this share of its quads are dropped. */
const SPLINTER = 0.04;

/** Without small pieces that came apart from a form that hangs together; as it is where none are small. */
export function withoutSplinters(soup: QuadSoup): QuadSoup {
  const { quads, onLine } = soup;
  const links = new QuadLinks(soup);
  const part = new Int32Array(quads.length / 4).fill(-1);
  const sizes: number[] = [];
  for (let seed = 0; seed < part.length; seed++) {
    if (part[seed] >= 0) continue;
    const queue = [seed];
    part[seed] = sizes.length;
    for (const q of queue)
      for (let h = 4 * q; h < 4 * q + 4; h++) {
        const g = links.twin(h);
        if (g < 0 || part[g >> 2] >= 0) continue;
        part[g >> 2] = sizes.length;
        queue.push(g >> 2);
      }
    sizes.push(queue.length);
  }
  if (sizes.every((n) => n >= SPLINTER * part.length)) return soup;
  const kept = [...quads].filter((_, h) => sizes[part[h >> 2]] >= SPLINTER * part.length);
  return compacted([...soup.points], kept, [...onLine]);
}

function grow(links: QuadLinks, gone: Set<number>): void {
  for (const q of [...gone]) for (let k = 0; k < 4; k++) for (const x of links.at(links.quads[4 * q + k])) gone.add(x);
}

function without({ points, quads, onLine }: QuadSoup, gone: ReadonlySet<number>): QuadSoup {
  const kept: number[] = [];
  for (let q = 0; 4 * q < quads.length; q++) if (!gone.has(q)) kept.push(...quads.subarray(4 * q, 4 * q + 4));
  return { points, quads: Int32Array.from(kept), onLine };
}

/**
 * The loops round what was taken out, each turned so that its inside lies left: edges that are open now, and the border of the quads that went.
 */
function holesOf(
  soup: QuadSoup,
  left: QuadSoup,
  gone: ReadonlySet<number>,
  border: Set<number>,
  curves: readonly Curve[],
): { holes: number[][]; pinched: number[]; isBroken: boolean } {
  const links = new QuadLinks(left);
  const next = new Map<number, number>();
  const pinched = new Set<number>();
  const add = (u: number, v: number): void => {
    if (next.has(u) && next.get(u) !== v) pinched.add(u);
    next.set(u, v);
  };
  for (let h = 0; h < left.quads.length; h++) {
    const [u, v] = [cornerOf(left.quads, h, 0), cornerOf(left.quads, h, 1)];
    if (links.isOpen(h) && !border.has(halfKey(u, v))) add(v, u);
  }
  for (const q of gone)
    for (let h = 4 * q; h < 4 * q + 4; h++) {
      const [u, v] = [cornerOf(soup.quads, h, 0), cornerOf(soup.quads, h, 1)];
      if (border.has(halfKey(u, v))) add(u, v);
    }
  if (pinched.size === 0) joinRim(left, next, border, curves);
  const holes: number[][] = [];
  const seen = new Set<number>();
  for (const first of next.keys()) {
    if (seen.has(first) || pinched.size > 0) continue;
    const loop: number[] = [];
    for (let v: number | undefined = first; v !== undefined && !seen.has(v); v = next.get(v)) {
      seen.add(v);
      loop.push(v);
    }
    if (next.get(loop[loop.length - 1]) !== first) return { holes, pinched: [], isBroken: true };
    holes.push(loop);
  }
  return { holes, pinched: [...pinched], isBroken: false };
}

function filled(
  soup: QuadSoup,
  holes: readonly number[][],
  border: ReadonlySet<number>,
  curves: readonly Curve[],
  form: WalkingForm,
  most: number,
  asBand = false,
): Omit<Refilled, 'gone'> | null {
  const points = [...soup.points];
  const quads = [...soup.quads];
  const onLine = [...soup.onLine];
  const links = new QuadLinks(soup);
  const lines = alongLines(soup, curves);
  const [walls, closed] = [new Set<number>(), new Set<number>()];
  const whole: number[][] = [];
  const onto = (p: Vec3): Vec3 => form.closest(p).point;
  const placeOf = (v: number): Vec3 => [points[3 * v], points[3 * v + 1], points[3 * v + 2]];
  const addOnForm = (p: Vec3): number => {
    points.push(...onto(p));
    return onLine.push(-1) - 1;
  };
  const band = asBand ? bandBetween(holes[0], holes[1], placeOf, addOnForm) : null;
  for (const outline of band ? [band.outline] : holes) {
    const hole = outline.length % 2 === 0 ? outline : withRimPoint(outline, border, curves, points, onLine);
    if (!hole || hole.length > LONGEST || hole.length < 4) return null;
    // points of a slit come twice: no line is told from them
    whole.push(...(band ? [hole] : cutAlongLines(hole, lines, curves, { points, onLine, walls, closed })));
  }
  for (const hole of whole) {
    const at = hole.map(placeOf);
    const isNew = (v: number): boolean => v >= soup.onLine.length;
    const isBorder = (i: number): boolean => {
      const [u, v] = [hole[i], hole[(i + 1) % hole.length]];
      return isNew(u) || isNew(v) || border.has(halfKey(u, v)) || walls.has(halfKey(u, v));
    };
    const outside = hole.map((v, i) => {
      const sides = Number(isBorder(i)) + Number(isBorder((i + hole.length - 1) % hole.length));
      // along the border half of what would stand round a point is not there
      return sides === 2
        ? onLine[v] === -2 && !turnsInMirrorOnly(curves, placeOf(v))
          ? 3
          : 2
        : links.countAt(v) + 2 * sides;
    });
    const corners = band?.corners ?? cornersOf(outside);
    // two quads stand at a point along a side, one at a corner
    const round = outside.reduce((sum, n, i) => sum + Math.abs(n - (corners.includes(i) ? 3 : 2)), 0);
    const [way] = fillBorder(at, corners, onto, 1, {
      fewest: whole.length === 1 ? most - round : Infinity,
      mayGiveUp: true,
    });
    if (!way) return null;
    const start = onLine.length;
    for (const p of way.points.slice(hole.length)) {
      points.push(...p);
      onLine.push(-1);
    }
    for (const quad of way.quads) quads.push(...quad.map((i) => (i < hole.length ? hole[i] : start + i - hole.length)));
  }
  return { points, quads, onLine };
}

/** Where sides of a hole begin: where three or more quads stand outside, one is wanted inside; else four places evenly. */
export function cornersOf(outside: readonly number[]): number[] {
  const n = outside.length;
  const found = [...outside.keys()].filter((i) => outside[i] >= 3);
  if (found.length >= 2 && found.length <= 6) return found;
  const even = (shift: number): number[] => [0, 1, 2, 3].map((k) => (shift + Math.round((k * n) / 4)) % n);
  let best = even(0);
  const worth = (places: number[]): number => places.reduce((s, i) => s + outside[i], 0);
  for (let shift = 1; shift < n / 4; shift++) if (worth(even(shift)) > worth(best)) best = even(shift);
  return best.sort((a, b) => a - b);
}

/** Without points that no quad holds. */
export function compacted(points: ArrayLike<number>, quads: readonly number[], onLine: ArrayLike<number>): QuadSoup {
  const to = new Int32Array(onLine.length).fill(-1);
  const was: number[] = [];
  for (const v of quads) if (to[v] < 0) to[v] = was.push(v) - 1;
  return {
    points: Float64Array.from(was.flatMap((v) => [points[3 * v], points[3 * v + 1], points[3 * v + 2]])),
    quads: Int32Array.from(quads, (v) => to[v]),
    onLine: Int32Array.from(was, (v) => onLine[v]),
  };
}
