import { formIn, MANY_NUMBERS, reducedBasis, timesBasis } from './reducedBasis';

/**
 * The whole numbers of a mixed problem, min ½·zᵀSz − s·zᵀr for a scale s, rounded one after another: that first which costs least, the rest moving to their
 * best each time; then single steps up and down while they pay (Bommes et al. 2009, greedy rounding). Lines that hang together move together: what is
 * rounded is how far to go along the vectors of a reduced basis. Many are rounded in the basis' own order, which comes nearly as near. Cost of making: k³ and the reduction; of rounding: k³, of many k².
 */
export class WholeNumbers {
  /** how many vectors the basis has */
  readonly vectors: number;
  private readonly basis: Int32Array;
  /** S as the basis sees it; the factor L of L·Lᵀ, and where there are not many the inverse, of that */
  private readonly form: Float64Array;
  private readonly lower: Float64Array;
  private readonly inverse: Float64Array | null;

  /** `within`: only sums of these vectors will do, a row each; null: all whole numbers. */
  constructor(
    readonly k: number,
    private readonly s: Float64Array,
    /** may be another one later: S alone costs */
    public r: Float64Array,
    within: Int32Array | null = null,
  ) {
    definite(s, k);
    this.vectors = within ? within.length / k : k;
    const { vectors: d } = this;
    const reduced = reducedBasis(within ? formIn(within, s, k) : s, d);
    this.basis = within ? Int32Array.from(timesBasis(reduced, within, d)) : reduced;
    this.form = formIn(this.basis, s, k);
    this.lower = factored(this.form, d);
    this.inverse = d > MANY_NUMBERS ? null : inverted(this.lower, d);
  }

  /** The i-th vector of the basis. */
  vector(i: number): Int32Array {
    return this.basis.subarray(i * this.k, (i + 1) * this.k);
  }

  rounded(scale: number): Int32Array {
    const { k, vectors } = this;
    const steps = this.roundedSteps(scale);
    const z = new Int32Array(k);
    for (let i = 0; i < vectors; i++) if (steps[i] !== 0) this.vector(i).forEach((x, j) => (z[j] += steps[i] * x));
    const walk = this.walkFrom(z, scale);
    for (let step = 0; step < 4 * vectors; step++) {
      let [best, gain, way] = [-1, -1e-9, 0];
      for (let i = 0; i < vectors; i++) {
        const by = walk.pull[i] > 0 ? -1 : 1;
        const change = walk.change(i, by);
        if (change < gain) [best, gain, way] = [i, change, by];
      }
      if (best < 0) break;
      walk.step(best, way);
      this.vector(best).forEach((x, j) => (z[j] += way * x));
    }
    return z;
  }

  /** What steps along the vectors change from given whole numbers on. Cost: k². */
  walkFrom(z: Int32Array, scale: number): Walk {
    return new Walk(this.form, this.pullAt(z, scale));
  }

  /** How the energy grows along each vector. */
  private pullAt(z: Int32Array, scale: number): Float64Array {
    const { k, s, r } = this;
    const slope = new Float64Array(k);
    for (let i = 0; i < k; i++) {
      slope[i] = -scale * r[i];
      for (let j = 0; j < k; j++) slope[i] += s[i * k + j] * z[j];
    }
    return this.along(slope);
  }

  private along(x: Float64Array): Float64Array {
    return Float64Array.from({ length: this.vectors }, (_, i) =>
      this.vector(i).reduce((sum, b, j) => sum + b * x[j], 0),
    );
  }

  /** How often to go along each vector of the basis. */
  private roundedSteps(scale: number): Float64Array {
    const r = this.along(this.r).map((x) => scale * x);
    return this.inverse ? this.cheapestFirst(r, this.inverse) : this.lastFirst(r);
  }

  /** From the last vector to the first, each as near as what is left of it lies (Babai 1986). */
  private lastFirst(r: Float64Array): Float64Array {
    const { vectors: k, lower: l } = this;
    const z = solved(l, r, k);
    // off by so much already, as the vectors before see it
    const off = new Float64Array(k);
    for (let i = k - 1; i >= 0; i--) {
      const own = z[i] + off[i] / l[i * k + i];
      z[i] = Math.round(own);
      const by = own - off[i] / l[i * k + i] - z[i];
      for (let j = 0; j < i; j++) off[j] += by * l[i * k + j];
    }
    return z;
  }

