import { distance, type Vec3 } from '../../math';
import type { TriMesh } from '../form/TriMesh';
import { accumulate, rowsOf, turned, type GaussRows, type GaussSum } from './gauss';
import type { Seams } from './seams';

/** Poles that are further from each other than so many quads' lengths are not rounded onto each other. */
const NEAR = 2;

/** Of two poles of three edges beside each other: how far the one is from the other in the grid, along either axis. */
export type PolePair = GaussRows;

/**
 * Poles of three edges that lie so near to each other that whole numbers may put them onto one place, where quads would have a point of two edges: mostly the corners of a thin limb's cap. `wanted` is the edge length of
 * quads at each triangle, `numbers` how many whole numbers there are. Cost: the triangles near such poles.
 */
export function polePairs(mesh: TriMesh, seams: Seams, wanted: Float64Array, numbers: number): PolePair[] {
  const pairs: PolePair[] = [];
  const at = (v: number): Vec3 => [mesh.points[3 * v], mesh.points[3 * v + 1], mesh.points[3 * v + 2]];
  // a corner of a line has its place on that
  const isPole = (h: number): boolean => seams.index[mesh.from[h]] > 0 && seams.vertex[seams.wedge[h]] < 0;
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.out[v] < 0 || !isPole(mesh.out[v])) continue;
    const first = Math.floor(mesh.out[v] / 3);
    const near = NEAR * wanted[first];
    // where the pole lies, as each triangle near by sees it
    const seen = new Map<number, GaussSum>([[first, placeOf(seams, mesh.out[v])]]);
    const met = new Set([v]);
    for (const [t, place] of seen)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const w = mesh.from[h];
        if (distance(at(v), at(w)) > near) continue;
        if (w > v && !met.has(w) && isPole(h)) pairs.push(rowsOf(difference(placeOf(seams, h), place), numbers));
        met.add(w);
        // over both edges at a corner that is near
        for (const g of [h, 3 * t + ((h + 2) % 3)]) {
          const twin = mesh.twin[g];
          const beyond = Math.floor(twin / 3);
          if (twin < 0 || seen.has(beyond)) continue;
          const carried: GaussSum = new Map();
          accumulate(carried, place, turned([1, 0], -seams.quarter[g]));
          const across = seams.across.get(g);
          if (across) accumulate(carried, across, [1, 0]);
          seen.set(beyond, carried);
        }
      }
  }
  return pairs;
}

/** Where a corner that is a pole's lies: whole steps alone. */
function placeOf({ steps, wedge }: Seams, h: number): GaussSum {
  const place: GaussSum = new Map();
  const i = wedge[h];
  for (let k = steps.starts[i]; k < steps.starts[i + 1]; k++) place.set(steps.symbol[k], [steps.re[k], steps.im[k]]);
  return place;
}

function difference(a: GaussSum, b: GaussSum): GaussSum {
  const left: GaussSum = new Map(a);
  accumulate(left, b, [-1, 0]);
  return left;
}
