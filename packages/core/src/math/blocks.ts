/** Dense blocks of a triangular factor: row by row, as many numbers a row as there are columns; the top square holds the block's own columns. */

/** A pivot that vanishes is held at this share of what it was, or at the least number that may be divided by. */
const LEAST_SHARE = 1e-12;
const LEAST = 1e-300;

/** A group's block, and what it will leave to its parent: the lower triangle of a square, row by row. */
interface Front {
  block: Float64Array;
  wide: number;
  left: Float64Array;
}

/** Adds what a child left to its parent's front. `rows` are the child's beyond its columns, `at` their places among the parent's. Cost: the numbers left. */
export function handUp(rows: Int32Array, from: Float64Array, at: Int32Array, { block, wide, left }: Front): void {
  const n = rows.length;
  const tall = Math.round(Math.sqrt(left.length));
  for (let i = 0; i < n; i++) {
    const to = at[rows[i]];
    if (to < wide) for (let j = 0; j <= i; j++) block[to * wide + at[rows[j]]] += from[i * n + j];
    else {
      let j = 0;
      for (; j < i && at[rows[j]] < wide; j++) block[to * wide + at[rows[j]]] += from[i * n + j];
      const row = (to - wide) * tall - wide;
      for (; j <= i; j++) left[row + at[rows[j]]] += from[i * n + j];
    }
  }
}

/** Factors the square on top; `whole` tells how great each pivot was at first. On the diagonal 1 over the pivot is left. Cost: the columns' cube, a sixth of it. */
export function factorTop(l: Float64Array, wide: number, whole: Float64Array): void {
  for (let i = 0; i < wide; i++) {
    const p = i * wide;
    for (let c = 0; c < i; c++) {
      const q = c * wide;
      let sum = l[p + c];
      for (let k = 0; k < c; k++) sum -= l[p + k] * l[q + k];
      l[p + c] = sum * l[q + c];
    }
    let pivot = l[p + i];
    for (let k = 0; k < i; k++) pivot -= l[p + k] * l[p + k];
    l[p + i] = 1 / Math.sqrt(Math.max(pivot, LEAST_SHARE * Math.abs(whole[i]), LEAST));
  }
}

/** The rows below the square, four at a time: four sums do not wait for each other. Cost: the columns' square for each row, half of it. */
export function solveBelow(l: Float64Array, wide: number, tall: number): void {
  let i = wide;
  for (; i + 4 <= tall; i += 4) {
    const p = i * wide, p1 = p + wide, p2 = p1 + wide, p3 = p2 + wide; // prettier-ignore
    for (let c = 0, q = 0; c < wide; c++, q += wide) {
      let a = l[p + c], b = l[p1 + c], d = l[p2 + c], e = l[p3 + c]; // prettier-ignore
      for (let k = 0; k < c; k++) {
        const v = l[q + k];
        a -= l[p + k] * v;
        b -= l[p1 + k] * v;
        d -= l[p2 + k] * v;
        e -= l[p3 + k] * v;
      }
      const by = l[q + c];
      l[p + c] = a * by;
      l[p1 + c] = b * by;
      l[p2 + c] = d * by;
      l[p3 + c] = e * by;
    }
  }
  for (; i < tall; i++) {
    const p = i * wide;
    for (let c = 0, q = 0; c < wide; c++, q += wide) {
      let sum = l[p + c];
      for (let k = 0; k < c; k++) sum -= l[p + k] * l[q + k];
      l[p + c] = sum * l[q + c];
    }
  }
}

/** Takes what the block's columns explain off what is left beyond them, two rows by two at a time. Cost: the columns, for each pair of rows below. */
export function takeOff(l: Float64Array, wide: number, tall: number, left: Float64Array): void {
  const n = tall - wide;
  for (let i = 0; i < n; i += 2) {
    const p = (wide + i) * wide;
    const isPair = i + 1 < n;
    const p1 = isPair ? p + wide : p;
    for (let j = 0; j <= i; j += 2) {
      const q = (wide + j) * wide;
      const q1 = j + 1 < n ? q + wide : q;
      let a = 0, b = 0, c = 0, d = 0; // prettier-ignore
      for (let k = 0; k < wide; k++) {
        const x = l[p + k], y = l[p1 + k], u = l[q + k], v = l[q1 + k]; // prettier-ignore
        a += x * u;
        b += x * v;
        c += y * u;
        d += y * v;
      }
      left[i * n + j] -= a;
      if (j < i) left[i * n + j + 1] -= b;
      if (!isPair) continue;
      left[(i + 1) * n + j] -= c;
      left[(i + 1) * n + j + 1] -= d;
    }
  }
}
