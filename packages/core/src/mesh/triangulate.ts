import { cross, dot, normalize, sub, type Vec3 } from '../math';

/** Newell's normal of a polygon, its length twice the area; zero for a degenerate one. */
export function areaNormal(points: readonly Vec3[]): Vec3 {
  let x = 0,
    y = 0,
    z = 0;
  for (let i = 0; i < points.length; i++) {
    const a = points[i],
      b = points[(i + 1) % points.length];
    x += (a[1] - b[1]) * (a[2] + b[2]);
    y += (a[2] - b[2]) * (a[0] + b[0]);
    z += (a[0] - b[0]) * (a[1] + b[1]);
  }
  return [x, y, z];
}

const cornerNormal = (a: Vec3, b: Vec3, c: Vec3): Vec3 => normalize(cross(sub(b, a), sub(c, a)));

/**
 * The one triangulation rule, for view, export and bake: indices into `points`, three a triangle.
 * A quad takes the diagonal that bends least, the one that folds nothing first; larger polygons are cut
 * ear by ear, roundest ear first. Always points.length − 2 triangles. Cost: cubic in the corners, which are few.
 */
export function triangulate(points: readonly Vec3[]): number[] {
  if (points.length === 3) return [0, 1, 2];
  if (points.length === 4) return quadDiagonal(points) === 0 ? [0, 1, 2, 0, 2, 3] : [1, 2, 3, 1, 3, 0];
  return cutEars(points);
}

/** 0: the diagonal 0–2; 1: the diagonal 1–3. */
export function quadDiagonal([a, b, c, d]: readonly Vec3[]): 0 | 1 {
  const n = areaNormal([a, b, c, d]);
  const rate = (p: Vec3, q: Vec3): number => {
    const folded = dot(p, n) <= 0 || dot(q, n) <= 0;
    return dot(p, q) - (folded ? 4 : 0);
  };
  const along02 = rate(cornerNormal(a, b, c), cornerNormal(a, c, d));
  const along13 = rate(cornerNormal(b, c, d), cornerNormal(b, d, a));
  if (Math.abs(along02 - along13) > 1e-9) return along02 > along13 ? 0 : 1;
  const [length02, length13] = [dot(sub(a, c), sub(a, c)), dot(sub(b, d), sub(b, d))];
  if (Math.abs(length02 - length13) > 1e-9 * length02) return length02 < length13 ? 0 : 1;
  return (lowest([a, b, c, d]) % 2) as 0 | 1;
}

/** The corner lowest by y, then z, then x: settles ties by the shape, not by where its list begins. */
function lowest(points: readonly Vec3[]): number {
  const before = (p: Vec3, q: Vec3): boolean => (p[1] - q[1] || p[2] - q[2] || p[0] - q[0]) < 0;
  return points.reduce((best, p, i) => (before(p, points[best]) ? i : best), 0);
}

function cutEars(points: readonly Vec3[]): number[] {
  const n = normalize(areaNormal(points));
  const left = points.map((_, i) => i);
  const triangles: number[] = [];
  while (left.length > 3) {
    let best = 0,
      bestScore = -Infinity;
    for (let i = 0; i < left.length; i++) {
      const score = earScore(points, left, i, n);
      if (score > bestScore) {
        bestScore = score;
        best = i;
      }
    }
    const m = left.length;
    triangles.push(left[(best + m - 1) % m], left[best], left[(best + 1) % m]);
    left.splice(best, 1);
  }
  return [...triangles, ...left];
}

function earScore(points: readonly Vec3[], left: number[], i: number, n: Vec3): number {
  const m = left.length;
  const ids = [left[(i + m - 1) % m], left[i], left[(i + 1) % m]];
  const [a, b, c] = ids.map((k) => points[k]);
  const turn = dot(cross(sub(b, a), sub(c, b)), n);
  if (turn <= 0) return turn - 2;
  const inside = left.some((k) => !ids.includes(k) && isInside(points[k], a, b, c, n));
  const longest = Math.max(dot(sub(b, a), sub(b, a)), dot(sub(c, b), sub(c, b)), dot(sub(a, c), sub(a, c)));
  return (inside ? -1 : 0) + turn / longest;
}

function isInside(p: Vec3, a: Vec3, b: Vec3, c: Vec3, n: Vec3): boolean {
  const side = (u: Vec3, v: Vec3): number => dot(cross(sub(v, u), sub(p, u)), n);
  return side(a, b) >= 0 && side(b, c) >= 0 && side(c, a) >= 0;
}
