import { makeData, type Column, type ColumnData, type ColumnType, type RowRecorder } from './Column';

/** The changed rows of one column: plain data, safe to store and to send. */
export interface ColumnPatch {
  column: string;
  stride: number;
  rows: Int32Array;
  before: ColumnData;
  after: ColumnData;
}

export type Domain = 'vertex' | 'edge' | 'face' | 'corner';

/** An attribute channel: named values on one kind of element. `corner` is keyed by half-edge. */
export interface ChannelSpec {
  domain: Domain;
  name: string;
  type: ColumnType;
  stride: number;
  fill: number;
}

/** What one transaction changed; applies forward and backward to the last bit. */
export interface Delta {
  columns: ColumnPatch[];
  /** channels that came into being in this transaction */
  created: ChannelSpec[];
}

/** The first states of the old rows of one column; the fresh ones are known to the column. */
class Touched implements RowRecorder {
  count = 0;
  rows = new Int32Array(16);
  /** as many values a row as the column's stride */
  before: ColumnData;

  constructor(
    readonly column: Column,
    public epoch: number,
  ) {
    this.before = makeData(column.type, 16 * column.stride);
  }

  touch(row: number): void {
    const { data, stride } = this.column;
    if (this.count === this.rows.length) this.grow();
    this.rows[this.count] = row;
    for (let k = 0; k < stride; k++) this.before[this.count * stride + k] = data[row * stride + k];
    this.count++;
  }

  private grow(): void {
    const { rows, before } = this;
    this.rows = new Int32Array(2 * rows.length);
    this.rows.set(rows);
    this.before = makeData(this.column.type, 2 * before.length);
    this.before.set(before);
  }
}

let epochs = 0;

/**
 * Collects the first state of every old row that changes. Columns call `touch` once a row and epoch, so that it need not look
 * for it; rows made in the transaction need no state. Cost: what is touched, whatever the mesh's size.
 */
export class DeltaRecorder {
  private epoch = ++epochs;
  private readonly touched = new Map<Column, Touched>();
  readonly created: ChannelSpec[] = [];

  /** Takes a column under watch, of which `rows` rows are there now. */
  watch(column: Column, rows: number): void {
    const touched = new Touched(column, this.epoch);
    column.watch(touched, rows);
    this.touched.set(column, touched);
  }

  openRows(): { column: string; rows: Iterable<number> }[] {
    return [...this.touched.values()]
      .filter((t) => t.count > 0 || t.column.top > t.column.oldRows)
      .map((t) => ({ column: t.column.name, rows: rowsOf(t) }));
  }

  /** Puts every touched row back and forgets it; gives the channels that came into being, which go again. */
  restore(): ChannelSpec[] {
    this.epoch = ++epochs;
    for (const t of this.touched.values()) {
      const { column, rows, before, count } = t;
      const { data, stride, fill, oldRows, top } = column;
      for (let i = 0; i < count; i++)
        for (let k = 0; k < stride; k++) data[rows[i] * stride + k] = before[i * stride + k];
      data.fill(fill, oldRows * stride, top * stride);
      column.top = oldRows;
      t.count = 0;
      t.epoch = this.epoch;
    }
    for (const column of this.touched.keys()) if (this.created.some((c) => column.name === `${c.domain}:${c.name}`)) this.touched.delete(column); // prettier-ignore
    return this.created.splice(0);
  }

  /** Rows that really differ, as patches. */
  finish(): Delta {
    const columns: ColumnPatch[] = [];
    for (const t of this.touched.values()) {
      const patch = patchOf(t);
      if (patch) columns.push(patch);
    }
    return { columns, created: this.created };
  }
}

/** Old rows that changed, and all fresh ones. */
function rowsOf({ rows, count, column: { oldRows, top } }: Touched): Int32Array {
  const all = new Int32Array(count + top - oldRows);
  all.set(rows.subarray(0, count));
  for (let row = oldRows; row < top; row++) all[count + row - oldRows] = row;
  return all;
}

function patchOf(t: Touched): ColumnPatch | null {
  const { data, stride, type, name, fill, oldRows } = t.column;
  const rows = rowsOf(t);
  const before = (i: number, k: number): number => (rows[i] < oldRows ? t.before[i * stride + k] : fill);
  /** places in `rows` that changed */
  const changed: number[] = [];
  for (let i = 0; i < rows.length; i++)
    for (let k = 0; k < stride; k++)
      if (!Object.is(data[rows[i] * stride + k], before(i, k))) {
        changed.push(i);
        break;
      }
  if (changed.length === 0) return null;
  const patch: ColumnPatch = {
    column: name,
    stride,
    rows: new Int32Array(changed.length),
    before: makeData(type, changed.length * stride),
    after: makeData(type, changed.length * stride),
  };
  changed.forEach((i, j) => {
    patch.rows[j] = rows[i];
    for (let k = 0; k < stride; k++) {
      patch.before[j * stride + k] = before(i, k);
      patch.after[j * stride + k] = data[rows[i] * stride + k];
    }
  });
  return patch;
}

/** Rows and bytes a delta holds, for the tests that bound an operator's cost. */
export function deltaSize(delta: Delta): { rows: number; bytes: number } {
  let rows = 0,
    bytes = 0;
  for (const p of delta.columns) {
    rows += p.rows.length;
    bytes += p.rows.byteLength + p.before.byteLength + p.after.byteLength;
  }
  return { rows, bytes };
}

export const isEmptyDelta = (delta: Delta): boolean => delta.columns.length === 0 && delta.created.length === 0;
