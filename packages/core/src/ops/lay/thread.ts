import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { addEdge, NONE, releasedTest, type PolyMesh } from '../../mesh';
import { operator, plural } from '../operator';
import { Corner, vertexOf } from '../params';
import { only } from '../picked';

/**
 * Lays a chain of edges without faces over points, new ones or vertices that are there; closed, it goes back to its first point. The selection
 * is the last point. Refuses (VERTEX_CLOSED) a point with faces all round. Cost: the points.
 */
export const layThread = operator({
  name: 'lay-thread',
  title: 'Thread',
  params: z.object({ corners: z.array(Corner).check(z.minLength(1)), closed: z._default(z.boolean(), false) }),
  run(mesh, _selection, { corners, closed }) {
    const vertices = corners.map((c) => vertexOf(mesh, c)).filter((v, i, all) => i === 0 || v !== all[i - 1]);
    const run = closed && vertices.length > 2 ? [...vertices, vertices[0]] : vertices;
    let made = 0;
    for (let i = 1; i < run.length; i++) {
      if (mesh.findHalf(run[i - 1], run[i]) === NONE) made++;
      addEdge(mesh, run[i - 1], run[i]);
    }
    return {
      selection: only({ vertices: [run[run.length - 1]] }),
      report: {
        sentence: made > 0 ? `Thread of ${plural(made, 'edge')}` : '1 point of a thread',
        counts: { edges: made },
      },
    };
  },
});

/** Points at which a thread ends in the open, with one loose edge and no face, but for those that the artist released. */
export function threadEnds(mesh: PolyMesh): number[] {
  const isReleased = releasedTest(mesh);
  return [...mesh.vertices()].filter((v) => {
    const halves = mesh.vertexHalves(v);
    return halves.length === 1 && mesh.isLooseEdge(halves[0] >> 1) && !isReleased([v]);
  });
}

/** Refuses when there are no threads to work on. */
export function requireThreads(mesh: PolyMesh): number[] {
  const loose = [...mesh.edges()].filter((e) => mesh.isLooseEdge(e));
  if (loose.length === 0)
    throw new TopologyError('NOTHING_PICKED', 'There are no threads here; draw chains of edges with Thread first.');
  return loose;
}
