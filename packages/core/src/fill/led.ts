import { distance, stepsAlong, type Vec3 } from '../math';
import { fillBorder, filled, type Filling } from './fillBorder';
import type { Patch } from './Patch';
import type { Onto } from './place';

/** A line that quads keep to inside a border: from one of its points to another, or closed, inside it. Its points are those between. */
export interface Lead {
  from: number;
  to: number;
  line: readonly Vec3[];
}

/** A part of a border cut along its leads: a loop of point numbers, and where in it sides begin. */
interface Part {
  loop: number[];
  corners: number[];
}

/** A border filled along its leads. */
export interface LedFilling {
  points: Vec3[];
  /** quads over the points, those of each part together with the border points that the part has, in order */
  parts: { quads: Patch['quads']; loop: readonly number[]; way: Filling }[];
  /** how many leads are chains of edges in it */
  followed: number;
  /** how far in all its points are from four edges: on the border from three, at its corners from two */
  irregular: number;
}

const MOST_CORNERS = 6;
/** A loop inside a border has as many edges as that, unless they would be so many times shorter. */
const MOST_SHORTER = 3;

/**
 * The ways to fill a closed border with quads so that edges run along its leads: it is cut along each by a chain of edges about as long as the border's, of a number
 * that leaves both parts even, and the parts are filled one by one. A closed lead becomes a loop of edges with a band of quads round it. The first way
 * has the best of each part, the others their next. Empty where a part has none. Cost: as `fillBorder`, for each part.
 */
export function fillLed(
  border: readonly Vec3[],
  corners: readonly number[],
  leads: readonly Lead[],
  onto: Onto | null,
  most: number,
  slide = 0,
): LedFilling[] {
  const cutting = new Cutting(border, corners);
  // what closes inside comes last: the band round it is cut no further
  const followed = [...leads].sort((a, b) => Number(isLoop(a)) - Number(isLoop(b))).filter((lead) => cutting.cut(lead));
  const parts = cutting.parts.map((part) => {
    const places = part.loop.map((v) => cutting.points[v]);
    return { part, places, ways: fillBorder(places, part.corners, onto, most) };
  });
  if (parts.some(({ ways }) => ways.length === 0)) return [];
  const count = Math.max(...parts.map(({ ways }) => ways.length));
  return Array.from({ length: count }, (_, k) => {
    const chosen = parts.map(({ part, places, ways }) => {
      const way = ways[Math.min(k, ways.length - 1)];
      const slid = slide !== 0 ? way.plan.slid?.(slide) : undefined;
      return { loop: part.loop, way: slid ? filled(places, slid, onto) : way };
    });
    const whole = joined(cutting.points, chosen);
    return { ...whole, followed: followed.length, irregular: irregularIn(whole, border.length, corners) };
  });
}

export const isLoop = ({ from, to }: Lead): boolean => from === to;

/** The parts' points put together: those of the cut border once, then each part's own. */
function joined(
  known: readonly Vec3[],
  chosen: { loop: number[]; way: Filling }[],
): Pick<LedFilling, 'points' | 'parts'> {
  const points = [...known];
  const parts = chosen.map(({ loop, way }) => {
    const shift = points.length - loop.length;
    points.push(...way.points.slice(loop.length));
    const name = (v: number): number => (v < loop.length ? loop[v] : v + shift);
    return { loop, way, quads: way.quads.map((q) => q.map(name) as Patch['quads'][number]) };
  });
  return { points, parts };
}

function irregularIn(
  { points, parts }: Pick<LedFilling, 'points' | 'parts'>,
  border: number,
  corners: readonly number[],
): number {
  const quadsAt = new Array<number>(points.length).fill(0);
  for (const { quads } of parts) for (const quad of quads) for (const v of quad) quadsAt[v]++;
  const isCorner = new Set(corners);
  return quadsAt.reduce((sum, n, v) => sum + Math.abs(n - (v >= border ? 4 : isCorner.has(v) ? 1 : 2)), 0);
}

class Cutting {
  readonly points: Vec3[];
  parts: Part[];
  private readonly edge: number;

  constructor(border: readonly Vec3[], corners: readonly number[]) {
    this.points = [...border];
    this.parts = [{ loop: border.map((_, i) => i), corners: [...corners] }];
    this.edge = border.reduce((sum, p, i) => sum + distance(p, border[(i + 1) % border.length]), 0) / border.length;
  }

