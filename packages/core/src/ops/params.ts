import * as z from 'zod/mini';
import { addVertex, type PolyMesh } from '../mesh';
import { TopologyError } from '../errors';

export const VertexId = z.int().check(z.minimum(0));
export const EdgeId = z.int().check(z.minimum(0));
export const Point = z.tuple([z.number(), z.number(), z.number()]);

/** Where a corner goes: onto a vertex that is there, or to a new point in file units. */
export const Corner = z.union([z.object({ vertex: VertexId }), z.object({ point: Point })]);
export type Corner = z.infer<typeof Corner>;

/** The vertex of a corner, made when it is a new point. Throws NOTHING_PICKED for a vertex that is gone. */
export function vertexOf(mesh: PolyMesh, corner: Corner): number {
  if ('point' in corner) return addVertex(mesh, corner.point);
  if (!mesh.hasVertex(corner.vertex))
    throw new TopologyError('NOTHING_PICKED', 'A picked point is no longer there; pick it again.', {
      vertices: [corner.vertex],
    });
  return corner.vertex;
}
