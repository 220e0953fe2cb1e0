import { distance, isOnPlane, type MirrorPlane, type Vec3 } from '../../math';
import { CrossedNear } from '../quads/CrossedNear';
import { QuadCheck, qualityOf } from '../quads/QuadCheck';
import { cutAsShown, type QuadSoup } from '../quads/QuadSoup';
import { meanEdge, moveToBest, shortfall } from './moveToBest';
import { aroundOf } from './relax';

const ROUNDS = 8;
/** After so many rounds the quads round those that cross move, too. */
const STUCK = 3;
/** What a point gains by running less far through others is set against how far corners fall short, squared, and how many edges' lengths it is from where it was, squared. */
const SHORT = 2;
const FAR = 0.2;

/** Quads, and those of them that run through others. */
export interface Crossed {
  soup: QuadSoup;
  crossing: number[];
}

/**
 * Quads that run through others parted: the points of those that do go, one by one, to where edges run through others least, corners hardly fall short, and what they had of the form is near.
 * Points on lines stay; those in the mirror plane stay in it, the others on their side. Nothing folds by it. Gives what is crossed least, at best nothing; `crossingIn` tells which quads do.
 * Cost: a search for crossings a round, and some hundred tries for each point of what crosses.
 */
export function parted(first: Crossed, plane: MirrorPlane | null, crossingIn: (soup: QuadSoup) => number[]): Crossed {
  const { soup: start } = first;
  let best = first;
  const soup = { ...start, points: start.points.slice() };
  const { points: p, quads, onLine } = soup;
  const around = aroundOf(soup);
  const check = new QuadCheck(p, quads);
  const folded = qualityOf(p, quads).folded;
  let { crossing } = first;
  for (let round = 0; round < ROUNDS && best.crossing.length > 0; round++) {
    const own = new Set(crossing.flatMap((q) => [...quads.subarray(4 * q, 4 * q + 4)]));
    if (round >= STUCK)
      for (const v of [...own]) for (const q of around[v]) for (let k = q; k < q + 4; k++) own.add(quads[k]);
    const cut = cutAsShown(soup);
    for (const v of own) {
      const was = placeOf(start, v);
      if (onLine[v] !== -1 && !(plane && isOnPlane(was, plane))) continue;
      const edge = meanEdge(soup, around[v], v);
      const near = new CrossedNear(cut, around[v], edge);
      if (near.depth() === 0) continue;
      moveToBest(p, v, plane, edge, () => -near.depth() / edge - SHORT * shortfall(check, around[v]) - FAR * (distance(was, placeOf(soup, v)) / edge) ** 2); // prettier-ignore
    }
    crossing = crossingIn(soup);
    if (crossing.length < best.crossing.length && qualityOf(p, quads).folded <= folded)
      best = { soup: { ...soup, points: p.slice() }, crossing };
  }
  return best;
}

const placeOf = ({ points: p }: QuadSoup, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
