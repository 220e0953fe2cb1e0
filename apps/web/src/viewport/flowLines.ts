import { mirrored, type MirrorPlane } from '@half-loop/core/math';
import type { Flow } from '@half-loop/core/retopo';
import { srgb } from './materials';
import type { Line } from './LineSet';
import { poleMark } from './poleMarks';
import type { Mark } from './PointSet';

const COLOUR = srgb('#15423f');

/** Where quads would run, on both halves where there is a midline: sample loops as lines. */
export function flowLines({ loops }: Flow, plane: MirrorPlane | null): Line[] {
  const lines = loops.flatMap((loop) => loop.slice(1).map((b, i) => ({ a: loop[i], b, colour: COLOUR, width: 1.8 })));
  if (!plane) return lines;
  return [...lines, ...lines.map((l) => ({ ...l, a: mirrored(l.a, plane), b: mirrored(l.b, plane) }))];
}

/** The poles between them, by their shapes. */
export function flowMarks({ poles }: Flow, plane: MirrorPlane | null): Mark[] {
  const marks = poles.map(({ at, valence }) => poleMark(valence, at));
  return plane ? [...marks, ...marks.map((mark) => ({ ...mark, at: mirrored(mark.at, plane) }))] : marks;
}
