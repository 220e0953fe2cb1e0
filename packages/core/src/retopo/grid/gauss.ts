import { TopologyError } from '../../errors';

/** A sum of symbols with Gaussian whole numbers: symbol → [real, imaginary]. */
export type GaussSum = Map<number, readonly [number, number]>;

/** i^k·z. */
export function turned([x, y]: readonly [number, number], k: number): [number, number] {
  const q = k & 3;
  return q === 0 ? [x, y] : q === 1 ? [-y, x] : q === 2 ? [-x, -y] : [y, -x];
}

/** sum += factor·term. */
export function accumulate(sum: GaussSum, term: GaussSum, [a, b]: readonly [number, number]): void {
  for (const [s, [x, y]] of term) {
    const [p, q] = sum.get(s) ?? [0, 0];
    const made: [number, number] = [p + a * x - b * y, q + a * y + b * x];
    if (made[0] === 0 && made[1] === 0) sum.delete(s);
    else sum.set(s, made);
  }
}

/** A sum's real and imaginary part as factors of the whole numbers z: symbol s is z[2s] + i·z[2s + 1]. */
export interface GaussRows {
  re: Int32Array;
  im: Int32Array;
}

/** The factors of so many whole numbers that a sum comes to. Cost: those. */
export function rowsOf(sum: GaussSum, numbers: number): GaussRows {
  const [re, im] = [new Int32Array(numbers), new Int32Array(numbers)];
  for (const [s, [a, b]] of sum) {
    re[2 * s] = a;
    re[2 * s + 1] = -b;
    im[2 * s] = b;
    im[2 * s + 1] = a;
  }
  return { re, im };
}

/** What a sum comes to: symbol s is z[2s] + i·z[2s + 1]. */
export function valueOf(sum: GaussSum, z: Int32Array): [number, number] {
  let [x, y] = [0, 0];
  for (const [s, [a, b]] of sum) {
    const [u, v] = [z[2 * s], z[2 * s + 1]];
    x += a * u - b * v;
    y += b * u + a * v;
  }
  return [x, y];
}

/** Many sums side by side, for what runs over all of them again and again. */
export class GaussSums {
  /** where the terms of each begin, and where the last ones end; of each term its symbol, and its factor */
  readonly starts: Int32Array;
  readonly symbol: Int32Array;
  readonly re: Int32Array;
  readonly im: Int32Array;

  constructor(sums: readonly GaussSum[]) {
    this.starts = new Int32Array(sums.length + 1);
    sums.forEach((sum, i) => (this.starts[i + 1] = this.starts[i] + sum.size));
    const terms = this.starts[sums.length];
    this.symbol = new Int32Array(terms);
    this.re = new Int32Array(terms);
    this.im = new Int32Array(terms);
    let n = 0;
    for (const sum of sums)
      for (const [s, [a, b]] of sum) {
        this.symbol[n] = s;
        this.re[n] = a;
        this.im[n++] = b;
      }
  }

  /** Puts what the i-th sum comes to into two places from `at` on: symbol s is z[2s] + i·z[2s + 1]. */
  valueInto(i: number, z: Int32Array, into: Float64Array, at: number): void {
    let x = 0, y = 0; // prettier-ignore
    for (let k = this.starts[i]; k < this.starts[i + 1]; k++) {
      const u = z[2 * this.symbol[k]], v = z[2 * this.symbol[k] + 1]; // prettier-ignore
      x += this.re[k] * u - this.im[k] * v;
      y += this.im[k] * u + this.re[k] * v;
    }
    into[at] = x;
    into[at + 1] = y;
  }
}

const isUnit = ([x, y]: readonly [number, number]): boolean => Math.abs(x) + Math.abs(y) === 1;

/**
 * Solves homogeneous equations over the Gaussian whole numbers: each equation's sum is zero. Gives every symbol as a sum of free
 * ones, whole coefficients throughout, so that any whole values of the free ones are a solution. Symbols from `late` on are
 * expressed by others only where nothing else will do. Throws NO_WAY where no coefficient is a unit. Cost: the equations times
 * their length, and the fill.
 */
export function solveWhole(
  equations: readonly GaussSum[],
  symbols: number,
  late: number,
): { free: number[]; of: GaussSum[] } {
  const solved = new Map<number, GaussSum>();
  const reduced = (sum: GaussSum): GaussSum => {
    const left: GaussSum = new Map(sum);
    for (;;) {
      const known = [...left.keys()].find((s) => solved.has(s));
      if (known === undefined) return left;
      const factor = left.get(known) as readonly [number, number];
      left.delete(known);
      accumulate(left, solved.get(known) as GaussSum, factor);
    }
  };
  for (const equation of equations) {
    let left = reduced(equation);
    if (left.size === 0) continue;
    // 1 + i divides what has an even sum of parts
    while ([...left.values()].every(([x, y]) => ((x + y) & 1) === 0))
      left = new Map([...left].map(([s, [x, y]]) => [s, [(x + y) / 2, (y - x) / 2]]));
    const units = [...left].filter(([, c]) => isUnit(c)).map(([s]) => s);
    const pivot = units.find((s) => s < late) ?? units[0];
    if (pivot === undefined) throw new TopologyError('NO_WAY', 'The turns of the flow cannot be made whole here.');
    const [x, y] = left.get(pivot) as readonly [number, number];
    left.delete(pivot);
    // −1 over a unit is minus its conjugate
    const made: GaussSum = new Map();
    accumulate(made, left, [-x, y]);
    solved.set(pivot, made);
  }
  const free: number[] = [];
  for (let s = 0; s < symbols; s++) if (!solved.has(s)) free.push(s);
  const index = new Map(free.map((s, i) => [s, i]));
  const of = Array.from({ length: symbols }, (_, s): GaussSum => {
    const sum = reduced(new Map([[s, [1, 0]]]));
    return new Map([...sum].map(([f, c]) => [index.get(f) as number, c]));
  });
  return { free, of };
}
