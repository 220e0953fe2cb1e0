import { badFile } from '../errors';
import { faceCountOf, type PolygonSoup } from '../mesh';
import { GrowU32 } from './grow';
import { latin, TextScanner } from './TextScanner';
import type { WriteOptions } from './format';

type Scalar = 'i8' | 'u8' | 'i16' | 'u16' | 'i32' | 'u32' | 'f32' | 'f64';
const NAMES: Readonly<Record<string, Scalar>> = {
  char: 'i8', int8: 'i8', uchar: 'u8', uint8: 'u8', short: 'i16', int16: 'i16', ushort: 'u16', uint16: 'u16',
  int: 'i32', int32: 'i32', uint: 'u32', uint32: 'u32', float: 'f32', float32: 'f32', double: 'f64', float64: 'f64',
}; // prettier-ignore
const SIZES: Readonly<Record<Scalar, number>> = { i8: 1, u8: 1, i16: 2, u16: 2, i32: 4, u32: 4, f32: 4, f64: 8 };

interface Property {
  name: string;
  type: Scalar;
  /** type of the count, for lists */
  list?: Scalar;
}
interface Element {
  name: string;
  count: number;
  properties: Property[];
}
interface Header {
  format: 'ascii' | 'little' | 'big';
  elements: Element[];
  dataAt: number;
  line: number;
}

/** A stream of values, text or binary, read property by property. */
interface Source {
  scalar(type: Scalar): number;
  place(): { line: number } | { byte: number };
  /** byte the next value begins at; binary only */
  at?: number;
}

/**
 * PLY, text or binary in either byte order, any property order and type, further elements passed over.
 * Counts are checked against the bytes at hand before memory is taken. Throws BAD_FILE. Linear.
 */
export function readPly(bytes: Uint8Array): PolygonSoup {
  const header = readHeader(bytes);
  const source = header.format === 'ascii' ? textSource(bytes, header) : binarySource(bytes, header);
  let positions: Float64Array = new Float64Array(0);
  const corners = new GrowU32(bytes.length / 8);
  const starts = new GrowU32(bytes.length / 16);
  starts.push(0);
  for (const element of header.elements) {
    if (element.name === 'vertex')
      positions = readPackedVertices(bytes, header, source, element) ?? readVertices(source, element);
    else if (
      element.name === 'face' &&
      readPackedFaces(bytes, header, source, element, positions.length / 3, corners, starts)
    )
      continue;
    else readRecords(source, element, element.name === 'face' ? positions.length / 3 : -1, corners, starts);
  }
  return { positions, faceStarts: starts.done(), corners: corners.done() };
}

function readHeader(bytes: Uint8Array): Header {
  const s = new TextScanner(bytes);
  if (latin(bytes, 0, 3) !== 'ply') throw badFile('A PLY file begins with ply', s);
  s.nextLine();
  let format: Header['format'] | null = null;
  const elements: Element[] = [];
  for (;;) {
    if (s.done) throw badFile('The header has no end_header', s);
    const words = s.rest().split(/\s+/);
    const line = s.line;
    s.nextLine();
    if (words[0] === 'end_header') break;
    if (words[0] === 'format') {
      format =
        ({ ascii: 'ascii', binary_little_endian: 'little', binary_big_endian: 'big' } as const)[words[1] as 'ascii'] ??
        null;
      if (!format) throw badFile(`Unknown PLY format “${words[1]}”`, { line });
    } else if (words[0] === 'element') {
      const count = Number(words[2]);
      if (!Number.isInteger(count) || count < 0) throw badFile(`Unreadable count of element ${words[1]}`, { line });
      elements.push({ name: words[1], count, properties: [] });
    } else if (words[0] === 'property') addProperty(elements, words, line);
    else if (!['comment', 'obj_info', ''].includes(words[0]))
      throw badFile(`Unknown header word “${words[0].slice(0, 40)}”`, { line });
  }
  if (!format) throw badFile('The header names no format', s);
  checkCounts(elements, format, bytes.length - s.at);
  return { format, elements, dataAt: s.at, line: s.line };
}

