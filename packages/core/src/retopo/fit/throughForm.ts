import { axisIndex, conjugateGradients, dot, scale, sub, type MirrorPlane, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import type { Ground } from '../lines/ground';
import { QuadCheck } from '../quads/QuadCheck';
import { cornerOf } from '../quads/QuadLinks';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { backWhereWorse } from './fit';
import { ownNormals } from './facing';

/** So many places of the form pull at each quad. */
const EACH = 8;
/** A place further away than so many quads' lengths belongs to what has no quads. */
const FAR = 1;
/** Staying on the form weighs as much as so many places; and more round a corner that is not square, by the square of what it lacks. */
const HOLD = 0.5;
const SKEW = 100;
/** Moving as far as the point at an edge's other end does weighs as much as so many places: a form's noise is not followed. */
const EVEN = 1;
/** No point goes further than this share of the shortest edge at it. */
const MOST = 0.2;
/** Where a corner gets worse than this, and than it was, points go back. */
const SOUND = 0.3;
const ENOUGH = 1e-8;
const STEPS = 60;

/**
 * Points moved along their normals off the form, so that quads run through it: with all points on a round form, all else of the quads is inside it, by up to some hundredths of a quad. Distances of places of the form are least squares
 * of the moves (Hoppe et al. 1993, with the quads as they are). Points on lines stay, those in the mirror plane stay in it. Gives
 * other points, nothing folded. Cost: a closest point for each of some places a quad.
 */
export function throughForm(
  soup: QuadSoup,
  { curves, surface, forms }: Ground,
  size: number,
  plane: MirrorPlane | null,
): QuadSoup {
  const ways = waysOf(soup, curves, plane);
  const moves = leastOff(soup, pullsOf(soup, ways, surface, FAR * size));
  const most = shortestEdges(soup);
  const points = soup.points.map((x, i) => {
    const v = Math.floor(i / 3);
    return x + Math.max(-MOST * most[v], Math.min(MOST * most[v], moves[v])) * ways[i];
  });
  const now = new QuadCheck(points, soup.quads, forms);
  const then = new QuadCheck(soup.points, soup.quads);
  const moved = { ...soup, points };
  backWhereWorse(moved, soup.points, (q) => now.least(q) < Math.min(SOUND, then.least(q)) || now.isFolded(q));
  return moved;
}

/** The unit direction that each point may move in, xyz; none on lines. */
function waysOf(soup: QuadSoup, curves: Ground['curves'], plane: MirrorPlane | null): Float64Array {
  const ways = ownNormals(soup);
  soup.onLine.forEach((line, v) => {
    if (line === -1) return;
    const own = ways.subarray(3 * v, 3 * v + 3);
    const isInPlane = plane !== null && curves[line]?.isMirrored;
    if (!isInPlane) return own.fill(0);
    own[axisIndex(plane.axis)] = 0;
    const l = Math.hypot(...own);
    for (let k = 0; k < 3; k++) own[k] = l > 0 ? own[k] / l : 0;
  });
  return ways;
}

/** How far places of the form are from the quads, outward, and how much of a move of each of three points that would make up for. */
interface Pulls {
  away: number[];
  /** three for each place */
  points: number[];
  shares: number[];
}

function pullsOf(soup: QuadSoup, ways: Float64Array, form: SculptSurface, far: number): Pulls {
  const low = surfaceOfQuads(soup);
  const pulls: Pulls = { away: [], points: [], shares: [] };
  const n = form.positions.length / 3;
  const count = Math.floor(Math.min(n, (EACH * soup.quads.length) / 4));
  const vector = (of: ArrayLike<number>, i: number): Vec3 => [of[i], of[i + 1], of[i + 2]];
  for (let s = 0; s < count; s++) {
    const i = 3 * Math.floor((s * n) / count);
    const out = vector(form.normals, i);
    const at = vector(form.positions, i);
    const { point, normal, triangle, distance } = low.closest(at);
    if (distance > far || dot(normal, out) < 0) continue;
    const side = Math.sign(dot(sub(at, point), out));
    const way = side === 0 ? out : scale(sub(at, point), side / distance);
    const weights = low.weightsAt(triangle, point);
    pulls.away.push(side * distance);
    for (let k = 0; k < 3; k++) {
      const v = low.indices[3 * triangle + k];
      pulls.points.push(v);
      pulls.shares.push(weights[k] * dot(vector(ways, 3 * v), way));
    }
  }
  return pulls;
}

/** How far each point moves for the least squares of what places are off, and of the moves. */
function leastOff(soup: QuadSoup, { away, points, shares }: Pulls): Float64Array {
  const { quads } = soup;
  const hold = holdOf(soup);
  const diagonal = hold.slice();
  const wanted = new Float64Array(hold.length);
  // a quad tells half of each of its edges
  for (const v of quads) diagonal[v] += EVEN;
  points.forEach((v, i) => {
    diagonal[v] += shares[i] ** 2;
    wanted[v] += shares[i] * away[Math.floor(i / 3)];
  });
  const times = (x: Float64Array, into: Float64Array): void => {
    for (let v = 0; v < x.length; v++) into[v] = hold[v] * x[v];
    for (let h = 0; h < quads.length; h++) {
      const a = quads[h], b = cornerOf(quads, h, 1); // prettier-ignore
      const apart = (EVEN / 2) * (x[a] - x[b]);
      into[a] += apart;
      into[b] -= apart;
    }
    for (let i = 0; i < points.length; i += 3) {
      let sum = 0;
      for (let k = i; k < i + 3; k++) sum += shares[k] * x[points[k]];
      for (let k = i; k < i + 3; k++) into[points[k]] += shares[k] * sum;
    }
  };
  const nearly = (r: Float64Array, into: Float64Array): void => {
    for (let v = 0; v < r.length; v++) into[v] = r[v] / diagonal[v];
  };
  const moves = new Float64Array(hold.length);
  conjugateGradients({ times, nearly }, moves, wanted, ENOUGH, STEPS);
  return moves;
}

/** How much each point is held to the form: more where a corner is far from square. */
function holdOf({ points, quads, onLine }: QuadSoup): Float64Array {
  const skew = new Float64Array(onLine.length);
  const check = new QuadCheck(points, quads);
  for (let q = 0; q < quads.length; q += 4) {
    const lacks = 1 - check.least(q);
    for (const v of quads.subarray(q, q + 4)) skew[v] = Math.max(skew[v], lacks);
  }
  return skew.map((lacks) => HOLD * (1 + SKEW * lacks * lacks));
}

function shortestEdges({ points: p, quads, onLine }: QuadSoup): Float64Array {
  const shortest = new Float64Array(onLine.length).fill(Infinity);
  for (let h = 0; h < quads.length; h++) {
    const a = quads[h], b = cornerOf(quads, h, 1); // prettier-ignore
    const l = Math.hypot(p[3 * a] - p[3 * b], p[3 * a + 1] - p[3 * b + 1], p[3 * a + 2] - p[3 * b + 2]);
    shortest[a] = Math.min(shortest[a], l);
    shortest[b] = Math.min(shortest[b], l);
  }
  return shortest;
}
