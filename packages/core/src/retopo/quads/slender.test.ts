import { describe, expect, test } from 'vitest';
import { SculptSurface, sculptFromSoup } from '../../surface';
import { prismSoup, starOutline } from '../../testing';
import { relaxed } from '../fit/relax';
import { qualityOf } from './QuadCheck';
import { QuadLinks } from './QuadLinks';
import type { QuadSoup } from './QuadSoup';
import { edgesRound, LEAST_ROUND, slenderQuads } from './slender';

/** A closed tube with so many quads round, its rings at these heights; capped by a quad at either end where there are four, else open. */
function tube(round: number, heights: readonly number[], radius: number): QuadSoup {
  const points: number[] = [];
  const quads: number[] = [];
  heights.forEach((z, j) => {
    for (let i = 0; i < round; i++) {
      const angle = (2 * Math.PI * i) / round;
      points.push(radius * Math.cos(angle), radius * Math.sin(angle), z);
      const [next, up] = [(i + 1) % round, j * round];
      if (j + 1 < heights.length) quads.push(up + i, up + next, up + round + next, up + round + i);
    }
  });
  const last = (heights.length - 1) * round;
  if (round === 4) quads.push(3, 2, 1, 0, last, last + 1, last + 2, last + 3);
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: new Int32Array(points.length / 3).fill(-1) }; // prettier-ignore
}

/** A rod of radius 0.25 from z = 0 to 6. */
const ROD = prismSoup(starOutline(24, 1).map(([x, y]) => [0.25 * x, 0.25 * y] as const), 6); // prettier-ignore
const heightsOf = ({ points }: QuadSoup): number[] => [...points].filter((_, i) => i % 3 === 2);

describe('quads along a limb that only a few go round', () => {
  test('are told by the loops of edges across it', () => {
    const four = tube(4, [0, 1, 2, 3], 0.25);
    // all but the caps
    expect([...slenderQuads(four)]).toEqual([...Array<number>(12).fill(1), 0, 0]);
    expect(edgesRound(0, new QuadLinks(four))).toBe(4);
    const six = tube(6, [0, 1, 2, 3], 0.25);
    expect([...slenderQuads(six)].some((is) => is === 1)).toBe(false);
    expect(edgesRound(0, new QuadLinks(six))).toBe(LEAST_ROUND + 1);
  });

  test('stay as long as they are while they are evened out, and get square corners', () => {
    const soup = tube(4, [0.05, 1.4, 3.1, 4.4, 5.95], 0.25);
    // twisted, so that corners are not square
    for (let v = 8; v < 12; v++) {
      const angle = (2 * Math.PI * v) / 4 + 0.5;
      soup.points.set([0.25 * Math.cos(angle), 0.25 * Math.sin(angle)], 3 * v);
    }
    const before = qualityOf(soup.points, soup.quads).quality;
    relaxed(soup, [], SculptSurface.build(sculptFromSoup(ROD)));
    const heights = heightsOf(soup);
    expect(Math.min(...heights)).toBeLessThan(0.2);
    expect(Math.max(...heights)).toBeGreaterThan(5.8);
    const after = qualityOf(soup.points, soup.quads).quality;
    expect(after.least).toBeGreaterThan(before.least);
    expect(after.mean).toBeGreaterThan(0.97);
  });
});
