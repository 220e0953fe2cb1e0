import { vertexNormals, type TriangleData } from '@half-loop/core/surface';

/** Moves each point along its normal by what `height` says, in cm: the fine detail of a sculpt. */
export function displace(
  { positions, indices }: TriangleData,
  height: (x: number, y: number, z: number) => number,
): TriangleData {
  const normals = vertexNormals(positions, indices);
  const out = positions.slice();
  for (let v = 0; v < out.length; v += 3) {
    const h = height(positions[v], positions[v + 1], positions[v + 2]);
    for (let k = 0; k < 3; k++) out[v + k] += normals[v + k] * h;
  }
  return { positions: out, indices };
}
