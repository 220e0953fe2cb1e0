import type { Region } from '@half-loop/contract';
import { lerp } from '@half-loop/core/math';
import type { Section } from '@half-loop/core/surface';
import { srgb } from './materials';
import type { Line } from './LineSet';

/** A region's tint as a line: so much of it, the rest ink. */
const SHARE = 0.45;

/** The smooth border of a region, dotted in its tint. */
export function regionLines(curves: readonly Section[], { tint }: Region): Line[] {
  const colour = srgb(tint).map((x) => x * SHARE) as [number, number, number];
  return curves.flatMap(({ points, closed }) => {
    const run = closed ? [...points, points[0]] : points;
    return run.slice(1).map((b, i): Line => ({ a: run[i], b: lerp(run[i], b, 0.6), colour, width: 2 }));
  });
}
