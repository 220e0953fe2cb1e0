import { addScaled, lerp, sub, type Vec3 } from '../../math';
import { isoLineFrom, isoSegments, sideKey, type Section } from '../isoLines';
import type { SculptSurface } from '../SculptSurface';
import type { TriangleData } from '../sculptFromSoup';
import type { RegionGround } from './paint';

/** A border is evened out over so many sides. */
const ROUNDS = 12;
/** Then its own points, so many times. */
const TAUT = 6;
/** A cut runs no nearer to a vertex than this share of a side. */
const CLEAR = 0.05;

/**
 * A value a vertex, above zero in the set, whose zero line is the set's smooth border. A set too small to be smoothed keeps its border as painted. Cost: as
 * `RegionGround.softened`.
 */
export function regionValue(ground: RegionGround, isIn: (v: number) => boolean): Float32Array {
  const value = ground.softened(isIn, ROUNDS);
  return value.some((x) => x >= 0) ? value : ground.softened(isIn, 0);
}

/** The lines on which a value is zero, smooth and on the surface, with what is above on their left; points that `isHeld` says stay where the line runs. Cost: the triangles once, and a closest point for each point of the lines some times over. */
export function regionCurves(
  surface: SculptSurface,
  value: Float32Array,
  isHeld = (_: Vec3): boolean => false,
): Section[] {
  const cut = isoSegments(surface, allTriangles(surface), (v) => value[v]);
  const used = new Set<number>();
  const lines: Section[] = [];
  for (let i = 0; i < cut.segments.length; i++) if (!used.has(i)) lines.push(isoLineFrom(i, cut, used));
  return lines.map((line) => smoothed(line, surface, isHeld));
}

function* allTriangles({ indices }: TriangleData): Generator<number> {
  for (let t = 0; t < indices.length / 3; t++) yield t;
}

/** Points moved half way to the middle of their neighbours, and back onto the surface. */
function smoothed({ points, closed }: Section, surface: SculptSurface, isHeld: (p: Vec3) => boolean): Section {
  let now = points;
  const n = points.length;
  for (let round = 0; round < TAUT; round++) {
    now = now.map((p, i) => {
      if (isHeld(p) || (!closed && (i === 0 || i === n - 1))) return p;
      const middle = lerp(now[(i + n - 1) % n], now[(i + 1) % n], 0.5);
      return addScaled(p, sub(middle, p), 0.5);
    });
  }
  return { points: now.map((p) => surface.closest(p).point), closed };
}

/** The triangles on which a value is above zero, those that its zero line runs through cut along it, in parts that hang together. Cost: the triangles once. */
export function regionParts(surface: TriangleData, value: Float32Array): TriangleData[] {
  const { positions: p, indices } = surface;
  const points: number[] = [];
  const named = new Map<number, number>();
  const put = (key: number, place: () => Vec3): number => {
    const known = named.get(key);
    if (known !== undefined) return known;
    named.set(key, points.length / 3);
    return points.push(...place()) / 3 - 1;
  };
  const at = (v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  // sides and vertices in one room of names
  const own = (v: number): number => put(-1 - v, () => at(v));
  const between = (u: number, v: number): number =>
    put(sideKey(u, v), () => {
      const t = value[u] / (value[u] - value[v]);
      return lerp(at(u), at(v), Math.min(1 - CLEAR, Math.max(CLEAR, t)));
    });
  const made: number[] = [];
  for (let t = 0; t < indices.length; t += 3) {
    const corners = [indices[t], indices[t + 1], indices[t + 2]];
    const isUp = corners.map((v) => value[v] >= 0);
    const outline: number[] = [];
    for (let k = 0; k < 3; k++) {
      const [u, v] = [corners[k], corners[(k + 1) % 3]];
      if (isUp[k]) outline.push(own(u));
      if (isUp[k] !== isUp[(k + 1) % 3]) outline.push(between(u, v));
    }
    for (let k = 2; k < outline.length; k++) made.push(outline[0], outline[k - 1], outline[k]);
  }
  return partsOf(points, made);
}

function partsOf(points: readonly number[], corners: readonly number[]): TriangleData[] {
  const part = Int32Array.from({ length: points.length / 3 }, (_, v) => v);
  const root = (v: number): number => {
    while (part[v] !== v) v = part[v] = part[part[v]];
    return v;
  };
  for (let i = 0; i < corners.length; i += 3) for (const k of [1, 2]) part[root(corners[i + k])] = root(corners[i]);
  const byPart = new Map<number, number[]>();
  for (let i = 0; i < corners.length; i += 3) {
    const r = root(corners[i]);
    let own = byPart.get(r);
    if (!own) byPart.set(r, (own = []));
    own.push(corners[i], corners[i + 1], corners[i + 2]);
  }
  return [...byPart.values()].map((own) => compact(points, own));
}

function compact(points: readonly number[], corners: readonly number[]): TriangleData {
  const name = new Map<number, number>();
  const kept: number[] = [];
  const indices = Uint32Array.from(corners, (v) => {
    const known = name.get(v);
    if (known !== undefined) return known;
    name.set(v, kept.length / 3);
    kept.push(points[3 * v], points[3 * v + 1], points[3 * v + 2]);
    return kept.length / 3 - 1;
  });
  return { positions: Float32Array.from(kept), indices };
}
