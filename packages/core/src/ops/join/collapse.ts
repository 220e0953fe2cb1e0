import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { meanPoint } from '../../math';
import { edgeRing, reweave, type PolyMesh, type Selection } from '../../mesh';
import { onMidline, settle } from '../ground';
import { operator, plural } from '../operator';
import { choice } from '../params';
import { only, pickedEdges } from '../picked';

/**
 * Draws edges together: those that hang together come to one point in their middle. Picked rungs of a ring each come to
 * a point, so that a whole strip of faces goes; picked faces go into a point each patch, or with their strip.
 * Refuses what would pinch the mesh.
 */
export const collapse = operator({
  name: 'collapse',
  title: 'Collapse',
  params: z.object({
    take: choice(
      'Take',
      [
        ['picked', 'what is picked'],
        ['ring', 'the whole ring of each edge'],
      ],
      'picked',
    ),
  }),
  run(mesh, selection, { take }, ground) {
    const before = mesh.faceCount;
    const edges = edgesToCollapse(mesh, selection, take);
    const sets = setsOver(mesh, edges);
    const replacement = new Map<number, number>();
    const stays = sets.map((set) => {
      const stay = set.find((v) => onMidline(mesh, v, ground)) ?? set[0];
      for (const v of set) if (v !== stay) replacement.set(v, stay);
      return { stay, at: meanPoint(set.map((v) => mesh.point(v))) };
    });
    reweave(mesh, replacement);
    const left = stays.filter(({ stay }) => mesh.hasVertex(stay) && mesh.valence(stay) > 0);
    if (mesh.faceCount === 0)
      throw new TopologyError('NOTHING_PICKED', 'Nothing would be left of the mesh; pick fewer edges.', { edges });
    for (const { stay, at } of left) settle(mesh, stay, at, ground);
    const gone = before - mesh.faceCount;
    return {
      selection: only({ vertices: left.map(({ stay }) => stay) }),
      report: { sentence: `${plural(edges.length, 'edge')} collapsed, ${plural(gone, 'face')} fewer`, counts: { edges: edges.length, faces: -gone, points: left.length } }, // prettier-ignore
    };
  },
});

function edgesToCollapse(mesh: PolyMesh, selection: Selection, take: 'picked' | 'ring'): number[] {
  const edges = pickedEdges(mesh, selection, 'Pick edges or faces to collapse.');
  if (take === 'picked') return edges;
  return [...new Set(edges.flatMap((e) => edgeRing(mesh, 2 * e).halves.map((h) => h >> 1)))];
}

/** The vertices of edges, in sets that hang together by them. */
function setsOver(mesh: PolyMesh, edges: readonly number[]): number[][] {
  const parent = new Map<number, number>();
  const root = (v: number): number => {
    let w = v;
    while (parent.has(w) && parent.get(w) !== w) w = parent.get(w) as number;
    return w;
  };
  for (const e of edges) {
    const [a, b] = [root(mesh.origin(2 * e)), root(mesh.target(2 * e))];
    if (!parent.has(a)) parent.set(a, a);
    parent.set(b, a);
  }
  const sets = new Map<number, number[]>();
  for (const v of parent.keys()) sets.set(root(v), [...(sets.get(root(v)) ?? []), v]);
  return [...sets.values()].filter((s) => s.length > 1);
}
