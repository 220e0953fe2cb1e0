import { HalfLoopError } from '../errors';
import { makeData, type Column, type ColumnType } from './Column';
import type { ChannelSpec } from './Delta';
import { channelKey } from './Channels';
import { PolyMesh } from './PolyMesh';

const MAGIC = 0x314d4c48; // 'HLM1', little-endian
interface Section {
  name: string;
  type: ColumnType;
  length: number;
}
interface Header {
  channels: ChannelSpec[];
  sections: Section[];
}

const rowsIn = (mesh: PolyMesh, column: Column, specs: ChannelSpec[]): number => {
  if (column === mesh.counters) return 1;
  if (column === mesh.position || column === mesh.vertexHalf) return mesh.vertexRows;
  if (column === mesh.faceHalf) return mesh.faceRows;
  const spec = specs.find((s) => channelKey(s.domain, s.name) === column.name);
  return spec ? mesh.rowsOf(spec.domain) : 2 * mesh.edgeRows;
};

const pad8 = (n: number): number => (n + 7) & ~7;

/**
 * A mesh as bytes, free lists and all, so that ids live on: u32 magic, u32 header length, JSON header,
 * then each column's rows, 8-byte aligned, little-endian. `decodeMesh` gives it back bit for bit.
 */
export function encodeMesh(mesh: PolyMesh): Uint8Array {
  const specs = mesh.channelSpecs();
  const parts = mesh.columns().map((c) => ({ column: c, data: c.data.slice(0, rowsIn(mesh, c, specs) * c.stride) }));
  const header: Header = {
    channels: specs,
    sections: parts.map(({ column, data }) => ({ name: column.name, type: column.type, length: data.length })),
  };
  const json = new TextEncoder().encode(JSON.stringify(header));
  let size = pad8(8 + json.length);
  for (const { data } of parts) size += pad8(data.byteLength);
  const out = new Uint8Array(size);
  const view = new DataView(out.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, json.length, true);
  out.set(json, 8);
  let at = pad8(8 + json.length);
  for (const { data } of parts) {
    out.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), at);
    at += pad8(data.byteLength);
  }
  return out;
}

/** The mesh in `bytes`; throws BAD_FILE when they are cut short or not a mesh. */
export function decodeMesh(bytes: Uint8Array): PolyMesh {
  const bad = (what: string): HalfLoopError => new HalfLoopError('BAD_FILE', `This is not a saved mesh: ${what}.`);
  if (bytes.length < 8) throw bad('it is too short');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== MAGIC) throw bad('it begins with other bytes');
  const length = view.getUint32(4, true);
  if (8 + length > bytes.length) throw bad('its header is cut short');
  const header = JSON.parse(new TextDecoder().decode(bytes.subarray(8, 8 + length))) as Header;
  const mesh = new PolyMesh();
  for (const spec of header.channels) mesh.channel(spec);
  const columns = new Map(mesh.columns().map((c) => [c.name, c]));
  let at = pad8(8 + length);
  for (const { name, type, length: count } of header.sections) {
    const column = columns.get(name);
    if (!column || column.type !== type) throw bad(`unknown column ${name}`);
    const data = makeData(type, count);
    if (at + data.byteLength > bytes.length) throw bad(`column ${name} is cut short`);
    new Uint8Array(data.buffer).set(bytes.subarray(at, at + data.byteLength));
    column.ensure(count / column.stride);
    column.data.set(data);
    at += pad8(data.byteLength);
  }
  return mesh;
}
