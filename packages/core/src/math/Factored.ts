import { factorTop, handUp, solveBelow, takeOff } from './blocks';
import type { SymmetricEntries } from './sparse';
import { supernodesOf, type Supernodes } from './supernodes';

/**
 * A symmetric positive definite matrix as L·Lᵀ, in dense blocks of columns that have nearly the same rows: each block is factored by itself, and what is left beyond its columns is handed up the elimination tree
 * (multifrontal: Duff and Reid 1983). The order in which unknowns are taken decides the fill: see `dissected`. Cost: for a mesh of n vertices some n^1.5 multiplications, and n log n numbers kept.
 */
export class Factored {
  private readonly groups: Supernodes;
  /** group → where its block starts; one more at the end */
  private readonly blocks: Float64Array;
  /** each group's block, row by row: the rows' entries in its columns, 1 over the pivot on the diagonal */
  private readonly values: Float64Array;

  /** `order` lists the unknowns as they are to be taken. Pivots that vanish are held at a tiny one. */
  constructor(entries: SymmetricEntries, order: ArrayLike<number>) {
    this.groups = supernodesOf(entries, order);
    const { firsts, starts } = this.groups;
    this.blocks = new Float64Array(firsts.length);
    for (let s = 0; s + 1 < firsts.length; s++)
      this.blocks[s + 1] = this.blocks[s] + (firsts[s + 1] - firsts[s]) * (starts[s + 1] - starts[s]);
    this.values = new Float64Array(this.blocks[firsts.length - 1]);
    this.eliminate();
  }

  private eliminate(): void {
    const { to, matrix: a, firsts, starts, rows, below } = this.groups;
    const { blocks, values } = this;
    // row → its place among those of the group at hand
    const at = new Int32Array(to.length);
    const whole = new Float64Array(to.length);
    const left = new Leftovers(this.groups);
    for (let s = 0; s < below.length; s++) {
      const [first, wide, tall] = [firsts[s], firsts[s + 1] - firsts[s], starts[s + 1] - starts[s]];
      const block = values.subarray(blocks[s], blocks[s + 1]);
      for (let i = 0; i < tall; i++) at[rows[starts[s] + i]] = i;
      for (let c = 0; c < wide; c++)
        for (let x = a.starts[first + c]; x < a.starts[first + c + 1]; x++)
          block[at[a.rows[x]] * wide + c] += a.values[x];
      for (let c = 0; c < wide; c++) whole[c] = block[c * wide + c];
      const own = left.begin(s);
      for (const child of below[s]) {
        const beyond = rows.subarray(starts[child] + firsts[child + 1] - firsts[child], starts[child + 1]);
        handUp(beyond, left.of(child), at, { block, wide, left: own });
      }
      factorTop(block, wide, whole);
      solveBelow(block, wide, tall);
      takeOff(block, wide, tall, own);
      left.keep(s);
    }
  }

  /** Four right sides at once, in their place: each number kept is read once for all. Cost: less than two of `solve`. */
  solveFour(four: readonly [Float64Array, Float64Array, Float64Array, Float64Array]): void {
    const { to } = this.groups;
    const x = new Float64Array(4 * to.length);
    for (let i = 0; i < to.length; i++) for (let c = 0; c < 4; c++) x[4 * to[i] + c] = four[c][i];
    this.forwardFour(x);
    this.backwardFour(x);
    for (let i = 0; i < to.length; i++) for (let c = 0; c < 4; c++) four[c][i] = x[4 * to[i] + c];
  }

  /** x with A·x = b. Cost: twice the numbers kept. */
  solve(b: ArrayLike<number>): Float64Array {
    const { to } = this.groups;
    const x = new Float64Array(to.length);
    for (let i = 0; i < to.length; i++) x[to[i]] = b[i];
    this.forward(x);
    this.backward(x);
    const result = new Float64Array(to.length);
    for (let i = 0; i < to.length; i++) result[i] = x[to[i]];
    return result;
  }

