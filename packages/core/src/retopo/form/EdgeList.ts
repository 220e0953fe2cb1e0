import { nextHalf } from './TriMesh';

const NONE = -1;

/** Half-edges of triangles that share their two points; two of them are twins, more are a crowd. Cost: linear, however many there are at a point. */
export class EdgeList {
  /** half-edge → the only other one on its edge, −1 where there is none, or a crowd */
  readonly twin: Int32Array;
  readonly crowds: number[][] = [];

  constructor(corners: Int32Array, vertices: number) {
    this.twin = new Int32Array(corners.length).fill(NONE);
    // listed by their later point, and from the last of these by their earlier one: each list then has that in order
    const byHigh = new Lists(vertices, corners.length);
    const byLow = new Lists(vertices, corners.length);
    for (let h = corners.length - 1; h >= 0; h--) byHigh.put(Math.max(corners[h], corners[nextHalf(h)]), h);
    for (let v = vertices - 1; v >= 0; v--)
      for (let h = byHigh.first[v]; h !== NONE; h = byHigh.next[h])
        byLow.put(Math.min(corners[h], corners[nextHalf(h)]), h);
    const { next } = byLow;
    const isSame = (h: number, g: number): boolean =>
      g !== NONE && corners[h] + corners[nextHalf(h)] === corners[g] + corners[nextHalf(g)];
    for (let v = 0; v < vertices; v++)
      for (let h = byLow.first[v], after = NONE; h !== NONE; h = after) {
        const g = next[h];
        after = g;
        if (!isSame(h, g)) continue;
        after = next[g];
        if (!isSame(h, after)) {
          this.twin[h] = g;
          this.twin[g] = h;
          continue;
        }
        const crowd = [h, g];
        for (; isSame(h, after); after = next[after]) crowd.push(after);
        this.crowds.push(crowd);
      }
  }
}

/** Numbers in lists, each in one at most; what is put in last comes first. */
export class Lists {
  readonly first: Int32Array;
  readonly next: Int32Array;

  constructor(lists: number, numbers: number) {
    this.first = new Int32Array(lists).fill(NONE);
    this.next = new Int32Array(numbers).fill(NONE);
  }

  put(list: number, x: number): void {
    this.next[x] = this.first[list];
    this.first[list] = x;
  }
}
