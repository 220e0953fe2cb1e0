import fc from 'fast-check';
import { expect, test } from 'vitest';
import { levelSet, type Vec3 } from '../../math';
import { surfaceOf } from './surfaceOf';
import { halfOf } from './halve';
import { areaOf, spreadOf, workingLengths } from './sizes';
import { TriMesh } from './TriMesh';

const CELLS = 60;
const FROM = -1.2;
const STEP = 2.4 / (CELLS - 1);

/** A form by how far places are outside it, turned about two axes. */
function formOf(outside: (p: Vec3) => number, [a, b]: readonly [number, number]): TriMesh {
  const values = new Float64Array(CELLS ** 3);
  for (let i = 0; i < values.length; i++) {
    const at = [i % CELLS, Math.floor(i / CELLS) % CELLS, Math.floor(i / CELLS ** 2)].map((k) => FROM + STEP * k);
    values[i] = outside(at as unknown as Vec3);
  }
  const { positions, indices } = levelSet(values, [FROM, FROM, FROM], [CELLS, CELLS, CELLS], STEP);
  const points = Float64Array.from(positions);
  for (let i = 0; i < points.length; i += 3) {
    const [x, y, z] = [points[i], points[i + 1], points[i + 2]];
    const [u, v] = [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a)];
    points.set([u, v * Math.cos(b) - z * Math.sin(b), v * Math.sin(b) + z * Math.cos(b)], i);
  }
  return new TriMesh(points, Int32Array.from(indices));
}

/** A plate across z, and a rod along x above it. */
const plate = ([x, y, z]: Vec3): number => {
  const out = [Math.abs(x) - 0.85, Math.abs(y) - 0.85, Math.abs(z + 0.5) - 0.07].map((d) => Math.max(0, d));
  return Math.hypot(...out) - 0.03;
};
const rod = ([x, y, z]: Vec3, thick: number): number => Math.hypot(x - Math.max(-0.8, Math.min(0.8, x)), y, z - 0.5) - thick / 2; // prettier-ignore

/** Mean spread of the triangles whose middle, before it was turned, is somewhere. */
function meanSpread(
  spread: Float64Array,
  mesh: TriMesh,
  [a, b]: readonly [number, number],
  isThere: (p: Vec3) => boolean,
): number {
  const own: number[] = [];
  for (let t = 0; t < mesh.triangles; t++) {
    const [u, y, z] = [0, 1, 2].map((k) => [0, 1, 2].reduce((sum, c) => sum + mesh.points[3 * mesh.from[3 * t + c] + k] / 3, 0)); // prettier-ignore
    const [v, w] = [y * Math.cos(b) + z * Math.sin(b), z * Math.cos(b) - y * Math.sin(b)];
    if (isThere([u * Math.cos(a) + v * Math.sin(a), v * Math.cos(a) - u * Math.sin(a), w])) own.push(spread[t]);
  }
  return own.reduce((sum, s) => sum + s, 0) / own.length;
}

const turns = fc.tuple(fc.double({ min: 0, max: 3, noNaN: true }), fc.double({ min: 0, max: 3, noNaN: true }));
const onRod = ([x, , z]: Vec3): boolean => z > 0 && Math.abs(x) < 0.5;
const onPlate = ([x, y, z]: Vec3): boolean => z < 0 && Math.max(Math.abs(x), Math.abs(y)) < 0.5;

/** Size over the usual one of quads that turn by so much, radians, which is more than half of one. */
const bentBy = (turn: number): number => Math.sqrt(0.5 / turn);

test('a plate that is thinner than a rod has no smaller quads than it: it is wide', () => {
  fc.assert(
    fc.property(turns, (turn) => {
      const mesh = formOf((p) => Math.min(plate(p), rod(p, 0.24)), turn);
      const spread = spreadOf(mesh, surfaceOf(mesh), 0.15, 1, null, null);
      const [wide, round] = [onPlate, onRod].map((is) => meanSpread(spread, mesh, turn, is));
      expect(Math.abs(round / wide - bentBy(0.15 / 0.12))).toBeLessThan(0.06);
    }),
    { numRuns: 4 },
  );
});