  private forward(x: Float64Array): void {
    const { values: l, blocks, groups: { firsts, starts, rows } } = this; // prettier-ignore
    for (let s = 0; s + 1 < firsts.length; s++) {
      const [first, wide, below] = [firsts[s], firsts[s + 1] - firsts[s], starts[s + 1]];
      let p = blocks[s];
      let isZero = true;
      for (let i = 0; i < wide; i++, p += wide) {
        let sum = x[first + i];
        for (let c = 0; c < i; c++) sum -= l[p + c] * x[first + c];
        x[first + i] = sum * l[p + i];
        isZero &&= sum === 0;
      }
      if (isZero) continue;
      let r = starts[s] + wide;
      // four rows at a time: their sums do not wait for each other
      for (; r + 4 <= below; r += 4, p += 4 * wide) {
        const p1 = p + wide, p2 = p1 + wide, p3 = p2 + wide; // prettier-ignore
        let a = 0, b = 0, d = 0, e = 0; // prettier-ignore
        for (let c = 0; c < wide; c++) {
          const xc = x[first + c];
          a += l[p + c] * xc;
          b += l[p1 + c] * xc;
          d += l[p2 + c] * xc;
          e += l[p3 + c] * xc;
        }
        x[rows[r]] -= a;
        x[rows[r + 1]] -= b;
        x[rows[r + 2]] -= d;
        x[rows[r + 3]] -= e;
      }
      for (; r < below; r++, p += wide) {
        let sum = 0;
        for (let c = 0; c < wide; c++) sum += l[p + c] * x[first + c];
        x[rows[r]] -= sum;
      }
    }
  }

  private backward(x: Float64Array): void {
    const { values: l, blocks, groups: { firsts, starts, rows } } = this; // prettier-ignore
    for (let s = firsts.length - 2; s >= 0; s--) {
      const [first, wide, above] = [firsts[s], firsts[s + 1] - firsts[s], starts[s]];
      let p = blocks[s + 1] - wide;
      let r = starts[s + 1] - 1;
      for (; r - 3 >= above + wide; r -= 4, p -= 4 * wide) {
        const x0 = x[rows[r]], x1 = x[rows[r - 1]], x2 = x[rows[r - 2]], x3 = x[rows[r - 3]]; // prettier-ignore
        const p1 = p - wide, p2 = p1 - wide, p3 = p2 - wide; // prettier-ignore
        for (let c = 0; c < wide; c++)
          x[first + c] = x[first + c] - l[p + c] * x0 - l[p1 + c] * x1 - l[p2 + c] * x2 - l[p3 + c] * x3;
      }
      for (; r >= above + wide; r--, p -= wide) {
        const xr = x[rows[r]];
        for (let c = 0; c < wide; c++) x[first + c] -= l[p + c] * xr;
      }
      for (let i = wide - 1; i >= 0; i--, p -= wide) {
        const xi = x[first + i] * l[p + i];
        x[first + i] = xi;
        for (let c = 0; c < i; c++) x[first + c] -= l[p + c] * xi;
      }
    }
  }

