import { cross, dot, length, normalize, sub, type Vec3 } from '../math';
import type { PolyMesh } from './PolyMesh';
import { NONE } from './PolyMesh';
import type { PolygonSoup } from './PolygonSoup';
import { areaNormal } from './triangulate';

/** Unit normal of a face by Newell's rule; zero when it has no area. */
export function faceNormal(mesh: PolyMesh, f: number): Vec3 {
  return normalize(areaNormal(mesh.faceVertices(f).map((v) => mesh.point(v))));
}

/**
 * Unit normal of a vertex: its faces weighted by their angle there and their area. Zero without faces. In numbers only, since
 * drawing and relaxing ask for it at every touched point.
 */
export function vertexNormal(mesh: PolyMesh, v: number): Vec3 {
  const p = mesh.position.data,
    next = mesh.halfNext.data,
    origin = mesh.halfOrigin.data;
  const vx = p[3 * v], vy = p[3 * v + 1], vz = p[3 * v + 2]; // prettier-ignore
  let sx = 0, sy = 0, sz = 0; // prettier-ignore
  const first = mesh.vertexHalf.data[v];
  if (first === NONE) return [0, 0, 0];
  let h = first;
  do {
    if (mesh.halfFace.data[h] !== NONE) {
      // Newell's sum about v, whose own two sides add nothing
      let nx = 0, ny = 0, nz = 0; // prettier-ignore
      const start = next[h];
      let a = 3 * origin[start];
      const ux = p[a] - vx, uy = p[a + 1] - vy, uz = p[a + 2] - vz; // prettier-ignore
      let ax = ux, ay = uy, az = uz; // prettier-ignore
      for (let g = next[start]; g !== h; g = next[g]) {
        a = 3 * origin[g];
        const bx = p[a] - vx, by = p[a + 1] - vy, bz = p[a + 2] - vz; // prettier-ignore
        nx += ay * bz - az * by;
        ny += az * bx - ax * bz;
        nz += ax * by - ay * bx;
        ax = bx;
        ay = by;
        az = bz;
      }
      const cx = uy * az - uz * ay, cy = uz * ax - ux * az, cz = ux * ay - uy * ax; // prettier-ignore
      const angle = Math.atan2(Math.sqrt(cx * cx + cy * cy + cz * cz), ux * ax + uy * ay + uz * az);
      sx += nx * angle;
      sy += ny * angle;
      sz += nz * angle;
    }
    h = next[h ^ 1];
  } while (h !== first);
  return normalize([sx, sy, sz]);
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
