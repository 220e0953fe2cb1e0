import { QuadLinks, turnedBy } from './QuadLinks';
import type { QuadSoup } from './QuadSoup';

/** An edge more than so many times as long as one beside it jumps. */
export const JUMPS = 2;
/** From so many times on it costs something, so that what is mended does not stay at the bound. */
const FROM = 1.6;
/** What twice that costs. */
const DEAR = 0.08;
/** From so many times on each doubling costs so much more: what is nearly a jump turns back, what is one goes. */
const NEARLY = 1.9;
const DEARER = 0.35;
/** Of the longer edge, what is added to the shorter one: none costs more than all. */
const LEAST = 1e-3;

/** Edges that lie beside each other, opposite in a quad or in line over a point of four, and what it costs that their lengths jump. Cost of making: linear. */
export class EdgePairs {
  /** half-edges, two by two */
  private readonly halves: number[] = [];
  /** point → where the pairs begin that have an edge at it */
  private readonly at: number[][];

  /** Where jumps `areWanted`, since density is painted or sharp edges run together, their square alone counts against them. */
  constructor(
    private readonly soup: QuadSoup,
    private readonly areWanted = false,
  ) {
    const { quads, onLine } = soup;
    const links = new QuadLinks(soup);
    this.at = Array.from(onLine, () => []);
    for (let h = 0; h < quads.length; h++) {
      if ((h & 3) < 2) this.add(h, turnedBy(h, 2));
      const on = inLine(links, h);
      if (on >= 0 && edgeOf(links, h) < edgeOf(links, on)) this.add(h, on);
    }
  }

  private add(a: number, b: number): void {
    const { quads } = this.soup;
    const start = this.halves.push(a, b) - 2;
    for (const v of new Set([a, turnedBy(a, 1), b, turnedBy(b, 1)].map((h) => quads[h]))) this.at[v].push(start);
  }

  get count(): number {
    return this.halves.length / 2;
  }

  /** How many times as long the longer edge of pair i is. */
  ratio(i: number): number {
    return Math.sqrt(this.squaredRatio(2 * i));
  }

  /** Whether the length of an edge at a point jumps. */
  isAny(v: number): boolean {
    return this.at[v].some((start) => this.squaredRatio(start) > JUMPS * JUMPS);
  }

  /** What the edges at a point cost: the square of how many doublings they are beyond what costs nothing, and more near a jump and beyond. */
  cost(v: number): number {
    let sum = 0;
    for (const start of this.at[v]) {
      const by = this.squaredRatio(start);
      if (by > FROM * FROM) sum += DEAR * (Math.log2(by / (FROM * FROM)) / 2) ** 2;
      if (by > NEARLY * NEARLY && !this.areWanted) sum += (DEARER * Math.log2(by / (NEARLY * NEARLY))) / 2;
    }
    return sum;
  }

  private squaredRatio(start: number): number {
    const [a, b] = [this.squared(this.halves[start]), this.squared(this.halves[start + 1])];
    const [short, long] = a < b ? [a, b] : [b, a];
    return long / (short + LEAST * LEAST * long);
  }

  private squared(h: number): number {
    const { points: p, quads } = this.soup;
    const [a, b] = [3 * quads[h], 3 * quads[turnedBy(h, 1)]];
    return (p[a] - p[b]) ** 2 + (p[a + 1] - p[b + 1]) ** 2 + (p[a + 2] - p[b + 2]) ** 2;
  }
}

/** One number for both half-edges of an edge. */
const edgeOf = (links: QuadLinks, h: number): number => Math.max(h, links.twin(h));

/** The half-edge that goes on from one, straight over a point with quads on all four sides; or −1. */
function inLine(links: QuadLinks, h: number): number {
  const v = links.quads[turnedBy(h, 1)];
  if (links.countAt(v) !== 4 || !links.fansAt(v).isClosed) return -1;
  return turnedBy(links.twin(turnedBy(h, 1)), 1);
}

/** The share of edges beside each other whose lengths jump. Cost: linear. */
export function jumpShare(soup: QuadSoup): number {
  const pairs = new EdgePairs(soup);
  let over = 0;
  for (let i = 0; i < pairs.count; i++) if (pairs.ratio(i) > JUMPS) over++;
  return over / Math.max(1, pairs.count);
}
