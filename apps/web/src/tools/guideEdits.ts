import { distance, type Vec3 } from '@half-loop/core/math';

export interface Line {
  points: readonly Vec3[];
  closed: boolean;
}

/**
 * A line with the stretch between two of its points, by their places, drawn anew; the stroke goes from the first place to the second. Of a closed line the
 * stretch that the stroke lies nearer to goes. The places must differ. Cost: the line times the stroke.
 */
export function redrawn({ points, closed }: Line, stroke: readonly Vec3[], from: number, to: number): Line {
  if (!closed) {
    const forward = from < to ? stroke : [...stroke].reverse();
    return { points: [...points.slice(0, Math.min(from, to)), ...forward, ...points.slice(Math.max(from, to) + 1)], closed }; // prettier-ignore
  }
  const between = arc(points, from, to);
  const round = arc(points, to, from);
  return away(between, stroke) < away(round, stroke)
    ? { points: [...stroke, ...inner(round)], closed }
    : { points: [...[...stroke].reverse(), ...inner(between)], closed };
}

/** A line that goes on from its end, or from its start. */
export function extended({ points }: Line, stroke: readonly Vec3[], atStart: boolean): Line {
  return { points: atStart ? [...[...stroke].reverse(), ...points] : [...points, ...stroke], closed: false };
}

/** Points of a closed line from one place on to another, both with it. */
function arc(points: readonly Vec3[], from: number, to: number): Vec3[] {
  const n = points.length;
  return Array.from({ length: ((to - from + n) % n) + 1 }, (_, i) => points[(from + i) % n]);
}

const inner = (points: readonly Vec3[]): Vec3[] => points.slice(1, -1);

/** How far points are from a stroke, on the whole. */
const away = (points: readonly Vec3[], stroke: readonly Vec3[]): number =>
  points.reduce((sum, p) => sum + Math.min(...stroke.map((q) => distance(p, q))), 0) / points.length;
