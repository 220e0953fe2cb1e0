import { badFile } from '../../errors';
import type { GrowU32 } from '../grow';
import { SIZES, type Element, type Scalar } from './header';
import { endsEarly, type BinarySource } from './source';

export const isIndexList = (name: string): boolean => /^vertex_ind(ex|ices)$/.test(name);

/** Binary points without lists: fixed records, read in one loop. Null when they are not like that. */
export function readPackedPoints(
  source: BinarySource,
  { count, properties }: Element,
): Float64Array | Float32Array | null {
  if (properties.some((p) => p.list)) return null;
  const offsets = new Map<string, { at: number; type: Scalar }>();
  let stride = 0;
  for (const { name, type } of properties) {
    offsets.set(name, { at: stride, type });
    stride += SIZES[type];
  }
  const [x, y, z] = ['x', 'y', 'z'].map((name) => offsets.get(name));
  if (!x || !y || !z || [x, y, z].some((p) => p.type !== x.type || !p.type.startsWith('f'))) return null;
  const { view, little, at: start } = source;
  if (start + stride * count > view.byteLength) throw endsEarly(view);
  const positions = x.type === 'f32' ? new Float32Array(3 * count) : new Float64Array(3 * count);
  const offset = [x.at, y.at, z.at];
  if (positions instanceof Float32Array) fill32(positions, view, start, stride, offset, little);
  else fill64(positions, view, start, stride, offset, little);
  source.at = start + stride * count;
  return positions;
}

function fill32(p: Float32Array, view: DataView, start: number, stride: number, [x, y, z]: number[], little: boolean) {
  for (let i = 0, at = start; i < p.length; i += 3, at += stride) {
    p[i] = view.getFloat32(at + x, little);
    p[i + 1] = view.getFloat32(at + y, little);
    p[i + 2] = view.getFloat32(at + z, little);
    checkFinite(p[i] + p[i + 1] + p[i + 2], i, at);
  }
}

function fill64(p: Float64Array, view: DataView, start: number, stride: number, [x, y, z]: number[], little: boolean) {
  for (let i = 0, at = start; i < p.length; i += 3, at += stride) {
    p[i] = view.getFloat64(at + x, little);
    p[i + 1] = view.getFloat64(at + y, little);
    p[i + 2] = view.getFloat64(at + z, little);
    checkFinite(p[i] + p[i + 1] + p[i + 2], i, at);
  }
}

function checkFinite(sum: number, i: number, byte: number): void {
  if (sum - sum !== 0) throw badFile(`Point ${i / 3} has a coordinate that is not a number`, { byte });
}

/**
 * Binary faces of one index list of 32-bit numbers and any plain values beside it, read in one loop; the plain
 * values are passed over. False when they are not like that.
 */
export function readPackedFaces(
  source: BinarySource,
  { count, properties }: Element,
  points: number,
  corners: GrowU32,
  starts: GrowU32,
): boolean {
  const k = properties.findIndex((p) => p.list);
  const list = properties[k];
  const lists = properties.filter((p) => p.list).length;
  if (lists !== 1 || !list.list || !isIndexList(list.name) || !/^[iu]32$/.test(list.type)) return false;
  const sizeOf = (from: number, to: number): number =>
    properties.slice(from, to).reduce((n, p) => n + SIZES[p.type], 0);
  const [before, after] = [sizeOf(0, k), sizeOf(k + 1, properties.length)];
  const { view, little } = source;
  const countSize = SIZES[list.list];
  corners.room(3 * count);
  starts.room(count);
  const layout = { before, after, countSize, points, count };
  let read = 0;
  if (countSize === 1 && little && corners.length === 0) {
    read = triangleRun(view, source.at, layout, corners, starts);
    source.at += read * (before + 13 + after);
  }
  polygonRun(source, read, layout, corners, starts);
  return true;
}

interface Layout {
  /** bytes before and after the list of a record, and of its count */
  before: number;
  after: number;
  countSize: number;
  points: number;
  count: number;
}

/** The run of triangles a little-endian list begins with, which is most often all of it; returns how many. */
function triangleRun(
  view: DataView,
  start: number,
  { before, after, points, count }: Layout,
  corners: GrowU32,
  starts: GrowU32,
): number {
  const size = before + 13 + after;
  const most = Math.min(count, Math.floor((view.byteLength - start) / size));
  const { data } = corners;
  let f = 0;
  for (let at = start + before; f < most; f++, at += size) {
    if (view.getUint8(at) !== 3) break;
    const a = view.getUint32(at + 1, true),
      b = view.getUint32(at + 5, true),
      c = view.getUint32(at + 9, true);
    if (a >= points || b >= points || c >= points) break;
    data[3 * f] = a;
    data[3 * f + 1] = b;
    data[3 * f + 2] = c;
    starts.data[f + 1] = 3 * f + 3;
  }
  corners.length = 3 * f;
  starts.length = f + 1;
  return f;
}

function polygonRun(source: BinarySource, from: number, layout: Layout, corners: GrowU32, starts: GrowU32): void {
  const { view, little } = source;
  const { before, after, countSize, points, count } = layout;
  let { at } = source;
  for (let f = from; f < count; f++) {
    at += before;
    if (at + countSize > view.byteLength) throw endsEarly(view);
    const n =
      countSize === 1 ? view.getUint8(at) : countSize === 2 ? view.getUint16(at, little) : view.getUint32(at, little);
    at += countSize;
    if (n < 3) throw badFile(`Face ${f} has ${n} corners; it needs at least three`, { byte: at });
    if (at + 4 * n + after > view.byteLength) throw endsEarly(view);
    corners.room(n);
    for (const stop = at + 4 * n; at < stop; at += 4) {
      const v = view.getUint32(at, little);
      if (v >= points) throw badFile(`Face ${f} names point ${v | 0}, but there are ${points}`, { byte: at });
      corners.data[corners.length++] = v;
    }
    at += after;
    starts.push(corners.length);
  }
  source.at = at;
}
