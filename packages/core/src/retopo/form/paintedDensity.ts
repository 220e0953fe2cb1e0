import { distance, mirrored, nearestOnLine, type MirrorPlane, type Vec3 } from '../../math';
import type { Triangles } from './clean';
import { denseFaces } from './denseFaces';

/** A stroke of density: so many quads in the place of one along it, fading out to its radius. */
export interface DensityStroke {
  /** file units */
  points: readonly Vec3[];
  radius: number;
  times: number;
}

/** Out to this share of the radius a stroke counts in full. */
const FULL = 0.5;

/**
 * Density at points, xyz in turn, by strokes one over another: their numbers multiply, and each fades out smoothly to its radius. With a plane strokes count on both of its sides.
 * Cost: the points times the strokes, and the strokes' points for those near.
 */
export function paintedDensity(
  positions: ArrayLike<number>,
  strokes: readonly DensityStroke[],
  plane: MirrorPlane | null,
): Float64Array {
  const density = new Float64Array(positions.length / 3).fill(1);
  const all = plane ? [...strokes, ...strokes.map((s) => ({ ...s, points: s.points.map((p) => mirrored(p, plane)) }))] : strokes; // prettier-ignore
  // a stroke beside the plane must not count twice there
  const pairs = plane ? strokes.length : 0;
  const logs = all.map((stroke) => logOf(positions, stroke));
  logs.forEach((own, i) => {
    for (const [v, log] of own) {
      const other = pairs > 0 ? logs[(i + pairs) % logs.length].get(v) : undefined;
      if (other === undefined || Math.abs(log) > Math.abs(other) || (log === other && i < pairs)) density[v] *= Math.exp(log); // prettier-ignore
    }
  });
  return density;
}

/** So many points lie across a stroke's radius, where triangles are cut finer for it. */
const ACROSS = 3;
/** No more triangles come of cutting them finer. */
const MOST_CUT = 200_000;

/**
 * Triangles with what is painted at their points: those of a coarse form are cut finer, flat, since a stroke within one of them would reach none of its points. Cost: as
 * `paintedDensity`, and the triangles that are made.
 */
export function painted(
  triangles: Triangles,
  strokes: readonly DensityStroke[],
  plane: MirrorPlane | null,
): { triangles: Triangles; density: Float64Array } {
  const { positions: p, indices } = triangles;
  const wanted = strokes.reduce((least, { radius }) => Math.min(least, radius), Infinity) / ACROSS;
  const count = indices.length / 3;
  const at = (v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  let longest = 0;
  for (let i = 0; i < indices.length; i++) {
    const next = indices[i % 3 === 2 ? i - 2 : i + 1];
    longest = Math.max(longest, distance(at(indices[i]), at(next)));
  }
  const parts = Math.min(Math.ceil(longest / wanted), Math.floor(Math.sqrt(MOST_CUT / count)));
  if (!(parts > 1)) return { triangles, density: paintedDensity(p, strokes, plane) };
  const points = Array.from({ length: p.length / 3 }, (_, v) => at(v));
  const corners = Array.from({ length: count }, (_, t) => [indices[3 * t], indices[3 * t + 1], indices[3 * t + 2]]);
  const finer = denseFaces(points, corners, parts * parts * count, null);
  return { triangles: finer, density: paintedDensity(finer.positions, strokes, plane) };
}

/** The logarithm that a stroke adds, for the points that it reaches. */
function logOf(p: ArrayLike<number>, { points, radius, times }: DensityStroke): Map<number, number> {
  const found = new Map<number, number>();
  const low = [0, 1, 2].map((k) => points.reduce((m, q) => Math.min(m, q[k]), Infinity) - radius);
  const high = [0, 1, 2].map((k) => points.reduce((m, q) => Math.max(m, q[k]), -Infinity) + radius);
  for (let v = 0; v < p.length / 3; v++) {
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (x < low[0] || x > high[0] || y < low[1] || y > high[1] || z < low[2] || z > high[2]) continue;
    const at: Vec3 = [x, y, z];
    const away = points.length > 1 ? distance(nearestOnLine(at, points, false).point, at) : distance(points[0], at);
    const t = Math.min(1, Math.max(0, (1 - away / radius) / (1 - FULL)));
    if (t > 0) found.set(v, t * t * (3 - 2 * t) * Math.log(times));
  }
  return found;
}
