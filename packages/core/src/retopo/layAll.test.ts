import { describe, expect, test } from 'vitest';
import { HalfLoopError } from '../errors';
import { soupInfo } from '../inspect';
import { checkInvariants, meshFromSoup } from '../mesh';
import { sculptFromSoup, SculptSurface } from '../surface';
import { ballSoup, limbedSoup, prismSoup, starOutline } from '../testing';
import {
  bothHalves,
  LAY_AS_USUAL,
  layAll,
  qualityOf,
  quadSoup,
  surfaceOfQuads,
  type LaidAll,
  type LayAllOptions,
  type Look,
  type Triangles,
} from '.';
import { cleaned } from './form/clean';
import { shellOf } from './form/shell';
import { topologyOf } from './quads/verify';

const PLAIN: LayAllOptions = { ...LAY_AS_USUAL, faces: 300, evenness: 0 };

/** A torus of two radii as triangles. */
function torus(around: number, across: number): Triangles {
  const positions: number[] = [];
  const indices: number[] = [];
  const at = (i: number, j: number): number => (i % around) * across + (j % across);
  for (let i = 0; i < around; i++)
    for (let j = 0; j < across; j++) {
      const [a, b] = [(2 * Math.PI * i) / around, (2 * Math.PI * j) / across];
      positions.push((3 + Math.cos(b)) * Math.cos(a), (3 + Math.cos(b)) * Math.sin(a), Math.sin(b));
      indices.push(at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j), at(i + 1, j + 1), at(i, j + 1));
    }
  return { positions, indices };
}

/** A box of side 2 round zero, each side a grid of triangles. */
function box(cells: number): Triangles {
  const positions: number[] = [];
  const indices: number[] = [];
  for (let axis = 0; axis < 3; axis++)
    for (const side of [-1, 1]) {
      const first = positions.length / 3;
      const at = (i: number, j: number): number => first + i * (cells + 1) + j;
      for (let i = 0; i <= cells; i++)
        for (let j = 0; j <= cells; j++) {
          const p = [0, 0, 0];
          p[axis] = side;
          p[(axis + 1) % 3] = -1 + (2 * i) / cells;
          p[(axis + 2) % 3] = -1 + (2 * j) / cells;
          positions.push(...p);
        }
      for (let i = 0; i < cells; i++)
        for (let j = 0; j < cells; j++) {
          const two = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j), at(i + 1, j + 1), at(i, j + 1)];
          indices.push(...(side < 0 ? two.reverse() : two));
        }
    }
  return { positions, indices };
}

const ball = (n: number): Triangles => sculptFromSoup(ballSoup(n, 1));

/** All that is promised of any result. */
function promised({ soup }: LaidAll, euler: number, borders: number): void {
  const { mesh, droppedFaces } = meshFromSoup(quadSoup(soup));
  expect(droppedFaces).toBe(0);
  checkInvariants(mesh);
  expect([...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4)).toBe(true);
  const counts = soupInfo(quadSoup(soup));
  expect(counts.nonManifoldEdges).toBe(0);
  expect(counts.nonManifoldVertices).toBe(0);
  expect(counts.borderLoops).toBe(borders);
  expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(euler);
  expect(qualityOf(soup.points, soup.quads).folded).toBe(0);
}
const irregular = ({ routes }: LaidAll): number => routes.reduce((sum, r) => sum + r.irregular, 0);
const facesOf = ({ soup }: LaidAll): number => soup.quads.length / 4;

const middleOf = (p: Float64Array, own: Int32Array): number[] =>
  [0, 1, 2].map((k) => own.reduce((sum, v) => sum + p[3 * v + k] / 4, 0));