  /** Cuts the part that a lead lies in; false where it lies in none, or runs along what is there. */
  cut(lead: Lead): boolean {
    const own = this.parts.find(({ loop }) => new Set(loop).size === loop.length && loop.includes(lead.from) && loop.includes(lead.to)); // prettier-ignore
    if (!own) return false;
    const made = isLoop(lead) ? this.round(own, lead) : this.across(own, lead);
    if (made) this.parts = this.parts.flatMap((part) => (part === own ? made : [part]));
    return made !== null;
  }

  private across({ loop, corners }: Part, { from, to, line }: Lead): Part[] | null {
    const n = loop.length;
    const start = loop.indexOf(from);
    const turned = [...loop.slice(start), ...loop.slice(0, start)];
    const end = turned.indexOf(to);
    if (end < 2 || n - end < 2) return null;
    const way = [this.points[from], ...line, this.points[to]];
    const chain = this.chain(way, this.countOf(way, end % 2, Math.max(1, 4 - Math.min(end, n - end))));
    const isCorner = new Set(corners.map((c) => loop[c]));
    return [
      this.part(turned.slice(0, end + 1), [...chain].reverse(), isCorner),
      this.part([...turned.slice(end), from], chain, isCorner),
    ];
  }

  /** A run of the border and the chain that closes it; corners where they meet, and the border's own, no more than six. */
  private part(run: readonly number[], chain: readonly number[], isCorner: ReadonlySet<number>): Part {
    const inner = run.flatMap((v, i) => (i > 0 && i < run.length - 1 && isCorner.has(v) ? [i] : []));
    // those next to an end are the least loss
    while (inner.length > MOST_CORNERS - 2)
      inner.splice(inner[0] < run.length - 1 - inner[inner.length - 1] ? 0 : inner.length - 1, 1);
    return { loop: [...run, ...chain], corners: [0, ...inner, run.length - 1] };
  }

  /** A loop of edges inside a part, a band of quads round it, and the part inside. The band is slit where both are nearest. */
  private round({ loop }: Part, { line }: Lead): Part[] | null {
    const m = loop.length;
    let slit = { i: 0, k: 0, far: Infinity };
    loop.forEach((v, i) =>
      line.forEach((q, k) => {
        const far = distance(this.points[v], q);
        if (far < slit.far) slit = { i, k, far };
      }),
    );
    const outer = [...loop.slice(slit.i), ...loop.slice(0, slit.i)];
    const turned = [...line.slice(slit.k), ...line.slice(0, slit.k)];
    const closed = [...turned, turned[0]];
    // as many as the border has, unless that makes them much too short
    const wanted = this.countOf(closed, m % 2, 4);
    const count = m <= MOST_SHORTER * wanted ? m : wanted;
    const first = this.points.push(turned[0]) - 1;
    const inner = [first, ...this.chain(closed, count)];
    const across = [this.points[outer[0]], this.points[first]];
    const slitChain = this.chain(across, this.countOf(across, 0, 1, 1));
    const back = [outer[0], ...slitChain, first].reverse();
    const band = [
      ...outer,
      outer[0],
      ...slitChain,
      ...[first, ...inner.slice(1).reverse(), first],
      ...back.slice(1, -1),
    ];
    const k = slitChain.length + 1;
    const quarter = Math.floor(count / 4);
    return [
      { loop: band, corners: [0, m, m + k, m + k + count] },
      { loop: inner, corners: [0, quarter, Math.floor(count / 2), Math.floor(count / 2) + quarter] },
    ];
  }

  /** About as many edges as the border's length has in a line, of the wanted parity. */
  private countOf(line: readonly Vec3[], parity: number, least: number, step = 2): number {
    const length = line.reduce((sum, p, i) => (i > 0 ? sum + distance(line[i - 1], p) : 0), 0);
    const count = step * Math.round((length / this.edge - parity) / step) + parity;
    return Math.max(count, least + (step === 2 ? (least + parity) % 2 : 0));
  }

  /** New points at even steps along a line, both its ends left out. */
  private chain(line: readonly Vec3[], count: number): number[] {
    return stepsAlong(line, count).slice(1).map((p) => this.points.push(p) - 1); // prettier-ignore
  }
}