  private cheapestFirst(r: Float64Array, inverse: Float64Array): Float64Array {
    const { vectors: k } = this;
    const c = inverse.slice();
    const z = new Float64Array(k);
    for (let i = 0; i < k; i++) for (let j = 0; j < k; j++) z[i] += c[i * k + j] * r[j];
    let left = Int32Array.from({ length: k }, (_, i) => i);
    while (left.length > 0) {
      let [best, cost] = [left[0], Infinity];
      for (const i of left) {
        const off = z[i] - Math.round(z[i]);
        const price = (off * off) / Math.max(1e-300, c[i * k + i]);
        if (price < cost) [best, cost] = [i, price];
      }
      left = left.filter((i) => i !== best);
      const move = Math.round(z[best]) - z[best];
      const pivot = c[best * k + best];
      if (pivot > 1e-14)
        for (const i of left) {
          const f = c[i * k + best] / pivot;
          if (f === 0) continue;
          z[i] += f * move;
          for (let x = 0; x < left.length; x++) c[i * k + left[x]] -= f * c[best * k + left[x]];
        }
      z[best] = Math.round(z[best]);
    }
    return z;
  }
}

/** Steps up and down along the vectors of a basis, and what they do to the energy. */
export class Walk {
  constructor(
    /** the form as the basis sees it, k×k */
    private readonly form: Float64Array,
    /** how the energy grows along each vector, kept up to date */
    readonly pull: Float64Array,
  ) {}

  change(i: number, way: number): number {
    return this.form[i * this.pull.length + i] / 2 + way * this.pull[i];
  }
  /** Once another step was taken. */
  changeAfter(i: number, way: number, before: number, one: number): number {
    return this.change(i, way) + one * way * this.form[before * this.pull.length + i];
  }
  /** Of steps along two vectors at most, together. */
  changeOf([one, two]: readonly { vector: number; way: number }[]): number {
    const alone = this.change(one.vector, one.way);
    return two ? alone + this.changeAfter(two.vector, two.way, one.vector, one.way) : alone;
  }
  step(i: number, way: number): void {
    const k = this.pull.length;
    for (let j = 0; j < k; j++) this.pull[j] += way * this.form[i * k + j];
  }
}

/** Makes a form symmetric to the last bit, and definite: the two ways of measuring it differ by rounding. */
function definite(s: Float64Array, k: number): void {
  let trace = 0;
  for (let i = 0; i < k; i++) trace += s[i * k + i];
  const soft = 1e-9 * (trace / Math.max(1, k)) + 1e-300;
  for (let i = 0; i < k; i++) {
    s[i * k + i] += soft;
    for (let j = 0; j < i; j++) s[i * k + j] = s[j * k + i] = (s[i * k + j] + s[j * k + i]) / 2;
  }
}

/** The numbers at which ½·zᵀSz − zᵀr is least, whole or not: f64[k]. Cost: k³. */
export const bestNumbers = (s: Float64Array, r: Float64Array): Float64Array =>
  solved(factored(s, r.length), r, r.length);

/** The lower factor of Cholesky; pivots that vanish are held at a tiny one. */
function factored(s: Float64Array, k: number): Float64Array {
  const l = new Float64Array(k * k);
  for (let i = 0; i < k; i++)
    for (let j = 0; j <= i; j++) {
      let sum = s[i * k + j];
      for (let m = 0; m < j; m++) sum -= l[i * k + m] * l[j * k + m];
      l[i * k + j] = i === j ? Math.sqrt(Math.max(sum, 1e-12 * Math.abs(s[i * k + i]), 1e-300)) : sum / l[j * k + j];
    }
  return l;
}

/** x of L·Lᵀ·x = b. */
function solved(l: Float64Array, b: Float64Array, k: number): Float64Array {
  const x = b.slice();
  for (let i = 0; i < k; i++) {
    for (let m = 0; m < i; m++) x[i] -= l[i * k + m] * x[m];
    x[i] /= l[i * k + i];
  }
  for (let i = k - 1; i >= 0; i--) {
    x[i] /= l[i * k + i];
    for (let m = 0; m < i; m++) x[m] -= l[i * k + m] * x[i];
  }
  return x;
}

function inverted(l: Float64Array, k: number): Float64Array {
  const inverse = new Float64Array(k * k);
  const unit = new Float64Array(k);
  for (let c = 0; c < k; c++) {
    unit.fill(0);
    unit[c] = 1;
    solved(l, unit, k).forEach((x, i) => (inverse[i * k + c] = x));
  }
  return inverse;
}
