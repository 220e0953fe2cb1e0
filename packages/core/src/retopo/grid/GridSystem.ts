import { conjugateGradients, Factored, SymmetricEntries } from '../../math';
import { SparseRows } from './SparseRows';
import type { Squares } from './squares';

/** Keeps the matrix definite where nothing holds a place. */
const SOFT = 1e-9;
/** How exactly the reals are solved for with other weights, squared, of how far they were: places are rounded to a millionth anyway. */
const ENOUGH = 1e-10;
/** After so many steps the weights are so far from those factored that factoring anew pays; more are not waited for. */
const MANY = 25;
const MOST = 60;

/**
 * The least squares of the grid over its reals and whole numbers. The reals' matrix is factored once; with other weights in a few places it still is so near to the true
 * one that conjugate gradients get there in some tens of steps, each far cheaper than factoring.
 */
export class GridSystem {
  private a: Factored;
  /** weights are others than those factored */
  private isOther = false;
  /** it took so many to solve for them */
  private steps = 0;
  /** the reals as they were found last */
  private last: Float64Array;

  /** `weight` and `wish` are of each square, and may be changed from outside: see `reweighted`. `order` is that of elimination. Cost: factoring. */
  constructor(
    private readonly squares: Squares,
    private readonly reals: number,
    private readonly numbers: number,
    private readonly order: Int32Array,
    private readonly weight: Float64Array,
    private readonly wish: Float64Array,
  ) {
    this.last = new Float64Array(reals);
    this.a = this.factored();
  }

  private factored(): Factored {
    const { row, sign, count } = this.squares;
    const entries = new SymmetricEntries(this.reals);
    for (let i = 0; i < this.reals; i++) entries.add(i, i, SOFT);
    for (let k = 0; k < count; k++) {
      const [i, j, w] = [row[2 * k], row[2 * k + 1], this.weight[k]];
      const both = w * sign[2 * k] * sign[2 * k + 1];
      if (i >= 0) entries.add(i, i, w);
      if (j >= 0) entries.add(j, j, w);
      if (i >= 0 && j >= 0) entries.add(i, j, i === j ? 2 * both : both);
    }
    return new Factored(entries, this.order);
  }

  /**
   * The energy left for the whole numbers once the reals are at their best, ½·zᵀSz − zᵀr for size 1: S, f64[k·k], and what gives r for the wishes as they are then;
   * and `answers`, how the reals move with each whole number, f32[k·reals].
   * Cost: a solve for each whole number.
   */
  forWhole(): { s: Float64Array; right: () => Float64Array; answers: Float32Array } {
    const k = this.numbers;
    const { row, sign, sum, count, sums } = this.squares;
    // with the weights as they are now: how the sums and the reals pull at each other
    const coupling = new SparseRows(sums.count, this.reals);
    const total = new Float64Array(sums.count);
    for (let q = 0; q < count; q++) {
      if (sum[q] === 0) continue;
      total[sum[q]] += this.weight[q];
      for (let end = 2 * q; end < 2 * q + 2; end++)
        if (row[end] >= 0) coupling.add(sum[q], row[end], this.weight[q] * sign[end]);
    }
    coupling.tight();
    const s = new Float64Array(k * k);
    const answers = new Float32Array(k * this.reals);
    const back = new Float64Array(sums.count);
    const holding = this.sumsHolding();
    const pulled = [0, 1, 2, 3].map(() => new Float64Array(this.reals)) as [Float64Array, Float64Array, Float64Array, Float64Array]; // prettier-ignore
    for (let first = 0; first < k; first += 4) {
      // what each whole number pulls at, and what is pulled back
      pulled.forEach((all, c) => {
        all.fill(0);
        if (first + c < k) holding.eachOf(first + c, (j, by) => coupling.addTo(j, all, by));
      });
      this.a.solveFour(pulled);
      pulled.slice(0, k - first).forEach((pushed, c) => {
        const i = first + c;
        for (let x = 0; x < this.reals; x++) answers[i * this.reals + x] = -pushed[x];
        coupling.times(pushed, back);
        for (let j = 0; j < back.length; j++) back[j] = -back[j];
        holding.eachOf(i, (j, by) => (back[j] += total[j] * by));
        s.set(this.toNumbers(back), i * k);
      });
    }
    const right = (): Float64Array => {
      const wishes = new Float64Array(sums.count);
      for (let q = 0; q < count; q++) wishes[sum[q]] += this.weight[q] * this.wish[q];
      coupling.times(this.a.solve(this.pull(1, new Int32Array(k))), back);
      for (let j = 0; j < back.length; j++) wishes[j] -= back[j];
      return this.toNumbers(wishes);
    };
    return { s, right, answers };
  }

