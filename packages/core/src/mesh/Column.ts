export type ColumnData = Float64Array | Float32Array | Int32Array | Uint8Array;
export type ColumnType = 'f64' | 'f32' | 'i32' | 'u8';

const CONSTRUCTORS = { f64: Float64Array, f32: Float32Array, i32: Int32Array, u8: Uint8Array } as const;

export function makeData(type: ColumnType, length: number): ColumnData {
  return new CONSTRUCTORS[type](length);
}

/** Takes note of a column's rows before they change; the transaction implements it. */
export interface RowRecorder {
  /** what `Column.seen` holds for rows that it has taken note of */
  readonly epoch: number;
  touch(row: number): void;
}

/**
 * One growable typed array of fixed-width rows. All state of a mesh lives in columns, and every write
 * passes through `set`, so that a transaction sees each changed row exactly once and undo is bit-exact.
 */
export class Column {
  data: ColumnData;
  recorder: RowRecorder | null = null;
  /** u32[rows] the epoch of the transaction that saw the row last; as long as the data from the first note on */
  seen = new Uint32Array(0);
  /** rows that there were when the transaction began; those from here on held `fill`, which is all there is to know of them */
  oldRows = 0;
  /** rows below this were written in the transaction, if they are no old ones */
  top = 0;

  constructor(
    readonly name: string,
    readonly type: ColumnType,
    /** values in a row */
    readonly stride: number,
    /** what a fresh row holds */
    readonly fill: number,
    rows = 16,
  ) {
    this.data = makeData(type, rows * stride);
    if (fill !== 0) this.data.fill(fill);
  }

  get(row: number, k = 0): number {
    return this.data[row * this.stride + k];
  }

  set(row: number, value: number, k = 0): void {
    if (this.recorder !== null) this.note(row);
    this.data[row * this.stride + k] = value;
  }

  /** A transaction begins or ends: `rows` rows are there now. */
  watch(recorder: RowRecorder | null, rows: number): void {
    this.recorder = recorder;
    this.oldRows = rows;
    this.top = rows;
  }

  private note(row: number): void {
    if (row >= this.oldRows) {
      if (row >= this.top) this.top = row + 1;
      return;
    }
    const recorder = this.recorder as RowRecorder;
    if (row < this.seen.length && this.seen[row] === recorder.epoch) return;
    if (row >= this.seen.length) {
      const old = this.seen;
      this.seen = new Uint32Array(Math.max(row + 1, this.data.length / this.stride));
      this.seen.set(old);
    }
    this.seen[row] = recorder.epoch;
    recorder.touch(row);
  }

  /** Makes room for `rows` rows, doubling: amortised constant. */
  ensure(rows: number): void {
    const need = rows * this.stride;
    if (need <= this.data.length) return;
    const old = this.data;
    this.data = makeData(this.type, Math.max(need, old.length * 2));
    this.data.set(old);
    if (this.fill !== 0) this.data.fill(this.fill, old.length);
  }

  reset(row: number): void {
    if (this.recorder !== null) this.note(row);
    this.data.fill(this.fill, row * this.stride, (row + 1) * this.stride);
  }

  copyRow(from: number, to: number): void {
    if (this.recorder !== null) this.note(to);
    this.data.copyWithin(to * this.stride, from * this.stride, (from + 1) * this.stride);
  }
}
