import fc from 'fast-check';
import { expect, test } from 'vitest';
import { distance, lengthsAlong, nearestOnLine, type Vec3 } from '../../math';
import { sculptFromSoup, type TriangleData } from '../../surface';
import { ballSoup } from '../../testing';
import { FlowForm } from '../flow';
import { TriMesh } from '../form/TriMesh';
import { layAll } from '../layAll';
import { LAY_AS_USUAL } from '../options';
import { cornerOf } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { ridgesOf } from './ridges';

const AROUND = 96;

/** A closed profile, radius and height, turned round the z axis. */
function turned(profile: readonly (readonly [number, number])[]): TriangleData {
  const n = profile.length;
  const positions = new Float32Array(3 * AROUND * n);
  const indices: number[] = [];
  for (let a = 0; a < AROUND; a++)
    for (let i = 0; i < n; i++) {
      const [r, z] = profile[i];
      const way = (2 * Math.PI * a) / AROUND;
      positions.set([r * Math.cos(way), r * Math.sin(way), z], 3 * (a * n + i));
      const [b, j] = [(a + 1) % AROUND, (i + 1) % n];
      indices.push(a * n + i, b * n + i, b * n + j, a * n + i, b * n + j, a * n + j);
    }
  return { positions, indices: Uint32Array.from(indices) };
}

/** The wall of a pipe of radius 2 from height 0 to 4, its rims round. */
function pipe(thick: number): TriangleData {
  const profile: [number, number][] = [];
  const [steps, turns] = [60, 8];
  const half = thick / 2;
  for (let i = 0; i < steps; i++) profile.push([2 + half, (4 * i) / steps]);
  for (let i = 0; i < turns; i++) profile.push([2 + half * Math.cos((Math.PI * i) / turns), 4 + half * Math.sin((Math.PI * i) / turns)]); // prettier-ignore
  for (let i = 0; i < steps; i++) profile.push([2 - half, 4 - (4 * i) / steps]);
  for (let i = 0; i < turns; i++) profile.push([2 - half * Math.cos((Math.PI * i) / turns), -half * Math.sin((Math.PI * i) / turns)]); // prettier-ignore
  return turned(profile);
}

const meshOf = ({ positions, indices }: TriangleData, place = (p: Vec3): Vec3 => p): TriMesh => {
  const points = Float64Array.from(positions);
  for (let i = 0; i < points.length; i += 3) points.set(place([points[i], points[i + 1], points[i + 2]]), i);
  return new TriMesh(points, indices);
};

/** A round plate of radius 3 with a hole of some radius in its middle, its rims round. */
function washer(hole: number, thick: number): TriangleData {
  const profile: [number, number][] = [];
  const [steps, turns, half] = [60, 8, thick / 2];
  for (let i = 0; i < steps; i++) profile.push([hole + ((3 - hole) * i) / steps, -half]);
  for (let i = 0; i < turns; i++) profile.push([3 + half * Math.sin((Math.PI * i) / turns), -half * Math.cos((Math.PI * i) / turns)]); // prettier-ignore
  for (let i = 0; i < steps; i++) profile.push([3 - ((3 - hole) * i) / steps, half]);
  for (let i = 0; i < turns; i++) profile.push([hole - half * Math.sin((Math.PI * i) / turns), half * Math.cos((Math.PI * i) / turns)]); // prettier-ignore
  return turned(profile);
}

/** How long the ridges of a form are, in quads of .4. */
const longIn = (form: TriangleData): number[] =>
  ridgesOf(meshOf(form), 0.4).map(({ points, closed }) => lengthsAlong(closed ? [...points, points[0]] : points)[points.length - (closed ? 0 : 1)] / 0.4); // prettier-ignore

test('rims of holes that five quads go round are ridges, those of cups only if eight do', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.44, max: 0.9, noNaN: true }),
      fc.double({ min: 0.1, max: 0.2, noNaN: true }),
      (hole, thick) => {
        const [short, long] = longIn(washer(hole, thick)).sort((a, b) => a - b);
        const rims = [2 * Math.PI * (hole - thick / 2), 2 * Math.PI * (3 + thick / 2)].map((round) => round / 0.4);
        expect(Math.abs(long / rims[1] - 1)).toBeLessThan(0.05);
        // places half a quad apart round so little cut its corners
        expect(short / rims[0]).toBeGreaterThan(0.85);
        expect(short / rims[0]).toBeLessThan(1.05);
      },
    ),
    { numRuns: 5 },
  );
  // two quads round
  expect(longIn(washer(0.18, 0.1))).toHaveLength(1);
  const cup = pipe(0.15);
  for (let i = 0; i < cup.positions.length; i++) if (i % 3 < 2) cup.positions[i] *= 0.23;
  expect(longIn(cup).filter((long) => long < 8)).toEqual([]);
});

