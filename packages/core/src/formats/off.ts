import { badFile } from '../errors';
import { faceCountOf, type PolygonSoup, type SoupAttributes } from '../mesh';
import { GrowU32 } from './grow';
import { spread } from './pointsAndCorners';
import { textOf, TextScanner } from './TextScanner';
import { utf8Bytes } from './textBytes';

/** Colour values behind a record: integers mean bytes; a lone number is a row of a colour table that the file does not hold. */
const COLOUR_SCALE = { integer: 1 / 255, decimal: 1 };

/**
 * OFF text, with counts on the first line or the next, comments, normals, texture coordinates and colours by the header's letters.
 * With `attributes` those and the faces' colours are kept. Throws BAD_FILE with the line. Linear.
 */
export function readOff(given: Uint8Array, attributes = false): PolygonSoup {
  const bytes = utf8Bytes(given);
  const s = new TextScanner(bytes);
  if (!s.nextWord()) throw badFile('The file is empty', s);
  const head = /^(ST)?(C)?(N)?(4)?OFF/.exec(textOf(bytes, s.at, s.at + 8));
  if (!head) throw badFile('An OFF file begins with OFF', s);
  const [word, hasUv, hasColour, hasNormal, hasWeight] = head;
  s.at += word.length;
  if (/^\s*BINARY/.test(textOf(bytes, s.at, s.at + 12)))
    throw badFile('Binary OFF cannot be read; save it as OFF text, PLY or OBJ', s);
  s.nextWord();
  const [vertices, faces] = ['the number of points', 'the number of faces'].map((what) => count(s, what, bytes.length));
  s.nextLine();
  const positions = new Float64Array(3 * vertices);
  const colours = attributes && hasColour ? new Float32Array(4 * vertices).fill(1) : null;
  const normals = attributes && hasNormal ? new Float32Array(3 * vertices) : null;
  const uvs = attributes && hasUv ? new Float32Array(2 * vertices) : null;
  for (let v = 0; v < vertices; v++) {
    s.nextWord();
    for (let k = 0; k < 3; k++) positions[3 * v + k] = s.number('a coordinate');
    if (hasWeight) divide(positions, v, s);
    if (hasNormal) for (let k = 0; k < 3; k++) putNumber(normals, 3 * v + k, s.number('a normal'));
    if (colours || uvs) {
      const words = restOfLine(s);
      if (colours) putColour(words.slice(0, words.length - (hasUv ? 2 : 0)), colours, v);
      if (uvs) words.slice(-2).forEach((word, k) => putNumber(uvs, 2 * v + k, Number(word)));
    }
    s.nextLine();
  }
  const { corners, faceStarts, faceColours } = readFaces(s, vertices, faces, attributes);
  const found: SoupAttributes = {
    ...(uvs && { uvs: spread(uvs, 2, corners) }),
    ...(normals && { normals: spread(normals, 3, corners) }),
    ...(colours && { pointColours: colours }),
    ...(faceColours && { faceColours }),
  };
  const soup = { positions, faceStarts, corners };
  return Object.keys(found).length > 0 ? { ...soup, attributes: found } : soup;
}

/** Four numbers a point: the first three are divided by the fourth. */
function divide(positions: Float64Array, v: number, s: TextScanner): void {
  const w = s.number('a weight');
  if (w === 0) throw badFile('A point lies at infinity: its fourth number is 0', s);
  for (let k = 0; k < 3; k++) positions[3 * v + k] /= w;
}

function readFaces(s: TextScanner, vertices: number, faces: number, attributes: boolean) {
  const limit = s.bytes.length;
  const corners = new GrowU32(4 * faces);
  const faceStarts = new Uint32Array(faces + 1);
  const faceColours = attributes ? new Float32Array(4 * faces).fill(1) : null;
  let coloured = 0;
  for (let f = 0; f < faces; f++) {
    s.nextWord();
    const n = count(s, 'the number of corners', limit);
    if (n < 3) throw badFile('A face needs at least three corners', s);
    for (let c = 0; c < n; c++) {
      const v = count(s, 'a point number', limit);
      if (v >= vertices) throw badFile(`A face names point ${v}, but there are ${vertices}`, s);
      corners.push(v);
    }
    faceStarts[f + 1] = corners.length;
    if (faceColours && putColour(restOfLine(s), faceColours, f)) coloured++;
    s.nextLine();
  }
  return { corners: corners.done(), faceStarts, faceColours: coloured > 0 ? faceColours : null };
}

function putNumber(rows: Float32Array | null, at: number, value: number): void {
  if (rows && Number.isFinite(value)) rows[at] = value;
}

function restOfLine(s: TextScanner): string[] {
  const words: string[] = [];
  while (!s.lineEnds()) words.push(s.word());
  return words;
}

/** Puts three or four colour values; false when there are fewer, or none that are numbers. */
function putColour(words: readonly string[], rows: Float32Array, row: number): boolean {
  const values = words.slice(0, 4);
  if (values.length < 3) return false;
  const scale = values.every((w) => /^\d+$/.test(w)) ? COLOUR_SCALE.integer : COLOUR_SCALE.decimal;
  const numbers = values.map((w) => Number(w) * scale);
  if (!numbers.every(Number.isFinite)) return false;
  rows.set(numbers.map((x) => Math.min(1, Math.max(0, x))), 4 * row); // prettier-ignore
  return true;
}

function count(s: TextScanner, what: string, limit: number): number {
  s.blanks();
  const n = s.integer(what);
  if (n < 0 || n > limit) throw badFile(`${n} cannot be ${what}: the file is too short for it`, s);
  return n;
}

/** OFF text: polygons, colours of points or of faces. */
export function writeOff(soup: PolygonSoup): Uint8Array {
  const { positions: p, corners, faceStarts, attributes = {} } = soup;
  const { pointColours, faceColours } = attributes;
  const bytes = (rows: Float32Array, row: number): string =>
    ` ${[...rows.subarray(4 * row, 4 * row + 4)].map((x) => Math.round(255 * x)).join(' ')}`;
  const lines = [pointColours ? 'COFF' : 'OFF', `${p.length / 3} ${faceCountOf(soup)} 0`];
  for (let v = 0; v < p.length / 3; v++)
    lines.push(`${p[3 * v]} ${p[3 * v + 1]} ${p[3 * v + 2]}${pointColours ? bytes(pointColours, v) : ''}`);
  for (let f = 0; f < faceCountOf(soup); f++) {
    const ids = corners.subarray(faceStarts[f], faceStarts[f + 1]);
    lines.push(`${ids.length} ${ids.join(' ')}${faceColours ? bytes(faceColours, f) : ''}`);
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
