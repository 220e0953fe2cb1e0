import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { NONE, Rebuild, type PolyMesh } from '../../mesh';
import { operator, plural } from '../operator';
import { choice } from '../params';
import { edgesBetween, only, pickedEdges } from '../picked';

/**
 * Turns edges inside the two faces beside them by one corner, so that each end moves on to the next: what steers a
 * pole. Refuses (NO_WAY) border edges, and turns that would lay an edge on one that is there.
 */
export const spin = operator({
  name: 'spin',
  title: 'Spin edge',
  params: z.object({
    way: choice(
      'Turn',
      [
        ['on', 'clockwise'],
        ['back', 'counter-clockwise'],
      ],
      'on',
    ),
  }),
  run(mesh, selection, { way }) {
    const edges = pickedEdges(mesh, selection, 'Pick an edge to spin.');
    const turned = edges.filter((e) => mesh.hasEdge(e)).map((e) => spinEdge(mesh, e, way === 'back'));
    return {
      selection: only({ edges: edgesBetween(mesh, turned) }),
      report: { sentence: `${plural(turned.length, 'edge')} spun`, counts: { edges: turned.length } },
    };
  },
});

/** Spins one edge; returns the ends of the new one. Throws NO_WAY. */
export function spinEdge(mesh: PolyMesh, e: number, back: boolean): [number, number] {
  const [f, g] = [mesh.face(2 * e), mesh.face(2 * e + 1)];
  if (f === NONE || g === NONE || f === g)
    throw new TopologyError('NO_WAY', 'Only an edge between two faces can be spun.', { edges: [e] });
  // outline of both faces: u … v of f, then v … u of g
  const ring = [...walk(mesh, 2 * e), ...walk(mesh, 2 * e + 1)];
  const n = mesh.faceHalves(f).length - 1;
  const shift = back ? ring.length - 1 : 1;
  const at = (i: number): number => ring[(i + shift) % ring.length];
  const [a, b] = [at(0), at(n)];
  if (mesh.findHalf(a, b) !== NONE)
    throw new TopologyError('NO_WAY', 'An edge is there already; this one cannot spin further.', { edges: [e] });
  const outline = (from: number, count: number): number[] => Array.from({ length: count + 1 }, (_, i) => at(from + i));
  const rebuild = new Rebuild(mesh, [f, g]);
  rebuild.edge(a, b, e);
  rebuild.face(outline(0, n), f);
  rebuild.face(outline(n, ring.length - n), g);
  rebuild.finish();
  return [a, b];
}

/** The corners of a face from the end of h round to its start, without that start. */
function walk(mesh: PolyMesh, h: number): number[] {
  const corners: number[] = [];
  for (let g = mesh.next(h); g !== h; g = mesh.next(g)) corners.push(mesh.origin(g));
  return corners;
}
