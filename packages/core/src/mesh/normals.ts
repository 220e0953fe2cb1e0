import { add, cross, dot, length, normalize, scale, sub, type Vec3 } from '../math';
import type { PolyMesh } from './PolyMesh';
import { NONE } from './PolyMesh';
import type { PolygonSoup } from './PolygonSoup';
import { areaNormal } from './triangulate';

/** Unit normal of a face by Newell's rule; zero when it has no area. */
export function faceNormal(mesh: PolyMesh, f: number): Vec3 {
  return normalize(areaNormal(mesh.faceVertices(f).map((v) => mesh.point(v))));
}

/** Unit normal of a vertex: its faces weighted by their angle there and their area. Zero without faces. */
export function vertexNormal(mesh: PolyMesh, v: number): Vec3 {
  const p = mesh.point(v);
  let sum: Vec3 = [0, 0, 0];
  for (const h of mesh.vertexHalves(v)) {
    if (mesh.face(h) === NONE) continue;
    const a = sub(mesh.point(mesh.target(h)), p);
    const b = sub(mesh.point(mesh.origin(mesh.prev(h))), p);
    const n = cross(a, b);
    const angle = Math.atan2(length(n), dot(a, b));
    sum = add(sum, scale(areaNormal(mesh.faceVertices(mesh.face(h)).map((w) => mesh.point(w))), angle));
  }
  return normalize(sum);
}

/** Unit normals of a soup's points, polygons weighted by area and by their angle at the point. Linear. */
export function soupNormals({ positions, faceStarts, corners }: PolygonSoup): Float32Array {
  const sums = new Float64Array(positions.length);
  const at = (v: number): Vec3 => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  for (let f = 0; f + 1 < faceStarts.length; f++) {
    const ids = [...corners.subarray(faceStarts[f], faceStarts[f + 1])];
    const points = ids.map(at);
    const n = areaNormal(points);
    ids.forEach((v, i) => {
      const a = sub(points[(i + 1) % ids.length], points[i]);
      const b = sub(points[(i + ids.length - 1) % ids.length], points[i]);
      const angle = Math.atan2(length(cross(a, b)), dot(a, b));
      for (let k = 0; k < 3; k++) sums[3 * v + k] += n[k] * angle;
    });
  }
  const out = new Float32Array(sums.length);
  for (let v = 0; v < sums.length; v += 3) {
    const l = Math.hypot(sums[v], sums[v + 1], sums[v + 2]);
    if (l === 0) out[v + 2] = 1;
    else for (let k = 0; k < 3; k++) out[v + k] = sums[v + k] / l;
  }
  return out;
}
