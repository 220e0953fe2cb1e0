import * as z from 'zod/mini';
import { TopologyError } from '../errors';
import { EMPTY_SELECTION, liveSelection, removeEdges, removeFaces, removeVertices } from '../mesh';
import { operator, plural } from './operator';

/** Deletes the picked elements: faces alone, edges with the faces beside them, vertices with everything round them. */
export const deletePicked = operator({
  name: 'delete',
  title: 'Delete',
  params: z.object({}),
  run(mesh, selection) {
    const live = liveSelection(mesh, selection);
    if (live.vertices.length + live.edges.length + live.faces.length === 0)
      throw new TopologyError('NOTHING_PICKED', 'Nothing is picked; pick what should go first.');
    const before = [mesh.faceCount, mesh.vertexCount, mesh.edgeCount];
    removeFaces(mesh, live.faces);
    removeEdges(mesh, live.edges);
    removeVertices(mesh, live.vertices);
    const [faces, vertices, edges] = [mesh.faceCount, mesh.vertexCount, mesh.edgeCount].map((n, i) => before[i] - n);
    return {
      selection: EMPTY_SELECTION,
      report: {
        sentence: `${plural(faces, 'face')} and ${plural(vertices, 'point')} deleted`,
        counts: { faces, vertices, edges },
      },
    };
  },
});
