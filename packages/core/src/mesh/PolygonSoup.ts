import type { ChannelSpec } from './Delta';

/**
 * Polygons as files hold them: no adjacency, anything goes. Readers make it, writers take it.
 * Corner c of face f is corners[faceStarts[f] + c].
 */
export interface PolygonSoup {
  /** f64[3·V] xyz…, file units */
  positions: Float64Array;
  /** u32[F + 1], first corner of each face, the last entry closing */
  faceStarts: Uint32Array;
  /** u32[…] vertex of each corner */
  corners: Uint32Array;
  /** attribute values carried along, rows as the channel's domain has them */
  channels?: { spec: ChannelSpec; data: Float32Array | Int32Array }[];
}

export const faceCountOf = (soup: PolygonSoup): number => soup.faceStarts.length - 1;

/** f + 1 starts 0, 3, 6 … for `faces` triangles. */
export function triangleStarts(faces: number): Uint32Array {
  const starts = new Uint32Array(faces + 1);
  for (let f = 0; f <= faces; f++) starts[f] = 3 * f;
  return starts;
}

/** A soup from nested lists; for tests and small shapes. */
export function soupOf(points: readonly (readonly number[])[], faces: readonly (readonly number[])[]): PolygonSoup {
  const faceStarts = new Uint32Array(faces.length + 1);
  faces.forEach((f, i) => (faceStarts[i + 1] = faceStarts[i] + f.length));
  return { positions: Float64Array.from(points.flat()), faceStarts, corners: Uint32Array.from(faces.flat()) };
}
