import { distance, dot, lerp, type Vec3 } from '../../math';
import { areaNormal, cornerQuality } from '../../mesh';

/** The faces between two loops: corners of the outer one by their place, of the inner one by −1 − their place. */
export type Zipped = number[][];

/** What it costs that a face is turned over: it must be moved a long way. */
const TURNED_OVER = 3;
/** What it costs that a point of the outer loop ends up with other than four edges. */
const POLE = 0.6;
/** The inner loop is begun at each of so many of its points, those nearest to where the outer one begins. */
const STARTS = 4;
/** How far a way may stray from both loops going on alike, as a share of the inner one, and in points. */
const STRAYS = [0.12, 6];

type Move = readonly [outer: number, inner: number];
/** A step along both loops; two along one, round a point of the other; one along one of them: a triangle. */
const MOVES: readonly Move[] = [[1, 1], [2, 0], [0, 2], [1, 0], [0, 1]]; // prettier-ignore

/**
 * Closes the strip between two loops that run alike round it, the outer with the strip on its left, with no point more: by quads whose corners are squarest where a quad may have
 * three points on one loop, and by a single triangle where their counts differ by an odd number. `rim` tells of the outer loop. Cost: the counts multiplied, times a few starts.
 */
export function zipped(outer: readonly Vec3[], inner: readonly Vec3[], rim: ZipRim): Zipped {
  const first = beginsAt(rim.outside);
  const from = turned(outer, first);
  const own = { outside: turned(rim.outside, first), normals: turned(rim.normals, first) };
  const near = inner
    .map((p, j) => ({ j, away: Math.hypot(p[0] - from[0][0], p[1] - from[0][1], p[2] - from[0][2]) }))
    .sort((a, b) => a.away - b.away)
    .slice(0, STARTS);
  const ways = near.map(({ j }) => ({ j, ...cheapest(from, turned(inner, j), own) }));
  const best = ways.reduce((a, b) => (b.cost < a.cost ? b : a));
  const [n, m] = [outer.length, inner.length];
  return best.faces.map((face) => face.map((c) => (c >= 0 ? (c + first) % n : -1 - ((-1 - c + best.j) % m))));
}

/** A point to begin at, where an edge leads across to the inner loop: none at a corner, and no corner beside it if that can be. */
function beginsAt(outside: readonly number[]): number {
  const isPlain = (i: number): boolean => outside.at(i % outside.length) === 2;
  const best = outside.findIndex((_, i) => isPlain(i - 1) && isPlain(i) && isPlain(i + 1));
  return best >= 0 ? best : Math.max(0, outside.indexOf(2));
}

/** What there is at the points of the outer loop. */
export interface ZipRim {
  /** faces on the far side */
  outside: readonly number[];
  /** the way the form faces */
  normals: readonly Vec3[];
}

const turned = <T>(loop: readonly T[], by: number): T[] => [...loop.slice(by), ...loop.slice(0, by)];

/** The cheapest way from the first pair of points once round, by a table over how far each loop is gone. */
function cheapest(outer: readonly Vec3[], inner: readonly Vec3[], rim: ZipRim): { cost: number; faces: Zipped } {
  const [n, m] = [outer.length, inner.length];
  const width = m + 1;
  const cost = new Float64Array((n + 1) * width).fill(Infinity);
  const by = new Int8Array(cost.length).fill(-1);
  cost[0] = 0;
  // quads keep the sum of both even or odd: a triangle is taken once, and only where the counts want it
  const mayBeTriangle = (gone: number): boolean => (n + m) % 2 === 1 && gone % 2 === 0;
  for (let i = 0; i <= n; i++)
    for (let j = 0; j <= m; j++) {
      const here = cost[i * width + j];
      if (here === Infinity || Math.abs(j - (i * m) / n) > STRAYS[0] * m + STRAYS[1]) continue;
      MOVES.forEach(([di, dj], k) => {
        if (i + di > n || j + dj > m || (di + dj === 1 && !mayBeTriangle(i + j))) return;
        const to = (i + di) * width + j + dj;
        const sum = here + costOf(outer, inner, rim, faceOf(i, j, MOVES[k], n, m));
        if (sum < cost[to]) [cost[to], by[to]] = [sum, k];
      });
    }
  const faces: Zipped = [];
  for (let i = n, j = m; i > 0 || j > 0;) {
    const [di, dj] = MOVES[by[i * width + j]];
    [i, j] = [i - di, j - dj];
    faces.push(faceOf(i, j, [di, dj], n, m));
  }
  return { cost: cost[n * width + m], faces: faces.reverse() };
}

/** The face of a move from outer point i and inner point j. */
function faceOf(i: number, j: number, [di, dj]: Move, n: number, m: number): number[] {
  const face: number[] = [];
  for (let k = 0; k <= di; k++) face.push((i + k) % n);
  for (let k = dj; k >= 0; k--) face.push(-1 - ((j + k) % m));
  return face;
}

function costOf(outer: readonly Vec3[], inner: readonly Vec3[], rim: ZipRim, face: readonly number[]): number {
  const corners = face.map((c) => (c >= 0 ? outer[c] : inner[-1 - c]));
  const own = face.filter((c) => c >= 0);
  const isOver = dot(areaNormal(corners), rim.normals[own[0]]) <= 0;
  const shape = 1 - cornerQuality(corners) + (isOver ? TURNED_OVER : 0);
  if (own.length === 2 || face.length === 3) return shape;
  // the middle of three gets one face on this side, a point that two inner edges go round gets three at least
  return (
    shape + (own.length === 3 ? POLE * Math.abs(rim.outside[own[1]] - 3) : POLE * Math.abs(rim.outside[own[0]] - 1))
  );
}

/** The loop whose points lie nearest to those of another, on the whole. */
export function nearestLoop(to: readonly number[], loops: readonly number[][], points: readonly Vec3[]): number[] {
  const away = (loop: readonly number[]): number =>
    loop.reduce((sum, v) => sum + Math.min(...to.map((u) => distance(points[u], points[v]))), 0) / loop.length;
  return loops.reduce((best, loop) => (away(loop) < away(best) ? loop : best));
}

/** A new loop half-way between two: a point for each outer one, two fewer where the border turns in round the patch, two more where it turns out. */
export function rowInside(
  outer: readonly number[],
  inner: readonly number[],
  outside: readonly number[],
  points: Vec3[],
): number[] {
  const counts = outer.map(() => 1);
  outside.forEach((n, i) => {
    if (n === 1) counts[i] += 2;
    if (n < 3) return;
    counts[i]--;
    counts[(i + 1) % counts.length]--;
  });
  // between corners side by side less is taken away than counted, and a strip of quads alone needs both its sides odd, or even
  const sum = counts.reduce((n, c) => n + Math.max(0, c), 0);
  if ((sum - outer.length) % 2 !== 0) counts[Math.max(0, counts.indexOf(1))]++;
  return outer.flatMap((u, i) => {
    const near = inner.reduce((a, b) => (distance(points[b], points[u]) < distance(points[a], points[u]) ? b : a));
    const beside = [points[outer.at(i - 1) as number], points[outer[(i + 1) % outer.length]]];
    return Array.from({ length: Math.max(0, counts[i]) }, (_, k) => {
      const along = counts[i] > 1 ? lerp(beside[0], beside[1], k / (counts[i] - 1)) : points[u];
      return points.push(lerp(lerp(points[u], along, 0.25), points[near], 0.5)) - 1;
    });
  });
}
