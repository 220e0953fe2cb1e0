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
  const end = view.byteLength;
  corners.room(3 * count);
  starts.room(count);
  let at = source.at;
  for (let f = 0; f < count; f++) {
    at += before;
    if (at + countSize > end) throw endsEarly(view);
    const n =
      countSize === 1 ? view.getUint8(at) : countSize === 2 ? view.getUint16(at, little) : view.getUint32(at, little);
    at += countSize;
    if (n < 3) throw badFile(`Face ${f} has ${n} corners; it needs at least three`, { byte: at });
    if (at + 4 * n + after > end) throw endsEarly(view);
    corners.room(n);
    const { data } = corners;
    for (const stop = at + 4 * n; at < stop; at += 4) {
      const v = view.getUint32(at, little);
      if (v >= points) throw badFile(`Face ${f} names point ${v | 0}, but there are ${points}`, { byte: at });
      data[corners.length++] = v;
    }
    at += after;
    starts.data[starts.length++] = corners.length;
  }
  source.at = at;
  return true;
}
