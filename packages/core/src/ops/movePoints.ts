import * as z from 'zod/mini';
import { TopologyError } from '../errors';
import { isFinite3 } from '../math';
import { operator, plural } from './operator';
import { Point, VertexId } from './params';

/** Moves vertices to given places, in file units. */
export const movePoints = operator({
  name: 'move',
  title: 'Move',
  params: z.object({ points: z.array(z.object({ vertex: VertexId, to: Point })).check(z.minLength(1)) }),
  run(mesh, _selection, { points }) {
    for (const { vertex, to } of points) {
      if (!mesh.hasVertex(vertex))
        throw new TopologyError('NOTHING_PICKED', 'A picked point is no longer there; pick it again.', {
          vertices: [vertex],
        });
      if (!isFinite3(to))
        throw new TopologyError('NOT_FINITE', 'A point needs three finite coordinates.', { vertices: [vertex] });
      mesh.setPoint(vertex, to);
    }
    const vertices = points.map((p) => p.vertex);
    return {
      selection: { vertices, edges: [], faces: [] },
      report: { sentence: `${plural(vertices.length, 'point')} moved`, counts: { vertices: vertices.length } },
    };
  },
});
