import { badFile } from '../errors';
import { triangleStarts, triangulate, faceCountOf, type PolygonSoup } from '../mesh';
import type { WriteOptions } from './format';
import { GroupList } from './GroupList';
import { GrowF64 } from './grow';
import { textOf, TextScanner } from './TextScanner';
import { utf8Bytes } from './textBytes';

const HEADER = 84,
  RECORD = 50;
const PASSED = ['facet', 'outer', 'endloop', 'endsolid', 'color'];

/**
 * STL, binary (also one that begins with 'solid') or text; with `attributes` several solids are groups, without they
 * are one. Triangles are loose: weld after. Throws BAD_FILE with the byte or line. Linear.
 */
export function readStl(bytes: Uint8Array, attributes = false): PolygonSoup {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const said = bytes.length >= HEADER ? view.getUint32(80, true) : 0;
  if (bytes.length >= HEADER && bytes.length === HEADER + RECORD * said) return readBinary(view, said);
  const text = utf8Bytes(bytes);
  if (/^\s*solid\b/i.test(textOf(text, 0, Math.min(text.length, 80)))) return readText(text, attributes);
  if (bytes.length < HEADER) throw badFile('The file is too short for STL', { byte: bytes.length });
  throw badFile(
    `The header says ${said} triangles, which takes ${HEADER + RECORD * said} bytes, but the file has ${bytes.length}`,
    { byte: 80 },
  );
}

function readBinary(view: DataView, triangles: number): PolygonSoup {
  const positions = new Float32Array(9 * triangles);
  const end = HEADER + RECORD * triangles;
  for (let at = HEADER + 12, i = 0; at < end; at += RECORD, i += 9) {
    const a = (positions[i] = view.getFloat32(at, true));
    const b = (positions[i + 1] = view.getFloat32(at + 4, true));
    const c = (positions[i + 2] = view.getFloat32(at + 8, true));
    const d = (positions[i + 3] = view.getFloat32(at + 12, true));
    const e = (positions[i + 4] = view.getFloat32(at + 16, true));
    const f = (positions[i + 5] = view.getFloat32(at + 20, true));
    const g = (positions[i + 6] = view.getFloat32(at + 24, true));
    const h = (positions[i + 7] = view.getFloat32(at + 28, true));
    const j = (positions[i + 8] = view.getFloat32(at + 32, true));
    const sum = a + b + c + d + e + f + g + h + j;
    if (sum - sum !== 0) throw badFile(`Triangle ${i / 9 + 1} has a coordinate that is not a number`, { byte: at });
  }
  return looseTriangles(positions);
}

function readText(bytes: Uint8Array, attributes: boolean): PolygonSoup {
  const s = new TextScanner(bytes);
  const positions = new GrowF64(bytes.length / 28);
  const solids = new GroupList();
  let corners = 0;
  while (s.nextWord()) {
    const word = s.word().toLowerCase();
    if (word === 'vertex') {
      for (let k = 0; k < 3; k++) positions.push(s.number('a coordinate'));
      corners++;
    } else if (word === 'endfacet') {
      if (corners !== 3) throw badFile(`A facet has ${corners} corners; STL has triangles only`, s);
      corners = 0;
      if (attributes) solids.addFace();
    } else if (word === 'solid') {
      if (corners !== 0) throw badFile('A solid begins inside a facet', s);
      solids.open(s.rest());
    } else if (!PASSED.includes(word)) throw badFile(`Unknown word “${word.slice(0, 40)}” in STL text`, s);
    s.nextLine();
  }
  if (corners !== 0) throw badFile('The file ends inside a facet', s);
  const soup = looseTriangles(positions.done());
  return attributes && solids.used ? { ...soup, attributes: { groups: solids.done() } } : soup;
}

function looseTriangles(positions: Float64Array | Float32Array): PolygonSoup {
  const corners = new Uint32Array(positions.length / 3);
  for (let i = 0; i < corners.length; i++) corners[i] = i;
  return { positions, faceStarts: triangleStarts(corners.length / 3), corners };
}

/** Binary STL; polygons are cut into triangles, the name goes into the header as plain letters. */
export function writeStl(soup: PolygonSoup, { name }: WriteOptions): Uint8Array {
  const { positions: p, corners, faceStarts } = soup;
  const triangles: number[] = [];
  for (let f = 0; f < faceCountOf(soup); f++) {
    const ids = [...corners.subarray(faceStarts[f], faceStarts[f + 1])];
    triangles.push(...triangulate(ids.map((v) => [p[3 * v], p[3 * v + 1], p[3 * v + 2]])).map((i) => ids[i]));
  }
  const out = new DataView(new ArrayBuffer(HEADER + (RECORD * triangles.length) / 3));
  // behind other words, since readers take a header that begins with 'solid' for text
  const title = `binary STL ${name.replace(/[^\x20-\x7e]+/g, '_')}`.slice(0, 79);
  for (let i = 0; i < title.length; i++) out.setUint8(i, title.charCodeAt(i));
  out.setUint32(80, triangles.length / 3, true);
  triangles.forEach((v, i) => {
    const at = HEADER + RECORD * Math.floor(i / 3) + 12 + 12 * (i % 3);
    for (let k = 0; k < 3; k++) out.setFloat32(at + 4 * k, p[3 * v + k], true);
  });
  return new Uint8Array(out.buffer);
}