test('rims thinner than a quad are ridges, wherever the form is and however great', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 6, noNaN: true }),
      fc.integer({ min: -3, max: 3 }),
      fc.double({ min: 0.1, max: 0.25, noNaN: true }),
      (turn, power, thick) => {
        const by = 10 ** power;
        const [c, s] = [Math.cos(turn), Math.sin(turn)];
        const mesh = meshOf(pipe(thick), ([x, y, z]) => [by * x, by * (c * y - s * z) + 5 * by, by * (s * y + c * z)]);
        const lines = ridgesOf(mesh, 0.4 * by);
        expect(lines.map(({ closed }) => closed)).toEqual([true, true]);
        const heights = lines.map(({ points }) => points.map(([, y, z]) => (-s * (y - 5 * by) + c * z) / by));
        // one at each end, on the middle of the rim all round
        const ends = [-thick / 2, 4 + thick / 2];
        heights.sort((a, b) => a[0] - b[0]);
        heights.forEach((all, i) => {
          expect(all.length).toBeGreaterThan(50);
          for (const z of all) expect(Math.abs(z - ends[i])).toBeLessThan(0.04);
        });
      },
    ),
    { numRuns: 5 },
  );
});

test('what bends over more than a quad is no ridge, nor is a thin limb', () => {
  expect(ridgesOf(meshOf(sculptFromSoup(ballSoup(60))), 0.15)).toEqual([]);
  // a rim of three quads across
  expect(ridgesOf(meshOf(pipe(1.2)), 0.4)).toEqual([]);
  // a ring four quads round
  const tube = Array.from({ length: 24 }, (_, i) => (2 * Math.PI * i) / 24);
  const ring = turned(tube.map((a) => [2 + 0.25 * Math.cos(a), 0.25 * Math.sin(a)]));
  expect(ridgesOf(meshOf(ring), (0.25 * 2 * Math.PI) / 4)).toEqual([]);
});

test('a bump is none, and an edge that ends is one up to its ends', () => {
  // a sheet with a fold that flattens out: as high as a quad in the middle
  const n = 80;
  const height = (x: number, y: number): number =>
    Math.max(0, 1 - Math.abs(x) / 0.4) * Math.min(1, Math.max(0, 3 - Math.abs(y)));
  const positions = new Float32Array(3 * (n + 1) ** 2);
  const indices: number[] = [];
  for (let i = 0; i <= n; i++)
    for (let j = 0; j <= n; j++) {
      const [x, y] = [(8 * i) / n - 4, (8 * j) / n - 4];
      positions.set([x, y, height(x, y)], 3 * (i * (n + 1) + j));
      if (i === n || j === n) continue;
      const v = i * (n + 1) + j;
      indices.push(v, v + n + 1, v + n + 2, v, v + n + 2, v + 1);
    }
  const mesh = new TriMesh(Float64Array.from(positions), Uint32Array.from(indices));
  const lines = ridgesOf(mesh, 0.4);
  // between the grooves at its feet
  const middle = lines.filter(({ points }) => points.every(([x]) => Math.abs(x) < 0.3));
  expect(middle).toHaveLength(1);
  for (const line of lines) for (const [x] of line.points) expect(line === middle[0] || Math.abs(x) > 0.3).toBe(true);
  const { points, closed } = middle[0];
  expect(closed).toBe(false);
  for (const [x, , z] of points) {
    expect(Math.abs(x)).toBeLessThan(0.06);
    expect(z).toBeGreaterThan(0.05);
  }
  const along = points.map(([, y]) => y);
  expect(Math.max(...along) - Math.min(...along)).toBeGreaterThan(4);
  // turned over it is a groove, between the edges at its feet
  const over = new TriMesh(
    Float64Array.from(positions, (x, i) => (i % 3 === 2 ? -x : x)),
    Uint32Array.from(indices),
  );
  const fromOver = ridgesOf(over, 0.4).map(({ points: own }) => own.map(([x]) => Math.abs(x)));
  expect(fromOver).toHaveLength(lines.length);
  expect(fromOver.filter((away) => Math.max(...away) < 0.06)).toHaveLength(1);
  expect(fromOver.filter((away) => Math.min(...away) > 0.3)).toHaveLength(lines.length - 1);
  // of bigger quads it is but few long
  expect(ridgesOf(mesh, 0.8)).toEqual([]);
});

