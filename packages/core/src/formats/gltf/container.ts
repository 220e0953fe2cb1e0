import type { GLTF, JSONDocument } from '@gltf-transform/core';
import { badFile } from '../../errors';
import { textOf } from '../TextScanner';
import { utf8Bytes } from '../textBytes';
import type { ReadOptions } from '../format';

const MAGIC = 0x46546c67, // 'glTF'
  JSON_CHUNK = 0x4e4f534a,
  BIN_CHUNK = 0x004e4942;
/** the name under which the library looks for the chunk a GLB carries */
const OWN_CHUNK = '@glb.bin';

/** The JSON of a GLB or glTF, and the bytes of its buffers by their URIs. Throws BAD_FILE with the place. */
export async function openGltf(bytes: Uint8Array, { beside }: ReadOptions): Promise<JSONDocument> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isBinary = bytes.length >= 4 && view.getUint32(0, true) === MAGIC;
  const { json, chunk } = isBinary ? openGlb(bytes, view) : { json: parseJson(utf8Bytes(bytes)), chunk: null };
  const resources: JSONDocument['resources'] = {};
  for (const [i, buffer] of listOf<GLTF.IBuffer>(json.buffers).entries()) {
    if (buffer.uri === undefined) {
      if (i === 0 && chunk) resources[OWN_CHUNK] = chunk;
    } else if (typeof buffer.uri !== 'string') throw badFile(`buffers[${i}].uri is not text`);
    else resources[buffer.uri] = await bytesAt(buffer.uri, i, beside);
  }
  return { json, resources };
}

const listOf = <T>(value: unknown): T[] =>
  Array.isArray(value) ? value.map((x) => (typeof x === 'object' && x !== null ? x : {}) as T) : [];

function openGlb(bytes: Uint8Array, view: DataView): { json: GLTF.IGLTF; chunk: Uint8Array<ArrayBuffer> | null } {
  if (bytes.length < 20) throw badFile('The GLB is shorter than its header', { byte: bytes.length });
  const version = view.getUint32(4, true);
  if (version !== 2) throw badFile(`The GLB is of version ${version}; version 2 can be read`, { byte: 4 });
  let json: GLTF.IGLTF | null = null;
  let chunk: Uint8Array<ArrayBuffer> | null = null;
  for (let at = 12; at + 8 <= bytes.length;) {
    const [length, kind] = [view.getUint32(at, true), view.getUint32(at + 4, true)];
    const end = at + 8 + length;
    if (end > bytes.length)
      throw badFile(`A part of the GLB says ${length} bytes, but ${bytes.length - at - 8} follow`, { byte: at });
    const part = bytes.subarray(at + 8, end) as Uint8Array<ArrayBuffer>;
    if (kind === JSON_CHUNK && !json) json = parseJson(part);
    else if (kind === BIN_CHUNK && !chunk) chunk = part;
    at = end;
  }
  if (!json) throw badFile('The GLB has no JSON part', { byte: 12 });
  return { json, chunk };
}

function parseJson(bytes: Uint8Array): GLTF.IGLTF {
  let json: unknown;
  try {
    json = JSON.parse(textOf(bytes, 0, bytes.length));
  } catch (error) {
    const why = error instanceof Error ? error.message.replace(/\s+/g, ' ').slice(0, 120) : '';
    throw badFile(`This is not glTF: its JSON could not be read: ${why}`);
  }
  const { asset } = (json ?? {}) as { asset?: { version?: unknown } };
  if (typeof asset !== 'object' || asset === null) throw badFile('This is not glTF: its JSON names no asset');
  if (asset.version !== '2.0')
    throw badFile(`The glTF's version is ${JSON.stringify(asset.version ?? 'missing').slice(0, 20)}; 2.0 can be read`);
  return json as GLTF.IGLTF;
}

async function bytesAt(uri: string, i: number, beside: ReadOptions['beside']): Promise<Uint8Array<ArrayBuffer>> {
  if (uri.startsWith('data:')) {
    try {
      const text = atob(uri.slice(uri.indexOf(',') + 1));
      const out = new Uint8Array(text.length);
      for (let k = 0; k < out.length; k++) out[k] = text.charCodeAt(k);
      return out;
    } catch {
      throw badFile(`buffers[${i}] is embedded, but not in base64`);
    }
  }
  const name = besideName(uri);
  const short = uri.slice(0, 60);
  if (name === null) throw badFile(`buffers[${i}] lies at “${short}”; only files beside the glTF are read`);
  const found = await beside?.(name);
  if (!found) throw badFile(`The glTF needs the file “${short}” beside it; bring in both together, or use a GLB`);
  return found as Uint8Array<ArrayBuffer>;
}

/** A file name below the glTF's own folder, or null: no scheme, no root, no way up. */
function besideName(uri: string): string | null {
  let name: string;
  try {
    name = decodeURIComponent(uri);
  } catch {
    return null;
  }
  const parts = name.split('/');
  const outside = /^[a-z][a-z0-9+.-]*:|^\/|[\\\0]/i.test(name) || parts.some((p) => p === '..' || p === '');
  return outside ? null : parts.filter((p) => p !== '.').join('/');
}
