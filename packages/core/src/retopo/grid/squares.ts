import { nextHalf, type TriMesh } from '../form/TriMesh';
import type { OnRidge } from './RidgeRows';
import type { Seams } from './seams';

/** A coordinate of a wedge that is held at the whole number of a line. */
export interface OnLine {
  wedge: number;
  axis: 0 | 1;
  line: number;
}

/** Sums over the whole numbers, the first of them empty. */
export interface WholeSums {
  count: number;
  /** where the terms of each begin, and where the last ones end: … */
  starts: Int32Array;
  /** … the whole number, … */
  number: Int32Array;
  /** … and its factor */
  factor: Int32Array;
}

/** Not about a half-edge, but of a line, or of a ridge. Those of ridges come last. */
export const ON_LINE = -1;
export const ON_RIDGE = -2;

/** The squares of the grid's energy, weight·(Σ real terms + Σ whole terms − wish)² each. */
export interface Squares {
  count: number;
  /** two for each: the real unknown, −1 where there is none, … */
  row: Int32Array;
  /** … and its sign */
  sign: Int8Array;
  /** which sum of whole terms each has: along a cut many have the same */
  sum: Int32Array;
  sums: WholeSums;
  /** the half-edge that each is about; else what it is of: a line, which wishes for nothing, or a ridge */
  half: Int32Array;
  axis: Uint8Array;
}

/** All squares of the energy: two for each half-edge of a triangle, one for each coordinate on a line, and one on a ridge. Cost: linear. */
export function squaresOf(
  mesh: TriMesh,
  seams: Seams,
  unknown: Int32Array,
  lines: readonly OnLine[],
  ridges: readonly OnRidge[],
): Squares {
  const count = 6 * mesh.triangles + lines.length + ridges.length;
  const made = {
    count,
    row: new Int32Array(2 * count).fill(-1),
    sign: new Int8Array(2 * count),
    sum: new Int32Array(count),
    half: new Int32Array(count).fill(ON_LINE),
    axis: new Uint8Array(count),
  };
  const sums = new SumsSoFar();
  let n = 0;
  const real = (k: number, wedge: number, axis: 0 | 1, sign: number): void => {
    const own = coordinateOf(seams, unknown, wedge, axis);
    made.row[2 * n + k] = own.row;
    made.sign[2 * n + k] = sign * own.sign;
  };
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const [a, b] = [seams.wedge[h], seams.wedge[nextHalf(h)]];
    for (const axis of [0, 1] as const) {
      made.half[n] = h;
      made.axis[n] = axis;
      real(0, b, axis, 1);
      real(1, a, axis, -1);
      const terms = new Map<number, number>();
      wholeTerms(seams, b, axis, 1, terms);
      wholeTerms(seams, a, axis, -1, terms);
      made.sum[n++] = sums.of(terms);
    }
  }
  for (const { wedge, axis, line } of lines) {
    made.axis[n] = axis;
    real(0, wedge, axis, 1);
    const terms = new Map<number, number>([[2 * seams.free + line, -1]]);
    wholeTerms(seams, wedge, axis, 1, terms);
    made.sum[n++] = sums.of(terms);
  }
  for (const { wedge, axis } of ridges) {
    made.axis[n] = axis;
    made.half[n] = ON_RIDGE;
    real(0, wedge, axis, 1);
    const terms = new Map<number, number>();
    wholeTerms(seams, wedge, axis, 1, terms);
    made.sum[n++] = sums.of(terms);
  }
  return { ...made, sums: sums.done() };
}

/** Sums of whole terms, each kept once. */
class SumsSoFar {
  private readonly known = new Map<string, number>();
  private readonly starts = [0, 0];
  private readonly number: number[] = [];
  private readonly factor: number[] = [];

  of(terms: ReadonlyMap<number, number>): number {
    const own = [...terms].filter(([, c]) => c !== 0);
    if (own.length === 0) return 0;
    const key = own.join();
    const known = this.known.get(key);
    if (known !== undefined) return known;
    for (const [s, c] of own) this.factor[this.number.push(s) - 1] = c;
    const made = this.starts.push(this.number.length) - 2;
    this.known.set(key, made);
    return made;
  }

  done(): WholeSums {
    const [starts, number, factor] = [this.starts, this.number, this.factor].map((all) => Int32Array.from(all));
    return { count: starts.length - 1, starts, number, factor };
  }
}

/** The real unknown behind one coordinate of a wedge: its row and sign; row −1 at poles. */
export function coordinateOf(
  seams: Seams,
  unknown: Int32Array,
  wedge: number,
  axis: 0 | 1,
): { row: number; sign: number } {
  const v = seams.vertex[wedge];
  if (v < 0) return { row: -1, sign: 0 };
  // coordinate of i^k·(x + iy)
  const k = seams.turn[wedge] & 3;
  const own = ((k & 1) ^ axis) as 0 | 1;
  const sign = axis === 0 ? (k === 1 || k === 2 ? -1 : 1) : k === 2 || k === 3 ? -1 : 1;
  return { row: 2 * unknown[v] + own, sign };
}

/** Terms over the whole numbers of one coordinate of a wedge. */
export function wholeTerms(seams: Seams, wedge: number, axis: 0 | 1, sign: number, into: Map<number, number>): void {
  const { starts, symbol, re, im } = seams.steps;
  for (let k = starts[wedge]; k < starts[wedge + 1]; k++) {
    // coordinate of (a + ib)(x + iy): ax − by, bx + ay
    const [s, a, b] = [symbol[k], re[k], im[k]];
    const [forX, forY] = axis === 0 ? [a, -b] : [b, a];
    if (forX !== 0) into.set(2 * s, (into.get(2 * s) ?? 0) + sign * forX);
    if (forY !== 0) into.set(2 * s + 1, (into.get(2 * s + 1) ?? 0) + sign * forY);
  }
}
