import { HalfLoopError } from '../errors';
import { makeData, type Column, type ColumnData, type ColumnType } from './Column';
import type { ChannelSpec } from './Delta';
import { channelKey } from './Channels';
import { PolyMesh } from './PolyMesh';

const MAGIC = 0x314d4c48; // 'HLM1', little-endian
interface SectionHead {
  name: string;
  type: ColumnType;
  length: number;
}
interface Header {
  channels: ChannelSpec[];
  sections: SectionHead[];
}

/** Everything a mesh is, as plain data: its channels' specifications and every column's rows. */
export interface MeshSections {
  channels: ChannelSpec[];
  columns: { name: string; type: ColumnType; data: ColumnData }[];
}

const rowsIn = (mesh: PolyMesh, column: Column, specs: ChannelSpec[]): number => {
  if (column === mesh.counters) return 1;
  if (column === mesh.position || column === mesh.vertexHalf) return mesh.vertexRows;
  if (column === mesh.faceHalf) return mesh.faceRows;
  const spec = specs.find((s) => channelKey(s.domain, s.name) === column.name);
  return spec ? mesh.rowsOf(spec.domain) : 2 * mesh.edgeRows;
};

const pad8 = (n: number): number => (n + 7) & ~7;

/** The mesh's columns, copied; free lists and all, so that ids live on. Linear. */
export function meshSections(mesh: PolyMesh): MeshSections {
  const channels = mesh.channelSpecs();
  const columns = mesh.columns().map((c) => ({
    name: c.name,
    type: c.type,
    data: c.data.slice(0, rowsIn(mesh, c, channels) * c.stride),
  }));
  return { channels, columns };
}

/** The mesh of these sections; throws BAD_FILE on a column it does not know. Says nothing of the links: see checkInvariants. */
export function meshFromSections({ channels, columns }: MeshSections): PolyMesh {
  const mesh = new PolyMesh();
  for (const spec of channels) mesh.channel(spec);
  const known = new Map(mesh.columns().map((c) => [c.name, c]));
  for (const { name, type, data } of columns) {
    const column = known.get(name);
    if (!column || column.type !== type) throw bad(`unknown column ${name}`);
    column.ensure(data.length / column.stride);
    column.data.set(data);
  }
  return mesh;
}

const bad = (what: string): HalfLoopError => new HalfLoopError('BAD_FILE', `This is not a saved mesh: ${what}.`);

/**
 * A mesh as bytes: u32 magic, u32 header length, JSON header, then each column's rows, 8-byte aligned,
 * little-endian. `decodeMesh` gives it back bit for bit.
 */
export function encodeMesh(mesh: PolyMesh): Uint8Array {
  const { channels, columns } = meshSections(mesh);
  const header: Header = {
    channels,
    sections: columns.map(({ name, type, data }) => ({ name, type, length: data.length })),
  };
  const json = new TextEncoder().encode(JSON.stringify(header));
  let size = pad8(8 + json.length);
  for (const { data } of columns) size += pad8(data.byteLength);
  const out = new Uint8Array(size);
  const view = new DataView(out.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, json.length, true);
  out.set(json, 8);
  let at = pad8(8 + json.length);
  for (const { data } of columns) {
    out.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), at);
    at += pad8(data.byteLength);
  }
  return out;
}

/** The mesh in `bytes`; throws BAD_FILE when they are cut short or not a mesh. */
export function decodeMesh(bytes: Uint8Array): PolyMesh {
  if (bytes.length < 8) throw bad('it is too short');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== MAGIC) throw bad('it begins with other bytes');
  const length = view.getUint32(4, true);
  if (8 + length > bytes.length) throw bad('its header is cut short');
  const header = JSON.parse(new TextDecoder().decode(bytes.subarray(8, 8 + length))) as Header;
  let at = pad8(8 + length);
  const columns = header.sections.map(({ name, type, length: count }) => {
    const data = makeData(type, count);
    if (at + data.byteLength > bytes.length) throw bad(`column ${name} is cut short`);
    new Uint8Array(data.buffer).set(bytes.subarray(at, at + data.byteLength));
    at += pad8(data.byteLength);
    return { name, type, data };
  });
  return meshFromSections({ channels: header.channels, columns });
}
