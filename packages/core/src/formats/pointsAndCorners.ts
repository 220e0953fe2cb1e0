import type { PolygonSoup } from '../mesh';

/** Corner normals as one unit normal a point: their mean. f32[3·V]; +z where a point has none. Linear. */
export function pointNormals({ positions, corners }: PolygonSoup, normals: Float32Array): Float32Array {
  const out = new Float32Array(positions.length);
  corners.forEach((v, c) => {
    for (let k = 0; k < 3; k++) out[3 * v + k] += normals[3 * c + k];
  });
  for (let v = 0; v < out.length; v += 3) {
    const l = Math.hypot(out[v], out[v + 1], out[v + 2]);
    if (l === 0) out[v + 2] = 1;
    else for (let k = 0; k < 3; k++) out[v + k] /= l;
  }
  return out;
}

/** Values a point as values a corner. Linear. */
export function spread(rows: Float32Array, stride: number, corners: Uint32Array): Float32Array {
  const out = new Float32Array(stride * corners.length);
  corners.forEach((v, c) => out.set(rows.subarray(stride * v, stride * v + stride), stride * c));
  return out;
}
