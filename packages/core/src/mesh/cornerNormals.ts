import { cross, dot, length, sub, type Vec3 } from '../math';
import { soupNormals } from './normals';
import type { PolygonSoup } from './PolygonSoup';
import { facesOfCorners, nextCorner, pairKey, soupEdges } from './soupEdges';
import { areaNormal } from './triangulate';

/**
 * The hard edges that smoothing groups mean: an edge between two faces is soft only when both carry the same group and it
 * is not 0. `smoothing`: i32[F], 0 is 'off'. Borders are never hard. Pairs of points, in the order of faces. Linear.
 */
export function hardEdgesOf(soup: PolygonSoup, smoothing: ArrayLike<number>): Uint32Array {
  const faceOf = facesOfCorners(soup);
  const hard: number[] = [];
  for (const uses of soupEdges(soup).values()) {
    if (uses.length < 2) continue;
    const [s, t] = [smoothing[faceOf[uses[0]]], smoothing[faceOf[uses[1]]]];
    if (s !== t || s === 0) hard.push(soup.corners[uses[0]], soup.corners[nextCorner(soup, faceOf, uses[0])]);
  }
  return Uint32Array.from(hard);
}

/**
 * Smoothing groups that bring the hard edges back: faces joined over soft edges share a number from 1. A hard edge inside such a
 * patch cannot be said this way; `kept` counts those that can. Linear.
 */
export function smoothingOf(soup: PolygonSoup): { ofFace: Uint32Array; kept: number } {
  const faces = soup.faceStarts.length - 1;
  const points = soup.positions.length / 3;
  const hard = hardKeys(soup);
  const faceOf = facesOfCorners(soup);
  const sets = new Sets(faces);
  const edges = soupEdges(soup);
  for (const [key, uses] of edges)
    if (!hard.has(key)) for (let i = 1; i < uses.length; i++) sets.join(faceOf[uses[0]], faceOf[uses[i]]);
  const numbers = new Map<number, number>();
  const ofFace = new Uint32Array(faces);
  for (let f = 0; f < faces; f++) {
    const root = sets.find(f);
    if (!numbers.has(root)) numbers.set(root, numbers.size + 1);
    ofFace[f] = numbers.get(root) as number;
  }
  const { hardEdges = new Uint32Array() } = soup.attributes ?? {};
  let kept = 0;
  for (let i = 0; i < hardEdges.length; i += 2) {
    const uses = edges.get(pairKey(hardEdges[i], hardEdges[i + 1], points)) ?? [];
    if (uses.length > 1 && ofFace[faceOf[uses[0]]] !== ofFace[faceOf[uses[1]]]) kept++;
  }
  return { ofFace, kept };
}

/**
 * Unit normals of a soup's corners, f32[3·corners]: those of the file where it has them, else polygons weighted by area and
 * angle, over the faces that hang together at the point without crossing a hard edge. Linear.
 */
export function cornerNormals(soup: PolygonSoup): Float32Array {
  if (soup.attributes?.normals) return soup.attributes.normals;
  const { corners } = soup;
  const out = new Float32Array(3 * corners.length);
  if (!soup.attributes?.hardEdges?.length) {
    const points = soupNormals(soup);
    for (let c = 0; c < corners.length; c++) out.set(points.subarray(3 * corners[c], 3 * corners[c] + 3), 3 * c);
    return out;
  }
  const fans = fansOf(soup);
  const sums = new Float64Array(3 * corners.length);
  addFaceNormals(soup, (c, n) => {
    const at = 3 * fans.find(c);
    for (let k = 0; k < 3; k++) sums[at + k] += n[k];
  });
  for (let c = 0; c < corners.length; c++) {
    const at = 3 * fans.find(c);
    const l = Math.hypot(sums[at], sums[at + 1], sums[at + 2]);
    if (l === 0) out[3 * c + 2] = 1;
    else for (let k = 0; k < 3; k++) out[3 * c + k] = sums[at + k] / l;
  }
  return out;
}

/** Corners of one point whose faces are joined by soft edges. */
function fansOf(soup: PolygonSoup): Sets {
  const faceOf = facesOfCorners(soup);
  const hard = hardKeys(soup);
  const sets = new Sets(soup.corners.length);
  for (const [key, uses] of soupEdges(soup)) {
    if (uses.length !== 2 || hard.has(key)) continue;
    const ends = uses.flatMap((c) => [c, nextCorner(soup, faceOf, c)]);
    for (const c of ends.slice(0, 2))
      for (const d of ends.slice(2)) if (soup.corners[c] === soup.corners[d]) sets.join(c, d);
  }
  return sets;
}

function addFaceNormals(soup: PolygonSoup, add: (corner: number, weighted: Vec3) => void): void {
  const { positions: p, faceStarts, corners } = soup;
  for (let f = 0; f + 1 < faceStarts.length; f++) {
    const ids = [...corners.subarray(faceStarts[f], faceStarts[f + 1])];
    const points = ids.map((v): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    const n = areaNormal(points);
    points.forEach((at, i) => {
      const a = sub(points[(i + 1) % ids.length], at);
      const b = sub(points[(i + ids.length - 1) % ids.length], at);
      const angle = Math.atan2(length(cross(a, b)), dot(a, b));
      add(faceStarts[f] + i, [n[0] * angle, n[1] * angle, n[2] * angle]);
    });
  }
}

function hardKeys({ positions, attributes }: PolygonSoup): Set<number> {
  const { hardEdges = new Uint32Array() } = attributes ?? {};
  const keys = new Set<number>();
  for (let i = 0; i < hardEdges.length; i += 2) keys.add(pairKey(hardEdges[i], hardEdges[i + 1], positions.length / 3));
  return keys;
}

/** Disjoint sets with path halving. */
class Sets {
  private readonly parent: Uint32Array;
  constructor(size: number) {
    this.parent = Uint32Array.from({ length: size }, (_, i) => i);
  }
  find(i: number): number {
    const { parent } = this;
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  }
  join(a: number, b: number): void {
    const [x, y] = [this.find(a), this.find(b)];
    this.parent[Math.max(x, y)] = Math.min(x, y);
  }
}
