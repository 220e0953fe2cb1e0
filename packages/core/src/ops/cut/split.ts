import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { lerp, type Vec3 } from '../../math';
import { copyOf, NONE, Rebuild, type PolyMesh } from '../../mesh';
import { newPlace, settle, type Ground } from '../ground';
import { operator, plural, type Report } from '../operator';
import { count } from '../params';
import { edgesBetween, only } from '../picked';
import { addEdgePoints } from './edgePoints';

/**
 * Splits picked edges by points on them, or picked vertices into two with an edge between. The faces beside take the new
 * points as further corners, and are lit until they are quads again.
 */
export const split = operator({
  name: 'split',
  title: 'Split',
  params: z.object({ count: count('Points on each edge', { min: 1, max: 20, start: 1 }) }),
  run(mesh, selection, { count: n }, ground) {
    const edges = selection.edges.filter((e) => mesh.hasEdge(e));
    const vertices = edges.length > 0 ? [] : selection.vertices.filter((v) => mesh.hasVertex(v));
    if (edges.length + vertices.length === 0)
      throw new TopologyError('NOTHING_PICKED', 'Pick edges or points to split.');
    const points = edges.flatMap((edge) => Array.from({ length: n }, (_, i) => ({ edge, at: (i + 1) / (n + 1) })));
    const made = addEdgePoints(mesh, points, ground);
    const pairs = vertices.map((v) => splitVertex(mesh, v, ground));
    return {
      selection: pairs.length > 0 ? only({ edges: edgesBetween(mesh, pairs) }) : only({ vertices: made }),
      report: (pairs.length > 0
          ? { sentence: `${plural(pairs.length, 'point')} split in two`, counts: { vertices: pairs.length } }
          : { sentence: `${plural(edges.length, 'edge')} split, ${plural(made.length, 'new point')}`, counts: { edges: edges.length, vertices: made.length } }) as Report, // prettier-ignore
    };
  },
});

/** Splits a vertex with faces all round along its straightest line of edges; each side keeps half of the faces. */
function splitVertex(mesh: PolyMesh, v: number, ground: Ground): [number, number] {
  const halves = mesh.vertexHalves(v);
  if (halves.length < 4 || mesh.isBorderVertex(v))
    throw new TopologyError('NO_WAY', 'Only a point inside with four edges or more can be split.', { vertices: [v] });
  const k = halves.length >> 1;
  const p = mesh.point(v);
  // faces between halves[0] and halves[k] go with the new point; in the turn of the mesh face(h) lies before h
  const moved = new Set<number>();
  for (let i = 1; i <= k; i++) moved.add(mesh.face(halves[i]));
  const outlines = mesh.vertexFaces(v).map((f) => ({ f, corners: mesh.faceVertices(f) }));
  const [first, last] = [mesh.target(halves[0]), mesh.target(halves[k])];
  const towards = (list: readonly number[]): Vec3 => {
    const ends = list.map((h) => mesh.point(mesh.target(h)));
    const mean = ends.reduce((s, q) => [s[0] + q[0], s[1] + q[1], s[2] + q[2]] as Vec3, [0, 0, 0] as Vec3);
    return lerp(p, [mean[0] / ends.length, mean[1] / ends.length, mean[2] / ends.length], 0.4);
  };
  const inside = halves.slice(1, k),
    outside = halves.slice(k + 1);
  const placeNew = newPlace(mesh, towards(inside.length > 0 ? inside : [halves[k]]), [], ground);
  const placeOld = towards(outside.length > 0 ? outside : [halves[0]]);
  const rebuild = new Rebuild(mesh, outlines.map((o) => o.f)); // prettier-ignore
  const w = rebuild.vertex(placeNew, copyOf(v));
  for (const { f, corners } of outlines) {
    const isMoved = moved.has(f);
    const i = corners.indexOf(v);
    const before = corners[(i + corners.length - 1) % corners.length];
    // one face on each side, next to the line of the split, comes to hold both points
    const here = before === (isMoved ? first : last) ? [isMoved ? v : w, isMoved ? w : v] : [isMoved ? w : v];
    rebuild.face([...corners.slice(0, i), ...here, ...corners.slice(i + 1)], f);
  }
  rebuild.finish();
  settle(mesh, v, placeOld, ground);
  if (mesh.findHalf(v, w) === NONE)
    throw new TopologyError('NO_WAY', 'This point cannot be split here.', { vertices: [v] });
  return [v, w];
}
