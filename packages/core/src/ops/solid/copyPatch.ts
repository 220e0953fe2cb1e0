import { TopologyError } from '../../errors';
import { planeDistance, type Vec3 } from '../../math';
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
  // what is copied lies on one side, its points on the midline aside
  const off = (v: number): number => (plane ? planeDistance(mesh.point(v), plane) : 0);
  const side = Math.sign(faces.flatMap((f) => mesh.faceVertices(f).map(off)).find((d) => d !== 0) ?? 0);
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
  const old = faces.map((f) => mesh.faceHalves(f));
  const made = faces.map((f, i) => {
    const corners = old[i].map((h) => at(mesh.origin(h)));
    const g = addFace(mesh, mirrors ? corners.reverse() : corners);
    for (const c of mesh.channelColumns('face')) c.copyRow(f, g);
    return g;
  });
  const edges = mesh.channelColumns('edge');
  for (const halves of edges.length > 0 ? old : [])
    for (const h of halves) {
      const [a, b] = [at(mesh.origin(h)), at(mesh.target(h))];
      const twin = mesh.findHalf(a, b);
      for (const c of edges) c.copyRow(h >> 1, twin >> 1);
    }
  const corners = mesh.channelColumns('corner');
  if (corners.length > 0)
    made.forEach((g, i) => {
      const from = new Map(old[i].map((h) => [at(mesh.origin(h)), h]));
      for (const h of mesh.faceHalves(g)) for (const c of corners) c.copyRow(from.get(mesh.origin(h)) as number, h);
    });
  return made;
}

/** All faces that hang together with the given ones. Cost: the parts. */
export function wholeParts(mesh: PolyMesh, faces: Iterable<number>): number[] {
  const seen = new Set(faces);
  const queue = [...seen];
  for (const f of queue)
    for (const v of mesh.faceVertices(f))
      for (const g of mesh.vertexFaces(v)) {
        if (seen.has(g)) continue;
        seen.add(g);
        queue.push(g);
      }
  return queue;
}
