import type { QuadSoup } from './QuadSoup';

/** Half-edge h of a soup runs from corner h of its quad to the next; quad h >> 2. */
export const cornerOf = (quads: ArrayLike<number>, h: number, by: number): number => quads[turnedBy(h, by)];

/** The half-edge so many corners further round its quad. */
export const turnedBy = (h: number, by: number): number => (h & ~3) + ((h + by) & 3);

/** A directed pair of points as one number; points are fewer than 2²⁶. */
export const halfKey = (u: number, v: number): number => u * 67108864 + v;

/** Who borders on whom in a soup of quads, whatever state it is in. */
export class QuadLinks {
  readonly quads: Int32Array;
  /** half-edges by the point they run from, in their order; those of point v begin at start[v] */
  private readonly start: Int32Array;
  private readonly leaving: Int32Array;
  private readonly around: (readonly number[] | undefined)[] = [];

  /** Cost: two passes, and as much memory as the quads take. */
  constructor({ quads, onLine }: Pick<QuadSoup, 'quads' | 'onLine'>) {
    this.quads = quads;
    const start = new Int32Array(onLine.length + 1);
    for (const v of quads) start[v + 1]++;
    for (let v = 0; v < onLine.length; v++) start[v + 1] += start[v];
    const next = start.slice();
    this.leaving = new Int32Array(quads.length);
    for (let h = 0; h < quads.length; h++) this.leaving[next[quads[h]]++] = h;
    this.start = start;
  }

  /** Quads at a point; one with it twice is there twice. */
  at(v: number): readonly number[] {
    return (this.around[v] ??= Array.from(this.leaving.subarray(this.start[v], this.start[v + 1]), (h) => h >> 2));
  }
  /** How many quads there are at a point. */
  countAt(v: number): number {
    return this.start[v + 1] - this.start[v];
  }
  /** Half-edges with the same ends, this one among them. */
  sharing(h: number): readonly number[] {
    const to = cornerOf(this.quads, h, 1);
    const own = this.leaving.subarray(this.start[this.quads[h]], this.start[this.quads[h] + 1]);
    return [...own].filter((g) => cornerOf(this.quads, g, 1) === to);
  }
  isCrowded(h: number): boolean {
    return this.between(this.quads[h], cornerOf(this.quads, h, 1)) > 1;
  }
  /** How many half-edges run from a point to another. */
  between(from: number, to: number): number {
    const { start, leaving, quads } = this;
    let n = 0;
    for (let i = start[from]; i < start[from + 1]; i++) if (cornerOf(quads, leaving[i], 1) === to) n++;
    return n;
  }
  /** The half-edge on the other side, or −1. */
  twin(h: number): number {
    return this.first(cornerOf(this.quads, h, 1), this.quads[h]);
  }
  /** The first half-edge between two points, or −1. */
  first(from: number, to: number): number {
    const { start, leaving, quads } = this;
    for (let i = start[from]; i < start[from + 1]; i++) if (cornerOf(quads, leaving[i], 1) === to) return leaving[i];
    return -1;
  }
  isOpen(h: number): boolean {
    return this.twin(h) < 0;
  }
  /** How many fans of quads there are round a point, and whether the first goes all round. */
  fansAt(v: number): { fans: number; isClosed: boolean } {
    if (this.goesRound(v)) return { fans: 1, isClosed: true };
    const left = new Set(this.at(v));
    let fans = 0;
    let isClosed = false;
    const cornerAt = (q: number): number =>
      [4 * q, 4 * q + 1, 4 * q + 2, 4 * q + 3].find((h) => this.quads[h] === v) as number;
    while (left.size > 0) {
      fans++;
      const first = left.values().next().value as number;
      left.delete(first);
      for (const back of [true, false])
        for (let q = first, i = 0; i < 64; i++) {
          const h = cornerAt(q);
          // over the edge that arrives at the point, or the one that leaves it
          const g = this.twin(back ? turnedBy(h, 3) : h);
          if (g < 0) break;
          q = g >> 2;
          if (q === first && back) isClosed = true;
          if (!left.delete(q)) break;
        }
    }
    return { fans, isClosed };
  }
  /** Whether all quads at a point go round it once: as they do at most. */
  private goesRound(v: number): boolean {
    const first = this.leaving[this.start[v]];
    const n = this.countAt(v);
    let h = first;
    for (let i = 1; i <= n; i++) {
      h = this.twin(turnedBy(h, 3));
      if (h < 0 || h === first) return i === n && h === first;
    }
    return false;
  }
}

/** Points of open edges. Cost: linear. */
export function rimOf({ quads }: QuadSoup, links: QuadLinks): Set<number> {
  const rim = new Set<number>();
  for (let h = 0; h < quads.length; h++) if (links.isOpen(h)) rim.add(quads[h]).add(cornerOf(quads, h, 1));
  return rim;
}

/** Point → edges more than four, or fewer; on a rim as if its other side were as regular. Corners of lines there have the edges they need. Cost: linear. */
export function edgesOff(soup: QuadSoup, links: QuadLinks): Int8Array {
  const { onLine } = soup;
  const off = Int8Array.from(onLine, (_, v) => (links.countAt(v) > 0 ? links.countAt(v) - 4 : 0));
  for (const v of rimOf(soup, links)) off[v] = onLine[v] === -2 ? 0 : off[v] + 2;
  return off;
}

/** Edges too many or too few at the points of some quads. */
export function edgesOffIn(soup: QuadSoup, links: QuadLinks, some: ReadonlySet<number>): number {
  const off = edgesOff(soup, links);
  const points = new Set([...some].flatMap((q) => [...soup.quads.subarray(4 * q, 4 * q + 4)]));
  return [...points].reduce((sum, v) => sum + Math.abs(off[v]), 0);
}

/** Points that have quads, less edges, and faces; quads may be wound as they like. Four at one pair of points are those of two edges that have come together. Cost: linear. */
export function eulerOf(soup: Pick<QuadSoup, 'quads' | 'onLine'>): number {
  const { quads, onLine } = soup;
  const links = new QuadLinks(soup);
  let edges = 0;
  for (let h = 0; h < quads.length; h++) {
    const [u, v] = [quads[h], cornerOf(quads, h, 1)];
    const back = links.first(v, u);
    // told at the first half-edge of a pair of points
    if (links.first(u, v) < h || (back >= 0 && back < h)) continue;
    edges += Math.ceil((links.between(u, v) + (u === v ? 0 : links.between(v, u))) / 2);
  }
  let points = 0;
  for (let v = 0; v < onLine.length; v++) if (links.countAt(v) > 0) points++;
  return points - edges + quads.length / 4;
}
