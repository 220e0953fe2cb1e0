import { axisIndex, type MirrorPlane } from '../../math';
import type { QuadCheck } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';

/** A corner better than this does not fall short. */
const GOOD = 0.3;
/** Steps over the mean length of the edges at a point, the largest first. */
const STEPS = [0.5, 0.25, 0.1, 0.04];
/** Of a point that is to move: along the axes, and along their diagonals. */
const WAYS = [-1, 0, 1].flatMap((x) => [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((z) => [x, y, z]))).filter((way) => way.some((x) => x !== 0)); // prettier-ignore

/** A point at the place, of those a few steps round it, where `worth` is greatest: a pattern search. One on `plane` stays on it, and others beyond it. Cost: a hundred questions. */
export function moveToBest(
  p: Float64Array,
  v: number,
  plane: MirrorPlane | null,
  edge: number,
  worth: () => number,
): void {
  const k = plane ? axisIndex(plane.axis) : -1;
  const isOn = plane !== null && p[3 * v + k] === plane.offset;
  let best = worth();
  for (const step of STEPS) {
    const from = p.slice(3 * v, 3 * v + 3);
    const to = from.slice();
    for (const way of WAYS) {
      if (isOn && way[k] !== 0) continue;
      for (let x = 0; x < 3; x++) p[3 * v + x] = from[x] + step * edge * way[x];
      if (plane && !isOn && p[3 * v + k] <= plane.offset) continue;
      const now = worth();
      if (now <= best) continue;
      best = now;
      to.set(p.subarray(3 * v, 3 * v + 3));
    }
    p.set(to, 3 * v);
  }
}

/** The mean length of the edges from a point to the next of each quad round it. */
export function meanEdge({ points: p, quads }: QuadSoup, around: readonly number[], v: number): number {
  let sum = 0;
  for (const q of around) {
    const [a, b] = [3 * v, 3 * quads[q + ((quads.subarray(q, q + 4).indexOf(v) + 1) & 3)]];
    sum += Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
  }
  return sum / around.length;
}

/** How far the corners of some quads fall short of good ones, squared and summed: of a quad without area no single move opens the worst, so all of them count. */
export function shortfall(check: QuadCheck, around: readonly number[]): number {
  let sum = 0;
  for (const q of around) for (const turn of check.turns(q)) if (turn < GOOD) sum += (GOOD - turn) ** 2;
  return sum;
}
