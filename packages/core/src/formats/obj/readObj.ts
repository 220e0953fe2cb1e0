import { badFile } from '../../errors';
import type { PolygonSoup } from '../../mesh';
import { GrowF64, GrowU32 } from '../grow';
import { textOf, TextScanner } from '../TextScanner';
import { utf8Bytes } from '../textBytes';
import { ObjAttributes } from './ObjAttributes';

const V = 118,
  F = 102,
  N = 110,
  T = 116,
  SLASH = 47,
  SPACE = 32,
  TAB = 9,
  ZERO = 48,
  DELETE = 127;
/** words whose lines say nothing about a surface of polygons */
const PASSED = new Set('vp p l usemap mtllib maplib lod shadow_obj trace_obj bevel c_interp d_interp mg cstype deg bmat step curv curv2 surf parm trim hole scrv sp end con ctech stech call csh fo'.split(' ')); // prettier-ignore

/**
 * Wavefront OBJ in UTF-8 or UTF-16: points and polygons of any size, every v/vt/vn form, negative indices,
 * continuation lines. With `attributes` also texture coordinates, normals, point colours, groups and hard edges; without,
 * they are passed over. Throws BAD_FILE with the line. Linear, about 0.1 µs a byte at most.
 */
export function readObj(given: Uint8Array, attributes = false): PolygonSoup {
  const bytes = utf8Bytes(given);
  const s = new TextScanner(bytes);
  // as many points as if every line were one: growing would copy them, room never used costs nothing
  const positions = new GrowF64((3 * bytes.length) / averageLine(bytes));
  const corners = new GrowU32(bytes.length / 14);
  const starts = new GrowU32(bytes.length / 42);
  const more = attributes ? new ObjAttributes(s) : null;
  starts.push(0);
  while (s.nextWord()) {
    const c = bytes[s.at];
    const next = bytes[s.at + 1];
    const alone = next === SPACE || next === TAB;
    if (c === V && alone) {
      s.at++;
      positions.room(3);
      const { data } = positions;
      data[positions.length++] = s.number('a coordinate');
      data[positions.length++] = s.number('a coordinate');
      data[positions.length++] = s.number('a coordinate');
      more?.pointColour(positions.length / 3);
    } else if (c === F && alone) {
      s.at++;
      face(s, positions.length / 3, corners, more);
      starts.push(corners.length);
      more?.endFace();
    } else if (c === V && (next === N || next === T)) {
      if (more) more.values(next === N);
    } else keyword(s, more);
    s.nextLine();
  }
  const soup: PolygonSoup = { positions: positions.done(), faceStarts: starts.done(), corners: corners.done() };
  const found = more?.finish(soup);
  return found ? { ...soup, attributes: found } : soup;
}

/** Bytes a line, judged by the beginning. */
function averageLine(bytes: Uint8Array): number {
  const sample = bytes.subarray(0, 1 << 16);
  let lines = 1;
  for (const c of sample) if (c === 10) lines++;
  return Math.max(8, sample.length / lines);
}

/** A line of another kind: noted when it means something, passed over when it is OBJ, refused when it is no text. */
function keyword(s: TextScanner, more: ObjAttributes | null): void {
  const start = s.at;
  for (let i = start; i === start || s.bytes[i] > SPACE; i++)
    if (s.bytes[i] >= DELETE || s.bytes[i] < SPACE) throw badFile('This is not OBJ text', s);
  const word = s.word();
  if (more?.keyword(word) || PASSED.has(word) || ['g', 'o', 's', 'usemtl'].includes(word)) return;
  if (!/^[A-Za-z_]+$/.test(word)) throw badFile(`Unknown word “${word.slice(0, 40)}” in OBJ text`, { line: s.line });
}

/** Corners up to the end of the line. Plain numbers are read in place; all else goes the long way. */
function face(s: TextScanner, points: number, corners: GrowU32, more: ObjAttributes | null): void {
  const first = corners.length;
  if (!more) plainCorners(s, points, corners);
  while (!s.lineEnds()) corner(s, points, corners, more);
  if (corners.length - first < 3) throw badFile('A face needs at least three corners', s);
}

/** Reads `12`, `12/3`, `12//4` and `12/3/4` while they come, keeping the first number; stops at anything else. */
function plainCorners(s: TextScanner, points: number, corners: GrowU32): void {
  const { bytes } = s;
  let { at } = s;
  for (;;) {
    while (bytes[at] === SPACE || bytes[at] === TAB) at++;
    s.at = at;
    let v = 0;
    for (let d = bytes[at] - ZERO; d >= 0 && d <= 9; d = bytes[++at] - ZERO) v = v * 10 + d;
    if (at === s.at || v === 0 || v > points) return;
    if (bytes[at] === SLASH) while (bytes[at] > SPACE) at++;
    else if (bytes[at] > SPACE) return;
    if (corners.length === corners.data.length) corners.room(1);
    corners.data[corners.length++] = v - 1;
  }
}

function corner(s: TextScanner, points: number, corners: GrowU32, more: ObjAttributes | null): void {
  const { bytes } = s;
  const given = s.integer('a point number');
  const v = given < 0 ? points + given : given - 1;
  if (given === 0 || v < 0 || v >= points)
    throw badFile(`A face names point ${given}, but ${points} are defined so far`, s);
  corners.push(v);
  let [uv, normal] = [0, 0];
  if (bytes[s.at] === SLASH) {
    s.at++;
    if (bytes[s.at] !== SLASH && bytes[s.at] > SPACE) uv = s.integer('a texture coordinate number');
    if (bytes[s.at] === SLASH) {
      s.at++;
      if (bytes[s.at] > SPACE) normal = s.integer('a normal number');
    }
  }
  if (bytes[s.at] > SPACE) throw badFile(`Unreadable face corner “${textOf(bytes, s.at, s.at + 12)}”`, s);
  more?.corner(uv, normal);
}
