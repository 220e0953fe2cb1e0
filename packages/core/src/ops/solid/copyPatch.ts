import { TopologyError } from '../../errors';
import { planeDistance, type MirrorPlane, type Vec3 } from '../../math';
import { addFace, addVertex, type PolyMesh } from '../../mesh';
import type { Ground } from '../ground';

/**
 * A copy of faces with all their attributes, every point sent where `place` says. A copy that mirrors is wound the other way. Returns
 * the new faces, in order. Refuses (OFF_MIDLINE) a point on the other side of the midline. Cost: the faces.
 */
export function copyPatch(
  mesh: PolyMesh,
  faces: readonly number[],
  place: (p: Vec3) => Vec3,
  { plane }: Ground,
  mirrors = false,
): number[] {
  const copy = new Map<number, number>();
  const own = mesh.channelColumns('vertex');
  const side = plane ? sideOf(mesh, faces, plane) : 0;
  const at = (v: number): number => {
    const known = copy.get(v);
    if (known !== undefined) return known;
    const to = place(mesh.point(v));
    if (plane && side * planeDistance(to, plane) < 0)
      throw new TopologyError('OFF_MIDLINE', 'A copy would lie across the midline, where the mirrored half is; keep to one side, or make the mirror real first.', { vertices: [v] }); // prettier-ignore
    const w = addVertex(mesh, to);
    for (const c of own) c.copyRow(v, w);
    copy.set(v, w);
    return w;
  };
  const [faceColumns, edgeColumns, cornerColumns] = (['face', 'edge', 'corner'] as const).map((d) => mesh.channelColumns(d)); // prettier-ignore
  return faces.map((f) => {
    const old = mesh.faceHalves(f);
    const corners = old.map((h) => at(mesh.origin(h)));
    const g = addFace(mesh, mirrors ? corners.reverse() : corners);
    for (const c of faceColumns) c.copyRow(f, g);
    if (edgeColumns.length + cornerColumns.length === 0) return g;
    const n = old.length;
    mesh.faceHalves(g).forEach((h, k) => {
      // one that mirrors runs from the last corner back to the first
      const [corner, edge] = mirrors ? [old[n - 1 - k], old[(2 * n - 2 - k) % n]] : [old[k], old[k]];
      for (const c of cornerColumns) c.copyRow(corner, h);
      for (const c of edgeColumns) c.copyRow(edge >> 1, h >> 1);
    });
    return g;
  });
}

/** The side of the plane that faces lie on, points on it aside: 1, −1, or 0 where all lie on it. */
function sideOf(mesh: PolyMesh, faces: readonly number[], plane: MirrorPlane): number {
  for (const f of faces)
    for (const v of mesh.faceVertices(f)) {
      const side = Math.sign(planeDistance(mesh.point(v), plane));
      if (side !== 0) return side;
    }
  return 0;
}

/** All faces that hang together with the given ones. Cost: the parts. */
export function wholeParts(mesh: PolyMesh, faces: Iterable<number>): number[] {
  const queue = [...new Set(faces)];
  const isIn = new Uint8Array(mesh.faceRows);
  for (const f of queue) isIn[f] = 1;
  const isPassed = new Uint8Array(mesh.vertexRows);
  for (const f of queue)
    for (const v of mesh.faceVertices(f)) {
      if (isPassed[v]) continue;
      isPassed[v] = 1;
      for (const g of mesh.vertexFaces(v)) {
        if (isIn[g]) continue;
        isIn[g] = 1;
        queue.push(g);
      }
    }
  return queue;
}
