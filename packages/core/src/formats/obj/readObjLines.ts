import { badFile } from '../../errors';
import { TextScanner } from '../TextScanner';
import { utf8Bytes } from '../textBytes';

/** A chain of points; a closed one does not have its first point again at the end. */
export interface Polyline {
  points: [number, number, number][];
  closed: boolean;
}

/**
 * The line elements of a Wavefront OBJ, `l 1 2 3`: one that ends where it starts is closed. All else is passed over. Throws BAD_FILE with the line. Cost:
 * linear.
 */
export function readObjLines(given: Uint8Array): Polyline[] {
  const s = new TextScanner(utf8Bytes(given));
  const points: [number, number, number][] = [];
  const found: Polyline[] = [];
  while (s.nextWord()) {
    const word = s.word();
    if (word === 'v') points.push([s.number('a coordinate'), s.number('a coordinate'), s.number('a coordinate')]);
    if (word === 'l') found.push(lineOf(s, points));
    s.nextLine();
  }
  return found;
}

function lineOf(s: TextScanner, all: readonly [number, number, number][]): Polyline {
  const ids: number[] = [];
  while (!s.lineEnds()) {
    const given = s.integer('a point number');
    const v = given < 0 ? all.length + given : given - 1;
    if (given === 0 || v < 0 || v >= all.length)
      throw badFile(`A line names point ${given}, but ${all.length} are defined so far`, s);
    ids.push(v);
    // what follows a slash is a texture coordinate
    if (s.bytes[s.at] === 47) s.word();
  }
  if (ids.length < 2) throw badFile('A line needs at least two points', s);
  const closed = ids.length > 3 && ids[0] === ids[ids.length - 1];
  return { points: (closed ? ids.slice(0, -1) : ids).map((v) => all[v]), closed };
}
