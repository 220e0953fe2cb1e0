import type { Seams } from './seams';
import { nextHalf, type TriMesh } from './TriMesh';

/** A coordinate of a wedge that is held at the whole number of a line. */
export interface OnLine {
  wedge: number;
  axis: 0 | 1;
  line: number;
}

/** One square of the grid's energy, weight·(Σ real terms + Σ whole terms − wish)². */
export interface Square {
  rows: readonly { row: number; sign: number }[];
  /** whole number, coefficient */
  whole: readonly (readonly [number, number])[];
  /** the half-edge that it is about, −1 for one of a line, which wishes for nothing */
  half: number;
  axis: 0 | 1;
}

/** All squares of the energy: two for each half-edge of a triangle, and one for each coordinate on a line. Cost: linear. */
export function squaresOf(mesh: TriMesh, seams: Seams, unknown: Int32Array, lines: readonly OnLine[]): Square[] {
  const squares: Square[] = [];
  const made = (whole: ReadonlyMap<number, number>): Square['whole'] => [...whole].filter(([, c]) => c !== 0);
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const [a, b] = [seams.wedge[h], seams.wedge[nextHalf(h)]];
    for (const axis of [0, 1] as const) {
      const [from, to] = [coordinate(seams, unknown, a, axis), coordinate(seams, unknown, b, axis)];
      const whole = new Map<number, number>();
      wholeTerms(seams, b, axis, 1, whole);
      wholeTerms(seams, a, axis, -1, whole);
      squares.push({ rows: [to, { row: from.row, sign: -from.sign }], whole: made(whole), half: h, axis });
    }
  }
  for (const { wedge, axis, line } of lines) {
    const whole = new Map<number, number>([[2 * seams.free + line, -1]]);
    wholeTerms(seams, wedge, axis, 1, whole);
    squares.push({ rows: [coordinate(seams, unknown, wedge, axis)], whole: made(whole), half: -1, axis });
  }
  return squares;
}

/** The real unknown behind one coordinate of a wedge: its row and sign; row −1 at poles. */
function coordinate(seams: Seams, unknown: Int32Array, wedge: number, axis: 0 | 1): { row: number; sign: number } {
  const v = seams.vertex[wedge];
  if (v < 0) return { row: -1, sign: 0 };
  // coordinate of i^k·(x + iy)
  const k = seams.turn[wedge] & 3;
  const own = ((k & 1) ^ axis) as 0 | 1;
  const sign = axis === 0 ? (k === 1 || k === 2 ? -1 : 1) : k === 2 || k === 3 ? -1 : 1;
  return { row: 2 * unknown[v] + own, sign };
}

/** Terms over the whole numbers of one coordinate of a wedge. */
function wholeTerms(seams: Seams, wedge: number, axis: 0 | 1, sign: number, into: Map<number, number>): void {
  for (const [s, c] of seams.steps[wedge]) {
    // coordinate of (a + ib)(x + iy): ax − by, bx + ay
    const [a, b] = c;
    const [forX, forY] = axis === 0 ? [a, -b] : [b, a];
    if (forX !== 0) into.set(2 * s, (into.get(2 * s) ?? 0) + sign * forX);
    if (forY !== 0) into.set(2 * s + 1, (into.get(2 * s + 1) ?? 0) + sign * forY);
  }
}
