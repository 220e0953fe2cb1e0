import { halfKey } from './QuadLinks';
import type { QuadSoup } from './QuadSoup';
import { meetingPlace, runsThrough } from './TriangleCells';

/** An edge that runs through a triangle counts so much, over how far quads may move, however little of it is beyond. */
const COUNTS = 0.05;

/** How far some quads and those near by run through each other, while their points move by no more than `reach`. Cost of making: a look at the box of every quad. */
export class CrossedNear {
  /** of the quads near by, then of the own ones: corners of triangles, and ends of edges, diagonals among them */
  private readonly triangles: Int32Array;
  private readonly edges: [number, number][];
  private readonly ownTriangles: Int32Array;
  private readonly ownEdges: [number, number][];

  /** `own` are the numbers of their first corners. */
  constructor(
    private readonly soup: QuadSoup,
    own: readonly number[],
    private readonly reach: number,
  ) {
    const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (const q of own) grow(box, soup, q);
    const near: number[] = [];
    for (let q = 0; q < soup.quads.length; q += 4) if (!own.includes(q) && this.isIn(box, q)) near.push(q);
    [this.triangles, this.edges] = [cut(soup, near), edgesOf(soup, near)];
    [this.ownTriangles, this.ownEdges] = [cut(soup, own), edgesOf(soup, own)];
  }

  /** The sum, over edges that run through a triangle, of how far their nearer end is beyond it, and of a little for each. Cost: own quads times those near by. */
  depth(): number {
    const { ownEdges, triangles, edges, ownTriangles } = this;
    return this.through(ownEdges, triangles) + this.through(edges, ownTriangles) + this.through(ownEdges, ownTriangles);
  }

  private through(edges: readonly [number, number][], triangles: Int32Array): number {
    const { points: p } = this.soup;
    let sum = 0;
    for (const [u, v] of edges)
      for (let t = 0; t < triangles.length; t += 3) {
        if (!runsThrough(p, u, v, triangles[t], triangles[t + 1], triangles[t + 2])) continue;
        const [x, y, z] = meetingPlace(p, [u, v], triangles.subarray(t, t + 3));
        const from = (w: number): number => Math.hypot(p[3 * w] - x, p[3 * w + 1] - y, p[3 * w + 2] - z);
        sum += COUNTS * this.reach + Math.min(from(u), from(v));
      }
    return sum;
  }

  /** Whether a quad's box, grown by the reach, meets another. */
  private isIn(box: readonly number[], q: number): boolean {
    const { soup: { points: p, quads }, reach } = this; // prettier-ignore
    for (let k = 0; k < 3; k++) {
      const a = p[3 * quads[q] + k], b = p[3 * quads[q + 1] + k], c = p[3 * quads[q + 2] + k], d = p[3 * quads[q + 3] + k]; // prettier-ignore
      if (Math.min(a, b, c, d) > box[3 + k] + reach || Math.max(a, b, c, d) < box[k] - reach) return false;
    }
    return true;
  }
}

function grow(box: number[], { points: p, quads }: QuadSoup, q: number): void {
  for (let h = q; h < q + 4; h++)
    for (let k = 0; k < 3; k++) {
      box[k] = Math.min(box[k], p[3 * quads[h] + k]);
      box[3 + k] = Math.max(box[3 + k], p[3 * quads[h] + k]);
    }
}

const cut = ({ quads }: QuadSoup, own: readonly number[]): Int32Array =>
  Int32Array.from(own.flatMap((q) => [0, 1, 2, 0, 2, 3].map((k) => quads[q + k])));

/** Each edge once, and the diagonal that each quad is cut along. */
function edgesOf({ quads }: QuadSoup, own: readonly number[]): [number, number][] {
  const found = new Map<number, [number, number]>();
  for (const q of own)
    for (const [a, b] of [
      [0, 1],
      [1, 2],
      [2, 3],
      [3, 0],
      [0, 2],
    ]) {
      // prettier-ignore
      const [u, v] = [quads[q + a], quads[q + b]];
      found.set(halfKey(Math.min(u, v), Math.max(u, v)), [u, v]);
    }
  return [...found.values()];
}
