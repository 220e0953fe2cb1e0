/** A few rows over many columns. */
export class SparseRows {
  private readonly rows: Map<number, number>[];
  constructor(n: number) {
    this.rows = Array.from({ length: n }, () => new Map<number, number>());
  }
  add(row: number, column: number, value: number): void {
    const own = this.rows[row];
    own.set(column, (own.get(column) ?? 0) + value);
  }
  dot(row: number, x: Float64Array): number {
    let sum = 0;
    for (const [c, value] of this.rows[row]) sum += value * x[c];
    return sum;
  }
  dense(row: number, n: number): Float64Array {
    const x = new Float64Array(n);
    this.addTo(row, x, 1);
    return x;
  }
  addTo(row: number, x: Float64Array, by: number): void {
    if (by !== 0) for (const [c, value] of this.rows[row]) x[c] += by * value;
  }
}
