import type { Tie } from './lineTies';
import { valueAt, type Ring } from './rings';

/** A ring that misses its start by more than this share of its length would shear what lies round it too much. */
const CLOSES = 0.2;
/** A ring is worth closing where about so many rows of quads run beside each other; one that misses its start by more than this share of them leaves the band. */
const WIDE = 2;
const STAYS = 0.4;

/** A basis of those of k whole numbers that fulfil the ties, a row each. Cost: the ties times the numbers, and what they have in common. */
export function tiedNumbers(k: number, ties: readonly Tie[]): Int32Array[] {
  let basis: Int32Array[] = Array.from({ length: k }, (_, i) => new Int32Array(k).fill(1, i, i + 1));
  for (const tie of ties) {
    const value = basis.map((row) => {
      let sum = 0;
      for (const [number, by] of tie) sum += by * row[number];
      return sum;
    });
    basis = without(basis, value);
  }
  return basis;
}

/** Vectors of numbers as one array, row by row. */
export function rowsAsOne(rows: readonly Int32Array[]): Int32Array {
  const flat = new Int32Array(rows.reduce((sum, row) => sum + row.length, 0));
  rows.forEach((row, i) => flat.set(row, i * row.length));
  return flat;
}

/**
 * A basis of those sums of a basis under which rings close, a row each: quads then run round a limb in loops that end where they began, not in a spiral. Rings are closed as long as
 * they miss their start by little, of their length and of the rows beside them, under `best`, what the numbers would be if they need not be whole. Cost: the rings times the basis.
 */
export function closingNumbers(
  within: readonly Int32Array[],
  rings: readonly Ring[],
  best: Float64Array,
): readonly Int32Array[] {
  let basis = within;
  for (const { round, missed, quads } of rings) {
    const length = Math.abs(valueAt(round, best));
    const rows = quads / length;
    if (!(rows >= WIDE) || Math.abs(valueAt(missed, best)) > Math.min(CLOSES * length, STAYS * rows)) continue;
    basis = without(
      basis,
      basis.map((row) => valueAt(row, missed)),
    );
  }
  return basis;
}

/** A basis of those sums of a basis whose value is 0: the greater values are brought down by the least, as Euclid does, until one is left. */
function without(basis: readonly Int32Array[], value: number[]): Int32Array[] {
  const rows = basis.map((row, i) => (value[i] === 0 ? row : row.slice()));
  for (;;) {
    const left = value.flatMap((x, i) => (x === 0 ? [] : [i]));
    if (left.length === 0) return rows;
    const least = left.reduce((a, b) => (Math.abs(value[b]) < Math.abs(value[a]) ? b : a));
    if (left.length === 1) return rows.filter((_, i) => i !== least);
    for (const i of left) {
      if (i === least) continue;
      const by = Math.round(value[i] / value[least]);
      value[i] -= by * value[least];
      for (let j = 0; j < rows[i].length; j++) rows[i][j] -= by * rows[least][j];
    }
  }
}
