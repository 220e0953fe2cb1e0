import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng } from '../../math';
import { drawnApart } from '../fit/drawnApart';
import { crossingQuads } from './crossings';

/** A sheet of n × n quads about the unit square, at a height, or upright along x. */
function sheet(
  n: number,
  place: (x: number, y: number) => [number, number, number],
): { points: number[]; quads: number[] } {
  const points: number[] = [];
  const quads: number[] = [];
  for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) points.push(...place(i / n, j / n));
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) quads.push(j * (n + 1) + i, j * (n + 1) + i + 1, (j + 1) * (n + 1) + i + 1, (j + 1) * (n + 1) + i); // prettier-ignore
  return { points, quads };
}
function both(a: ReturnType<typeof sheet>, b: ReturnType<typeof sheet>): { points: Float64Array; quads: Int32Array } {
  const shift = a.points.length / 3;
  return { points: Float64Array.from([...a.points, ...b.points]), quads: Int32Array.from([...a.quads, ...b.quads.map((v) => v + shift)]) }; // prettier-ignore
}

test('a sheet that stands through another crosses it along its foot, and one above it does not', () => {
  const flat = sheet(8, (x, y) => [x, y, 0]);
  const through = sheet(8, (x, y) => [0.07 + 0.8 * x, 0.53 + 0.001 * x, y - 0.47]);
  const found = crossingQuads(both(flat, through));
  // the row of the standing sheet that goes through, and the row of the flat one that it goes through
  expect(found.filter((q) => q >= 64)).toHaveLength(8);
  expect(new Set(found.filter((q) => q < 64).map((q) => Math.floor(q / 8)))).toEqual(new Set([4]));
  expect(
    crossingQuads(
      both(
        flat,
        sheet(8, (x, y) => [x, y, 0.05]),
      ),
    ),
  ).toEqual([]);
});

test('quads on a flat side of a form do not cross, however it lies', () => {
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      // a thousandth of the side to a hundred times it away from where points are exact
      const far = 10 ** (5 * rng() - 3);
      const [a, b, c] = Array.from({ length: 3 }, () => far * (rng() - 0.5));
      const [ux, uy, uz, vx, vy, vz] = Array.from({ length: 6 }, () => rng() - 0.5);
      const { points, quads } = sheet(8, (x, y) => {
        const [s, t] = [x + 0.05 * rng(), y + 0.05 * rng()];
        return [a + s * ux + t * vx, b + s * uy + t * vy, c + s * uz + t * vz];
      });
      expect(crossingQuads({ points: Float64Array.from(points), quads: Int32Array.from(quads) })).toEqual([]);
    }),
    { numRuns: 40 },
  );
});

test('finds what trying every pair finds, over seeded sheets', () => {
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      const bent = (): ReturnType<typeof sheet> => {
        const [a, b, c, d] = [rng() - 0.5, rng() - 0.5, rng() - 0.5, rng() - 0.5];
        return sheet(5, (x, y) => [x + 0.1 * rng(), y + 0.1 * rng(), a + b * x + c * y + d * x * y]);
      };
      const soup = both(bent(), bent());
      const all = crossingQuads(soup);
      // alone, two quads cross only where they do in the whole; the grid of cells has no part in that
      const pairs = new Set<number>();
      for (let i = 0; i < 25; i++)
        for (let j = 25; j < 50; j++) {
          const own = Int32Array.from([...soup.quads.subarray(4 * i, 4 * i + 4), ...soup.quads.subarray(4 * j, 4 * j + 4)]); // prettier-ignore
          if (crossingQuads({ points: soup.points, quads: own }).length > 0) pairs.add(i).add(j);
        }
      expect(new Set(all)).toEqual(pairs);
    }),
    { numRuns: 40 },
  );
});

test('two walls that run into each other are drawn apart, across a gap and back to back, and points on lines stay', () => {
  const bump = (x: number, y: number): number => 0.06 * Math.sin(Math.PI * x) * Math.sin(Math.PI * y);
  const up = sheet(8, (x, y) => [x, y, bump(x, y)]);
  const flat = sheet(8, (x, y) => [x + 0.04, y + 0.03, 0.03]);
  const turned = { ...flat, quads: flat.quads.map((_, i) => flat.quads[i - (i % 4) + 3 - (i % 4)]) };
  const upTurned = { ...up, quads: up.quads.map((_, i) => up.quads[i - (i % 4) + 3 - (i % 4)]) };
  // the lower wall faces the upper one across the gap, or both face away from each other
  for (const walls of [both(up, turned), both(upTurned, flat)]) {
    const onLine = new Int32Array(walls.points.length / 3).fill(-1);
    onLine[0] = 0;
    const soup = { ...walls, onLine };
    const before = crossingQuads(soup).length;
    expect(before).toBeGreaterThan(10);
    const made = drawnApart(soup, 1 / 8, null, crossingQuads);
    expect(made.crossing).toEqual([]);
    expect(crossingQuads(made.soup)).toEqual([]);
    const moved = [...made.soup.points].map((x, i) => Math.abs(x - walls.points[i]));
    expect(Math.max(...moved)).toBeLessThan(0.5 / 8);
    expect(moved.slice(0, 3)).toEqual([0, 0, 0]);
  }
});

/** Two sheets, one above the other, with a point of the upper one so deep below the lower one. */
function pokedThrough(i: number, j: number, deep: number): ReturnType<typeof both> & { onLine: Int32Array } {
  const low = sheet(8, (x, y) => [x + 0.02, y + 0.015, 0]);
  const high = sheet(8, (x, y) => [x, y, 0.03]);
  const soup = { ...both(low, high), onLine: new Int32Array(162).fill(-1) };
  soup.points[3 * (81 + j * 9 + i) + 2] = -deep;
  return soup;
}

test.each([
  [4, 4, 0.02],
  [4, 4, 0.05],
  [3, 5, 0.03],
  [6, 2, 0.04],
])('a point that is through a wall goes back by itself: %d, %d, %d deep', (i, j, deep) => {
  const soup = pokedThrough(i, j, deep);
  expect(crossingQuads(soup).length).toBeGreaterThan(1);
  const made = drawnApart(soup, 1 / 8, null, crossingQuads);
  expect(made.crossing).toEqual([]);
  expect(crossingQuads(made.soup)).toEqual([]);
});

test('parting leaves no more that crosses, and all that is not near as it was', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 7 }),
      fc.integer({ min: 1, max: 7 }),
      fc.double({ min: 0.01, max: 0.06, noNaN: true }),
      (i, j, deep) => {
        const soup = pokedThrough(i, j, deep);
        const before = soup.points.slice();
        const made = drawnApart(soup, 1 / 8, null, crossingQuads);
        expect(made.crossing.length).toBeLessThanOrEqual(crossingQuads(soup).length);
        expect([...made.crossing].sort()).toEqual([...crossingQuads(made.soup)].sort());
        expect(soup.points).toEqual(before);
        expect(made.soup.quads).toEqual(soup.quads);
        const moved = [...soup.onLine.keys()].filter((w) => [0, 1, 2].some((k) => made.soup.points[3 * w + k] !== before[3 * w + k])); // prettier-ignore
        expect(moved.length).toBeLessThan(40);
      },
    ),
    { numRuns: 8, examples: [[2, 2, 0.03352459021400714]] },
  );
});
