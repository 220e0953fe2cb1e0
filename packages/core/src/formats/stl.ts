import { badFile } from '../errors';
import { triangleStarts, triangulate, faceCountOf, type PolygonSoup } from '../mesh';
import { GrowF64 } from './grow';
import { latin, TextScanner } from './TextScanner';

const HEADER = 84,
  RECORD = 50;

/** STL, binary (also one that begins with 'solid') or text, several solids as one. Triangles are loose: weld after. */
export function readStl(bytes: Uint8Array): PolygonSoup {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const said = bytes.length >= HEADER ? view.getUint32(80, true) : 0;
  const isText = /^\s*solid\b/.test(latin(bytes, 0, Math.min(bytes.length, 80)));
  if (bytes.length >= HEADER && bytes.length === HEADER + RECORD * said) return readBinary(view, said);
  if (isText) return readText(bytes);
  if (bytes.length < HEADER) throw badFile('The file is too short for STL', { byte: bytes.length });
  throw badFile(
    `The header says ${said} triangles, which takes ${HEADER + RECORD * said} bytes, but the file has ${bytes.length}`,
    { byte: 80 },
  );
}

function readBinary(view: DataView, triangles: number): PolygonSoup {
  const positions = new Float64Array(9 * triangles);
  for (let t = 0; t < triangles; t++) {
    const at = HEADER + RECORD * t + 12;
    for (let k = 0; k < 9; k++) {
      const x = view.getFloat32(at + 4 * k, true);
      if (!Number.isFinite(x))
        throw badFile(`Triangle ${t + 1} has a coordinate that is not a number`, { byte: at + 4 * k });
      positions[9 * t + k] = x;
    }
  }
  return looseTriangles(positions);
}

function readText(bytes: Uint8Array): PolygonSoup {
  const s = new TextScanner(bytes);
  const positions = new GrowF64(bytes.length / 20);
  let corners = 0;
  while (s.nextWord()) {
    const word = s.word().toLowerCase();
    if (word === 'vertex') {
      for (let k = 0; k < 3; k++) positions.push(s.number('a coordinate'));
      corners++;
    } else if (word === 'endfacet') {
      if (corners !== 3) throw badFile(`A facet has ${corners} corners; STL has triangles only`, s);
      corners = 0;
    } else if (!['solid', 'endsolid', 'facet', 'outer', 'endloop', 'endsolid'].includes(word)) {
      throw badFile(`Unknown word “${word.slice(0, 40)}” in STL text`, s);
    }
    s.nextLine();
  }
  if (corners !== 0) throw badFile('The file ends inside a facet', s);
  return looseTriangles(positions.done());
}

function looseTriangles(positions: Float64Array): PolygonSoup {
  const corners = new Uint32Array(positions.length / 3).map((_, i) => i);
  return { positions, faceStarts: triangleStarts(corners.length / 3), corners };
}

/** Binary STL; polygons are cut into triangles. */
export function writeStl(soup: PolygonSoup): Uint8Array {
  const { positions: p, corners, faceStarts } = soup;
  const triangles: number[] = [];
  for (let f = 0; f < faceCountOf(soup); f++) {
    const ids = [...corners.subarray(faceStarts[f], faceStarts[f + 1])];
    triangles.push(...triangulate(ids.map((v) => [p[3 * v], p[3 * v + 1], p[3 * v + 2]])).map((i) => ids[i]));
  }
  const out = new DataView(new ArrayBuffer(HEADER + (RECORD * triangles.length) / 3));
  out.setUint32(80, triangles.length / 3, true);
  triangles.forEach((v, i) => {
    const at = HEADER + RECORD * Math.floor(i / 3) + 12 + 12 * (i % 3);
    for (let k = 0; k < 3; k++) out.setFloat32(at + 4 * k, p[3 * v + k], true);
  });
  return new Uint8Array(out.buffer);
}
