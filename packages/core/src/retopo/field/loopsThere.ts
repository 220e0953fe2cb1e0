import { add, cross, dot, length, normalize, scale, sub, type Vec3 } from '../../math';
import { areaNormal, triangulate, type PolygonSoup } from '../../mesh';
import { SculptSurface } from '../../surface';

/** Which way the loops of a low-poly run near a place: one of their directions, as long as the loops there are clear (0 … 1); null where there are none. */
export type LoopsThere = (p: Vec3) => Vec3 | null;

/** Under this a face's edges agree on no cross: triangles do not. */
const UNCLEAR = 0.2;

/**
 * The directions that the edges of faces run in, at any place near them: of the nearest face the cross that its edges agree on best, as the mean of their fourth powers in its
 * plane. Cost: a BVH of the faces, and a closest point a call.
 */
export function loopsThere({ positions, faceStarts, corners }: PolygonSoup): LoopsThere {
  const at = (v: number): Vec3 => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const indices: number[] = [];
  const ways = new Map<string, Vec3 | null>();
  for (let f = 0; f + 1 < faceStarts.length; f++) {
    const own = [...corners.subarray(faceStarts[f], faceStarts[f + 1])];
    const points = own.map(at);
    const way = crossOf(points);
    const cut = triangulate(points);
    for (let t = 0; t < cut.length; t += 3) {
      const triangle = [own[cut[t]], own[cut[t + 1]], own[cut[t + 2]]];
      indices.push(...triangle);
      ways.set(keyOf(triangle), way);
    }
  }
  // the tree puts its triangles in an order of its own
  const surface = SculptSurface.build({ positions: Float32Array.from(positions), indices: Uint32Array.from(indices) });
  return (p) => {
    const { triangle } = surface.closest(p);
    return ways.get(keyOf([...surface.indices.subarray(3 * triangle, 3 * triangle + 3)])) ?? null;
  };
}

const keyOf = (triangle: readonly number[]): string => [...triangle].sort((a, b) => a - b).join(' ');

function crossOf(points: readonly Vec3[]): Vec3 | null {
  const n = areaNormal(points);
  const edges = points.map((p, i) => sub(points[(i + 1) % points.length], p));
  const x = normalize(edges[0]);
  const y = normalize(cross(n, x));
  let [re, im, total] = [0, 0, 0];
  for (const e of edges) {
    const l = length(e);
    const turn = 4 * Math.atan2(dot(e, y), dot(e, x));
    re += l * Math.cos(turn);
    im += l * Math.sin(turn);
    total += l;
  }
  const clear = Math.hypot(re, im) / total;
  if (!(clear > UNCLEAR)) return null;
  const turn = Math.atan2(im, re) / 4;
  return scale(add(scale(x, Math.cos(turn)), scale(y, Math.sin(turn))), clear);
}
