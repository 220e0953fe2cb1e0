/**
 * What a file says beside points and polygons. Every part is there only when the file has it; corner c of face f is row
 * faceStarts[f] + c.
 */
export interface SoupAttributes {
  /** f32[2·corners], texture coordinates; NaN at a corner without */
  uvs?: Float32Array;
  /** f32[3·corners], unit; zero at a corner without */
  normals?: Float32Array;
  /** f32[4·V], sRGB and alpha in [0, 1] */
  pointColours?: Float32Array;
  /** f32[4·F], sRGB and alpha in [0, 1] */
  faceColours?: Float32Array;
  groups?: FaceGroups;
  /** u32[2·hard edges], the two points of each */
  hardEdges?: Uint32Array;
}

/** Named sets of faces, one a face. */
export interface FaceGroups {
  names: string[];
  /** u32[F], index into names */
  ofFace: Uint32Array;
}

/**
 * Polygons as files hold them: no adjacency, anything goes. Readers make it, writers take it.
 * Corner c of face f is corners[faceStarts[f] + c].
 */
export interface PolygonSoup {
  /** [3·V] xyz…, file units; f32 where the file holds nothing finer */
  positions: Float64Array | Float32Array;
  /** u32[F + 1], first corner of each face, the last entry closing */
  faceStarts: Uint32Array;
  /** u32[…] vertex of each corner */
  corners: Uint32Array;
  attributes?: SoupAttributes;
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
