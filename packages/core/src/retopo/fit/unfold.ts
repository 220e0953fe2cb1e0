import { axisIndex, type MirrorPlane } from '../../math';
import { QuadCheck, foldedIn } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';
import { meanEdge, moveToBest, shortfall } from './moveToBest';
import { aroundOf } from './relax';

const ROUNDS = 30;
/** After so many rounds those of what is folded still, and of the quads round it, go to the middle of their neighbours first. */
const STUCK = 8;
/** So often. */
const EVENED = 4;

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
  for (let round = 0; round < ROUNDS && folded.length > 0; round++) {
    const own = new Set(folded.flatMap((q) => [...quads.subarray(4 * q, 4 * q + 4)]));
    // each move for itself leads no further: a quad that is twisted needs them all to go at once
    if (round > 0 && round % STUCK === 0) evenedOut(soup, around, own, plane);
    for (const v of own) moveToBest(p, v, plane, meanEdge(soup, around[v], v), () => -shortfall(check, around[v]));
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
