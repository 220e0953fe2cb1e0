import type { Guide } from '@half-loop/contract';
import { add, addScaled, mirrored, pathThrough, scale, type MirrorPlane, type Vec3 } from '@half-loop/core/math';
import { srgb } from './materials';
import type { Line } from './LineSet';

const COLOUR = srgb('#5b3a8a');
/** Chevrons stand this far apart, and are this large, in cells of the view's grid. */
const APART = 0.8,
  SIZE = 0.09;

/** Guides as lines with chevrons along them, on both halves where there is a midline. */
export function guideLines(guides: readonly Guide[], plane: MirrorPlane | null, cell: number): Line[] {
  const lines = guides.flatMap((guide) => linesOf(guide, cell));
  if (!plane) return lines;
  return [...lines, ...lines.map((l) => ({ ...l, a: mirrored(l.a, plane), b: mirrored(l.b, plane), width: 1.5 }))];
}

function linesOf({ points, closed }: Guide, cell: number): Line[] {
  const line = (a: Vec3, b: Vec3, width: number): Line => ({ a, b, colour: COLOUR, width });
  const ends: readonly Vec3[] = closed ? [...points, points[0]] : points;
  const run = ends.slice(1).map((p, i) => line(ends[i], p, 2.4));
  const path = pathThrough(points, closed);
  if (!path) return run;
  const count = Math.max(1, Math.round(path.length / (APART * cell)));
  const size = Math.min(SIZE * cell, path.length / count / 3);
  for (let i = 0; i < count; i++) {
    const { point, ahead, side } = path.at((path.length * (i + 0.5)) / count);
    const back = addScaled(point, ahead, -size);
    for (const s of [size, -size]) run.push(line(add(back, scale(side, s)), point, 2));
  }
  return run;
}
