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
  private readonly halves = new Map<number, number[]>();
  private readonly around: number[][];

  /** Cost: linear. */
  constructor({ quads, onLine }: QuadSoup) {
    this.quads = quads;
    this.around = Array.from({ length: onLine.length }, () => []);
    for (let h = 0; h < quads.length; h++) {
      const key = halfKey(quads[h], cornerOf(quads, h, 1));
      const own = this.halves.get(key);
      if (own) own.push(h);
      else this.halves.set(key, [h]);
      this.around[quads[h]].push(h >> 2);
    }
  }

  /** Quads at a point; one with it twice is there twice. */
  at(v: number): readonly number[] {
    return this.around[v];
  }
  /** Half-edges with the same ends, this one among them. */
  sharing(h: number): readonly number[] {
    return this.halves.get(halfKey(this.quads[h], cornerOf(this.quads, h, 1))) as readonly number[];
  }
  isCrowded(h: number): boolean {
    return this.sharing(h).length > 1;
  }
  /** The half-edge on the other side, or −1. */
  twin(h: number): number {
    return this.halves.get(halfKey(cornerOf(this.quads, h, 1), this.quads[h]))?.[0] ?? -1;
  }
  isOpen(h: number): boolean {
    return this.twin(h) < 0;
  }
  /** How many fans of quads there are round a point, and whether the first goes all round. */
  fansAt(v: number): { fans: number; isClosed: boolean } {
    const left = new Set(this.around[v]);
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
          const g = this.twin(back ? (h & ~3) + ((h + 3) & 3) : h);
          if (g < 0) break;
          q = g >> 2;
          if (q === first && back) isClosed = true;
          if (!left.delete(q)) break;
        }
    }
    return { fans, isClosed };
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
  const off = Int8Array.from(onLine, (_, v) => (links.at(v).length > 0 ? links.at(v).length - 4 : 0));
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
export function eulerOf({ quads }: Pick<QuadSoup, 'quads'>): number {
  const at = new Map<number, number>();
  for (let h = 0; h < quads.length; h++) {
    const [u, v] = [quads[h], cornerOf(quads, h, 1)];
    const key = u < v ? halfKey(u, v) : halfKey(v, u);
    at.set(key, (at.get(key) ?? 0) + 1);
  }
  let edges = 0;
  for (const n of at.values()) edges += Math.ceil(n / 2);
  return new Set(quads).size - edges + quads.length / 4;
}
