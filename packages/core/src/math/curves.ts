import { add, addScaled, cross, distance, dot, lerp, normalize, scale, sub, type Vec3 } from './vec3';

/** A bend sharper than this at the end of a span is an edge of the form, not a curve to follow; degrees. */
export const SHARP_BEND = 70;

/**
 * The tangent at b of the circle through a, b and c, unit: the chords weighted by each other's length. Null
 * where the three turn too sharply to be one curve.
 */
export function circleTangent(a: Vec3, b: Vec3, c: Vec3, sharpest = SHARP_BEND): Vec3 | null {
  const u = normalize(sub(b, a)),
    w = normalize(sub(c, b));
  if (dot(u, w) < Math.cos((sharpest * Math.PI) / 180)) return null;
  return normalize(add(scale(u, distance(b, c)), scale(w, distance(a, b))));
}

/**
 * The point at parameter t of the span a–b of a curve that comes from `before` and goes on to `after`: a cubic whose
 * end tangents are those of the circles through three neighbours, with handles as long as a circle's would be, so that
 * points of a circle give that circle to within 0.03 % for spans up to 90°. Straight at an end without a neighbour,
 * or with one round a sharp edge. Handles after Goldapp, Approximation of circular arcs by cubic polynomials (1991).
 */
export function alongCurve(
  before: Vec3 | null,
  a: Vec3,
  b: Vec3,
  after: Vec3 | null,
  t: number,
  sharpest = SHARP_BEND,
): Vec3 {
  const d = distance(a, b);
  if (d === 0) return a;
  const chord = scale(sub(b, a), 1 / d);
  const leaving = (before && circleTangent(before, a, b, sharpest)) ?? chord;
  const arriving = (after && circleTangent(a, b, after, sharpest)) ?? chord;
  const handle = (tangent: Vec3): number => (d * 2) / 3 / (1 + Math.max(0, dot(tangent, chord)));
  const p = addScaled(a, leaving, handle(leaving)),
    q = addScaled(b, arriving, -handle(arriving));
  return bezier(a, p, q, b, t);
}

function bezier(a: Vec3, p: Vec3, q: Vec3, b: Vec3, t: number): Vec3 {
  const u = 1 - t;
  return add(add(scale(a, u * u * u), scale(p, 3 * u * u * t)), add(scale(q, 3 * u * t * t), scale(b, t * t * t)));
}

/**
 * A rounded corner from `a` to `b` that touches the lines to `corner` at both ends, at parameter t: a circle's arc when
 * both are equally far from it, an ellipse's otherwise (rational quadratic, Farin 2002, ch. 12).
 */
export function roundedCorner(a: Vec3, corner: Vec3, b: Vec3, t: number): Vec3 {
  const turn = dot(normalize(sub(a, corner)), normalize(sub(b, corner)));
  const w = Math.sqrt(Math.max(0, (1 - turn) / 2));
  const u = 1 - t;
  const weights = [u * u, 2 * u * t * w, t * t];
  const sum = weights[0] + weights[1] + weights[2];
  return scale(add(add(scale(a, weights[0]), scale(corner, weights[1])), scale(b, weights[2])), 1 / sum);
}

/** How far along a polyline each of its points is. Cost: the points. */
export function lengthsAlong(line: readonly Vec3[]): number[] {
  const at = [0];
  for (let i = 1; i < line.length; i++) at.push(at[i - 1] + distance(line[i - 1], line[i]));
  return at;
}

/** Points at even steps by length along a polyline, its ends kept; closed ones begin at their first point. */
export function evenSteps(points: readonly Vec3[], closed: boolean): Vec3[] {
  const run = closed ? [...points, points[0]] : points;
  const at = lengthsAlong(run);
  const total = at[at.length - 1];
  const count = points.length;
  let k = 0;
  return points.map((p, i) => {
    if (i === 0 || (!closed && i === count - 1)) return p;
    const s = (total * i) / (closed ? count : count - 1);
    while (k < run.length - 2 && at[k + 1] < s) k++;
    const span = at[k + 1] - at[k];
    return span > 0 ? lerp(run[k], run[k + 1], (s - at[k]) / span) : run[k];
  });
}

/** So many points at even steps by length along a line, its end left out. Cost: the points. */
export function stepsAlong(line: readonly Vec3[], count: number): Vec3[] {
  const at = lengthsAlong(line);
  const total = at[at.length - 1];
  let k = 0;
  return Array.from({ length: count }, (_, i) => {
    const s = (total * i) / count;
    while (k < line.length - 2 && at[k + 1] < s) k++;
    const span = at[k + 1] - at[k];
    return lerp(line[k], line[k + 1], span > 0 ? (s - at[k]) / span : 0);
  });
}

/** p turned about an axis (unit) through `centre` by `radians`, counter-clockwise seen against the axis. */
export function turned(p: Vec3, centre: Vec3, axis: Vec3, radians: number): Vec3 {
  const d = sub(p, centre);
  const c = Math.cos(radians),
    s = Math.sin(radians);
  const along = scale(axis, dot(axis, d) * (1 - c));
  return add(centre, add(add(scale(d, c), scale(cross(axis, d), s)), along));
}
