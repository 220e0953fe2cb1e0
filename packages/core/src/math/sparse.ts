/** The upper triangle of a symmetric matrix, column by column: or row by row, and then `rows` are columns. */
export interface UpperTriangle {
  /** column → its first entry; one more at the end */
  starts: Int32Array;
  /** entry → its row */
  rows: Int32Array;
  values: Float64Array;
}

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

  /** The upper triangle by columns, or with `byRow` by rows, after renumbering (`to`: old → new), entries summed. Each column's rows come in no order. */
  upper(to: Int32Array, byRow = false): UpperTriangle {
    const { count, size } = this;
    const starts = new Int32Array(size + 1);
    const list = new Int32Array(count);
    const other = new Int32Array(count);
    for (let k = 0; k < count; k++) {
      const i = to[this.rows[k]],
        j = to[this.columns[k]];
      const isLow = i < j === byRow;
      list[k] = isLow ? i : j;
      other[k] = isLow ? j : i;
      starts[list[k] + 1]++;
    }
    for (let j = 0; j < size; j++) starts[j + 1] += starts[j];
    const place = starts.slice(0, size);
    const order = new Int32Array(count);
    for (let k = 0; k < count; k++) order[place[list[k]]++] = k;
    const rows = new Int32Array(count);
    const values = new Float64Array(count);
    const last = new Int32Array(size).fill(-1);
    const tight = new Int32Array(size + 1);
    let n = 0;
    for (let j = 0; j < size; j++) {
      tight[j] = n;
      for (let x = starts[j]; x < starts[j + 1]; x++) {
        const k = order[x];
        const i = other[k];
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