/** A ring of radius 3, 1.2 thick all round, with a furrow along its outside. */
function furrowed(deep: number, wide: number): TriangleData {
  const steps = 160;
  return turned(
    Array.from({ length: steps }, (_, i) => {
      const way = (2 * Math.PI * i) / steps;
      const [out, z] = [1.2 * Math.cos(way), 1.2 * Math.sin(way)];
      const sunk = out > 0 ? (deep * (1 + Math.cos((Math.PI * Math.min(wide, Math.abs(z))) / wide))) / 2 : 0;
      return [3 + out - sunk, z];
    }),
  );
}

test('a groove narrower than a quad is followed along its bottom, and edges beside it where they are sharp', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.35, max: 0.5, noNaN: true }),
      fc.double({ min: 0.25, max: 0.3, noNaN: true }),
      (deep, wide) => {
        const found = ridgesOf(meshOf(furrowed(deep, wide)), 0.4);
        const heights = found.map(({ points }) => points.map(([, , z]) => Math.abs(z)));
        const bottom = found.filter((_, i) => Math.max(...heights[i]) < 0.06);
        expect(bottom.map(({ closed }) => closed)).toEqual([true]);
        for (const [x, y] of bottom[0].points) expect(Math.hypot(x, y)).toBeLessThan(4.2 - deep + 0.06);
        heights.forEach((own, i) => expect(found[i] === bottom[0] || Math.min(...own) > 0.15).toBe(true));
      },
    ),
    // where it stands out most sections askew come back too near, those square to it do not
    { numRuns: 5, examples: [[0.38866511370432133, 0.2507433446560943]] },
  );
  // what is wider is followed by quads anyway
  expect(ridgesOf(meshOf(furrowed(0.3, 1.2)), 0.4)).toEqual([]);
});

test('a loop lies in the groove of what is laid', () => {
  const { soup } = layAll(furrowed(0.45, 0.3), { ...LAY_AS_USUAL, faces: 900 });
  const away = awayFromEdges(soup, 3.75, 0);
  expect(away.filter((d) => d < 0.06).length).toBeGreaterThan(0.9 * away.length);
});

test('loops lie on the rims of what is laid, at no cost in poles', () => {
  const { soup, routes } = layAll(pipe(0.16), { ...LAY_AS_USUAL, faces: 600 });
  expect(routes.map(({ irregular }) => irregular)).toEqual([0]);
  for (const rim of [-0.08, 4.08]) {
    const away = awayFromEdges(soup, 2, rim);
    // but for where a loop gives way to the next
    expect(away.filter((d) => d < 0.05).length).toBeGreaterThan(0.8 * away.length);
    expect(Math.max(...away)).toBeLessThan(0.16);
  }
});

/** How far places of a circle round the z axis are from the nearest edges. */
function awayFromEdges({ points: p, quads }: QuadSoup, radius: number, height: number): number[] {
  const at = (v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  const edges = [...quads.keys()].map((h) => [at(quads[h]), at(cornerOf(quads, h, 1))]);
  return Array.from({ length: 96 }, (_, i) => {
    const way = (2 * Math.PI * i) / 96;
    const place: Vec3 = [radius * Math.cos(way), radius * Math.sin(way), height];
    return Math.min(...edges.map((edge) => distance(place, nearestOnLine(place, edge).point)));
  });
}

test('the flow shows rims as ridges for the count that is asked for', () => {
  const form = new FlowForm(pipe(0.2), { plane: null, keepEdges: null, loops: null, smoothing: 0 });
  const wish = { faces: 1200, evenness: 0, followForm: 1, lines: [], followsLoops: false, densities: [] };
  const { ridges } = form.flow(wish);
  expect(ridges.length).toBe(2);
  for (const ridge of ridges) expect(ridge[0]).toEqual(ridge[ridge.length - 1]);
  // quads smaller than the wall is thick go round it; those of many sizes have none
  expect(form.flow({ ...wish, faces: 20_000 }).ridges).toEqual([]);
  expect(form.flow({ ...wish, densities: [{ points: [[2, 0, 2]], radius: 1, times: 4 }] }).ridges).toEqual([]);
  expect(form.flow({ ...wish, followForm: 0 }).ridges).toEqual([]);
});