describe('known answers', () => {
  test('a ball has eight poles and about the count asked for', () => {
    const laid = layAll(ball(50), PLAIN);
    promised(laid, 2, 0);
    expect(irregular(laid)).toBe(8);
    expect(Math.abs(facesOf(laid) - 300)).toBeLessThan(30);
    // quads run through the ball: points a little outside of it, middles inside
    const { points, quads } = laid.soup;
    const middles = [...quads.keys()].filter((h) => h % 4 === 0).map((q) => middleOf(points, quads.subarray(q, q + 4)));
    for (let i = 0; i < points.length; i += 3)
      expect(Math.abs(Math.hypot(...points.subarray(i, i + 3)) - 1.005)).toBeLessThan(0.006);
    for (const middle of middles) expect(Math.abs(Math.hypot(...middle) - 0.997)).toBeLessThan(0.006);
  });

  test('a torus has none', () => {
    const laid = layAll(torus(120, 48), PLAIN);
    promised(laid, 0, 0);
    expect(irregular(laid)).toBe(0);
    expect(qualityOf(laid.soup.points, laid.soup.quads).quality.mean).toBeGreaterThan(0.97);
  });

  test('a box keeps its edges exactly, its corners are its poles', () => {
    const laid = layAll(box(24), { ...PLAIN, keepEdges: 40 });
    promised(laid, 2, 0);
    expect(irregular(laid)).toBe(8);
    const { points, quads } = laid.soup;
    // all points lie on the box, and no quad goes round an edge
    const sides = (v: number): number[] => [0, 1, 2].filter((k) => Math.abs(Math.abs(points[3 * v + k]) - 1) < 1e-6);
    for (let q = 0; q < quads.length; q += 4) {
      const own = [...quads.subarray(q, q + 4)].map(sides);
      expect([0, 1, 2].some((k) => own.every((s) => s.includes(k)))).toBe(true);
    }
    const corners = points.filter((_, i) => i % 3 === 0 && sides(i / 3).length === 3);
    expect(corners.length).toBe(8);
  });

  test('an open half ball keeps its one border where it was', () => {
    const { positions, indices } = ball(50);
    const kept: number[] = [];
    for (let i = 0; i < indices.length; i += 3) {
      const t = [indices[i], indices[i + 1], indices[i + 2]];
      if (t.every((v) => positions[3 * v + 1] > -0.2)) kept.push(...t);
    }
    const laid = layAll({ positions, indices: kept }, PLAIN);
    promised(laid, 1, 1);
    const lowest = laid.soup.points.reduce((least, y, i) => (i % 3 === 1 ? Math.min(least, y) : least), Infinity);
    expect(lowest).toBeGreaterThan(-0.21);
    expect(lowest).toBeLessThan(-0.15);
  });
});

test.each([
  [30, 6],
  [60, 6],
])('a strand that is thinner than %i quads are long is laid all along, from tip to tip', (faces, length) => {
  const strand = sculptFromSoup(ballSoup(24));
  for (let i = 0; i < strand.positions.length; i += 3) {
    // a spindle, bent
    const z = (length / 2) * strand.positions[i + 2];
    strand.positions[i] = 0.15 * strand.positions[i] + 0.06 * z * z;
    strand.positions[i + 1] *= 0.15;
    strand.positions[i + 2] = z;
  }
  const laid = layAll(strand, { ...LAY_AS_USUAL, faces });
  promised(laid, 2, 0);
  expect(laid.routes.map(({ route }) => route)).toEqual(['grid']);
  expect(Math.abs(facesOf(laid) - faces)).toBeLessThanOrEqual(4);
  const { points, quads } = laid.soup;
  expect(qualityOf(points, quads).quality.mean).toBeGreaterThan(0.95);
  expect(irregular(laid)).toBe(8);
  // from tip to tip: each end is missed by less than a tenth
  const heights = [...points].filter((_, i) => i % 3 === 2);
  expect(Math.min(...heights)).toBeLessThan(-0.4 * length);
  expect(Math.max(...heights)).toBeGreaterThan(0.4 * length);
});

test('a form of few triangles is followed as near as the same form of many', () => {
  const places = Float64Array.from(box(24).positions);
  const typicalOff = (input: Triangles): number => {
    const { soup } = layAll(input, PLAIN);
    const low = surfaceOfQuads(soup);
    let sum = 0;
    for (let i = 0; i < places.length; i += 3) sum += low.closest([places[i], places[i + 1], places[i + 2]]).distance ** 2; // prettier-ignore
    return Math.sqrt((3 * sum) / places.length);
  };
  expect(typicalOff(box(1))).toBeLessThan(1.1 * typicalOff(box(24)));
});

test('a half is laid up to the plane, and mirrors to the last bit', () => {
  const plane = { axis: 'x', offset: 0.05 } as const;
  const laid = layAll(ball(40), { ...PLAIN, faces: 200, plane });
  const both = bothHalves(laid.soup, plane);
  promised({ ...laid, soup: both }, 2, 0);
  const known = new Set<string>();
  for (let i = 0; i < both.points.length; i += 3) known.add([...both.points.subarray(i, i + 3)].join(' '));
  for (let i = 0; i < both.points.length; i += 3) {
    const [x, y, z] = both.points.subarray(i, i + 3);
    expect(known.has([x === 0.05 ? x : 2 * 0.05 - x, y, z].join(' ')) || x < 0.05).toBe(true);
  }
});

test('dirt is mended and told: doubled, flat and turned triangles, loose copies of points', () => {
  const { positions, indices } = ball(40);
  const dirty = [...Array.from(indices)];
  for (let i = 0; i < 300; i += 9) [dirty[i], dirty[i + 1]] = [dirty[i + 1], dirty[i]];
  dirty.push(...dirty.slice(600, 606), dirty[0], dirty[0], dirty[1]);
  const loose = { positions: dirty.flatMap((v) => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]]), indices: [...dirty.keys()] }; // prettier-ignore
  const laid = layAll(loose, { ...PLAIN, faces: 150 });
  promised(laid, 2, 0);
  expect(laid.mended).toEqual([
    '1 triangle without an area dropped',
    '2 doubled triangles dropped',
    '34 triangles turned over',
  ]);
});

