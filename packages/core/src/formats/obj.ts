import { badFile } from '../errors';
import type { PolygonSoup } from '../mesh';
import { GrowF64, GrowU32 } from './grow';
import { latin, TextScanner } from './TextScanner';
import type { WriteOptions } from './format';
import { faceCountOf } from '../mesh';

const V = 118,
  F = 102,
  SLASH = 47,
  SPACE = 32;

/**
 * Wavefront OBJ: points and polygons of any size, every v/vt/vn form, negative indices, continuation lines.
 * Texture coordinates, normals, materials and lines are passed over. Throws BAD_FILE with the line. Linear.
 */
export function readObj(bytes: Uint8Array): PolygonSoup {
  const s = new TextScanner(bytes);
  const positions = new GrowF64(bytes.length / 16);
  const corners = new GrowU32(bytes.length / 16);
  const starts = new GrowU32(bytes.length / 48);
  starts.push(0);
  while (s.nextWord()) {
    const c = bytes[s.at];
    const alone = bytes[s.at + 1] === SPACE || bytes[s.at + 1] === 9;
    if (c === V && alone) {
      s.at++;
      for (let k = 0; k < 3; k++) positions.push(s.number('a coordinate'));
    } else if (c === F && alone) {
      s.at++;
      face(s, positions.length / 3, corners, starts);
    } else checkKeyword(s);
    s.nextLine();
  }
  return { positions: positions.done(), faceStarts: starts.done(), corners: corners.done() };
}

function checkKeyword(s: TextScanner): void {
  for (let i = s.at; i === s.at || s.bytes[i] > SPACE; i++)
    if (s.bytes[i] > 126 || s.bytes[i] < SPACE) throw badFile('This is not OBJ text', s);
}

function face(s: TextScanner, vertices: number, corners: GrowU32, starts: GrowU32): void {
  const first = corners.length;
  while (!s.lineEnds()) {
    const given = s.integer('a point number');
    const v = given < 0 ? vertices + given : given - 1;
    if (given === 0 || v < 0 || v >= vertices)
      throw badFile(`A face names point ${given}, but ${vertices} are defined so far`, s);
    corners.push(v);
    if (s.bytes[s.at] === SLASH) while (s.bytes[s.at] > SPACE) s.at++;
    else if (s.bytes[s.at] > SPACE) throw badFile(`Unreadable face corner “${latin(s.bytes, s.at, s.at + 12)}”`, s);
  }
  if (corners.length - first < 3) throw badFile('A face needs at least three corners', s);
  starts.push(corners.length);
}

/** OBJ text: one object, polygons kept, a normal a point when given. Numbers round-trip to the last bit. */
export function writeObj(soup: PolygonSoup, { name, normals }: WriteOptions): Uint8Array {
  const lines = [`o ${plainName(name)}`];
  const { positions: p, corners, faceStarts } = soup;
  for (let i = 0; i < p.length; i += 3) lines.push(`v ${p[i]} ${p[i + 1]} ${p[i + 2]}`);
  if (normals) for (let i = 0; i < p.length; i += 3) lines.push(`vn ${normals[i]} ${normals[i + 1]} ${normals[i + 2]}`);
  for (let f = 0; f < faceCountOf(soup); f++) {
    let line = 'f';
    for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++)
      line += normals ? ` ${corners[c] + 1}//${corners[c] + 1}` : ` ${corners[c] + 1}`;
    lines.push(line);
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}

/** A user's name as one OBJ word: line breaks and blanks become underscores. */
const plainName = (name: string): string => name.replace(/[\s\\#]+/g, '_') || 'low-poly';
