/** A few rows over many columns: entries are added in any order, then made tight. */
export class SparseRows {
  private row: number[] = [];
  private column: number[] = [];
  private value: number[] = [];
  private starts: Int32Array;
  private columns = new Int32Array();
  private values = new Float64Array();

  constructor(
    rows: number,
    private readonly width: number,
  ) {
    this.starts = new Int32Array(rows + 1);
  }

  add(row: number, column: number, value: number): void {
    this.row.push(row);
    this.column.push(column);
    this.value.push(value);
  }

  /** Entries of one place summed; none can be added any more. Cost: linear. */
  tight(): this {
    const rows = this.starts.length - 1;
    const first = new Int32Array(rows + 1);
    for (const r of this.row) first[r + 1]++;
    for (let r = 0; r < rows; r++) first[r + 1] += first[r];
    const place = first.slice();
    const order = new Int32Array(this.row.length);
    this.row.forEach((r, k) => (order[place[r]++] = k));
    this.columns = new Int32Array(order.length);
    this.values = new Float64Array(order.length);
    const at = new Int32Array(this.width).fill(-1);
    let n = 0;
    for (let r = 0; r < rows; r++) {
      this.starts[r] = n;
      for (let x = first[r]; x < first[r + 1]; x++) {
        const c = this.column[order[x]];
        if (at[c] < this.starts[r]) {
          at[c] = n;
          this.columns[n++] = c;
        }
        this.values[at[c]] += this.value[order[x]];
      }
    }
    this.starts[rows] = n;
    this.row = this.column = this.value = [];
    return this;
  }

  /** Each row's product with a vector. */
  times(x: Float64Array, into: Float64Array): void {
    const { starts, columns, values } = this;
    for (let row = 0; row < into.length; row++) {
      let sum = 0;
      for (let k = starts[row]; k < starts[row + 1]; k++) sum += values[k] * x[columns[k]];
      into[row] = sum;
    }
  }
  /** Tells each entry of a row, by columns' order of adding. */
  eachOf(row: number, tell: (column: number, value: number) => void): void {
    for (let k = this.starts[row]; k < this.starts[row + 1]; k++) tell(this.columns[k], this.values[k]);
  }

  /** x += by·row. */
  addTo(row: number, x: Float64Array, by: number): void {
    if (by === 0) return;
    for (let k = this.starts[row]; k < this.starts[row + 1]; k++) x[this.columns[k]] += by * this.values[k];
  }
}
