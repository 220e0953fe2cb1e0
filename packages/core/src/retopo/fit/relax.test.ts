import { describe, expect, it } from 'vitest';
import { SculptSurface } from '../../surface';
import type { QuadSoup } from '../quads/QuadSoup';
import { relaxed, relaxedSafely } from './relax';

/** A blade along y, open at its ends: so many sections, each as points x, z round it. */
function blade(sections: number, apart: number, round: readonly (readonly [number, number])[]): QuadSoup {
  const n = round.length;
  const points = new Float64Array(3 * n * sections);
  const quads: number[] = [];
  for (let i = 0; i < sections; i++)
    round.forEach(([x, z], k) => {
      points.set([x, i * apart, z], 3 * (n * i + k));
      const next = n * i + ((k + 1) % n);
      if (i > 0) quads.push(n * i + k, next, next - n, n * (i - 1) + k);
    });
  // the ends stay
  const onLine = new Int32Array(n * sections).map((_, v) => (v < n || v >= n * (sections - 1) ? -2 : -1));
  return { points, quads: Int32Array.from(quads), onLine };
}

/** Points x, z of a blade of unit half width, at places across both of its sides. */
const THICK = 0.15;
const bothSides = (across: readonly number[]): [number, number][] => {
  const at = (x: number, side: number): [number, number] => [x, side * THICK * (1 - Math.abs(x))];
  return [...across.map((x) => at(x, 1)), ...[...across].reverse().map((x) => at(x, -1))];
};

function form(): SculptSurface {
  const { points, quads } = blade(41, 0.2, bothSides([-1, -0.75, -0.5, -0.25, 0, 0.25, 0.5, 0.75, 0.999]));
  const indices = Array.from({ length: quads.length / 4 }, (_, q) => [0, 1, 2, 0, 2, 3].map((k) => quads[4 * q + k]));
  return SculptSurface.build({ positions: Float32Array.from(points), indices: Uint32Array.from(indices.flat()) });
}

/** How far out a blade's points lie from its middle at most, on the mean of its sections. */
function width({ points }: QuadSoup, around: number): number {
  const rings = points.length / 3 / around;
  let sum = 0;
  for (let i = 0; i < rings; i++) sum += Math.max(...Array.from({ length: around }, (_, k) => points[3 * (around * i + k)])); // prettier-ignore
  return sum / rings;
}

describe('quads round a blade, wider than long and none of them on its edges', () => {
  it.each([
    ['relaxed', (soup: QuadSoup) => relaxed(soup, [], form())],
    ['relaxed safely', (soup: QuadSoup) => relaxedSafely(soup, [], form(), 30)],
  ])('do not slide off its edges while they are %s', (_, evened) => {
    const soup = blade(21, 0.4, bothSides([-0.67, 0, 0.67]));
    evened(soup);
    expect(width(soup, 6)).toBeGreaterThan(0.9 * 0.67);
  });
});
