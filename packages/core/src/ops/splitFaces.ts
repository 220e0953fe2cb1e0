import { add, lerp, sub, type Vec3 } from '../math';
import { meanOf, type PolyMesh, type Rebuild } from '../mesh';
import { newPlace, type Ground } from './ground';

/** Faces split along what their edges were split into. */
export interface SplitResult {
  /** pairs of vertices that the new lines join */
  lines: [number, number][];
  /** faces that are no quads and took further corners, or were fanned */
  ngons: number;
}

/**
 * Rebuilds faces whose edges take new points: a quad split on two opposite sides becomes a row, on all four a grid (points
 * inside by Coons interpolation), any other face keeps its shape with more corners, or is fanned from the corner
 * opposite. `split` holds, for an edge e, its new vertices in order from origin(2e). All faces beside those edges must be
 * in `faces`. Cost: the faces.
 */
export function splitFaces(
  mesh: PolyMesh,
  rebuild: Rebuild,
  faces: Iterable<number>,
  split: ReadonlyMap<number, readonly number[]>,
  { fan, ground }: { fan: boolean; ground: Ground },
): SplitResult {
  const result: SplitResult = { lines: [], ngons: 0 };
  const work = [...faces].map((f) => ({ f, sides: mesh.faceHalves(f).map((h) => sideOf(mesh, h, split)) }));
  for (const [e, made] of split) {
    const chain = [mesh.origin(2 * e), ...made, mesh.target(2 * e)];
    for (let i = 1; i < chain.length; i++) rebuild.edge(chain[i - 1], chain[i], e);
  }
  for (const { f } of work) rebuild.takeOut(f);
  for (const { f, sides } of work) splitOne(mesh, rebuild, f, sides, { fan, ground }, result);
  return result;
}

interface Side {
  corner: number;
  /** new vertices from the corner onwards */
  made: readonly number[];
}

function sideOf(mesh: PolyMesh, h: number, split: ReadonlyMap<number, readonly number[]>): Side {
  const made = split.get(h >> 1) ?? [];
  return { corner: mesh.origin(h), made: h % 2 === 0 ? made : [...made].reverse() };
}

function splitOne(
  mesh: PolyMesh,
  rebuild: Rebuild,
  f: number,
  sides: Side[],
  { fan, ground }: { fan: boolean; ground: Ground },
  result: SplitResult,
): void {
  if (sides.length === 4) {
    const [n, m] = [sides[0].made.length, sides[1].made.length];
    const isGrid = n === sides[2].made.length && m === sides[3].made.length && n + m > 0;
    if (isGrid) return grid(mesh, rebuild, f, sides, ground, result);
  }
  result.ngons++;
  const all = sides.flatMap(({ corner, made }) => [corner, ...made]);
  const cut = sides.filter((s) => s.made.length > 0);
  if (!fan || cut.length !== 1) {
    rebuild.face(all, f);
    return;
  }
  const start = sides.indexOf(cut[0]);
  const apexAt = (start + 1 + (sides.length >> 1)) % sides.length;
  const around = [...sides.slice(apexAt), ...sides.slice(0, apexAt)].flatMap(({ corner, made }) => [corner, ...made]);
  const apex = around[0];
  const stops = [...cut[0].made.map((v) => around.indexOf(v)), around.length - 1];
  let from = 1;
  for (const to of stops) {
    rebuild.face([apex, ...around.slice(from, to + 1)], f);
    if (to < around.length - 1) result.lines.push([apex, around[to]]);
    from = to;
  }
}

function grid(mesh: PolyMesh, rebuild: Rebuild, f: number, sides: Side[], ground: Ground, result: SplitResult): void {
  const low = [sides[0].corner, ...sides[0].made, sides[1].corner];
  const right = [sides[1].corner, ...sides[1].made, sides[2].corner];
  const high = [sides[3].corner, ...[...sides[2].made].reverse(), sides[2].corner];
  const left = [sides[0].corner, ...[...sides[3].made].reverse(), sides[3].corner];
  const [n, m] = [low.length - 1, right.length - 1];
  const rows: number[][] = [low];
  for (let j = 1; j < m; j++) {
    const inner = Array.from({ length: n - 1 }, (_, k) => {
      const at = coons(mesh, [low, right, high, left], (k + 1) / n, j / m, k + 1, j);
      const corners = sides.map((s) => s.corner);
      return rebuild.vertex(newPlace(mesh, at, corners, ground), meanOf(corners));
    });
    rows.push([left[j], ...inner, right[j]]);
  }
  rows.push(high);
  for (let j = 0; j < m; j++)
    for (let i = 0; i < n; i++) {
      rebuild.face([rows[j][i], rows[j][i + 1], rows[j + 1][i + 1], rows[j + 1][i]], f);
      if (i > 0) result.lines.push([rows[j][i], rows[j + 1][i]]);
      if (j > 0) result.lines.push([rows[j][i], rows[j][i + 1]]);
    }
}

/** A point inside four sides from the points of the sides at its height and breadth (Coons 1967). */
function coons(mesh: PolyMesh, [low, right, high, left]: number[][], s: number, t: number, i: number, j: number): Vec3 {
  const p = (list: number[], k: number): Vec3 => mesh.point(list[k]);
  const across = lerp(p(left, j), p(right, j), s),
    up = lerp(p(low, i), p(high, i), t);
  const corners = lerp(lerp(p(low, 0), p(low, low.length - 1), s), lerp(p(high, 0), p(high, high.length - 1), s), t);
  return sub(add(across, up), corners);
}
