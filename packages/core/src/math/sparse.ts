/** Sums of entries of a symmetric matrix, gathered in any order; only those with row ≤ column are kept. */
export class SymmetricEntries {
  private rows = new Int32Array(1024);
  private columns = new Int32Array(1024);
  private values = new Float64Array(1024);
  count = 0;

  constructor(readonly size: number) {}

  /** Adds to the entry (i, j), and with it to (j, i). */
  add(i: number, j: number, value: number): void {
    if (value === 0) return;
    if (this.count === this.rows.length) {
      const grow = <T extends Int32Array | Float64Array>(old: T): T => {
        const made = new (old.constructor as new (n: number) => T)(2 * old.length);
        made.set(old as never);
        return made;
      };
      this.rows = grow(this.rows);
      this.columns = grow(this.columns);
      this.values = grow(this.values);
    }
    this.rows[this.count] = i < j ? i : j;
    this.columns[this.count] = i < j ? j : i;
    this.values[this.count++] = value;
  }

  /** The upper triangle by columns after renumbering (`to`: old → new), entries summed. */
  byColumn(to: Int32Array): { starts: Int32Array; rows: Int32Array; values: Float64Array } {
    const { count, size } = this;
    const starts = new Int32Array(size + 1);
    const low = new Int32Array(count);
    const high = new Int32Array(count);
    for (let k = 0; k < count; k++) {
      const i = to[this.rows[k]],
        j = to[this.columns[k]];
      low[k] = i < j ? i : j;
      high[k] = i < j ? j : i;
      starts[high[k] + 1]++;
    }
    for (let j = 0; j < size; j++) starts[j + 1] += starts[j];
    const place = starts.slice(0, size);
    const order = new Int32Array(count);
    for (let k = 0; k < count; k++) order[place[high[k]]++] = k;
    const rows = new Int32Array(count);
    const values = new Float64Array(count);
    const last = new Int32Array(size).fill(-1);
    const tight = new Int32Array(size + 1);
    let n = 0;
    for (let j = 0; j < size; j++) {
      tight[j] = n;
      for (let x = starts[j]; x < starts[j + 1]; x++) {
        const k = order[x];
        const i = low[k];
        if (last[i] >= tight[j]) values[last[i]] += this.values[k];
        else {
          last[i] = n;
          rows[n] = i;
          values[n++] = this.values[k];
        }
      }
    }
    tight[size] = n;
    return { starts: tight, rows: rows.slice(0, n), values: values.slice(0, n) };
  }
}

/**
 * A symmetric positive definite matrix as L·D·Lᵀ, row by row along its elimination tree (Davis 2005). The order in which unknowns
 * are taken decides the fill: see `dissected`. Cost: for a mesh of n vertices some n^1.5 multiplications, and n log n numbers kept.
 */
export class Factored {
  private readonly to: Int32Array;
  private readonly starts: Int32Array;
  private readonly rows: Int32Array;
  private readonly values: Float64Array;
  private readonly inverse: Float64Array;

  /** `order` lists the unknowns as they are to be taken. Pivots that vanish are held at a tiny one. */
  constructor(entries: SymmetricEntries, order: ArrayLike<number>) {
    const n = entries.size;
    this.to = new Int32Array(n);
    for (let k = 0; k < n; k++) this.to[order[k]] = k;
    const a = entries.byColumn(this.to);
    const parent = new Int32Array(n).fill(-1);
    const flag = new Int32Array(n).fill(-1);
    const below = new Int32Array(n);
    for (let k = 0; k < n; k++) {
      flag[k] = k;
      for (let x = a.starts[k]; x < a.starts[k + 1]; x++)
        for (let i = a.rows[x]; flag[i] !== k; i = parent[i]) {
          if (parent[i] < 0) parent[i] = k;
          below[i]++;
          flag[i] = k;
        }
    }
    this.starts = new Int32Array(n + 1);
    for (let k = 0; k < n; k++) this.starts[k + 1] = this.starts[k] + below[k];
    this.rows = new Int32Array(this.starts[n]);
    this.values = new Float64Array(this.starts[n]);
    this.inverse = new Float64Array(n);
    this.eliminate(a, parent, flag.fill(-1), below.fill(0));
  }

