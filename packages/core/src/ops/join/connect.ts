import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { NONE, type PolyMesh } from '../../mesh';
import { cutAlong, planeThrough } from '../cut/cut';
import { addEdgePoints, splitFace } from '../cut/edgePoints';
import { straightCut } from '../cut/march';
import type { Ground } from '../ground';
import { operator, plural } from '../operator';
import { edgesBetween, only } from '../picked';

/**
 * Joins picked points by new edges, face by face; two points further apart by a straight line over the faces between.
 * Of picked edges the middles are joined. Refuses (NO_WAY) what has no face in common and no surface between.
 */
export const connect = operator({
  name: 'connect',
  title: 'Connect',
  params: z.object({}),
  run(mesh, selection, _params, ground) {
    const edges = selection.edges.filter((e) => mesh.hasEdge(e));
    const vertices =
      edges.length > 1
        ? addEdgePoints(mesh, edges.map((edge) => ({ edge, at: 0.5 })), ground) // prettier-ignore
        : selection.vertices.filter((v) => mesh.hasVertex(v));
    if (vertices.length < 2)
      throw new TopologyError('NOTHING_PICKED', 'Pick two points, or two edges of a face, to connect.');
    const lines = joinInFaces(mesh, new Set(vertices));
    if (lines.length === 0 && vertices.length === 2) lines.push(...joinFar(mesh, vertices[0], vertices[1], ground));
    if (lines.length === 0)
      throw new TopologyError('NO_WAY', 'No face has two of these points that are not joined already.', { vertices });
    return {
      selection: only({ edges: edgesBetween(mesh, lines) }),
      report: { sentence: `${plural(lines.length, 'edge')} connected`, counts: { edges: lines.length, faces: lines.length } }, // prettier-ignore
    };
  },
});

function joinInFaces(mesh: PolyMesh, picked: ReadonlySet<number>): [number, number][] {
  const faces = new Set<number>();
  for (const v of picked) for (const f of mesh.vertexFaces(v)) faces.add(f);
  const lines: [number, number][] = [];
  for (const face of faces) {
    const here = mesh.faceVertices(face).filter((v) => picked.has(v));
    let f = face;
    for (let i = 0; i < (here.length > 2 ? here.length : here.length - 1); i++) {
      const [a, b] = [here[i], here[(i + 1) % here.length]];
      if (mesh.findHalf(a, b) !== NONE) continue;
      const parts = splitFace(mesh, f, a, b);
      lines.push([a, b]);
      f = parts[1];
    }
  }
  return lines;
}

function joinFar(mesh: PolyMesh, a: number, b: number, ground: Ground): [number, number][] {
  if (mesh.findHalf(a, b) !== NONE)
    throw new TopologyError('NO_WAY', 'These points are connected already.', { vertices: [a, b] });
  const [from, to] = [{ vertex: a }, { vertex: b }];
  return cutAlong(mesh, straightCut(mesh, from, to, planeThrough(mesh, from, to, null)), ground);
}
