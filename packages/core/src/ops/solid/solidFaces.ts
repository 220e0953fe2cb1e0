import { distance, dot, length, sub, type Vec3 } from '../../math';
import { areaNormal, cornerQuality, triangulate } from '../../mesh';
import type { SolidResult } from './solids';

/** A face of the result over its points, and the face of the mesh that it is a piece of. */
export interface SolidFace {
  corners: number[];
  face: number;
}

/**
 * The triangles of a result put together again: each piece of a face that is one outline becomes one polygon; pieces with holes stay
 * triangles. Cost: linear.
 */
export function polygonsOf({ triangles }: SolidResult): SolidFace[] {
  const byFace = new Map<number, number[][]>();
  for (const { corners, face } of triangles) {
    const own = byFace.get(face);
    if (own) own.push(corners);
    else byFace.set(face, [corners]);
  }
  return [...byFace].flatMap(([face, own]) =>
    pieces(own).flatMap((piece): SolidFace[] => {
      const outline = onlyOutline(piece);
      return outline ? [{ corners: outline, face }] : piece.map((corners) => ({ corners, face }));
    }),
  );
}

/** A directed side as one number; points are fewer than 2²⁶. */
const sideKey = (u: number, v: number): number => u * 67108864 + v;

/** Triangles in sets that hang together by their sides. */
function pieces(triangles: number[][]): number[][][] {
  if (triangles.length === 1) return [triangles];
  // by far the most: a quad's two triangles
  if (triangles.length === 2)
    return triangles[0].filter((u) => triangles[1].includes(u)).length === 2
      ? [triangles]
      : [[triangles[0]], [triangles[1]]];
  const at = new Map<number, number>();
  triangles.forEach((t, i) => t.forEach((u, k) => at.set(sideKey(u, t[(k + 1) % 3]), i)));
  const left = new Set(triangles.keys());
  const found: number[][][] = [];
  for (const first of left) {
    left.delete(first);
    const queue = [first];
    for (const i of queue)
      triangles[i].forEach((u, k) => {
        const j = at.get(sideKey(triangles[i][(k + 1) % 3], u));
        if (j !== undefined && left.delete(j)) queue.push(j);
      });
    found.push(queue.map((i) => triangles[i]));
  }
  return found;
}

/** The outline of a piece when it is one simple loop, else null. */
function onlyOutline(piece: readonly number[][]): number[] | null {
  if (piece.length === 1) return piece[0];
  if (piece.length === 2) {
    const [a, b] = piece;
    const k = a.findIndex((u) => !b.includes(u));
    const tip = b.find((u) => !a.includes(u));
    if (k >= 0 && tip !== undefined) return [a[k], a[(k + 1) % 3], tip, a[(k + 2) % 3]];
  }
  const sides = new Set(piece.flatMap((t) => t.map((u, k) => sideKey(u, t[(k + 1) % 3]))));
  const next = new Map<number, number>();
  for (const t of piece)
    for (let k = 0; k < 3; k++) {
      const [u, v] = [t[k], t[(k + 1) % 3]];
      if (sides.has(sideKey(v, u))) continue;
      if (next.has(u)) return null;
      next.set(u, v);
    }
  const start = next.keys().next().value as number;
  const outline = [start];
  for (let v = next.get(start) as number; v !== start; v = next.get(v) as number) outline.push(v);
  return outline.length === next.size ? outline : null;
}

/** An undirected side as one number. */
export const edgeKey = (u: number, v: number): number => (u < v ? sideKey(u, v) : sideKey(v, u));

/**
 * Points closer than `within` along sides of the faces become one, those that are vertices of the mesh staying. Gives the faces unchanged
 * when what is left would not close, or would want a side that a face not among these holds (`isHeld`). Returns how many points went.
 */
export function withoutSlivers(
  faces: readonly SolidFace[],
  { points, vertexAt }: SolidResult,
  within: number,
  isCut: (u: number, v: number) => boolean,
  isHeld: (u: number, v: number) => boolean,
): { faces: readonly SolidFace[]; welded: number } {
  const into = new Map<number, number>();
  const root = (v: number): number => (into.has(v) ? root(into.get(v) as number) : v);
  for (const { corners } of faces)
    corners.forEach((u, k) => {
      const v = corners[(k + 1) % corners.length];
      if (!isCut(u, v) || distance(points[u], points[v]) >= within) return;
      const [a, b] = [root(u), root(v)];
      if (a === b || (vertexAt[a] >= 0 && vertexAt[b] >= 0)) return;
      if (vertexAt[a] >= 0) into.set(b, a);
      else into.set(a, b);
    });
  if (into.size === 0) return { faces, welded: 0 };
  const left: SolidFace[] = [];
  const before: SolidFace[] = [];
  for (const face of faces) (face.corners.some((v) => into.has(v)) ? before : left).push(face);
  const joined = before
    .map(({ corners, face }) => ({
      face,
      corners: corners.map(root).filter((v, k, all) => v !== all[(k + 1) % all.length]),
    }))
    .filter(({ corners }) => corners.length > 2);
  return closeAlike(before, joined, left, isHeld)
    ? { faces: [...left, ...joined], welded: into.size }
    : { faces, welded: 0 };
}

