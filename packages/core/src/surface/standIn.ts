import type { TriangleData } from './sculptFromSoup';
import { vertexNormals } from './vertexNormals';

/** A sculpt of more triangles than this is drawn by a stand-in; snapping and measuring always use the full one. */
export const STAND_IN_ABOVE = 500_000;
/** triangles of a stand-in, at most: about what a small graphics chip turns smoothly */
const STAND_IN_TRIANGLES = 300_000;

/** Triangles to draw with. */
export interface DrawnTriangles extends TriangleData {
  /** f32[3·V], unit */
  normals: Float32Array;
  /** the sculpt's vertex that each is, u32[V]; none where they are the sculpt's own */
  vertexOf?: Uint32Array;
}

/**
 * Fewer triangles that look like the sculpt from where it is worked on (meshoptimizer's quadric simplification, borders kept),
 * with the sculpt's own normals, so that its detail still shades. About 1.5 µs a triangle. `bound` is how far it may lie from
 * the sculpt by the simplifier's own measure, in units of the positions.
 */
export async function makeStandIn(
  { positions, indices }: TriangleData,
  triangles = STAND_IN_TRIANGLES,
): Promise<DrawnTriangles & { vertexOf: Uint32Array; bound: number }> {
  const { MeshoptSimplifier } = await import('meshoptimizer/simplifier');
  await MeshoptSimplifier.ready;
  const [kept, error] = MeshoptSimplifier.simplify(indices, positions, 3, 3 * triangles, 1);
  const scale = MeshoptSimplifier.getScale(positions, 3);
  const normals = vertexNormals(positions, indices);
  const [remap, count] = MeshoptSimplifier.compactMesh(kept);
  const drawn = { positions: new Float32Array(3 * count), normals: new Float32Array(3 * count), indices: kept, vertexOf: new Uint32Array(count) }; // prettier-ignore
  for (let v = 0; v < remap.length; v++) {
    const to = remap[v];
    if (to >= count) continue;
    drawn.vertexOf[to] = v;
    for (let k = 0; k < 3; k++) {
      drawn.positions[3 * to + k] = positions[3 * v + k];
      drawn.normals[3 * to + k] = normals[3 * v + k];
    }
  }
  return { ...drawn, bound: error * scale };
}
