import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { NONE, Rebuild, type PolyMesh, type Selection } from '../../mesh';
import { operator, plural } from '../operator';
import { toggle } from '../params';
import { facesOf, only } from '../picked';

const Params = z.object({
  tidy: toggle('Take out points left on a line', true, 'Points that hold two edges only'),
});

/**
 * Takes edges, vertices or the lines inside a picked patch of faces away without leaving a hole: faces merge.
 * Points left with two edges go too, when wanted. Refuses (HAS_A_HOLE, VERTEX_REPEATED) what would give a face
 * a hole or let it touch itself.
 */
export const dissolve = operator({
  name: 'dissolve',
  title: 'Dissolve',
  params: Params,
  run(mesh, selection, { tidy }) {
    const edges = edgesToDissolve(mesh, selection);
    const groups = groupsOver(mesh, edges);
    const candidates = new Set<number>();
    for (const e of edges) for (const h of [2 * e, 2 * e + 1]) candidates.add(mesh.origin(h));
    const outlines = groups.map((faces) => ({ faces, outline: outlineOf(mesh, faces) }));
    const rebuild = new Rebuild(mesh, groups.flat());
    for (const { faces, outline } of outlines) rebuild.face(outline, faces[0]);
    const merged = rebuild.finish();
    const gone = tidy ? dissolveStraight(mesh, candidates) : 0;
    const taken = gone > 0 ? `, ${plural(gone, 'point')} with them` : '';
    return {
      selection: only({ faces: merged.filter((f) => mesh.hasFace(f)) }),
      report: {
        sentence: `${plural(edges.size, 'edge')} dissolved${taken}, ${plural(mesh.faceCount, 'face')} left`,
        counts: { edges: edges.size, vertices: gone, merged: merged.length },
      },
    };
  },
});

function edgesToDissolve(mesh: PolyMesh, s: Selection): Set<number> {
  const edges = new Set<number>();
  const between = (e: number): boolean => facesOf(mesh, e).length === 2;
  for (const e of s.edges) if (mesh.hasEdge(e) && between(e)) edges.add(e);
  for (const v of s.vertices)
    if (mesh.hasVertex(v)) for (const h of mesh.vertexHalves(v)) if (between(h >> 1)) edges.add(h >> 1);
  const faces = new Set(s.faces);
  for (const f of faces)
    if (mesh.hasFace(f)) for (const h of mesh.faceHalves(f)) if (faces.has(mesh.face(h ^ 1))) edges.add(h >> 1);
  if (edges.size === 0)
    throw new TopologyError(
      'NOTHING_PICKED',
      'Pick edges that have a face on both sides, points, or faces side by side.',
    );
  return edges;
}

/** Faces that hang together over the given edges. */
function groupsOver(mesh: PolyMesh, edges: ReadonlySet<number>): number[][] {
  const seen = new Set<number>();
  const groups: number[][] = [];
  for (const e of edges) {
    const start = mesh.face(2 * e);
    if (seen.has(start)) continue;
    const group = [start];
    seen.add(start);
    for (const f of group)
      for (const h of mesh.faceHalves(f)) {
        const g = mesh.face(h ^ 1);
        if (!edges.has(h >> 1) || g === NONE || seen.has(g)) continue;
        seen.add(g);
        group.push(g);
      }
    groups.push(group);
  }
  return groups;
}

/** The one outline of a set of faces, in winding order. Throws HAS_A_HOLE, VERTEX_REPEATED. */
export function outlineOf(mesh: PolyMesh, faces: readonly number[]): number[] {
  const inside = new Set(faces);
  const rim = faces.flatMap((f) => mesh.faceHalves(f)).filter((h) => !inside.has(mesh.face(h ^ 1)));
  if (rim.length === 0)
    throw new TopologyError('HAS_A_HOLE', 'These faces close on themselves; no single face can take their place.', { faces: [...faces] }); // prettier-ignore
  const outline: number[] = [];
  let h = rim[0];
  do {
    outline.push(mesh.origin(h));
    h = mesh.next(h);
    while (inside.has(mesh.face(h ^ 1))) h = mesh.next(h ^ 1);
  } while (h !== rim[0]);
  if (outline.length < rim.length)
    throw new TopologyError('HAS_A_HOLE', 'The merged face would have a hole in it; leave one edge that leads to the hole.', { faces: [...faces] }); // prettier-ignore
  if (new Set(outline).size !== outline.length)
    throw new TopologyError('VERTEX_REPEATED', 'The merged face would touch itself in a point; dissolve fewer edges.', { faces: [...faces] }); // prettier-ignore
  return outline;
}

/**
 * Takes out those of the vertices that hold two edges only, where every face there keeps three corners and no
 * second edge would come to lie beside one. Returns how many went.
 */
export function dissolveStraight(mesh: PolyMesh, vertices: Iterable<number>): number {
  let gone = 0;
  for (const v of vertices) {
    if (!mesh.hasVertex(v)) continue;
    const halves = mesh.vertexHalves(v);
    if (halves.length !== 2) continue;
    const [a, b] = halves.map((h) => mesh.target(h));
    const faces = mesh.vertexFaces(v);
    if (faces.length === 0 || mesh.findHalf(a, b) !== NONE) continue;
    if (faces.some((f) => mesh.faceHalves(f).length < 4)) continue;
    const left = faces.map((f) => ({ f, corners: mesh.faceVertices(f).filter((w) => w !== v) }));
    const rebuild = new Rebuild(mesh, faces);
    rebuild.edge(a, b, halves[0] >> 1);
    for (const { f, corners } of left) rebuild.face(corners, f);
    rebuild.finish();
    gone++;
  }
  return gone;
}
