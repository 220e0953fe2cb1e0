import type { Vec3 } from '../math';
import type { TriangleData } from './sculptFromSoup';

/** A line on a surface. */
export interface Section {
  points: Vec3[];
  closed: boolean;
}

/** Where a value that is linear over each triangle is zero: segments, each from side to side of its triangle, with what is above zero on their left. */
export interface IsoSegments {
  segments: [number, number][];
  /** the segments that end on a side, by the side's key */
  crossings: ReadonlyMap<number, number[]>;
  pointOf(side: number): Vec3;
}

const SHIFT = 67108864;
/** The name of the side between two vertices. */
export const sideKey = (u: number, v: number): number => (u < v ? u * SHIFT + v : v * SHIFT + u);

/**
 * The segments in which `valueOf` (a number a vertex) crosses zero in the given triangles. A vertex at exactly zero counts as above it, so that a line never
 * runs through one. Cost: the triangles.
 */
export function isoSegments(
  { positions, indices }: TriangleData,
  triangles: Iterable<number>,
  valueOf: (v: number) => number,
): IsoSegments {
  const crossings = new Map<number, number[]>();
  const segments: [number, number][] = [];
  for (const t of triangles) {
    let from = -1,
      to = -1;
    for (let k = 0; k < 3; k++) {
      const [u, v] = [indices[3 * t + k], indices[3 * t + ((k + 1) % 3)]];
      const [up, next] = [valueOf(u) >= 0, valueOf(v) >= 0];
      if (up && !next) from = sideKey(u, v);
      if (!up && next) to = sideKey(u, v);
    }
    if (from < 0 || to < 0) continue;
    for (const key of [from, to]) crossings.set(key, [...(crossings.get(key) ?? []), segments.length]);
    segments.push([from, to]);
  }
  const pointOf = (key: number): Vec3 => {
    const [u, v] = [Math.floor(key / SHIFT), key % SHIFT];
    const [a, b] = [valueOf(u), valueOf(v)];
    const t = a === b ? 0.5 : a / (a - b);
    return [0, 1, 2].map((k) => positions[3 * u + k] * (1 - t) + positions[3 * v + k] * t) as unknown as Vec3;
  };
  return { segments, crossings, pointOf };
}

/** The whole line that a segment is part of, along the segment's own direction; what it takes along is put into `used`. Cost: the line. */
export function isoLineFrom(
  first: number,
  { segments, crossings, pointOf }: IsoSegments,
  used = new Set<number>(),
): Section {
  used.add(first);
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
