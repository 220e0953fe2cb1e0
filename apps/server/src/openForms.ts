import { decodeDocument, documentFromJson, documentToJson, encodeDocument } from '@half-loop/contract';
import { HalfLoopError } from '@half-loop/core/errors';
import { readMesh, writeMesh } from '@half-loop/core/formats';
import { faceCountOf, joinedMeshes, soupFromMesh, triangleStarts } from '@half-loop/core/mesh';
import { decodeSculpt, encodeSculpt } from '@half-loop/core/surface';

/** A stored sculpt as binary PLY of single-precision points: the same triangles in the same order. */
export async function packSculpt(stored: Uint8Array): Promise<Uint8Array> {
  const { positions, indices } = decodeSculpt(stored);
  const soup = { positions, faceStarts: triangleStarts(indices.length / 3), corners: indices };
  return (await writeMesh(soup, 'ply', { name: 'sculpt' })).bytes;
}

/** The way back, to the same bytes. Throws BAD_FILE when the PLY is not such a sculpt. */
export async function unpackSculpt(ply: Uint8Array): Promise<Uint8Array> {
  const { soup } = await readMesh(ply, 'sculpt.ply');
  if (soup.corners.length !== 3 * faceCountOf(soup))
    throw new HalfLoopError('BAD_FILE', 'A sculpt in the archive is not made of triangles alone.');
  return encodeSculpt({ positions: Float32Array.from(soup.positions), indices: soup.corners });
}

/** An uncompressed document as JSON, and its shown pieces together as OBJ, when they have faces, for other programs. */
export async function packDocument(stored: Uint8Array): Promise<{ bytes: Uint8Array; second?: Uint8Array }> {
  const { document, summary } = decodeDocument(stored);
  const bytes = new TextEncoder().encode(documentToJson(document, summary));
  const shown = document.pieces.filter((p) => p.visible && p.mesh.faceCount > 0);
  if (shown.length === 0) return { bytes };
  const mesh = shown.length === 1 ? shown[0].mesh : joinedMeshes(shown.map((p) => p.mesh));
  return { bytes, second: (await writeMesh(soupFromMesh(mesh), 'obj', { name: shown[0].name })).bytes };
}

export function unpackDocument(json: Uint8Array): Uint8Array {
  const { document, summary } = documentFromJson(new TextDecoder().decode(json));
  return encodeDocument(document, summary);
}