test('a hole too small for quads round it is closed and told, and no border is missed for it', () => {
  const whole = ball(80);
  const isInHole = (v: number): boolean => Math.hypot(whole.positions[3 * v], whole.positions[3 * v + 2]) < 0.05 && whole.positions[3 * v + 1] > 0; // prettier-ignore
  const indices = Array.from({ length: whole.indices.length / 3 }, (_, t) => [0, 1, 2].map((k) => whole.indices[3 * t + k])); // prettier-ignore
  const open = indices.filter((corners) => !corners.some(isInHole)).flat();
  expect(open.length).toBeLessThan(whole.indices.length);
  const { soup, mended } = layAll({ ...whole, indices: open }, PLAIN);
  expect(mended[0]).toBe('1 hole with a rim of less than 3 quads closed');
  expect(mended.filter((words) => words.includes('no chain of edges'))).toEqual([]);
  const { components, borderLoops } = soupInfo(quadSoup(soup));
  expect([components, borderLoops]).toEqual([1, 0]);
});

test('parts are laid each for itself; the same input gives the same quads', () => {
  const one = ball(30);
  const n = one.positions.length / 3;
  const two = {
    positions: [
      ...Array.from(one.positions),
      ...Array.from(one.positions, (x, i) => (i % 3 === 0 ? 0.5 * x + 4 : 0.5 * x)),
    ],
    indices: [...Array.from(one.indices), ...Array.from(one.indices, (v) => v + n)],
  };
  const laid = layAll(two, PLAIN);
  promised(laid, 4, 0);
  expect(laid.routes.length).toBe(2);
  expect(layAll(two, PLAIN).soup).toEqual(laid.soup);
});

test('what is stuck into another part is laid as it is beside it', () => {
  const apart = (by: number): LaidAll => {
    // longer one way than another, and at places that single floats tell exactly wherever it is moved to: rounding chooses between ways that are as good
    const one = Array.from(ball(30).positions, (x, i) => Math.round(4096 * [1, 0.83, 0.91][i % 3] * x) / 4096);
    const n = one.length / 3;
    const indices = Array.from(ball(30).indices);
    return layAll({ positions: [...one, ...one.map((x, i) => 0.5 * x + (i % 3 === 0 ? by : 0))], indices: [...indices, ...indices.map((v) => v + n)] }, PLAIN); // prettier-ignore
  };
  const [stuck, beside] = [apart(1.25), apart(4.25)];
  promised(stuck, 4, 0);
  expect(stuck.mended).toEqual([]);
  expect(stuck.soup.quads).toEqual(beside.soup.quads);
  const half = beside.soup.points.findIndex((x, i) => i % 3 === 0 && x > 2) / 3;
  const moved = [...stuck.soup.points].map((x, i) => Math.abs(x + (i % 3 === 0 && i >= 3 * half ? 3 : 0) - beside.soup.points[i])); // prettier-ignore
  expect(Math.max(...moved)).toBeLessThan(1e-6);
});

test('a stage may stop it; nothing to lay on is refused in one sentence', () => {
  const stages: string[] = [];
  expect(() =>
    layAll(ball(30), PLAIN, {
      stage: (name) => {
        stages.push(name);
        if (name === 'Grid') throw new Error('stopped');
      },
    }),
  ).toThrow('stopped');
  expect(stages.slice(0, 4)).toEqual(['Clean', 'Surface', 'Sharp edges', 'Working mesh']);
  expect(() => layAll({ positions: [0, 0, 0, 1, 0, 0], indices: [0, 1, 1] }, PLAIN)).toThrow(HalfLoopError);
  const beside = ball(6);
  const moved = { ...beside, positions: Array.from(beside.positions, (x, i) => (i % 3 === 0 ? x - 5 : x)) };
  expect(() => layAll(moved, { ...PLAIN, plane: { axis: 'x', offset: 0 } })).toThrow(
    /beyond the mirror plane, where x is over 0/,
  );
});

