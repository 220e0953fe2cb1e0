/** A symmetric positive definite matrix A, known by what it makes of a vector. */
export interface Definite {
  /** into = A·x */
  times(x: Float64Array, into: Float64Array): void;
  /** into = M·r, where M is symmetric positive definite and about A⁻¹: the nearer, the fewer steps */
  nearly(r: Float64Array, into: Float64Array): void;
}

/**
 * Moves x to A·x = b by conjugate gradients (Hestenes and Stiefel 1952), until rᵀMr is `enough` of what it was, or `most` steps are taken: how many were. `r` is b − A·x
 * for the x given, and b − A·x for the x found afterwards. Cost: A and M once a step.
 */
export function conjugateGradients(
  a: Definite,
  x: Float64Array,
  r: Float64Array,
  enough: number,
  most: number,
): number {
  const n = x.length;
  const s = new Float64Array(n);
  const q = new Float64Array(n);
  a.nearly(r, s);
  const d = s.slice();
  let rho = dot(r, s);
  const least = enough * Math.max(1e-30, rho);
  let step = 0;
  for (; step < most && rho > least; step++) {
    a.times(d, q);
    const by = rho / dot(d, q);
    for (let i = 0; i < n; i++) {
      x[i] += by * d[i];
      r[i] -= by * q[i];
    }
    a.nearly(r, s);
    const next = dot(r, s);
    const on = next / rho;
    rho = next;
    for (let i = 0; i < n; i++) d[i] = s[i] + on * d[i];
  }
  return step;
}

function dot(x: Float64Array, y: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += x[i] * y[i];
  return sum;
}