/**
 * Whether the new faces lack partners just where the old ones did, and none of them meets itself, another on the same side, or what is held
 * or left as it was.
 */
function closeAlike(
  old: readonly SolidFace[],
  made: readonly SolidFace[],
  left: readonly SolidFace[],
  isHeld: (u: number, v: number) => boolean,
): boolean {
  const open = lone(old);
  const now = lone(made);
  if (!open || !now || open.size !== now.size) return false;
  for (const side of now) if (!open.has(side)) return false;
  const fresh = new Set<number>();
  const known = new Set(old.flatMap(({ corners }) => corners.map((u, k) => edgeKey(u, corners[(k + 1) % corners.length])))); // prettier-ignore
  for (const { corners } of made)
    for (let k = 0; k < corners.length; k++) {
      const [u, v] = [corners[k], corners[(k + 1) % corners.length]];
      if (isHeld(u, v)) return false;
      if (!known.has(edgeKey(u, v))) fresh.add(edgeKey(u, v));
    }
  return left.every(({ corners }) =>
    corners.every((u, k) => !fresh.has(edgeKey(u, corners[(k + 1) % corners.length]))),
  );
}

/** Sides without a partner; null where two faces have the same one, or a face meets itself. */
function lone(faces: readonly SolidFace[]): Set<number> | null {
  const sides = new Set<number>();
  for (const { corners } of faces) {
    if (new Set(corners).size !== corners.length) return null;
    for (let k = 0; k < corners.length; k++) {
      const side = sideKey(corners[k], corners[(k + 1) % corners.length]);
      if (sides.has(side)) return null;
      sides.add(side);
    }
  }
  for (const { corners } of faces)
    for (let k = 0; k < corners.length; k++) {
      const [u, v] = [corners[k], corners[(k + 1) % corners.length]];
      if (sides.has(sideKey(u, v)) && sides.delete(sideKey(v, u))) sides.delete(sideKey(u, v));
    }
  return sides;
}

/** A piece worse than this at a corner is none. */
const WORST = 0.03;
/** What a triangle costs in place of a quad, in corners' quality. */
const TRIANGLE = 2;
/** Outlines with more corners than this are cut into triangles: the programme below takes n⁴ steps. */
const MOST_CORNERS = 28;

/**
 * An outline of more than four corners as quads, and as few triangles as its count and its shape allow, the squarest pieces that there are:
 * a dynamic programme over its diagonals. Every piece faces the way the whole does, so that concave outlines are covered once.
 */
export function quadsFrom(corners: readonly number[], points: readonly Vec3[]): number[][] {
  const n = corners.length;
  const at = corners.map((v) => points[v]);
  const whole = areaNormal(at);
  const best = new Map<number, { cost: number; pieces: number[][] }>();
  const piece = (ids: number[]): number => {
    const own = ids.map((i) => at[i]);
    const quality = dot(areaNormal(own), whole) > 0 ? cornerQuality(own) : -1;
    return quality > WORST ? 1 - quality + (ids.length === 3 ? TRIANGLE : 0) : Infinity;
  };
  /** the outline from corner i on to j, closed by the diagonal between them */
  const cover = (i: number, j: number): { cost: number; pieces: number[][] } => {
    if (j - i < 2) return { cost: 0, pieces: [] };
    const known = best.get(i * n + j);
    if (known) return known;
    let found = { cost: Infinity, pieces: [] as number[][] };
    const offer = (ids: number[]): void => {
      let cost = piece(ids);
      if (cost >= found.cost) return;
      const rest = ids.slice(1).map((k, s) => cover(ids[s], k));
      cost += rest.reduce((sum, r) => sum + r.cost, 0);
      if (cost < found.cost) found = { cost, pieces: [ids, ...rest.flatMap((r) => r.pieces)] };
    };
    for (let k = i + 1; k < j; k++) {
      offer([i, k, j]);
      for (let l = k + 1; l < j; l++) offer([i, k, l, j]);
    }
    best.set(i * n + j, found);
    return found;
  };
  const { cost, pieces: made } = n <= MOST_CORNERS ? cover(0, n - 1) : { cost: Infinity, pieces: [] };
  if (cost < Infinity) return made.map((ids) => ids.map((i) => corners[i]));
  const cut = triangulate(at);
  return Array.from({ length: cut.length / 3 }, (_, t) => [0, 1, 2].map((k) => corners[cut[3 * t + k]]));
}

/** Shares of a face's own corners that a point on it is made of: by nearness. */
export function nearness(p: Vec3, corners: readonly Vec3[]): number[] {
  const weights = corners.map((q) => 1 / Math.max(length(sub(p, q)), 1e-9) ** 2);
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((w) => w / sum);
}