test('who watches sees triangles, how quads will run, then quads with their poles, and where the time went', () => {
  const looks: string[] = [];
  const seen: Look[] = [];
  let clock = 0;
  const { seconds, soup } = layAll(
    ball(20),
    { ...PLAIN, faces: 100 },
    {
      look(look) {
        const { part, faces, sides } = look;
        seen.push(look);
        looks.push(`${part}: ${faces.length / sides} ${sides === 3 ? 'triangles' : 'quads'}`);
      },
      now: () => (clock += 1000),
    },
  );
  expect(looks[0]).toMatch(/^0: \d+ triangles$/);
  expect(looks[looks.length - 1]).toBe(`0: ${soup.quads.length / 4} quads`);
  const flow = seen.findIndex(({ loops }) => loops.length > 0);
  expect(seen.findIndex(({ sides }) => sides === 4)).toBeGreaterThan(flow);
  // a ball's turns come to two whole ones, whatever poles make them up; each loop lies on it
  for (const { poles } of [seen[flow], seen[seen.length - 1]])
    expect(poles.reduce((sum, { valence }) => sum + 4 - valence, 0)).toBe(8);
  const off = seen[flow].loops.flat().map((p) => Math.abs(Math.hypot(...p) - 1));
  expect(off.reduce((a, b) => Math.max(a, b))).toBeLessThan(0.05);
  // a clock that ticks once a stage
  expect(seconds['Clean']).toBe(1);
  expect(Object.keys(seconds)).toContain('Grid');
});

test('stages take nothing back of how far it is, by however many ways it is laid, and end with all', () => {
  const told: [string, number][] = [];
  const laid = layAll(
    sculptFromSoup(limbedSoup(40)),
    { ...PLAIN, faces: 200 },
    { stage: (name, done) => told.push([name, done]) },
  );
  expect(laid.routes.length).toBe(1);
  const names = told.map(([name]) => name);
  for (const name of ['Clean', 'Working mesh', 'Grid', 'Grid, second way', 'Fit']) expect(names).toContain(name);
  const done = told.map(([, by]) => by);
  expect(done).toEqual([...done].sort((a, b) => a - b));
  expect([done[0], done[done.length - 1]]).toEqual([0, 1]);
  // what is kept is finished, or begun anew, well before the end
  expect(done[names.findLastIndex((name) => name.startsWith('Grid'))]).toBeLessThan(0.9);
});

test('cleaning takes crowded edges and bow-ties apart into manifold parts', () => {
  // three fins on one edge, whose ends come apart too, and two triangles that share a point only
  const positions = [0, 0, 0, 0, 1, 0, 1, 0, 0, -1, 0, 0, 0, 0, 1, 3, 0, 0, 4, 0, 0, 4, 1, 0, 2, 0, 1, 2, 1, 1];
  const { parts, mended } = cleaned({ positions, indices: [0, 1, 2, 1, 0, 3, 0, 1, 4, 5, 6, 7, 5, 8, 9] });
  expect(parts.map((p) => p.triangles).sort()).toEqual([1, 1, 1, 2]);
  expect(mended).toContain('1 edge(s) with more than two faces taken apart');
  expect(mended).toContain('3 point(s) between several fans taken apart');
});

test('the outer shell of a ball within a ball is one ball, closed and a little out', () => {
  const outer = ball(30);
  const n = outer.positions.length / 3;
  const surface = SculptSurface.build({
    positions: Float32Array.from([...Array.from(outer.positions), ...Array.from(outer.positions, (x) => 0.6 * x)]),
    indices: Uint32Array.from([...Array.from(outer.indices), ...Array.from(outer.indices, (v) => v + n)]),
  });
  const shell = shellOf(surface, 0.15);
  const { parts, mended } = cleaned(shell);
  expect(mended).toEqual([]);
  expect(parts.map(topologyOf)).toEqual([{ euler: 2, borders: 0, parts: 1 }]);
  for (let i = 0; i < shell.positions.length; i += 3) {
    const r = Math.hypot(shell.positions[i], shell.positions[i + 1], shell.positions[i + 2]);
    expect(Math.abs(r - 1 - shell.out)).toBeLessThan(0.02);
  }
});

test.each([
  ['wedge of 20 degrees', [[0, 0], [2, 0], [2, 0.728]], 0.9, 300],
  ['star', starOutline(5, 0.35), 0.3, 400],
] as const)('of a %s every sharp edge is followed, and every corner has a point', (_, outline, height, faces) => {
  const laid = layAll(sculptFromSoup(prismSoup(outline, height)), { ...PLAIN, faces, keepEdges: 30 });
  // a count that is a little off may be told, but no line that is not followed
  expect(laid.mended.filter((told) => /edge|line|border/.test(told))).toEqual([]);
  const { points } = laid.soup;
  for (const [x, y] of outline)
    for (const z of [0, height]) {
      let near = Infinity;
      for (let i = 0; i < points.length; i += 3) near = Math.min(near, Math.hypot(points[i] - x, points[i + 1] - y, points[i + 2] - z)); // prettier-ignore
      expect(near).toBeLessThan(1e-5);
    }
}); // prettier-ignore