function addProperty(elements: Element[], words: string[], line: number): void {
  const element = elements.at(-1);
  if (!element) throw badFile('A property stands before any element', { line });
  const isList = words[1] === 'list';
  const [type, list] = isList ? [NAMES[words[3]], NAMES[words[2]]] : [NAMES[words[1]], undefined];
  if (!type || (isList && !list)) throw badFile(`Unknown property type in “${words.join(' ').slice(0, 60)}”`, { line });
  element.properties.push({ name: words[isList ? 4 : 2], type, ...(list ? { list } : {}) });
}

function checkCounts(elements: Element[], format: Header['format'], left: number): void {
  for (const { name, count, properties } of elements) {
    const least = properties.reduce((n, p) => n + (format === 'ascii' ? 2 : SIZES[p.list ?? p.type]), 0);
    if (count * Math.max(1, least) > left + 1)
      throw badFile(`The header says ${count} of element ${name}, but only ${left} bytes follow`);
  }
}

function textSource(bytes: Uint8Array, header: Header): Source {
  const s = new TextScanner(bytes);
  s.at = header.dataAt;
  s.line = header.line;
  return {
    scalar() {
      s.nextWord();
      return s.number('a number');
    },
    place: () => ({ line: s.line }),
  };
}

function binarySource(bytes: Uint8Array, header: Header): Source {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = header.format === 'little';
  let at = header.dataAt;
  const read: Record<Scalar, () => number> = {
    i8: () => view.getInt8(at), u8: () => view.getUint8(at), i16: () => view.getInt16(at, little), u16: () => view.getUint16(at, little),
    i32: () => view.getInt32(at, little), u32: () => view.getUint32(at, little), f32: () => view.getFloat32(at, little), f64: () => view.getFloat64(at, little),
  }; // prettier-ignore
  return {
    get at() {
      return at;
    },
    set at(value: number) {
      at = value;
    },
    scalar(type) {
      if (at + SIZES[type] > bytes.length) throw badFile('The file ends too early', { byte: bytes.length });
      const value = read[type]();
      at += SIZES[type];
      return value;
    },
    place: () => ({ byte: at }),
  };
}

/** Binary points without lists: fixed records, read in one loop. Null when they are not like that. */
function readPackedVertices(
  bytes: Uint8Array,
  header: Header,
  source: Source,
  { count, properties }: Element,
): Float64Array | null {
  if (source.at === undefined || properties.some((p) => p.list)) return null;
  const offsets = new Map<string, { at: number; type: Scalar }>();
  let stride = 0;
  for (const { name, type } of properties) {
    offsets.set(name, { at: stride, type });
    stride += SIZES[type];
  }
  const [x, y, z] = ['x', 'y', 'z'].map((name) => offsets.get(name));
  if (!x || !y || !z || [x, y, z].some((p) => p.type !== x.type || !p.type.startsWith('f'))) return null;
  if (source.at + stride * count > bytes.length) throw badFile('The file ends too early', { byte: bytes.length });
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = header.format === 'little';
  const positions = new Float64Array(3 * count);
  const start = source.at;
  const single = x.type === 'f32';
  for (let v = 0, at = start; v < count; v++, at += stride) {
    positions[3 * v] = single ? view.getFloat32(at + x.at, little) : view.getFloat64(at + x.at, little);
    positions[3 * v + 1] = single ? view.getFloat32(at + y.at, little) : view.getFloat64(at + y.at, little);
    positions[3 * v + 2] = single ? view.getFloat32(at + z.at, little) : view.getFloat64(at + z.at, little);
  }
  for (let i = 0; i < positions.length; i++)
    if (!Number.isFinite(positions[i]))
      throw badFile(`Point ${Math.floor(i / 3)} has a coordinate that is not a number`, {
        byte: start + Math.floor(i / 3) * stride,
      });
  source.at = start + stride * count;
  return positions;
}