  /** For each whole number the sums that it is in, with its factors. */
  private sumsHolding(): SparseRows {
    const { count, starts, number, factor } = this.squares.sums;
    const rows = new SparseRows(this.numbers, count);
    for (let j = 0; j < count; j++) for (let x = starts[j]; x < starts[j + 1]; x++) rows.add(number[x], j, factor[x]);
    return rows.tight();
  }

  /** The values of all sums. */
  private sumsOf(z: Int32Array): Float64Array {
    const { count, starts, number, factor } = this.squares.sums;
    const values = new Float64Array(count);
    for (let j = 0; j < count; j++) for (let x = starts[j]; x < starts[j + 1]; x++) values[j] += factor[x] * z[number[x]]; // prettier-ignore
    return values;
  }

  /** What pulls at sums, as it pulls at the whole numbers in them. */
  private toNumbers(pull: Float64Array): Float64Array {
    const { count, starts, number, factor } = this.squares.sums;
    const all = new Float64Array(this.numbers);
    for (let j = 0; j < count; j++) for (let x = starts[j]; x < starts[j + 1]; x++) all[number[x]] += factor[x] * pull[j]; // prettier-ignore
    return all;
  }

  /** Other weights than those that were factored are to be solved for from now on. */
  reweighted(): void {
    this.isOther = true;
  }

  /** The reals at their best for a size and the whole numbers. Cost: a pass over the factors; with other weights some tens. */
  realsFor(size: number, z: Int32Array): Float64Array {
    const b = this.pull(size, z);
    if (this.steps > MANY) this.refactor();
    if (!this.isOther) return (this.last = this.a.solve(b));
    const x = this.last.slice();
    const r = new Float64Array(this.reals);
    this.times(x, r);
    for (let i = 0; i < r.length; i++) r[i] = b[i] - r[i];
    this.steps = conjugateGradients({ times: (p, into) => this.times(p, into), nearly: (p, into) => into.set(this.a.solve(p)) }, x, r, ENOUGH, MOST); // prettier-ignore
    if (this.steps < MOST) return (this.last = x);
    this.refactor();
    return (this.last = this.a.solve(b));
  }

  /** Factored for the weights as they are now. Cost: factoring. */
  refactor(): void {
    this.a = this.factored();
    this.isOther = false;
    this.steps = 0;
  }

  /** What the reals are pulled to by the wishes and the whole numbers. */
  private pull(size: number, z: Int32Array): Float64Array {
    const { row, sign, sum, count } = this.squares;
    const whole = this.sumsOf(z);
    const b = new Float64Array(this.reals);
    for (let k = 0; k < count; k++) {
      const by = this.weight[k] * (this.wish[k] / size - whole[sum[k]]);
      const [i, j] = [row[2 * k], row[2 * k + 1]];
      if (i >= 0) b[i] += sign[2 * k] * by;
      if (j >= 0) b[j] += sign[2 * k + 1] * by;
    }
    return b;
  }

  /** The reals' matrix times a vector. */
  private times(x: Float64Array, into: Float64Array): void {
    const { row, sign, count } = this.squares;
    for (let i = 0; i < into.length; i++) into[i] = SOFT * x[i];
    for (let k = 0; k < count; k++) {
      const [i, j] = [row[2 * k], row[2 * k + 1]];
      const d = this.weight[k] * ((i >= 0 ? sign[2 * k] * x[i] : 0) + (j >= 0 ? sign[2 * k + 1] * x[j] : 0));
      if (i >= 0) into[i] += sign[2 * k] * d;
      if (j >= 0) into[j] += sign[2 * k + 1] * d;
    }
  }
}
