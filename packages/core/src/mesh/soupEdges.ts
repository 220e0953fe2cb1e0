import type { PolygonSoup } from './PolygonSoup';

/** A key of an unordered pair of points, exact while V² fits a double. */
export const pairKey = (a: number, b: number, points: number): number => (a < b ? a * points + b : b * points + a);

/** For each edge of a soup, by pair of points: the corners its faces leave it from, in the order of faces. Linear. */
export function soupEdges({ positions, faceStarts, corners }: PolygonSoup): Map<number, number[]> {
  const points = positions.length / 3;
  const edges = new Map<number, number[]>();
  for (let f = 0; f + 1 < faceStarts.length; f++)
    for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
      const next = c + 1 < faceStarts[f + 1] ? c + 1 : faceStarts[f];
      const key = pairKey(corners[c], corners[next], points);
      const known = edges.get(key);
      if (known) known.push(c);
      else edges.set(key, [c]);
    }
  return edges;
}

/** u32[corners], the face of each corner. */
export function facesOfCorners({ faceStarts, corners }: PolygonSoup): Uint32Array {
  const faceOf = new Uint32Array(corners.length);
  for (let f = 0; f + 1 < faceStarts.length; f++) faceOf.fill(f, faceStarts[f], faceStarts[f + 1]);
  return faceOf;
}

/** The corner after `c` round its face. */
export function nextCorner({ faceStarts }: PolygonSoup, faceOf: Uint32Array, c: number): number {
  return c + 1 < faceStarts[faceOf[c] + 1] ? c + 1 : faceStarts[faceOf[c]];
}