test('the thinner a limb, the smaller its quads, down to a share; with evenness 0 all are alike', () => {
  const spreads = [0.3, 0.15].map((thick) => {
    const mesh = formOf((p) => Math.min(plate(p), rod(p, thick)), [0, 0]);
    const spread = spreadOf(mesh, surfaceOf(mesh), 0.16, 1, null, null);
    expect(new Set(spreadOf(mesh, surfaceOf(mesh), 0.16, 0, null, null))).toEqual(new Set([1]));
    return meanSpread(spread, mesh, [0, 0], onRod) / meanSpread(spread, mesh, [0, 0], onPlate);
  });
  // enough quads go round the thicker one: it only bends
  expect(Math.abs(spreads[0] - bentBy(0.16 / 0.15))).toBeLessThan(0.06);
  expect(spreads[1]).toBeLessThan(0.65);
  expect(spreads[1]).toBeGreaterThan(0.4);
});

test('quads are smaller where a thick form bends, and so few more that the count stays', () => {
  const [side, round] = [0.7, 0.16];
  const box = ([x, y, z]: Vec3): number => Math.hypot(...[x, y, z].map((q) => Math.max(0, Math.abs(q) - side))) - round;
  const mesh = formOf(box, [0.4, 1]);
  const spread = spreadOf(mesh, surfaceOf(mesh), 0.2, 1, null, null);
  const isEdge = ([x, y, z]: Vec3): boolean => Math.abs(x) > side && Math.abs(y) > side && Math.abs(z) < 0.4;
  const isFace = ([x, y, z]: Vec3): boolean => Math.abs(x) > side && Math.max(Math.abs(y), Math.abs(z)) < 0.25;
  const [edge, face] = [isEdge, isFace].map((is) => meanSpread(spread, mesh, [0.4, 1], is));
  // over a quad's width the edge and the flat beside it are seen as one
  expect(edge / face).toBeGreaterThan(bentBy(0.2 / round));
  expect(edge / face).toBeLessThan(0.8);
  const areas = Array.from(spread, (_, t) => areaOf(mesh, t));
  const quads = areas.reduce((sum, area, t) => sum + area / spread[t] ** 2, 0);
  expect(quads / areas.reduce((sum, area) => sum + area, 0)).toBeCloseTo(1, 6);
});

test('one half of a limb that lies in the mirror plane has the sizes that it has as a whole', () => {
  const plane = { axis: 'y', offset: 0 } as const;
  const whole = formOf((p) => Math.min(plate(p), rod(p, 0.15)), [0, 0]);
  const { positions, indices } = halfOf({ positions: whole.points, indices: whole.from }, plane);
  const used = [...new Set(indices)];
  const to = new Map(used.map((v, i) => [v, i]));
  const half = new TriMesh(
    Float64Array.from(used.flatMap((v) => [...positions.subarray(3 * v, 3 * v + 3)])),
    indices.map((v) => to.get(v) as number),
  );
  const ratios = [whole, half].map((mesh, i) => {
    const spread = spreadOf(mesh, surfaceOf(mesh), 0.16, 1, null, i === 1 ? plane : null);
    return meanSpread(spread, mesh, [0, 0], onRod) / meanSpread(spread, mesh, [0, 0], onPlate);
  });
  expect(Math.abs(ratios[1] / ratios[0] - 1)).toBeLessThan(0.05);
});

test('where all is thin, what is narrow too has shorter working edges than what is wide, and not many more triangles come of it', () => {
  fc.assert(
    fc.property(turns, fc.double({ min: 0.12, max: 0.2, noNaN: true }), (ways, thick) => {
      const mesh = formOf((p) => Math.min(plate(p), rod(p, thick)), ways);
      const usual = 0.3;
      const lengths = workingLengths(mesh, surfaceOf(mesh), usual, null);
      const own = Float64Array.from({ length: mesh.triangles }, (_, t) => lengths[mesh.from[3 * t]]);
      const [narrow, wide] = [onRod, onPlate].map((isThere) => meanSpread(own, mesh, ways, isThere));
      expect(narrow).toBeLessThan(0.9 * wide);
      expect(Math.max(...lengths)).toBeLessThanOrEqual(usual);
      const times = lengths.reduce((sum, l) => sum + (usual / l) ** 2, 0) / lengths.length;
      expect(times).toBeGreaterThan(1.6);
      expect(times).toBeLessThan(1.9 + 1e-9);
    }),
    { numRuns: 8 },
  );
});