/** Binary faces of nothing but an index list of 32-bit numbers, read in one loop. False when they are not like that. */
function readPackedFaces(
  bytes: Uint8Array,
  header: Header,
  source: Source,
  { count, properties }: Element,
  vertices: number,
  corners: GrowU32,
  starts: GrowU32,
): boolean {
  const [list] = properties;
  const plain =
    properties.length === 1 && list.list && /^vertex_ind(ex|ices)$/.test(list.name) && /^[iu]32$/.test(list.type);
  if (source.at === undefined || !plain) return false;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = header.format === 'little';
  const countSize = SIZES[list.list as Scalar];
  let at = source.at;
  for (let f = 0; f < count; f++) {
    if (at + countSize > bytes.length) throw badFile('The file ends too early', { byte: bytes.length });
    const n =
      countSize === 1 ? view.getUint8(at) : countSize === 2 ? view.getUint16(at, little) : view.getUint32(at, little);
    at += countSize;
    if (n < 3) throw badFile(`Face ${f} has ${n} corners; it needs at least three`, { byte: at });
    if (at + 4 * n > bytes.length) throw badFile('The file ends too early', { byte: bytes.length });
    for (let c = 0; c < n; c++, at += 4) {
      const v = view.getUint32(at, little);
      if (v >= vertices) throw badFile(`Face ${f} names point ${v | 0}, but there are ${vertices}`, { byte: at });
      corners.push(v);
    }
    starts.push(corners.length);
  }
  source.at = at;
  return true;
}

function readVertices(source: Source, { count, properties }: Element): Float64Array {
  const slots = properties.map((p) => ['x', 'y', 'z'].indexOf(p.name));
  if (['x', 'y', 'z'].some((_, k) => !slots.includes(k))) throw badFile('The points have no x, y and z');
  const positions = new Float64Array(3 * count);
  for (let v = 0; v < count; v++) {
    for (let k = 0; k < properties.length; k++) {
      const { type, list } = properties[k];
      for (let n = list ? source.scalar(list) : 1; n > 0; n--) {
        const value = source.scalar(type);
        if (slots[k] < 0) continue;
        if (!Number.isFinite(value)) throw badFile(`Point ${v} has a coordinate that is not a number`, source.place());
        positions[3 * v + slots[k]] = value;
      }
    }
  }
  return positions;
}

/** Reads an element's records; with `vertices` ≥ 0 they are faces and their index lists are kept. */
function readRecords(source: Source, element: Element, vertices: number, corners: GrowU32, starts: GrowU32): void {
  const isIndices = (p: Property): boolean => vertices >= 0 && /^vertex_ind(ex|ices)$/.test(p.name);
  if (vertices >= 0 && !element.properties.some((p) => p.list && isIndices(p)))
    throw badFile('The faces have no vertex_indices');
  for (let i = 0; i < element.count; i++) {
    for (const p of element.properties) {
      const n = p.list ? source.scalar(p.list) : 1;
      for (let c = 0; c < n; c++) {
        const v = source.scalar(p.type);
        if (!isIndices(p)) continue;
        if (!(v >= 0 && v < vertices))
          throw badFile(`Face ${i} names point ${v}, but there are ${vertices}`, source.place());
        corners.push(v);
      }
      if (!isIndices(p)) continue;
      if (n < 3) throw badFile(`Face ${i} has ${n} corners; it needs at least three`, source.place());
      starts.push(corners.length);
    }
  }
}

/** Binary little-endian PLY: double coordinates, float normals when given, polygons kept. */
export function writePly(soup: PolygonSoup, { name, normals }: WriteOptions): Uint8Array {
  const { positions: p, corners, faceStarts } = soup;
  const vertices = p.length / 3,
    faces = faceCountOf(soup);
  const lines = ['ply', 'format binary_little_endian 1.0', `comment ${name.replace(/[^\x20-\x7e]+/g, '_')}`];
  lines.push(`element vertex ${vertices}`, ...['x', 'y', 'z'].map((k) => `property double ${k}`));
  if (normals) lines.push(...['nx', 'ny', 'nz'].map((k) => `property float ${k}`));
  lines.push(`element face ${faces}`, 'property list uint int vertex_indices', 'end_header', '');
  const head = new TextEncoder().encode(lines.join('\n'));
  const out = new Uint8Array(head.length + vertices * (normals ? 36 : 24) + faces * 4 + corners.length * 4);
  out.set(head);
  const view = new DataView(out.buffer);
  let at = head.length;
  for (let v = 0; v < vertices; v++) {
    for (let k = 0; k < 3; k++, at += 8) view.setFloat64(at, p[3 * v + k], true);
    if (normals) for (let k = 0; k < 3; k++, at += 4) view.setFloat32(at, normals[3 * v + k], true);
  }
  for (let f = 0; f < faces; f++) {
    view.setUint32(at, faceStarts[f + 1] - faceStarts[f], true);
    at += 4;
    for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++, at += 4) view.setInt32(at, corners[c], true);
  }
  return out;
}
