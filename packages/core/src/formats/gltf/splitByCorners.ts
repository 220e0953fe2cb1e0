import { faceCountOf, type PolygonSoup } from '../../mesh';

/** Polygons of one group with their attributes by point, as glTF wants them. */
export interface SplitPart extends PolygonSoup {
  group: string | null;
  uvs: Float32Array<ArrayBuffer> | null;
  /** unit; +z where the soup's corner has none */
  normals: Float32Array<ArrayBuffer> | null;
  /** sRGB and alpha */
  colours: Float32Array<ArrayBuffer> | null;
}

/** One part a group, a point for each different corner. Face colours become point colours. Linear. */
export function splitByCorners(soup: PolygonSoup): SplitPart[] {
  const { groups } = soup.attributes ?? {};
  const faces = [...Array(faceCountOf(soup)).keys()];
  if (!groups) return [splitPart(soup, faces, null)];
  return groups.names
    .map((name, g) => ({ name, faces: faces.filter((f) => groups.ofFace[f] === g) }))
    .filter((part) => part.faces.length > 0)
    .map((part) => splitPart(soup, part.faces, part.name));
}

function splitPart(soup: PolygonSoup, faces: number[], group: string | null): SplitPart {
  const { positions: p, faceStarts, corners, attributes = {} } = soup;
  const { uvs, normals, pointColours, faceColours } = attributes;
  const known = new Map<string, number>();
  const out = { p: [] as number[], uv: [] as number[], n: [] as number[], rgba: [] as number[] };
  const ids: number[] = [];
  const starts = [0];
  for (const f of faces) {
    for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
      const v = corners[c];
      const uv = uvs ? [...uvs.subarray(2 * c, 2 * c + 2)].map((x) => (Number.isFinite(x) ? x : 0)) : [];
      const n = normals ? unitOrUp(normals.subarray(3 * c, 3 * c + 3)) : [];
      const rgba = pointColours ? [...pointColours.subarray(4 * v, 4 * v + 4)] : faceColours ? [...faceColours.subarray(4 * f, 4 * f + 4)] : []; // prettier-ignore
      const key = [v, ...uv, ...n, ...rgba].join();
      let id = known.get(key);
      if (id === undefined) {
        id = known.size;
        known.set(key, id);
        out.p.push(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
        out.uv.push(...uv);
        out.n.push(...n);
        out.rgba.push(...rgba);
      }
      ids.push(id);
    }
    starts.push(ids.length);
  }
  const floats = (values: number[]): Float32Array<ArrayBuffer> | null =>
    values.length > 0 ? new Float32Array(values) : null;
  return {
    group,
    positions: Float64Array.from(out.p),
    faceStarts: Uint32Array.from(starts),
    corners: Uint32Array.from(ids),
    uvs: floats(out.uv),
    normals: floats(out.n),
    colours: floats(out.rgba),
  };
}

function unitOrUp(n: Float32Array): number[] {
  const l = Math.hypot(n[0], n[1], n[2]);
  return l > 0 ? [n[0] / l, n[1] / l, n[2] / l] : [0, 0, 1];
}
