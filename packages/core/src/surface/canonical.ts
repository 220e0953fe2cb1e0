import { HalfLoopError } from '../errors';
import type { TriangleData } from './sculptFromSoup';

const MAGIC = 0x31534c48; // 'HLS1', little-endian
const HEADER = 16;

/** A sculpt as stored: u32 magic, u32 version, u32 vertices, u32 triangles, f32 positions, u32 indices; little-endian. */
export function encodeSculpt({ positions, indices }: TriangleData): Uint8Array {
  const out = new Uint8Array(HEADER + positions.byteLength + indices.byteLength);
  const head = new Uint32Array(out.buffer, 0, 4);
  head.set([MAGIC, 1, positions.length / 3, indices.length / 3]);
  out.set(new Uint8Array(positions.buffer, positions.byteOffset, positions.byteLength), HEADER);
  out.set(new Uint8Array(indices.buffer, indices.byteOffset, indices.byteLength), HEADER + positions.byteLength);
  return out;
}

/**
 * The triangles in `bytes`, checked: length, counts, finite positions, indices in range. Throws BAD_FILE.
 * The arrays are copies. Linear.
 */
export function decodeSculpt(bytes: Uint8Array): TriangleData {
  const bad = (what: string): HalfLoopError => new HalfLoopError('BAD_FILE', `The stored sculpt is damaged: ${what}.`);
  if (bytes.length < HEADER) throw bad('it is shorter than its header');
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const [magic, version, vertices, triangles] = [0, 4, 8, 12].map((at) => view.getUint32(at, true));
  if (magic !== MAGIC || version !== 1) throw bad('it begins with other bytes');
  if (bytes.length !== HEADER + 12 * vertices + 12 * triangles) throw bad('its length does not fit its counts');
  if (vertices === 0 || triangles === 0) throw bad('it is empty');
  const positions = new Float32Array(3 * vertices);
  new Uint8Array(positions.buffer).set(bytes.subarray(HEADER, HEADER + 12 * vertices));
  const indices = new Uint32Array(3 * triangles);
  new Uint8Array(indices.buffer).set(bytes.subarray(HEADER + 12 * vertices));
  if (!positions.every(Number.isFinite)) throw bad('a point is not finite');
  if (!indices.every((v) => v < vertices)) throw bad('a triangle names a point that is not there');
  return { positions, indices };
}
