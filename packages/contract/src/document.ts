import * as z from 'zod/mini';
import { HalfLoopError } from '@half-loop/core/errors';
import { decodeMesh, encodeMesh, type PolyMesh } from '@half-loop/core/mesh';
import { AssetSettings, StageSchema } from './settings';

/** What the Library shows without opening a document. */
export const Summary = z.object({
  stage: StageSchema,
  faces: z.int(),
  budget: z.int(),
  /** things that need a look: open edges off the midline, poles of six and more, n-gons */
  needsALook: z.int(),
});
export type Summary = z.infer<typeof Summary>;

const PieceHeader = z.object({ id: z.string(), name: z.string(), visible: z.boolean(), bytes: z.int() });
const Header = z.object({
  version: z.literal(1),
  settings: AssetSettings,
  done: z.array(StageSchema),
  summary: Summary,
  pieces: z.array(PieceHeader),
});

export interface Piece {
  id: string;
  name: string;
  visible: boolean;
  mesh: PolyMesh;
}

/** Everything of one asset that its history covers. */
export interface AssetDocument {
  settings: AssetSettings;
  /** stages marked done */
  done: z.infer<typeof StageSchema>[];
  pieces: Piece[];
}

const MAGIC = 0x31444c48; // 'HLD1', little-endian
const pad8 = (n: number): number => (n + 7) & ~7;

/** A document as stored: u32 magic, u32 header length, JSON header, then each piece's mesh, 8-byte aligned. */
export function encodeDocument(document: AssetDocument, summary: Summary): Uint8Array {
  const meshes = document.pieces.map((p) => encodeMesh(p.mesh));
  const header: z.infer<typeof Header> = {
    version: 1,
    settings: document.settings,
    done: document.done,
    summary,
    pieces: document.pieces.map(({ id, name, visible }, i) => ({ id, name, visible, bytes: meshes[i].length })),
  };
  const json = new TextEncoder().encode(JSON.stringify(header));
  const out = new Uint8Array(pad8(8 + json.length) + meshes.reduce((n, m) => n + pad8(m.length), 0));
  const view = new DataView(out.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, json.length, true);
  out.set(json, 8);
  let at = pad8(8 + json.length);
  for (const mesh of meshes) {
    out.set(mesh, at);
    at += pad8(mesh.length);
  }
  return out;
}

function readHeader(bytes: Uint8Array): { header: z.infer<typeof Header>; at: number } {
  const bad = (what: string): HalfLoopError => new HalfLoopError('BAD_FILE', `This is not a saved asset: ${what}.`);
  if (bytes.length < 8) throw bad('it is too short');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = view.getUint32(4, true);
  if (view.getUint32(0, true) !== MAGIC || 8 + length > bytes.length) throw bad('it begins with other bytes');
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder().decode(bytes.subarray(8, 8 + length)));
  } catch {
    throw bad('its header cannot be read');
  }
  const parsed = z.safeParse(Header, json);
  if (!parsed.success) throw bad(`its header has no valid ${parsed.error.issues[0].path.join('.')}`);
  return { header: parsed.data, at: pad8(8 + length) };
}

/** The document in `bytes`. Throws BAD_FILE. */
export function decodeDocument(bytes: Uint8Array): { document: AssetDocument; summary: Summary } {
  const { header, at: start } = readHeader(bytes);
  let at = start;
  const pieces = header.pieces.map(({ id, name, visible, bytes: length }) => {
    const mesh = decodeMesh(bytes.subarray(at, at + length));
    at += pad8(length);
    return { id, name, visible, mesh };
  });
  return { document: { settings: header.settings, done: header.done, pieces }, summary: header.summary };
}

/** The summary alone, and a check that the bytes are all there. Throws BAD_FILE. */
export function readSummary(bytes: Uint8Array): Summary {
  const { header, at } = readHeader(bytes);
  const need = header.pieces.reduce((n, p) => n + pad8(p.bytes), at);
  if (need !== bytes.length)
    throw new HalfLoopError('BAD_FILE', 'This is not a saved asset: its length does not fit its header.');
  return header.summary;
}
