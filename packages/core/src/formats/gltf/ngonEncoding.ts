import { cross, dot, sub, type Vec3 } from '../../math';
import { areaNormal, triangulate, type PolygonSoup } from '../../mesh';

/**
 * Triangle order of the FB_ngon_encoding glTF extension: a polygon is a fan of consecutive triangles that share their
 * first index; the polygon after it must begin with another. Quads keep the product's diagonal when one of
 * its two ends is free. Polygons with no fan that folds nothing are cut ear by ear and come back as triangles: `lost`
 * counts them. Cost: linear, quadratic in a polygon's corners.
 */
export function encodeNgons(soup: PolygonSoup): { indices: Uint32Array; lost: number } {
  const out: number[] = [];
  let last = -1,
    lost = 0;
  for (let f = 0; f + 1 < soup.faceStarts.length; f++) {
    const ids = [...soup.corners.subarray(soup.faceStarts[f], soup.faceStarts[f + 1])];
    const points = ids.map((v): Vec3 => [soup.positions[3 * v], soup.positions[3 * v + 1], soup.positions[3 * v + 2]]);
    const start = fanStarts(points).find((s) => ids[s] !== last);
    if (start !== undefined) {
      const n = ids.length;
      for (let k = 1; k < n - 1; k++) out.push(ids[start], ids[(start + k) % n], ids[(start + k + 1) % n]);
      last = ids[start];
    } else {
      lost++;
      const cut = triangulate(points).map((i) => ids[i]);
      for (let t = 0; t < cut.length; t += 3) {
        const turn = [0, 1, 2].find((k) => cut[t + k] !== last) ?? 0;
        for (let k = 0; k < 3; k++) out.push(cut[t + ((turn + k) % 3)]);
        last = cut[t + turn];
      }
    }
  }
  return { indices: Uint32Array.from(out), lost };
}

/** Corners whose fan folds nothing, best first. */
function fanStarts(points: Vec3[]): number[] {
  const n = points.length;
  if (n === 3) return [0, 1, 2];
  const normal = areaNormal(points);
  const valid = points.map((_, s) => s).filter((s) => fanIsFlat(points, s, normal));
  if (n !== 4) return valid;
  const preferred = triangulate(points)[0];
  return valid.sort((a, b) => Math.abs((a - preferred) % 2) - Math.abs((b - preferred) % 2));
}

function fanIsFlat(points: Vec3[], s: number, normal: Vec3): boolean {
  const n = points.length;
  for (let k = 1; k < n - 1; k++) {
    const a = sub(points[(s + k) % n], points[s]);
    const b = sub(points[(s + k + 1) % n], points[s]);
    if (dot(cross(a, b), normal) <= 0) return false;
  }
  return true;
}

/** Polygons out of triangles in that order: triangles of a fan share their first index. Linear. */
export function decodeNgons(indices: Uint32Array): { faceStarts: Uint32Array; corners: Uint32Array } {
  const corners = new Uint32Array(indices.length);
  const starts = new Uint32Array(indices.length / 3 + 2);
  let [length, faces, first] = [0, 0, -1];
  for (let t = 0; t + 2 < indices.length; t += 3) {
    if (indices[t] === first && corners[length - 1] === indices[t + 1]) corners[length++] = indices[t + 2];
    else {
      starts[faces++] = length;
      first = indices[t];
      corners[length++] = first;
      corners[length++] = indices[t + 1];
      corners[length++] = indices[t + 2];
    }
  }
  starts[faces] = length;
  return { faceStarts: starts.slice(0, faces + 1), corners: corners.slice(0, length) };
}
