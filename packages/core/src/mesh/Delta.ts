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
  index: Map<number, number>;
  before: number[];
}

/** Collects the first state of every row that changes. Cost: what is touched, whatever the mesh's size. */
export class DeltaRecorder implements RowRecorder {
  private readonly touched = new Map<Column, Touched>();
  readonly created: ChannelSpec[] = [];

  touch(column: Column, row: number): void {
    let t = this.touched.get(column);
    if (!t) {
      t = { column, index: new Map(), before: [] };
      this.touched.set(column, t);
    }
    if (t.index.has(row)) return;
    t.index.set(row, t.index.size);
    const { data, stride } = column;
    for (let k = 0; k < stride; k++) t.before.push(data[row * stride + k]);
  }

  openRows(): { column: string; rows: Iterable<number> }[] {
    return [...this.touched.values()].map(({ column, index }) => ({ column: column.name, rows: [...index.keys()] }));
  }

  /** Puts every touched row back and forgets it. */
  restore(): void {
    for (const { column, index, before } of this.touched.values()) {
      const { data, stride } = column;
      for (const [row, i] of index) for (let k = 0; k < stride; k++) data[row * stride + k] = before[i * stride + k];
    }
    this.touched.clear();
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

function patchOf({ column, index, before }: Touched): ColumnPatch | null {
  const { data, stride, type, name } = column;
  const changed: number[] = [];
  for (const [row, i] of index) {
    for (let k = 0; k < stride; k++) {
      if (!Object.is(data[row * stride + k], before[i * stride + k])) {
        changed.push(row);
        break;
      }
    }
  }
  if (changed.length === 0) return null;
  const patch: ColumnPatch = {
    column: name,
    stride,
    rows: Int32Array.from(changed),
    before: makeData(type, changed.length * stride),
    after: makeData(type, changed.length * stride),
  };
  changed.forEach((row, j) => {
    const i = index.get(row) as number;
    for (let k = 0; k < stride; k++) {
      patch.before[j * stride + k] = before[i * stride + k];
      patch.after[j * stride + k] = data[row * stride + k];
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
