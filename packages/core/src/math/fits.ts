import { add, cross, dot, frameOf, normalize, scale, sub, type Vec3 } from './vec3';

export interface Plane {
  point: Vec3;
  /** unit */
  normal: Vec3;
}
export interface Circle extends Plane {
  radius: number;
}
export interface Line {
  point: Vec3;
  /** unit */
  direction: Vec3;
}

export function meanPoint(points: readonly Vec3[]): Vec3 {
  let sum: Vec3 = [0, 0, 0];
  for (const p of points) sum = add(sum, p);
  return scale(sum, 1 / Math.max(1, points.length));
}

/**
 * The principal directions of a point set about its mean, the widest first: Jacobi rotations of the 3×3 covariance.
 * Linear in the points.
 */
export function principalAxes(points: readonly Vec3[]): { mean: Vec3; axes: [Vec3, Vec3, Vec3]; spread: Vec3 } {
  const mean = meanPoint(points);
  const m = [0, 1, 2].map(() => [0, 0, 0]);
  for (const p of points) {
    const d = sub(p, mean);
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) m[i][j] += d[i] * d[j];
  }
  const v = [0, 1, 2].map((i) => [0, 1, 2].map((j) => (i === j ? 1 : 0)));
  for (let sweep = 0; sweep < 24; sweep++)
    for (const [p, q] of [[0, 1], [0, 2], [1, 2]] as const) rotate(m, v, p, q); // prettier-ignore
  const order = [0, 1, 2].sort((i, j) => m[j][j] - m[i][i]);
  const axes = order.map((k) => normalize([v[0][k], v[1][k], v[2][k]])) as [Vec3, Vec3, Vec3];
  return { mean, axes, spread: order.map((k) => m[k][k]) as unknown as Vec3 };
}

function rotate(m: number[][], v: number[][], p: number, q: number): void {
  if (m[p][q] === 0) return;
  const theta = (m[q][q] - m[p][p]) / (2 * m[p][q]);
  const t = Math.sign(theta || 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
  const c = 1 / Math.sqrt(t * t + 1),
    s = t * c;
  for (let k = 0; k < 3; k++) {
    const [a, b] = [m[k][p], m[k][q]];
    m[k][p] = c * a - s * b;
    m[k][q] = s * a + c * b;
  }
  for (let k = 0; k < 3; k++) {
    const [a, b] = [m[p][k], m[q][k]];
    m[p][k] = c * a - s * b;
    m[q][k] = s * a + c * b;
    const [x, y] = [v[k][p], v[k][q]];
    v[k][p] = c * x - s * y;
    v[k][q] = s * x + c * y;
  }
}

/** The plane that lies best among the points (least squares). */
export function bestPlane(points: readonly Vec3[]): Plane {
  const { mean, axes } = principalAxes(points);
  return { point: mean, normal: axes[2] };
}

export function bestLine(points: readonly Vec3[]): Line {
  const { mean, axes } = principalAxes(points);
  return { point: mean, direction: axes[0] };
}

export const ontoPlaneOf = (p: Vec3, { point, normal }: Plane): Vec3 =>
  sub(p, scale(normal, dot(normal, sub(p, point))));

/**
 * The circle that fits the points best in their best plane: algebraic least squares (Kåsa 1976), exact for points of a
 * circle. Null for points on one line.
 */
export function bestCircle(points: readonly Vec3[], plane: Plane = bestPlane(points)): Circle | null {
  const [u, v] = frameOf(plane.normal);
  const mean = meanPoint(points);
  let xx = 0, xy = 0, yy = 0, xz = 0, yz = 0, zz = 0; // prettier-ignore
  for (const p of points) {
    const d = sub(p, mean);
    const x = dot(d, u),
      y = dot(d, v),
      z = x * x + y * y;
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xz += x * z;
    yz += y * z;
    zz += z;
  }
  const det = xx * yy - xy * xy;
  if (!(det > 1e-12 * zz * zz)) return null;
  const a = (yy * xz - xy * yz) / (2 * det),
    b = (xx * yz - xy * xz) / (2 * det);
  const centre = ontoPlaneOf(add(mean, add(scale(u, a), scale(v, b))), plane);
  return { point: centre, normal: plane.normal, radius: Math.sqrt(a * a + b * b + zz / points.length) };
}

/** The ball that fits the points best (least squares); null for points in one plane. */
export function bestBall(points: readonly Vec3[]): { centre: Vec3; radius: number } | null {
  const mean = meanPoint(points);
  const rows: Vec3[] = [];
  const right: number[] = [];
  for (const p of points) {
    const d = sub(p, mean);
    rows.push(scale(d, 2));
    right.push(dot(d, d));
  }
  const shift = right.reduce((s, x) => s + x, 0) / points.length;
  const c = leastSquares(rows, right.map((x) => x - shift)); // prettier-ignore
  if (!c) return null;
  return { centre: add(mean, c), radius: Math.sqrt(Math.max(0, dot(c, c) + shift)) };
}

/**
 * The smallest m that meets rows[i]·m = right[i] as well as can be: normal equations with a trace of damping, so that
 * directions nothing asks for stay zero. Null only where the rows are all zero.
 */
export function leastSquares(rows: readonly Vec3[], right: readonly number[], damping = 1e-9): Vec3 | null {
  let a: Vec3 = [0, 0, 0], b: Vec3 = [0, 0, 0], c: Vec3 = [0, 0, 0], r: Vec3 = [0, 0, 0]; // prettier-ignore
  rows.forEach((row, i) => {
    a = add(a, scale(row, row[0]));
    b = add(b, scale(row, row[1]));
    c = add(c, scale(row, row[2]));
    r = add(r, scale(row, right[i]));
  });
  const trace = a[0] + b[1] + c[2];
  if (!(trace > 0)) return null;
  const e = trace * damping;
  const p: Vec3 = [a[0] + e, a[1], a[2]], q: Vec3 = [b[0], b[1] + e, b[2]], s: Vec3 = [c[0], c[1], c[2] + e]; // prettier-ignore
  const det = dot(p, cross(q, s));
  if (det === 0) return null;
  return scale(add(add(scale(cross(q, s), r[0]), scale(cross(s, p), r[1])), scale(cross(p, q), r[2])), 1 / det);
}