  private eliminate(
    a: { starts: Int32Array; rows: Int32Array; values: Float64Array },
    parent: Int32Array,
    flag: Int32Array,
    filled: Int32Array,
  ): void {
    const { starts, rows, values, inverse } = this;
    const n = inverse.length;
    const y = new Float64Array(n);
    const pattern = new Int32Array(n);
    for (let k = 0; k < n; k++) {
      let top = n;
      flag[k] = k;
      let diagonal = 0;
      for (let x = a.starts[k]; x < a.starts[k + 1]; x++) {
        let i = a.rows[x];
        if (i === k) {
          diagonal += a.values[x];
          continue;
        }
        y[i] += a.values[x];
        let length = 0;
        for (; flag[i] !== k; i = parent[i]) {
          pattern[length++] = i;
          flag[i] = k;
        }
        while (length > 0) pattern[--top] = pattern[--length];
      }
      const whole = diagonal;
      for (; top < n; top++) {
        const i = pattern[top];
        const yi = y[i];
        y[i] = 0;
        const end = starts[i] + filled[i];
        for (let x = starts[i]; x < end; x++) y[rows[x]] -= values[x] * yi;
        const l = yi * inverse[i];
        diagonal -= l * yi;
        rows[end] = k;
        values[end] = l;
        filled[i]++;
      }
      inverse[k] = 1 / Math.max(diagonal, 1e-12 * Math.abs(whole), 1e-300);
    }
  }

  /** Four right sides at once, in their place: each number kept is read once for all. Cost: less than two of `solve`. */
  solveFour(four: readonly [Float64Array, Float64Array, Float64Array, Float64Array]): void {
    const { to, starts, rows, values, inverse } = this;
    const n = inverse.length;
    const x = new Float64Array(4 * n);
    for (let i = 0; i < n; i++) for (let c = 0; c < 4; c++) x[4 * to[i] + c] = four[c][i];
    for (let k = 0; k < n; k++) {
      const a = x[4 * k], b = x[4 * k + 1], c = x[4 * k + 2], d = x[4 * k + 3]; // prettier-ignore
      if (a === 0 && b === 0 && c === 0 && d === 0) continue;
      for (let p = starts[k]; p < starts[k + 1]; p++) {
        const r = 4 * rows[p], v = values[p]; // prettier-ignore
        x[r] -= v * a;
        x[r + 1] -= v * b;
        x[r + 2] -= v * c;
        x[r + 3] -= v * d;
      }
    }
    for (let k = n - 1; k >= 0; k--) {
      const own = inverse[k];
      let a = x[4 * k] * own, b = x[4 * k + 1] * own, c = x[4 * k + 2] * own, d = x[4 * k + 3] * own; // prettier-ignore
      for (let p = starts[k]; p < starts[k + 1]; p++) {
        const r = 4 * rows[p], v = values[p]; // prettier-ignore
        a -= v * x[r];
        b -= v * x[r + 1];
        c -= v * x[r + 2];
        d -= v * x[r + 3];
      }
      x[4 * k] = a;
      x[4 * k + 1] = b;
      x[4 * k + 2] = c;
      x[4 * k + 3] = d;
    }
    for (let i = 0; i < n; i++) for (let c = 0; c < 4; c++) four[c][i] = x[4 * to[i] + c];
  }

  /** x with A·x = b. Cost: twice the numbers kept. */
  solve(b: ArrayLike<number>): Float64Array {
    const { to, starts, rows, values, inverse } = this;
    const n = inverse.length;
    const x = new Float64Array(n);
    for (let i = 0; i < n; i++) x[to[i]] = b[i];
    for (let k = 0; k < n; k++) {
      const xk = x[k];
      if (xk !== 0) for (let p = starts[k]; p < starts[k + 1]; p++) x[rows[p]] -= values[p] * xk;
    }
    for (let k = n - 1; k >= 0; k--) {
      let xk = x[k] * inverse[k];
      for (let p = starts[k]; p < starts[k + 1]; p++) xk -= values[p] * x[rows[p]];
      x[k] = xk;
    }
    const result = new Float64Array(n);
    for (let i = 0; i < n; i++) result[i] = x[to[i]];
    return result;
  }
}
