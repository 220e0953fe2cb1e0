import {
  boxDiagonal,
  boxOf,
  lengthsAlong,
  mirrored,
  stepsAlong,
  type MirrorPlane,
  type Vec3,
} from '@half-loop/core/math';
import type { Flow } from '@half-loop/core/retopo';
import { srgb, type Srgb } from './materials';
import type { Line } from './LineSet';
import { poleMark } from './poleMarks';
import type { Mark } from './PointSet';
import type { ViewSettings } from './ViewState';

const COLOUR = srgb('#15423f');
/** Between both lines of a sharp edge. */
const CORE = srgb('#f4f7f6');
/** Pixels across: sample loops, ridges, both lines of a sharp edge and what is between them. */
const WIDTHS = { loop: 1.8, ridge: 4, sharp: 4.6, between: 1.8 };
/** Lines that are broken have so many stretches and gaps over the length of the box around all. */
const BROKEN = 24;
/** Straight pieces of each stretch between breaks. */
const PIECES = 4;

/** Where quads would run, on both halves where there is a midline: sample loops as lines, ridges thick, sharp edges double, and broken where they are not kept. */
export function flowLines(flow: NonNullable<ViewSettings['flow']>, plane: MirrorPlane | null): Line[] {
  const sharp = flow.keepsSharp ? flow.sharp : broken(flow.sharp, extentOf(flow) / BROKEN);
  const lines = [
    ...flow.loops.flatMap((loop) => stroke(loop, COLOUR, WIDTHS.loop)),
    ...flow.ridges.flatMap((ridge) => stroke(ridge, COLOUR, WIDTHS.ridge)),
    ...sharp.flatMap((edge) => stroke(edge, COLOUR, WIDTHS.sharp)),
    // drawn later, so over it
    ...sharp.flatMap((edge) => stroke(edge, CORE, WIDTHS.between)),
  ];
  if (!plane) return lines;
  return [...lines, ...lines.map((l) => ({ ...l, a: mirrored(l.a, plane), b: mirrored(l.b, plane) }))];
}

const stroke = (way: readonly Vec3[], colour: Srgb, width: number): Line[] =>
  way.slice(1).map((b, i) => ({ a: way[i], b, colour, width }));

/** Diagonal of the box around all lines. */
const extentOf = ({ loops, sharp }: Flow): number => boxDiagonal(boxOf([...loops, ...sharp].flat(2)));

/** Every other stretch of ways, of about a length. */
function broken(ways: readonly Vec3[][], stretch: number): Vec3[][] {
  return ways.flatMap((way) => {
    const long = lengthsAlong(way)[way.length - 1];
    const gaps = Math.max(1, Math.round((long / stretch - 1) / 2));
    const places = [...stepsAlong(way, (2 * gaps + 1) * PIECES), way[way.length - 1]];
    return Array.from({ length: gaps + 1 }, (_, k) => places.slice(2 * k * PIECES, (2 * k + 1) * PIECES + 1));
  });
}

/** The poles between them, by their shapes. */
export function flowMarks({ poles }: Flow, plane: MirrorPlane | null): Mark[] {
  const marks = poles.map(({ at, valence }) => poleMark(valence, at));
  return plane ? [...marks, ...marks.map((mark) => ({ ...mark, at: mirrored(mark.at, plane) }))] : marks;
}
