import { badFile } from '../../errors';
import type { PolygonSoup } from '../../mesh';
import { GrowU32 } from '../grow';
import { utf8Bytes } from '../textBytes';
import { readHeader, type Element } from './header';
import { isIndexList, readPackedFaces, readPackedPoints } from './packed';
import { PlyAttributes } from './PlyAttributes';
import { isBinary, sourceOf, type Source } from './source';

/**
 * PLY, text or binary in either byte order, any property order and type, triangle strips, further elements passed
 * over. Counts are checked against the bytes at hand before memory is taken. With `attributes` also texture coordinates,
 * normals and colours of points and faces. Throws BAD_FILE. Linear.
 */
export function readPly(given: Uint8Array, attributes = false): PolygonSoup {
  const bytes = utf8Bytes(given);
  const header = readHeader(bytes);
  const source = sourceOf(bytes, header);
  const more = attributes ? new PlyAttributes(header) : null;
  let positions: Float64Array | Float32Array = new Float64Array(0);
  const faces = header.elements.find((e) => e.name === 'face')?.count ?? 0;
  const corners = new GrowU32(3 * faces);
  const starts = new GrowU32(faces + 1);
  starts.push(0);
  const binary = isBinary(source) && !more ? source : null;
  for (const element of header.elements) {
    const points = positions.length / 3;
    if (element.name === 'vertex')
      positions = (binary && readPackedPoints(binary, element)) ?? readPoints(source, element, more);
    else if (element.name === 'face') {
      if (!binary || !readPackedFaces(binary, element, points, corners, starts))
        readFaces(source, element, points, corners, starts, more);
    } else if (element.name === 'tristrips') readStrips(source, element, points, corners, starts);
    else readFaces(source, element, -1, corners, starts, null);
  }
  const soup: PolygonSoup = { positions, faceStarts: starts.done(), corners: corners.done() };
  const found = more?.finish(soup);
  return found ? { ...soup, attributes: found } : soup;
}

function readPoints(source: Source, { count, properties }: Element, more: PlyAttributes | null): Float64Array {
  const slots = properties.map((p) => ['x', 'y', 'z'].indexOf(p.name));
  if (['x', 'y', 'z'].some((_, k) => !slots.includes(k))) throw badFile('The points have no x, y and z');
  const positions = new Float64Array(3 * count);
  for (let v = 0; v < count; v++) {
    for (let k = 0; k < properties.length; k++) {
      const { type, list } = properties[k];
      for (let n = list ? source.scalar(list) : 1; n > 0; n--) {
        const value = source.scalar(type);
        if (slots[k] < 0) {
          more?.pointValue(k, v, value);
          continue;
        }
        if (!Number.isFinite(value)) throw badFile(`Point ${v} has a coordinate that is not a number`, source.place());
        positions[3 * v + slots[k]] = value;
      }
    }
  }
  return positions;
}

/** Reads an element's records; with `points` ≥ 0 they are faces and their index lists are kept. */
function readFaces(
  source: Source,
  element: Element,
  points: number,
  corners: GrowU32,
  starts: GrowU32,
  more: PlyAttributes | null,
): void {
  const { count, properties } = element;
  if (points >= 0 && !properties.some((p) => p.list && isIndexList(p.name)))
    throw badFile('The faces have no vertex_indices');
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < properties.length; k++) {
      const p = properties[k];
      const n = p.list ? source.scalar(p.list) : 1;
      const isFace = points >= 0 && p.list !== undefined && isIndexList(p.name);
      if (isFace && n < 3) throw badFile(`Face ${i} has ${n} corners; it needs at least three`, source.place());
      for (let c = 0; c < n; c++) {
        const v = source.scalar(p.type);
        if (!isFace) more?.faceValue(k, i, c, v);
        else if (v >= 0 && v < points) corners.push(v);
        else throw badFile(`Face ${i} names point ${v}, but there are ${points}`, source.place());
      }
      if (isFace) starts.push(corners.length);
    }
    more?.endFace(i, corners.length);
  }
}

/** Strips of triangles as scanners write them: −1 begins another, every second triangle is turned. */
function readStrips(source: Source, { count, properties }: Element, points: number, corners: GrowU32, starts: GrowU32) {
  for (let i = 0; i < count; i++)
    for (const p of properties) {
      const n = p.list ? source.scalar(p.list) : 1;
      let [a, b, run] = [-1, -1, 0];
      for (let c = 0; c < n; c++) {
        const v = source.scalar(p.type);
        if (!p.list || !isIndexList(p.name)) continue;
        if (v >= points) throw badFile(`A strip names point ${v}, but there are ${points}`, source.place());
        if (v < 0) run = -1;
        else if (run >= 2 && a !== b && b !== v && v !== a) {
          for (const id of run % 2 === 0 ? [a, b, v] : [b, a, v]) corners.push(id);
          starts.push(corners.length);
        }
        [a, b, run] = [b, v, run + 1];
      }
    }
}
