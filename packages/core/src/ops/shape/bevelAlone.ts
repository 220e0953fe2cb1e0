import { TopologyError } from '../../errors';
import { lerp, roundedCorner } from '../../math';
import { between, Rebuild, type PolyMesh } from '../../mesh';
import { addEdgePoints, type EdgePoint } from '../cut/edgePoints';
import type { Ground } from '../ground';
import { edgeLength } from '../picked';

/** Of the edges beside, what a lone bevel may take at most. */
const MOST = 0.48;

/**
 * Bevels one edge that no other bevelled edge meets: both its ends open along the edges beside, and keep their point as the tip of a
 * face of their own, so that the strip can have a width. Returns the strip's faces. Refuses (NO_WAY) where an end has no
 * other edges. Cost: the faces round the edge.
 */
export function bevelAlone(
  mesh: PolyMesh,
  [u, v]: readonly [number, number],
  width: number,
  segments: number,
  ground: Ground,
): number[] {
  const h = mesh.findHalf(u, v);
  if (mesh.valence(u) < 3 || mesh.valence(v) < 3)
    throw new TopologyError('NO_WAY', 'This edge ends in a point that has no edges beside to open along.', { edges: [h >> 1] }); // prettier-ignore
  // left of the edge at u and v, then right
  const beside = [mesh.prev(h), mesh.next(h), mesh.next(h ^ 1), mesh.prev(h ^ 1)];
  const tips = [u, v, u, v];
  const points = beside.map((side, i): EdgePoint => {
    const share = Math.min(MOST, width / Math.max(edgeLength(mesh, side >> 1), 1e-12));
    return { edge: side >> 1, at: mesh.origin(side & ~1) === tips[i] ? share : 1 - share };
  });
  const [a, c, b, d] = addEdgePoints(mesh, points, { ...ground, form: null });
  const now = mesh.findHalf(u, v);
  const sides = [mesh.face(now), mesh.face(now ^ 1)].map((f) => ({ f, outline: mesh.faceVertices(f).filter((w) => w !== u && w !== v) })); // prettier-ignore
  const rebuild = new Rebuild(mesh, [sides[0].f, sides[1].f]);
  const rows = [[a, u, b], [c, v, d]].map(([left, tip, right]) => {
    const inner = Array.from({ length: segments - 1 }, (_, k) => {
      const t = (k + 1) / segments;
      return rebuild.vertex(roundedCorner(mesh.point(left), lerp(mesh.point(tip), lerp(mesh.point(left), mesh.point(right), 0.5), 0.5), mesh.point(right), t), between(left, right, t)); // prettier-ignore
    });
    return [left, ...inner, right];
  }); // prettier-ignore
  const [atU, atV] = rows;
  for (const { f, outline } of sides) rebuild.face(outline, f);
  const like = sides[0].f;
  const strip = Array.from({ length: segments }, (_, i) => rebuild.face([atV[i], atU[i], atU[i + 1], atV[i + 1]], like)); // prettier-ignore
  rebuild.face([u, ...[...atU].reverse()], like);
  rebuild.face([v, ...atV], like);
  const all = rebuild.finish();
  return strip.map((k) => all[k]);
}
