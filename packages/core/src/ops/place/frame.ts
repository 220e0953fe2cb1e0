import { add, addScaled, bestPlane, cross, dot, length, normalize, sub, type Vec3 } from '../../math';
import { areaNormal, vertexNormal, type PolyMesh, type Selection } from '../../mesh';
import { pickedVertices } from '../picked';

/**
 * The own axes of what is picked, unit and square to each other: z out of the surface (of picked faces by area, of a loop out of its
 * plane, else the points' normals), x along the first picked edge or the longest way across. Null of nothing. Cost: what
 * is picked.
 */
export function frameOfPicked(mesh: PolyMesh, selection: Selection): readonly [Vec3, Vec3, Vec3] | null {
  const vertices = pickedVertices(mesh, selection);
  const points = vertices.map((v) => mesh.point(v));
  const z = outOf(mesh, selection, vertices, points);
  if (length(z) === 0) return null;
  const along = firstEdge(mesh, selection, points);
  const flat = addScaled(along, z, -dot(along, z));
  const x = length(flat) > 1e-9 ? normalize(flat) : normalize(cross(Math.abs(z[1]) > 0.9 ? [1, 0, 0] : [0, 1, 0], z));
  return [x, cross(z, x), z];
}

function outOf(mesh: PolyMesh, selection: Selection, vertices: readonly number[], points: readonly Vec3[]): Vec3 {
  const faces = selection.faces.filter((f) => mesh.hasFace(f));
  const sum = (list: Vec3[]): Vec3 => normalize(list.reduce(add, [0, 0, 0] as Vec3));
  if (faces.length > 0) return sum(faces.map((f) => areaNormal(mesh.faceVertices(f).map((v) => mesh.point(v)))));
  const out = sum(vertices.map((v) => vertexNormal(mesh, v)));
  // the normals of a closed loop point all ways; its plane says more
  if (selection.edges.length < 3 || points.length < 3 || points.length > selection.edges.length) return out;
  const { normal } = bestPlane(points);
  return dot(normal, out) < 0 ? [-normal[0], -normal[1], -normal[2]] : normal;
}

function firstEdge(mesh: PolyMesh, { edges, faces }: Selection, points: readonly Vec3[]): Vec3 {
  const e = edges.find((k) => mesh.hasEdge(k));
  if (e !== undefined) return sub(mesh.point(mesh.target(2 * e)), mesh.point(mesh.origin(2 * e)));
  const f = faces.find((k) => mesh.hasFace(k));
  if (f !== undefined) {
    const [u, v] = mesh.faceVertices(f);
    return sub(mesh.point(v), mesh.point(u));
  }
  const far = points.reduce((a, b) => (length(sub(b, points[0])) > length(sub(a, points[0])) ? b : a), points[0]);
  return sub(far, points[0]);
}
