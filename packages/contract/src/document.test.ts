import { describe, expect, it } from 'vitest';
import { addFace, addVertex, encodeMesh, PolyMesh } from '@half-loop/core/mesh';
import { decodeDocument, DEFAULT_SETTINGS, encodeDocument, plainPiece, readSummary, type Summary } from '.';

const summary: Summary = { stage: 'lay', faces: 1, budget: 2000, needsALook: 3 };
function bytes(): Uint8Array {
  const mesh = new PolyMesh();
  addFace(mesh, [0, 1, 2].map((i) => addVertex(mesh, [i, i * i, 0]))); // prettier-ignore
  return encodeDocument(
    { settings: DEFAULT_SETTINGS, done: ['gather'], pieces: [plainPiece('p', 'Low-poly', mesh)] },
    summary,
  );
}

describe('the document', () => {
  it('comes back whole', () => {
    const { document, summary: back } = decodeDocument(bytes());
    expect(back).toEqual(summary);
    expect(document.settings).toEqual(DEFAULT_SETTINGS);
    expect(document.pieces[0].mesh.faceCount).toBe(1);
    expect(encodeDocument(document, back)).toEqual(bytes());
    expect(encodeMesh(document.pieces[0].mesh).length).toBeGreaterThan(100);
  });
  it('is refused when cut short, foreign or with settings out of range', () => {
    expect(readSummary(bytes())).toEqual(summary);
    expect(() => readSummary(bytes().slice(0, -8))).toThrow(/length/);
    expect(() => decodeDocument(new TextEncoder().encode('hello world'))).toThrow(/other bytes/);
    const wrong = new TextDecoder('latin1').decode(bytes()).replace('"budget":2000', '"budget":-200');
    expect(() => readSummary(Uint8Array.from(wrong, (c) => c.charCodeAt(0)))).toThrow(/settings.budget/);
  });
});
