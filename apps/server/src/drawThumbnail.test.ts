import { decode } from 'fast-png';
import { expect, it } from 'vitest';
import { DEFAULT_SETTINGS, encodeDocument, plainPiece } from '@half-loop/contract';
import { addFace, addVertex, PolyMesh } from '@half-loop/core/mesh';
import { drawThumbnail } from './drawThumbnail';

/** Two quads, one on either side of the plane x = 0. */
function acrossTheMidline(): PolyMesh {
  const mesh = new PolyMesh();
  const [a, b, c, d, e, f] = [0, 1].flatMap((y) => [-1, 0, 1].map((x) => addVertex(mesh, [x, y, 0.2 * x * x])));
  addFace(mesh, [a, b, e, d]);
  addFace(mesh, [b, c, f, e]);
  return mesh;
}

it('a piece that cannot be mirrored is drawn as it lies', () => {
  const drawn = (isOn: boolean): Uint8Array => {
    const settings = { ...DEFAULT_SETTINGS, symmetry: { on: isOn, axis: 'x' as const, offset: 0 } };
    const pieces = [plainPiece('p', 'Low-poly', acrossTheMidline())];
    const summary = { stage: 'lay' as const, faces: 2, budget: 2000, needsALook: 0 };
    return drawThumbnail(encodeDocument({ settings, done: [], pieces }, summary), null);
  };
  expect(new Set(decode(drawn(true)).data).size).toBeGreaterThan(30);
  expect(drawn(true)).toEqual(drawn(false));
});
