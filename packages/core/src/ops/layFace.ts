import * as z from 'zod/mini';
import { TopologyError } from '../errors';
import { cross, dot, sub, type Vec3 } from '../math';
import { addFace, areaNormal, NONE, type PolyMesh } from '../mesh';
import { operator, plural } from './operator';
import { Corner, Point, vertexOf } from './params';

/**
 * Lays one face over three or more corners, new points or vertices that are there. `facing` is the direction
 * to the viewer: the face is wound to look that way, unless a neighbour's winding settles it. Corners
 * clicked crosswise are put in order. Refuses what `addFace` refuses.
 */
export const layFace = operator({
  name: 'lay-face',
  title: 'Lay face',
  params: z.object({ corners: z.array(Corner).check(z.minLength(3)), facing: z.optional(Point) }),
  run(mesh, _selection, { corners, facing }) {
    const made = corners.filter((c) => 'point' in c).length;
    let vertices = uncrossed(
      mesh,
      corners.map((c) => vertexOf(mesh, c)),
    );
    if (facing && dot(areaNormal(vertices.map((v) => mesh.point(v))), facing) < 0) vertices = [...vertices].reverse();
    if (isBlocked(mesh, vertices) && !isBlocked(mesh, [...vertices].reverse())) vertices = [...vertices].reverse();
    refuseEmpty(mesh, vertices);
    const face = addFace(mesh, vertices);
    const what =
      vertices.length === 3 ? 'triangle' : vertices.length === 4 ? 'quad' : `face with ${vertices.length} sides`;
    return {
      selection: { vertices: [], edges: [], faces: [face] },
      report: { sentence: `1 ${what} laid, ${plural(made, 'new point')}`, counts: { faces: 1, vertices: made } },
    };
  },
});

const isBlocked = (mesh: PolyMesh, vertices: readonly number[]): boolean =>
  vertices.some((u, i) => {
    const h = mesh.findHalf(u, vertices[(i + 1) % vertices.length]);
    return h !== NONE && mesh.face(h) !== NONE;
  });

function refuseEmpty(mesh: PolyMesh, vertices: readonly number[]): void {
  const points = vertices.map((v) => mesh.point(v));
  const n = areaNormal(points);
  if (n[0] === 0 && n[1] === 0 && n[2] === 0)
    throw new TopologyError('TOO_FEW_CORNERS', 'These corners lie on one line; a face needs an area.', {
      vertices: [...vertices],
    });
}

/** Four corners in an order that does not cross itself; other counts stay as they are. */
function uncrossed(mesh: PolyMesh, vertices: number[]): number[] {
  if (vertices.length !== 4 || new Set(vertices).size !== 4) return vertices;
  const [a, b, c, d] = vertices;
  const orders = [vertices, [a, b, d, c], [a, c, b, d]];
  const folds = (order: number[]): number => foldedCorners(order.map((v) => mesh.point(v)));
  return orders.find((o) => folds(o) === 0) ?? vertices;
}

function foldedCorners(p: Vec3[]): number {
  const n = areaNormal(p);
  return p.filter((_, i) => dot(cross(sub(p[i], p[(i + 3) % 4]), sub(p[(i + 1) % 4], p[i])), n) <= 0).length > 1
    ? 1
    : 0;
}
