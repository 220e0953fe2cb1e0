import * as z from 'zod/mini';
import { TopologyError } from '../errors';
import { addFace, NONE, type PolyMesh } from '../mesh';
import { operator, plural } from './operator';
import { Corner, EdgeId, VertexId, vertexOf } from './params';

/**
 * Draws new quads out of border edges: each edge keeps its place and gets a partner further out, neighbours
 * sharing their spokes. `ends` says where each end of the edges goes. An end that goes onto a vertex welds
 * there. New faces take their neighbour's winding and attributes. The selection is the new outer edges.
 */
export const drawOut = operator({
  name: 'draw-out',
  title: 'Draw out',
  params: z.object({
    edges: z.array(EdgeId).check(z.minLength(1)),
    ends: z.array(z.object({ from: VertexId, to: Corner })),
  }),
  run(mesh, _selection, { edges, ends }) {
    const halves = edges.map((e) => openHalf(mesh, e));
    const destination = new Map(ends.map(({ from, to }) => [from, vertexOf(mesh, to)]));
    const outer: number[] = [];
    for (const h of halves) {
      const corners = [mesh.origin(h), mesh.target(h)];
      const far = corners.map((v) => end(destination, v));
      const loop = [corners[0], corners[1], far[1], far[0]].filter((v, i, all) => all.indexOf(v) === i);
      const face = addFace(mesh, loop);
      inheritFace(mesh, h ^ 1, face, far);
      const farEdge = mesh.findHalf(far[1], far[0]);
      if (farEdge !== NONE) outer.push(farEdge >> 1);
    }
    const made = ends.filter(({ to }) => 'point' in to).length;
    return {
      selection: { vertices: [], edges: outer, faces: [] },
      report: {
        sentence: `${plural(halves.length, 'face')} drawn out, ${plural(made, 'new point')}`,
        counts: { faces: halves.length, vertices: made },
      },
    };
  },
});

/** The side of an edge that is free to take a face. A loose edge gives its even side. */
export function openHalf(mesh: PolyMesh, e: number): number {
  if (!mesh.hasEdge(e))
    throw new TopologyError('NOTHING_PICKED', 'The picked edge is no longer there.', { edges: [e] });
  const h = [2 * e, 2 * e + 1].find((g) => mesh.face(g) === NONE);
  if (h === undefined)
    throw new TopologyError('NOT_A_BORDER', 'This edge has faces on both sides; draw out of a border edge.', {
      edges: [e],
    });
  return h;
}

function end(destination: ReadonlyMap<number, number>, v: number): number {
  const w = destination.get(v);
  if (w === undefined)
    throw new TopologyError('NOTHING_PICKED', 'Every end of the drawn edges needs a place to go.', { vertices: [v] });
  return w;
}

/**
 * The new face's attributes are those of the face beside `twin`; each of its corners has those of the old corner at its spoke. `far` are
 * the new ends of the spokes from the twin's end and from its start.
 */
export function inheritFace(mesh: PolyMesh, twin: number, face: number, far: readonly number[]): void {
  const from = mesh.face(twin);
  if (from === NONE) return;
  for (const column of mesh.channelColumns('face')) column.copyRow(from, face);
  const columns = mesh.channelColumns('corner');
  if (columns.length === 0) return;
  const old = { [mesh.origin(twin)]: twin, [mesh.target(twin)]: mesh.next(twin) };
  const spoke = { [far[0]]: mesh.target(twin), [far[1]]: mesh.origin(twin) };
  for (const h of mesh.faceHalves(face)) {
    const v = mesh.origin(h);
    for (const column of columns) column.copyRow(old[v] ?? old[spoke[v]], h);
  }
}
