import { HalfLoopError } from '../errors';
import type { PolygonSoup } from '../mesh';
import { triangulate } from '../mesh';
import type { Vec3 } from '../math';
import { weldExact } from './weldExact';

/** Triangles as a sculpt stores them. */
export interface TriangleData {
  /** f32[3·V] xyz…, file units */
  positions: Float32Array;
  /** u32[3·T] */
  indices: Uint32Array;
}

/** Triangles of a soup, and where they came from. */
export interface SoupTriangles extends TriangleData {
  /** points that became one with another, points in no triangle that is kept, triangles without an area */
  welded: number;
  loose: number;
  dropped: number;
  /** u32[T] the soup's face of each triangle */
  faceOf: Uint32Array;
  /** u32[V of the soup] where each of its points went, GONE for loose ones */
  remap: Uint32Array;
}

/** Where a point went that is in no triangle. */
export const GONE = 0xffffffff;

/**
 * Triangles of a soup: polygons cut, exactly equal points welded, triangles without three different points
 * dropped, and points that are in none: what lies beside a form is no part of its size, and mirrors nothing. Throws BAD_INPUT when nothing is left. Linear.
 */
export function sculptFromSoup(soup: PolygonSoup): SoupTriangles {
  const { positions: all, remap } = weldExact(soup.positions);
  const { faceStarts, corners } = soup;
  const faces = faceStarts.length - 1;
  let triangles = 0;
  for (let f = 0; f < faces; f++) triangles += Math.max(0, faceStarts[f + 1] - faceStarts[f] - 2);
  const indices = new Uint32Array(3 * triangles);
  const faceOf = new Uint32Array(triangles);
  let at = 0;
  const put = (f: number, a: number, b: number, c: number): void => {
    const [i, j, k] = [remap[a], remap[b], remap[c]];
    if (i === j || j === k || k === i) return;
    faceOf[at / 3] = f;
    indices[at++] = i;
    indices[at++] = j;
    indices[at++] = k;
  };
  for (let f = 0; f < faces; f++) {
    const start = faceStarts[f];
    const n = faceStarts[f + 1] - start;
    if (n === 3) put(f, corners[start], corners[start + 1], corners[start + 2]);
    else if (n > 3) {
      const ids = corners.subarray(start, start + n);
      const cut = triangulate([...ids].map((v) => pointOf(soup.positions, v)));
      for (let i = 0; i < cut.length; i += 3) put(f, ids[cut[i]], ids[cut[i + 1]], ids[cut[i + 2]]);
    }
  }
  if (at === 0)
    throw new HalfLoopError('BAD_INPUT', 'The file holds no triangle with an area; there is no surface to lay on.');
  const welded = (soup.positions.length - all.length) / 3;
  const { positions, loose } = withoutLoose(all, indices.subarray(0, at), remap);
  const dropped = triangles - at / 3;
  return { positions, indices: indices.slice(0, at), welded, loose, dropped, faceOf: faceOf.slice(0, at / 3), remap };
}

/** The positions that triangles use, in their order; numbers them anew in `indices` and `remap`. */
function withoutLoose(
  all: Float32Array,
  indices: Uint32Array,
  remap: Uint32Array,
): { positions: Float32Array; loose: number } {
  const to = new Uint32Array(all.length / 3).fill(GONE);
  for (const v of indices) to[v] = 0;
  let kept = 0;
  for (let v = 0; v < to.length; v++) if (to[v] !== GONE) to[v] = kept++;
  const loose = to.length - kept;
  if (loose === 0) return { positions: all, loose };
  const positions = new Float32Array(3 * kept);
  for (let v = 0; v < to.length; v++) if (to[v] !== GONE) positions.set(all.subarray(3 * v, 3 * v + 3), 3 * to[v]);
  for (let i = 0; i < indices.length; i++) indices[i] = to[indices[i]];
  for (let v = 0; v < remap.length; v++) remap[v] = to[remap[v]];
  return { positions, loose };
}

const pointOf = (p: ArrayLike<number>, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
