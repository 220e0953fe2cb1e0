import { distance, meanPoint, type Vec3 } from '../../math';
import { addVertex, NONE, type Column, type PolyMesh } from '../../mesh';

/** Makes vertices and gives faces what those beside them have. */
export interface Carrier {
  /** A new vertex with the attributes of the border's points, by nearness. */
  vertex(at: Vec3): number;
  /** Hands a new face the attributes of the nearest face beside the border; returns it. */
  face(f: number): number;
}

/** What is laid beside a border takes over from the faces along it. `beside` are the half-edges of those faces. Cost: the border, for each. */
export function carryFrom(mesh: PolyMesh, beside: readonly number[]): Carrier {
  const known = beside.filter((h) => mesh.face(h) !== NONE);
  const faces = known.map((h) => ({ f: mesh.face(h), at: meanPoint([mesh.point(mesh.origin(h)), mesh.point(mesh.target(h))]) })); // prettier-ignore
  const corners = known.map((h) => ({ h, v: mesh.origin(h), at: mesh.point(mesh.origin(h)) }));
  const cornerColumns = mesh.channelColumns('corner'),
    faceColumns = mesh.channelColumns('face'),
    vertexColumns = mesh.channelColumns('vertex');
  const nearest = <T extends { at: Vec3 }>(list: readonly T[], p: Vec3): T =>
    list.reduce((a, b) => (distance(b.at, p) < distance(a.at, p) ? b : a));
  const blend = (column: Column, rowOf: (c: (typeof corners)[number]) => number, p: Vec3, to: number): void => {
    if (column.type === 'i32' || column.type === 'u8') return column.copyRow(rowOf(nearest(corners, p)), to);
    const weights = corners.map((c) => 1 / Math.max(distance(c.at, p), 1e-9) ** 2);
    const sum = weights.reduce((a, b) => a + b, 0);
    for (let k = 0; k < column.stride; k++)
      column.set(to, corners.reduce((s, c, i) => s + column.get(rowOf(c), k) * weights[i], 0) / sum, k); // prettier-ignore
  };
  return {
    vertex(at) {
      const v = addVertex(mesh, at);
      if (corners.length > 0) for (const c of vertexColumns) blend(c, (k) => k.v, at, v);
      return v;
    },
    face(f) {
      if (known.length === 0) return f;
      const like = nearest(faces, meanPoint(mesh.faceVertices(f).map((v) => mesh.point(v)))).f;
      for (const c of faceColumns) c.copyRow(like, f);
      for (const h of mesh.faceHalves(f))
        for (const c of cornerColumns) blend(c, (k) => k.h, mesh.point(mesh.origin(h)), h);
      return f;
    },
  };
}
