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

interface Touched {
  column: Column;
  rows: number[];
  /** as many values a row as the column's stride */
  before: number[];
}

let epochs = 0;

/**
 * Collects the first state of every row that changes. Columns call `touch` once a row and epoch, so that it need not look
 * for it. Cost: what is touched, whatever the mesh's size.
 */
export class DeltaRecorder implements RowRecorder {
  epoch = ++epochs;
  private readonly touched = new Map<Column, Touched>();
  readonly created: ChannelSpec[] = [];

  touch(column: Column, row: number): void {
    let t = this.touched.get(column);
    if (!t) {
      t = { column, rows: [], before: [] };
      this.touched.set(column, t);
    }
    t.rows.push(row);
    const { data, stride } = column;
    for (let k = 0; k < stride; k++) t.before.push(data[row * stride + k]);
  }

  openRows(): { column: string; rows: Iterable<number> }[] {
    return [...this.touched.values()].map(({ column, rows }) => ({ column: column.name, rows: [...rows] }));
  }

  /** Puts every touched row back and forgets it. */
  restore(): void {
    for (const { column, rows, before } of this.touched.values()) {
      const { data, stride } = column;
      rows.forEach((row, i) => {
        for (let k = 0; k < stride; k++) data[row * stride + k] = before[i * stride + k];
      });
    }
    this.touched.clear();
    this.epoch = ++epochs;
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

function patchOf({ column, rows, before }: Touched): ColumnPatch | null {
  const { data, stride, type, name } = column;
  /** places in `rows` that changed */
  const changed: number[] = [];
  for (let i = 0; i < rows.length; i++)
    for (let k = 0; k < stride; k++)
      if (!Object.is(data[rows[i] * stride + k], before[i * stride + k])) {
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
      patch.before[j * stride + k] = before[i * stride + k];
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
