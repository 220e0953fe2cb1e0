import { badFile } from '../errors';
import { faceCountOf, type PolygonSoup } from '../mesh';
import { GrowU32 } from './grow';
import { TextScanner } from './TextScanner';

/** OFF text, with counts on the first line or the next, comments, and colours passed over. Throws BAD_FILE. Linear. */
export function readOff(bytes: Uint8Array): PolygonSoup {
  const s = new TextScanner(bytes);
  if (!s.nextWord()) throw badFile('The file is empty', s);
  if (!/^OFF/.test(String.fromCharCode(...bytes.subarray(s.at, s.at + 3))))
    throw badFile('An OFF file begins with OFF', s);
  s.at += 3;
  s.nextWord();
  const [vertices, faces] = ['the number of points', 'the number of faces'].map((what) => count(s, what, bytes.length));
  s.nextLine();
  const positions = new Float64Array(3 * vertices);
  for (let v = 0; v < vertices; v++) {
    s.nextWord();
    for (let k = 0; k < 3; k++) positions[3 * v + k] = s.number('a coordinate');
    s.nextLine();
  }
  const corners = new GrowU32(4 * faces);
  const faceStarts = new Uint32Array(faces + 1);
  for (let f = 0; f < faces; f++) {
    s.nextWord();
    const n = count(s, 'the number of corners', bytes.length);
    if (n < 3) throw badFile('A face needs at least three corners', s);
    for (let c = 0; c < n; c++) {
      const v = count(s, 'a point number', bytes.length);
      if (v >= vertices) throw badFile(`A face names point ${v}, but there are ${vertices}`, s);
      corners.push(v);
    }
    faceStarts[f + 1] = corners.length;
    s.nextLine();
  }
  return { positions, faceStarts, corners: corners.done() };
}

function count(s: TextScanner, what: string, limit: number): number {
  s.blanks();
  const n = s.integer(what);
  if (n < 0 || n > limit) throw badFile(`${n} cannot be ${what}: the file is too short for it`, s);
  return n;
}

export function writeOff(soup: PolygonSoup): Uint8Array {
  const { positions: p, corners, faceStarts } = soup;
  const lines = ['OFF', `${p.length / 3} ${faceCountOf(soup)} 0`];
  for (let i = 0; i < p.length; i += 3) lines.push(`${p[i]} ${p[i + 1]} ${p[i + 2]}`);
  for (let f = 0; f < faceCountOf(soup); f++) {
    const ids = corners.subarray(faceStarts[f], faceStarts[f + 1]);
    lines.push(`${ids.length} ${ids.join(' ')}`);
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
