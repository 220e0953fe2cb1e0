import { add, addScaled, cross, dot, length, lerp, meanPoint, normalize, scale, sub, type Vec3 } from '../math';
import type { Patch } from './Patch';

type Quad = readonly [number, number, number, number];
/** Brings a point onto what points stick to; `key` names the point. */
export type Onto = (p: Vec3, key: number) => Vec3;

const HARMONIC_ROUNDS = 120,
  OVER = 1.6;
const SQUARE_ROUNDS = 70;
const MEND_ROUNDS = 40;

/**
 * Places the points inside a patch, its border staying where it is: first each in the middle of its neighbours (Tutte 1963, over-relaxed),
 * then so that every quad comes near to a rectangle of its own (shape matching after Bouaziz et al. 2012), brought onto the
 * surface between; last the worst corners are opened one point at a time. Cost: rounds times quads.
 */
export function placePatch({ border, count, quads }: Patch, at: readonly Vec3[], onto: Onto | null): Vec3[] {
  const points: Vec3[] = [...at];
  const centre = meanPoint(at);
  const next = neighbours(count, quads);
  for (let v = border; v < count; v++) points.push(centre);
  for (let round = 0; round < HARMONIC_ROUNDS; round++)
    for (let v = border; v < count; v++) {
      const mean = meanPoint(next[v].map((w) => points[w]));
      points[v] = lerp(points[v], mean, round < 4 ? 1 : OVER);
    }
  settle(points, border, onto);
  const around = facesAround(count, quads);
  for (let round = 0; round < SQUARE_ROUNDS; round++) {
    guarded(points, border, quads, () => square(points, border, count, quads));
    if (onto && round % 8 === 7) settle(points, border, onto);
  }
  for (let round = 0; round < MEND_ROUNDS; round++) if (!mend(points, border, count, quads, around, next)) break;
  settle(points, border, onto);
  return points;
}

function settle(points: Vec3[], border: number, onto: Onto | null): void {
  if (onto) for (let v = border; v < points.length; v++) points[v] = onto(points[v], v);
}

function neighbours(count: number, quads: readonly Quad[]): number[][] {
  const sets = Array.from({ length: count }, () => new Set<number>());
  for (const quad of quads)
    quad.forEach((u, k) => {
      const v = quad[(k + 1) % 4];
      sets[u].add(v);
      sets[v].add(u);
    });
  return sets.map((s) => [...s]);
}
function facesAround(count: number, quads: readonly Quad[]): number[][] {
  const around: number[][] = Array.from({ length: count }, () => []);
  quads.forEach((quad, q) => quad.forEach((v) => around[v].push(q)));
  return around;
}

/** A quad whose least corner falls below this is held where it was, unless it was no better before. */
const LEAST = 0.2;

/** Moves points, and takes back the moves of those beside quads that came out worse than they may. */
function guarded(points: Vec3[], border: number, quads: readonly Quad[], move: () => void): void {
  const before = [...points];
  const was = quads.map((quad) => leastCorner(before, quad));
  move();
  for (let pass = 0; pass < 4; pass++) {
    const bad = quads.filter((quad, q) => {
      const is = leastCorner(points, quad);
      return is < LEAST && is < was[q] - 1e-9;
    });
    if (bad.length === 0) return;
    for (const quad of bad) for (const v of quad) if (v >= border) points[v] = lerp(points[v], before[v], pass === 3 ? 1 : 0.5); // prettier-ignore
  }
}

/** One round towards rectangles: each quad asks its corners to lie as its two middle lines would have them if they were square to each other. */
function square(points: Vec3[], border: number, count: number, quads: readonly Quad[]): void {
  const sums = new Float64Array(3 * count);
  const shares = new Float64Array(count);
  for (const [a, b, c, d] of quads) {
    const [p, q, r, s] = [points[a], points[b], points[c], points[d]];
    const u = scale(add(sub(q, p), sub(r, s)), 0.5);
    const v = scale(add(sub(s, p), sub(r, q)), 0.5);
    const [lu, lv] = [length(u), length(v)];
    if (lu === 0 || lv === 0) continue;
    // turned apart evenly until they are square
    const sum = normalize(add(scale(u, 1 / lu), scale(v, 1 / lv)));
    const off = sub(scale(u, 1 / lu), scale(v, 1 / lv));
    const across = normalize(addScaled(off, sum, -dot(off, sum)));
    if (length(sum) === 0 || length(across) === 0) continue;
    // somewhat towards a square too, so that no row gets thin
    const mean = Math.sqrt(lu * lv);
    const hu = 0.5 * (0.85 * lu + 0.15 * mean) * Math.SQRT1_2,
      hv = 0.5 * (0.85 * lv + 0.15 * mean) * Math.SQRT1_2;
    const x = scale(add(sum, across), hu),
      y = scale(sub(sum, across), hv);
    const centre = scale(add(add(p, q), add(r, s)), 0.25);
    const wanted = [sub(sub(centre, x), y), sub(add(centre, x), y), add(add(centre, x), y), add(sub(centre, x), y)];
    [a, b, c, d].forEach((w, k) => {
      for (let i = 0; i < 3; i++) sums[3 * w + i] += wanted[k][i];
      shares[w]++;
    });
  }
  for (let v = border; v < count; v++)
    if (shares[v] > 0) points[v] = [0, 1, 2].map((i) => sums[3 * v + i] / shares[v]) as unknown as Vec3;
}

/** The least corner quality of a quad: sine of its sharpest or flattest corner, negative where it is folded. */
export function leastCorner(points: readonly Vec3[], quad: Quad): number {
  const at = quad.map((v) => points[v]);
  const n = normalize(cross(sub(at[2], at[0]), sub(at[3], at[1])));
  let least = 1;
  for (let k = 0; k < 4; k++) {
    const a = sub(at[(k + 1) % 4], at[k]),
      b = sub(at[(k + 3) % 4], at[k]);
    const l = length(a) * length(b);
    least = Math.min(least, l > 0 ? dot(cross(a, b), n) / l : 0);
  }
  return least;
}

/** Corners at or above this are left as they are. */
const GOOD = 0.45;

/** Moves the points round bad corners to where the worst of their quads is best: a pattern search. False when nothing moved. */
function mend(
  points: Vec3[],
  border: number,
  count: number,
  quads: readonly Quad[],
  around: readonly number[][],
  next: readonly number[][],
): boolean {
  let moved = false;
  const worst = (v: number): number =>
    around[v].reduce((least, q) => Math.min(least, leastCorner(points, quads[q])), 1);
  for (let v = border; v < count; v++) {
    let now = worst(v);
    if (now >= GOOD) continue;
    const own = points[v];
    const size = next[v].reduce((sum, w) => sum + length(sub(points[w], own)), 0) / next[v].length;
    const along = next[v].map((w) => sub(points[w], own));
    let best = own;
    for (const by of [0.3, 0.1]) {
      for (const d of along)
        for (const sign of [1, -1]) {
          points[v] = addScaled(best, normalize(d), sign * by * size);
          const then = worst(v);
          if (then > now + 1e-6) [now, best] = [then, points[v]];
          points[v] = best;
        }
    }
    if (best !== own) moved = true;
    points[v] = best;
  }
  return moved;
}
