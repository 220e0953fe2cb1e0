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

/** A step that shapes a piece after it is edited; its settings are the operator's own, checked when it is done. */
const RecipeStep = z.object({
  op: z.string().check(z.minLength(1), z.maxLength(40)),
  on: z.boolean(),
  params: z.record(z.string(), z.unknown()),
  /** another piece that takes part: a cutting shape */
  piece: z.optional(z.string()),
});
export type RecipeStep = z.infer<typeof RecipeStep>;

/** What a piece is besides its mesh. */
export const PieceHead = z.object({
  id: z.string(),
  name: z.string(),
  /** shown, counted and shipped; a guide body never ships */
  visible: z.boolean(),
  /** a quick body that points stick to, to be thrown away */
  guide: z._default(z.boolean(), false),
  /** its faces' colour; null: as all are */
  tint: z._default(z.nullable(z.string().check(z.regex(/^#[0-9a-f]{6}$/))), null),
  /** nothing changes it until it is unlocked */
  locked: z._default(z.boolean(), false),
  recipe: z._default(z.array(RecipeStep).check(z.maxLength(64)), []),
});
export type PieceHead = z.infer<typeof PieceHead>;
const PieceHeader = z.extend(PieceHead, { bytes: z.int() });
const Header = z.object({
  version: z.literal(1),
  settings: AssetSettings,
  done: z.array(StageSchema),
  summary: Summary,
  pieces: z.array(PieceHeader),
});

export interface Piece extends PieceHead {
  mesh: PolyMesh;
}
/** A piece with nothing in it but its mesh. */
export const plainPiece = (id: string, name: string, mesh: PolyMesh): Piece => ({
  id,
  name,
  visible: true,
  guide: false,
  tint: null,
  locked: false,
  recipe: [],
  mesh,
});
/** A piece's head, without its mesh. */
export const headOf = ({ id, name, visible, guide, tint, locked, recipe }: PieceHead): PieceHead => ({
  id,
  name,
  visible,
  guide,
  tint,
  locked,
  recipe,
});

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
    pieces: document.pieces.map((piece, i) => ({ ...headOf(piece), bytes: meshes[i].length })),
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
  const pieces = header.pieces.map(({ bytes: length, ...head }) => {
    const mesh = decodeMesh(bytes.subarray(at, at + length));
    at += pad8(length);
    return { ...head, mesh };
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
