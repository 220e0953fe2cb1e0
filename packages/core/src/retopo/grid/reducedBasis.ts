/** How much shorter a vector must be to come before another (Lovász' condition). */
const SHORTER = 0.75;
/** Rounding adds up while the basis changes: it is measured anew, and reduced again, so often at most. */
const ROUNDS = 4;
/** Of more numbers than this the basis is reduced once, which takes seconds already, and they are rounded the quicker way. */
export const MANY_NUMBERS = 400;

/**
 * A basis of the whole vectors of k numbers whose vectors are short under the form ½·zᵀSz, and nearly square to each other (Lenstra, Lenstra and Lovász 1982, in
 * floating point): row i of what is given is its i-th vector, k×k. Rounding along such vectors one by one comes near the best there is, where numbers
 * that are tied to each other leave each by itself no way. S is k×k, positive definite. Cost: k³, and k for each of the swaps, of which there are some tens a vector.
 */
export function reducedBasis(s: Float64Array, k: number): Int32Array {
  let basis = unitBasis(k);
  let form = s;
  for (let round = 0; round < (k > MANY_NUMBERS ? 1 : ROUNDS); round++) {
    const reduction = new Reduction(form, k);
    const swaps = reduction.run();
    // what was shortened counts where nothing changed places, too
    basis = round === 0 ? reduction.basis : Int32Array.from(timesBasis(reduction.basis, basis, k));
    if (swaps === 0) break;
    form = formIn(basis, s, k);
  }
  return basis;
}

function unitBasis(k: number): Int32Array {
  const basis = new Int32Array(k * k);
  for (let i = 0; i < k; i++) basis[i * k + i] = 1;
  return basis;
}

/** The form of k numbers as the vectors of a basis see it: B·S·Bᵀ. Cost: the basis' numbers that are not 0, times k. */
export function formIn(basis: Int32Array, s: Float64Array, k: number): Float64Array {
  const d = basis.length / k;
  const half = timesBasis(basis, s, k);
  // of the transposed again: S is symmetric
  const turned = new Float64Array(k * d);
  for (let i = 0; i < d; i++) for (let j = 0; j < k; j++) turned[j * d + i] = half[i * k + j];
  return timesBasis(basis, turned, k);
}

/** A basis, k numbers a row, times k rows: as many rows as it has. */
export function timesBasis(basis: Int32Array, rows: Float64Array | Int32Array, k: number): Float64Array {
  const [d, n] = [basis.length / k, rows.length / k];
  const product = new Float64Array(d * n);
  for (let i = 0; i < d; i++)
    for (let j = 0; j < k; j++) {
      const by = basis[i * k + j];
      if (by !== 0) for (let x = 0; x < n; x++) product[i * n + x] += by * rows[j * n + x];
    }
  return product;
}

/**
 * Vectors of a basis made square to those before them, as shares (`share`) and what is left of their length (`left`), kept up to date while they change. Only those up to `top`
 * were met yet: the others are as they came.
 */
class Reduction {
  readonly basis: Int32Array;
  private readonly share: Float64Array;
  private readonly left: Float64Array;
  private readonly row: Float64Array;
  private top = -1;
  /** Each change of places: the vector's number, its share of the one before it, and that one's of it from then on. */
  private readonly changed: { at: number; share: number; back: number }[] = [];
  /** up to which of them each vector that comes later has followed: it is not looked at before its turn comes */
  private readonly followed: Int32Array;

  constructor(
    private readonly s: Float64Array,
    private readonly k: number,
  ) {
    this.basis = unitBasis(k);
    this.share = new Float64Array(k * k);
    this.left = new Float64Array(k);
    this.row = new Float64Array(k);
    this.followed = new Int32Array(k);
  }

  private meet(n: number): void {
    const { s, k, basis, share, left, row } = this;
    let own = s[n * k + n];
    for (let j = 0; j < n; j++) {
      let x = 0;
      // those before it are made of vectors before it
      for (let y = 0; y < n; y++) if (basis[j * k + y] !== 0) x += basis[j * k + y] * s[n * k + y];
      for (let i = 0; i < j; i++) x -= share[j * k + i] * row[i];
      row[j] = x;
      share[n * k + j] = x / left[j];
      own -= x * share[n * k + j];
    }
    left[n] = Math.max(own, 1e-12 * s[n * k + n], 1e-300);
    this.top = n;
    this.followed[n] = this.changed.length;
  }

  /** Brings a vector's shares up to date with what changed places before it. */
  private follow(n: number): void {
    const { share, changed, followed, k } = this;
    for (let i = followed[n]; i < changed.length; i++) {
      const { at, share: m, back } = changed[i];
      const x = n * k + at;
      const t = share[x];
      share[x] = share[x - 1] - m * t;
      share[x - 1] = t + back * share[x];
    }
    followed[n] = changed.length;
  }

  /** How often two vectors changed places. */
  run(): number {
    const { k, share, left } = this;
    let swaps = 0;
    if (k > 0) this.meet(0);
    for (let n = 1; n < k;) {
      if (n > this.top) this.meet(n);
      else this.follow(n);
      this.shorten(n, n - 1);
      const m = share[n * k + n - 1];
      if (left[n] < (SHORTER - m * m) * left[n - 1]) {
        this.swap(n);
        swaps++;
        n = Math.max(1, n - 1);
        continue;
      }
      for (let j = n - 2; j >= 0; j--) this.shorten(n, j);
      n++;
    }
    return swaps;
  }

  /** Takes the j-th vector off the n-th as often as makes it shorter. */
  private shorten(n: number, j: number): void {
    const { k, share, basis, top } = this;
    const q = Math.round(share[n * k + j]);
    if (q === 0) return;
    for (let i = 0; i < j; i++) share[n * k + i] -= q * share[j * k + i];
    share[n * k + j] -= q;
    // of numbers not met yet there is none in it
    for (let x = 0; x <= top; x++) basis[n * k + x] -= q * basis[j * k + x];
  }

  /** Changes the n-th vector with the one before it. */
  private swap(n: number): void {
    const { k, share, left, basis } = this;
    const change = (of: Float64Array | Int32Array, to: number): void => {
      for (let x = 0; x < to; x++) {
        const other = of[n * k + x];
        of[n * k + x] = of[(n - 1) * k + x];
        of[(n - 1) * k + x] = other;
      }
    };
    change(basis, k);
    change(share, n - 1);
    const m = share[n * k + n - 1];
    const all = left[n] + m * m * left[n - 1];
    const back = (m * left[n - 1]) / all;
    share[n * k + n - 1] = back;
    left[n] = (left[n - 1] * left[n]) / all;
    left[n - 1] = all;
    this.changed.push({ at: n, share: m, back });
    this.followed[n] = this.followed[n - 1] = this.changed.length;
  }
}
