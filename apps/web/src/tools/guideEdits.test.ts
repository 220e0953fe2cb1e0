import { describe, expect, it } from 'vitest';
import type { Vec3 } from '@half-loop/core/math';
import { extended, redrawn } from './guideEdits';

const along = (...xs: number[]): Vec3[] => xs.map((x) => [x, 0, 0]);
const ring = Array.from({ length: 8 }, (_, i): Vec3 => [Math.cos((i * Math.PI) / 4), Math.sin((i * Math.PI) / 4), 0]);
/** A half circle beyond the ring, from one angle to another, in eighths. */
const outside = (from: number, to: number): Vec3[] =>
  [0, 1, 2, 3, 4].map((i): Vec3 => {
    const turn = ((from + ((to - from) * i) / 4) * Math.PI) / 4;
    return [1.2 * Math.cos(turn), 1.2 * Math.sin(turn), 0];
  });

describe('a guide drawn anew in part', () => {
  it('keeps what lies beyond the stroke, whichever way that was drawn', () => {
    const line = { points: along(0, 1, 2, 3, 4, 5), closed: false };
    const stroke: Vec3[] = [[1, 0.5, 0], [2, 1, 0], [4, 0.5, 0]]; // prettier-ignore
    expect(redrawn(line, stroke, 1, 4).points).toEqual([[0, 0, 0], ...stroke, [5, 0, 0]]);
    expect(redrawn(line, [...stroke].reverse(), 4, 1).points).toEqual([[0, 0, 0], ...stroke, [5, 0, 0]]);
  });

  it('of a ring gives up the stretch that the stroke lies along', () => {
    const stroke = outside(0, 2);
    const { points, closed } = redrawn({ points: ring, closed: true }, stroke, 0, 2);
    expect(closed).toBe(true);
    expect(points).toEqual([...stroke, ...ring.slice(3)]);
    // the same, drawn from the other end
    const back = redrawn({ points: ring, closed: true }, [...stroke].reverse(), 2, 0);
    expect(new Set(back.points.map((p) => p.join()))).toEqual(new Set(points.map((p) => p.join())));
  });

  it('goes on from either end', () => {
    const line = { points: along(0, 1), closed: false };
    expect(extended(line, along(2, 3), false).points).toEqual(along(0, 1, 2, 3));
    expect(extended(line, along(-1, -2), true).points).toEqual(along(-2, -1, 0, 1));
  });
});
