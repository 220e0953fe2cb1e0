import type { Grid, GridMap } from './grid/grid';
import { mayBeOff } from './options';

/** How often limbs that collapsed are given smaller quads; with more whole numbers than this rounding takes seconds, and it is done once. */
const ROOMS = 4;
const MANY = 300;
/** So many sizes are tried for a count, and so many more for one that has changed a little. */
const TRIES = 7,
  AGAIN = 3;
/** A count this near, as a share of what may be, is as good as any; what is wanted is mostly a budget, so that many under it are aimed at. */
const NEAR = 0.5;
/** Each quad by which a count is further off than may be costs so much of one that is flat. */
const MISSED = 0.05;
/** Smaller quads stay where less than this share of what was flat is left. */
const BETTER = 0.95;

interface Sized {
  map: GridMap;
  size: number;
}

/**
 * The map whose area comes nearest to a little under the count, as little of it flat and as many of its rings closed as can be, drawn to ridges and stiffened: areas are whole on closed parts, so that not every count can be had. Limbs that collapse are given
 * room as long as that helps. Cost: some twenty roundings.
 */
export function gridFor(grid: Grid, wanted: number, size: number): GridMap {
  const target = wanted * (1 - NEAR * mayBeOff(wanted));
  grid.soften();
  const rooms = grid.numbers > MANY ? 1 : ROOMS;
  let best = leastFlat(grid, target, size, TRIES);
  for (let i = 0; i < rooms; i++) {
    const flat = grid.flatness(best.map, best.size);
    const undo = grid.makeRoom(best.map, best.size);
    if (!undo) break;
    const next = leastFlat(grid, target, best.size, AGAIN);
    if (grid.flatness(next.map, next.size) >= BETTER * flat) {
      undo();
      break;
    }
    best = next;
  }
  const { size: own } = best;
  const ringed = { map: grid.moreRings(best.map, own), size: own };
  const { map } = off(ringed, target) <= Math.max(mayBeOff(target), off(best, target)) ? ringed : best;
  return grid.stiffened(grid.alongRidges(map, own), own);
}

/** Near the count with as little of it flat as may be: that has another area than what was only rounded. */
function leastFlat(grid: Grid, target: number, start: number, tries: number): Sized {
  const rounded = sized(grid, target, start, tries);
  const first = { map: grid.lessFlat(rounded.map, rounded.size), size: rounded.size };
  if (off(first, target) < NEAR * mayBeOff(target)) return first;
  const { map, size } = sized(grid, (target * rounded.map.area) / first.map.area, rounded.size, AGAIN);
  const second = { map: grid.lessFlat(map, size), size };
  const price = (one: Sized): number =>
    grid.flatness(one.map, one.size) + MISSED * target * Math.max(0, off(one, target) - mayBeOff(target));
  return [rounded, first, second].reduce((best, one) => (price(one) < price(best) ? one : best));
}

const off = ({ map }: Sized, target: number): number => Math.abs(map.area / target - 1);

/** The size whose count comes nearest, of so many tried: by its root, and between what was too fine and too coarse where that leads out of it. */
function sized(grid: Grid, target: number, start: number, tries: number): Sized {
  let best = { map: grid.solve(start), size: start };
  let at = best;
  let [fine, coarse] = [0, Infinity];
  for (let i = 1; i < tries && off(best, target) >= NEAR * mayBeOff(target); i++) {
    if (at.map.area > target) fine = Math.max(fine, at.size);
    else coarse = Math.min(coarse, at.size);
    const wanted = at.size * Math.sqrt(Math.min(4, Math.max(0.25, at.map.area / target)));
    const size = wanted > fine && wanted < coarse ? wanted : Math.sqrt(fine * coarse);
    at = { map: grid.solve(size), size };
    if (off(at, target) < off(best, target)) best = at;
  }
  return best;
}
