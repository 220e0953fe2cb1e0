import { axisIndex, type MirrorPlane } from '../../math';
import { QuadCheck, foldedIn } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';
import { aroundOf } from './relax';

const ROUNDS = 30;
/** After so many rounds those of what is folded still, and of the quads round it, go to the middle of their neighbours first. */
const STUCK = 8;
/** So often. */
const EVENED = 4;
/** A corner better than this does not fall short. */
const GOOD = 0.3;
/** Steps over the mean length of the edges at a point, the largest first. */
const STEPS = [0.5, 0.25, 0.1, 0.04];
/** Of a point that is to move: along the axes, and along their diagonals. */
const WAYS = [-1, 0, 1].flatMap((x) => [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((z) => [x, y, z]))).filter((way) => way.some((x) => x !== 0)); // prettier-ignore

/**
 * The last resort for quads that are folded, or have no area, whichever way they face: their points go, one by one, to where the corners round each fall least short, off the form by
 * less than an edge. Points on `plane` stay on it, and others beyond it. Those that stay so are evened out with what is round them, and tried again. Changes the points; gives how many stay folded. Cost: nothing where none is folded; else some
 * hundred tries a point.
 */
export function unfold(soup: QuadSoup, plane: MirrorPlane | null): number {
  const { points: p, quads } = soup;
  let folded = foldedIn(soup, []);
  if (folded.length === 0) return 0;
  const around = aroundOf(soup);
  const check = new QuadCheck(p, quads);
  // all corners that fall short count: of a quad without area no single move opens the worst
  const short = (v: number): number => {
    let sum = 0;
    for (const q of around[v]) for (const turn of check.turns(q)) if (turn < GOOD) sum += (GOOD - turn) ** 2;
    return sum;
  };
  for (let round = 0; round < ROUNDS && folded.length > 0; round++) {
    const own = new Set(folded.flatMap((q) => [...quads.subarray(4 * q, 4 * q + 4)]));
    // each move for itself leads no further: a quad that is twisted needs them all to go at once
    if (round > 0 && round % STUCK === 0) evenedOut(soup, around, own, plane);
    for (const v of own) moveToBest(p, v, plane, meanEdge(soup, around[v], v), () => -short(v));
    folded = foldedIn(soup, []);
  }
  return folded.length;
}

/** Points, and those of the quads round them, to the middle of their neighbours, some times over. */
function evenedOut(soup: QuadSoup, around: number[][], some: ReadonlySet<number>, plane: MirrorPlane | null): void {
  const { points: p, quads } = soup;
  const k = plane ? axisIndex(plane.axis) : -1;
  const own = new Set([...some].flatMap((v) => around[v].flatMap((q) => [...quads.subarray(q, q + 4)])));
  for (let round = 0; round < EVENED; round++)
    for (const v of own) {
      const beside = around[v].flatMap((q) => {
        const i = quads.subarray(q, q + 4).indexOf(v);
        return [quads[q + ((i + 1) & 3)], quads[q + ((i + 3) & 3)]];
      });
      const isOn = plane !== null && p[3 * v + k] === plane.offset;
      for (let x = 0; x < 3; x++) {
        const mean = beside.reduce((sum, w) => sum + p[3 * w + x], 0) / beside.length;
        // beyond the plane, unless all round it lie on it
        if (x !== k || (!isOn && plane && mean > plane.offset)) p[3 * v + x] = mean;
      }
    }
}

/** A point at the place, of those a few steps round it, where `worth` is greatest. */
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