  private forwardFour(x: Float64Array): void {
    const { values: l, blocks, groups: { firsts, starts, rows } } = this; // prettier-ignore
    for (let s = 0; s + 1 < firsts.length; s++) {
      const [first, wide, below] = [firsts[s], firsts[s + 1] - firsts[s], starts[s + 1]];
      const own = x.subarray(4 * first, 4 * (first + wide));
      let p = blocks[s];
      let isZero = true;
      for (let i = 0; i < wide; i++, p += wide) {
        let a = own[4 * i], b = own[4 * i + 1], c = own[4 * i + 2], d = own[4 * i + 3]; // prettier-ignore
        for (let k = 0; k < i; k++) {
          const v = l[p + k];
          a -= v * own[4 * k];
          b -= v * own[4 * k + 1];
          c -= v * own[4 * k + 2];
          d -= v * own[4 * k + 3];
        }
        own[4 * i] = a * l[p + i];
        own[4 * i + 1] = b * l[p + i];
        own[4 * i + 2] = c * l[p + i];
        own[4 * i + 3] = d * l[p + i];
        isZero &&= a === 0 && b === 0 && c === 0 && d === 0;
      }
      if (isZero) continue;
      for (let r = starts[s] + wide; r < below; r++, p += wide) {
        let a = 0, b = 0, c = 0, d = 0; // prettier-ignore
        for (let k = 0; k < wide; k++) {
          const v = l[p + k];
          a += v * own[4 * k];
          b += v * own[4 * k + 1];
          c += v * own[4 * k + 2];
          d += v * own[4 * k + 3];
        }
        const to = 4 * rows[r];
        x[to] -= a;
        x[to + 1] -= b;
        x[to + 2] -= c;
        x[to + 3] -= d;
      }
    }
  }

  private backwardFour(x: Float64Array): void {
    const { values: l, blocks, groups: { firsts, starts, rows } } = this; // prettier-ignore
    for (let s = firsts.length - 2; s >= 0; s--) {
      const [first, wide, above] = [firsts[s], firsts[s + 1] - firsts[s], starts[s]];
      const own = x.subarray(4 * first, 4 * (first + wide));
      const off = (p: number, count: number, a: number, b: number, c: number, d: number): void => {
        for (let k = 0; k < count; k++) {
          const v = l[p + k];
          own[4 * k] -= v * a;
          own[4 * k + 1] -= v * b;
          own[4 * k + 2] -= v * c;
          own[4 * k + 3] -= v * d;
        }
      };
      let p = blocks[s + 1] - wide;
      for (let r = starts[s + 1] - 1; r >= above + wide; r--, p -= wide) {
        const from = 4 * rows[r];
        off(p, wide, x[from], x[from + 1], x[from + 2], x[from + 3]);
      }
      for (let i = wide - 1; i >= 0; i--, p -= wide) {
        for (let c = 4 * i; c < 4 * i + 4; c++) own[c] *= l[p + i];
        off(p, i, own[4 * i], own[4 * i + 1], own[4 * i + 2], own[4 * i + 3]);
      }
    }
  }
}

/** What each group leaves beyond its columns until the one above takes it: lower triangles by rows, on a stack. */
class Leftovers {
  private readonly values: Float64Array;
  private readonly below: Supernodes['below'];
  /** group → where what it leaves starts, and how tall that is */
  private readonly at: Float64Array;
  private readonly tall: Int32Array;
  private top = 0;

  constructor({ below, firsts, starts }: Supernodes) {
    this.below = below;
    this.at = new Float64Array(below.length);
    this.tall = Int32Array.from(below, (_, s) => starts[s + 1] - starts[s] - (firsts[s + 1] - firsts[s]));
    // how high the stack gets
    let [most, top] = [0, 0];
    this.tall.forEach((tall, s) => {
      most = Math.max(most, top + tall * tall);
      for (const child of below[s]) top -= this.tall[child] ** 2;
      top += tall * tall;
    });
    this.values = new Float64Array(most);
  }

  /** Room for what a group will leave, all zero. */
  begin(s: number): Float64Array {
    return this.values.subarray(this.top, this.top + this.tall[s] ** 2).fill(0);
  }
  of(s: number): Float64Array {
    return this.values.subarray(this.at[s], this.at[s] + this.tall[s] ** 2);
  }
  /** What was begun takes the place of what the groups below left. */
  keep(s: number): void {
    const [child] = this.below[s];
    const own = this.tall[s] ** 2;
    this.at[s] = child === undefined ? this.top : this.at[child];
    this.values.copyWithin(this.at[s], this.top, this.top + own);
    this.top = this.at[s] + own;
  }
}
