import { encodeDocument, plainPiece, type AssetSettings } from '@half-loop/contract';
import { PolyMesh } from '@half-loop/core/mesh';
import { gzip, uploadBlob } from '../../session/api';
import { summaryOf } from '../../session/summary';

/** Uploads a document with one empty low-poly; returns its hash. */
export async function uploadNewDocument(settings: AssetSettings): Promise<string> {
  const document = {
    settings,
    done: [],
    pieces: [plainPiece('low-poly', 'Low-poly', new PolyMesh())],
  };
  const packed = await gzip(encodeDocument(document, summaryOf(document)));
  return (await uploadBlob(new Blob([packed]), () => undefined)).hash;
}
