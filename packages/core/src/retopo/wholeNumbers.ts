/**
 * The whole numbers of a mixed problem, min ½·zᵀSz − s·zᵀr for a scale s, rounded one after another: that first which costs least, the rest moving to their
 * best each time; then single steps up and down while they pay (Bommes et al. 2009, greedy rounding). Cost of making: k³; of rounding: k³.
 */
export class WholeNumbers {
  /** S⁻¹ */
  private readonly inverse: Float64Array;

  constructor(
    private readonly k: number,
    private readonly s: Float64Array,
    /** may be another one later: S alone costs */
    public r: Float64Array,
  ) {
    let trace = 0;
    for (let i = 0; i < k; i++) trace += s[i * k + i];
    const soft = 1e-9 * (trace / Math.max(1, k)) + 1e-300;
    // the two ways of measuring it differ by rounding
    for (let i = 0; i < k; i++) {
      s[i * k + i] += soft;
      for (let j = 0; j < i; j++) s[i * k + j] = s[j * k + i] = (s[i * k + j] + s[j * k + i]) / 2;
    }
    this.inverse = inverted(s, k);
  }

  rounded(scale: number): Int32Array {
    const { k, s, r } = this;
    const c = this.inverse.slice();
    const z = new Float64Array(k);
    for (let i = 0; i < k; i++) for (let j = 0; j < k; j++) z[i] += c[i * k + j] * r[j] * scale;
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
    const found = Int32Array.from(z, (x) => Math.round(x));
    // gradient of the energy, kept up to date by single steps
    const g = new Float64Array(k);
    for (let i = 0; i < k; i++) {
      g[i] = -scale * r[i];
      for (let j = 0; j < k; j++) g[i] += s[i * k + j] * found[j];
    }
    for (let step = 0; step < 4 * k; step++) {
      let [best, gain, way] = [-1, -1e-9, 0];
      for (let i = 0; i < k; i++) {
        const change = s[i * k + i] / 2 - Math.abs(g[i]);
        if (change < gain) [best, gain, way] = [i, change, g[i] > 0 ? -1 : 1];
      }
      if (best < 0) break;
      found[best] += way;
      for (let i = 0; i < k; i++) g[i] += way * s[i * k + best];
    }
    return found;
  }
}

/** By Cholesky; pivots that vanish are held at a tiny one. */
function inverted(s: Float64Array, k: number): Float64Array {
  const l = new Float64Array(k * k);
  for (let i = 0; i < k; i++)
    for (let j = 0; j <= i; j++) {
      let sum = s[i * k + j];
      for (let m = 0; m < j; m++) sum -= l[i * k + m] * l[j * k + m];
      l[i * k + j] = i === j ? Math.sqrt(Math.max(sum, 1e-12 * Math.abs(s[i * k + i]), 1e-300)) : sum / l[j * k + j];
    }
  const inverse = new Float64Array(k * k);
  const y = new Float64Array(k);
  for (let c = 0; c < k; c++) {
    y.fill(0);
    for (let i = c; i < k; i++) {
      let sum = i === c ? 1 : 0;
      for (let m = c; m < i; m++) sum -= l[i * k + m] * y[m];
      y[i] = sum / l[i * k + i];
    }
    for (let i = k - 1; i >= 0; i--) {
      let sum = y[i];
      for (let m = i + 1; m < k; m++) sum -= l[m * k + i] * inverse[m * k + c];
      inverse[i * k + c] = sum / l[i * k + i];
    }
  }
  return inverse;
}
