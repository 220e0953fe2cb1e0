import { distance, normalize, type Vec3 } from '../math';
import type { SculptSurface } from './SculptSurface';

/** A line in which a plane cuts a surface. */
export interface Section {
  points: Vec3[];
  closed: boolean;
}

/**
 * The line in which a plane cuts the surface, nearest to a point: the whole loop where it closes, else up to where the surface ends. Null
 * where the plane misses it. Cost: the triangles that the plane cuts, found through the tree.
 */
export function sectionNear(surface: SculptSurface, near: Vec3, normal: Vec3): Section | null {
  const n = normalize(normal);
  const { positions, indices } = surface;
  const far = (v: number): number => (positions[3 * v] - near[0]) * n[0] + (positions[3 * v + 1] - near[1]) * n[1] + (positions[3 * v + 2] - near[2]) * n[2]; // prettier-ignore
  // a vertex exactly in the plane counts as above it, so that a line never runs through one
  const above = (v: number): boolean => far(v) >= 0;
  const crossings = new Map<number, number[]>();
  const segments: [number, number][] = [];
  for (const t of surface.trianglesOnPlane(near, n)) {
    const corners = [indices[3 * t], indices[3 * t + 1], indices[3 * t + 2]];
    const cut = [0, 1, 2].filter((k) => above(corners[k]) !== above(corners[(k + 1) % 3])).map((k) => sideKey(corners[k], corners[(k + 1) % 3])); // prettier-ignore
    if (cut.length !== 2) continue;
    for (const key of cut) crossings.set(key, [...(crossings.get(key) ?? []), segments.length]);
    segments.push([cut[0], cut[1]]);
  }
  if (segments.length === 0) return null;
  const pointOf = (key: number): Vec3 => {
    const [u, v] = [Math.floor(key / SHIFT), key % SHIFT];
    const [a, b] = [far(u), far(v)];
    const t = a === b ? 0.5 : a / (a - b);
    return [0, 1, 2].map((k) => positions[3 * u + k] * (1 - t) + positions[3 * v + k] * t) as unknown as Vec3;
  };
  let first = 0,
    least = Infinity;
  segments.forEach(([a], i) => {
    const d = distance(pointOf(a), near);
    if (d < least) [first, least] = [i, d];
  });
  return walk(first, segments, crossings, pointOf);
}

const SHIFT = 67108864;
const sideKey = (u: number, v: number): number => (u < v ? u * SHIFT + v : v * SHIFT + u);

function walk(
  first: number,
  segments: readonly (readonly [number, number])[],
  crossings: ReadonlyMap<number, number[]>,
  pointOf: (key: number) => Vec3,
): Section {
  const used = new Set([first]);
  const onward = (from: number): { keys: number[]; closed: boolean } => {
    const keys = [from];
    for (let key = from; ;) {
      const next = (crossings.get(key) ?? []).find((s) => !used.has(s));
      if (next === undefined) return { keys, closed: false };
      used.add(next);
      const [a, b] = segments[next];
      key = a === key ? b : a;
      if (key === segments[first][0]) return { keys, closed: true };
      keys.push(key);
    }
  };
  const [start, second] = segments[first];
  const ahead = onward(second);
  if (ahead.closed) return { points: [start, ...ahead.keys].map(pointOf), closed: true };
  const back = onward(start);
  return { points: [...back.keys.reverse(), ...ahead.keys].map(pointOf), closed: false };
}
