import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, pathThrough, seededRng, type Vec3 } from '../../math';
import { checkInvariants, components, EMPTY_SELECTION, faceNormal, PolyMesh, type Selection } from '../../mesh';
import { enclosedVolume, gridMesh } from '../../testing';
import { OPERATORS, runOperator, type Operator } from '..';

const op = (name: string): Operator => OPERATORS.get(name) as Operator;
const run = (mesh: PolyMesh, name: string, params: object, selection: Selection = EMPTY_SELECTION) =>
  runOperator(mesh, op(name), selection, params as never);
function shape(name: string, params: object): PolyMesh {
  const mesh = new PolyMesh();
  run(mesh, name, params);
  return mesh;
}
const points = (mesh: PolyMesh): Vec3[] => [...mesh.vertices()].map((v) => mesh.point(v));
const edgeLengths = (mesh: PolyMesh): number[] =>
  [...mesh.edges()].map((e) => distance(mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))));
const arc = (radius: number, turn: number, n = 200): Vec3[] =>
  Array.from({ length: n + 1 }, (_, i) => [
    0,
    radius * Math.sin((turn * i) / n),
    radius * (1 - Math.cos((turn * i) / n)),
  ]);

describe('paths', () => {
  it('measure their length, carry a frame that stays square, and close without a jump', () => {
    const circle = Array.from({ length: 120 }, (_, i): Vec3 => [Math.cos((i * Math.PI) / 60), 0.3 * Math.sin((i * Math.PI) / 20), Math.sin((i * Math.PI) / 60)]); // prettier-ignore
    const path = pathThrough(circle, true);
    if (!path) throw new Error('no path');
    expect(path.length).toBeGreaterThan(2 * Math.PI);
    for (let s = 0; s < path.length; s += 0.37) {
      const { ahead, up, side } = path.at(s);
      const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
      expect(Math.abs(dot(ahead, up)) + Math.abs(dot(ahead, side)) + Math.abs(dot(up, side))).toBeLessThan(1e-9);
    }
    expect(distance(path.at(0).up, path.at(path.length - 1e-9).up)).toBeLessThan(0.02);
    expect(path.at(path.length + 1).point).toEqual(path.at(1).point);
    expect(pathThrough([[0, 0, 0], [0, 0, 0]])).toBeNull(); // prettier-ignore
  });
});

describe('lattice', () => {
  it('moves all by what all control points move by, and a corner by what its own moves by', () => {
    const mesh = shape('box', { width: 2, height: 2, depth: 2, columns: 2, floors: 2, rows: 2 });
    const before = points(mesh);
    const all = Object.fromEntries(Array.from({ length: 27 }, (_, i) => [`${i % 3},${Math.floor(i / 3) % 3},${Math.floor(i / 9)}`, [1, 2, 3]])); // prettier-ignore
    run(mesh, 'lattice', { moves: all });
    points(mesh).forEach((p, i) => p.forEach((x, k) => expect(x).toBeCloseTo(before[i][k] + k + 1, 9)));
    run(mesh, 'lattice', { moves: { '0,0,0': [-0.5, 0, 0] } });
    const moved = points(mesh).filter((p, i) => Math.abs(p[0] - before[i][0] - 1) > 1e-9);
    // the corner, and those that its weight reaches: none on the far sides
    expect(moved.length).toBeLessThan(before.length);
    expect(Math.min(...points(mesh).map((p) => p[0]))).toBeCloseTo(-0.5, 9);
  });
});

describe('settle', () => {
  it('brings the pivot to zero, turned and sized about it', () => {
    const mesh = shape('box', { width: 2, height: 4, depth: 2, at: [5, 1, 0] });
    run(mesh, 'settle', { pivot: 'base', size: 0.5, tz: 90 });
    const low = [0, 1, 2].map((k) => Math.min(...points(mesh).map((p) => p[k])));
    const high = [0, 1, 2].map((k) => Math.max(...points(mesh).map((p) => p[k])));
    [-2, -0.5, -0.5].forEach((x, k) => expect(low[k]).toBeCloseTo(x, 9));
    [0, 0.5, 0.5].forEach((x, k) => expect(high[k]).toBeCloseTo(x, 9));
    expect(enclosedVolume(mesh)).toBeCloseTo(16 / 8, 9);
  });
});

describe('along a curve', () => {
  it('a straight curve moves a form rigidly, an arc keeps lengths along its middle line', () => {
    const bar = (): PolyMesh => shape('box', { width: 1, height: 8, depth: 1, columns: 2, floors: 16, rows: 2 });
    const straight = bar();
    const lengths = edgeLengths(straight);
    run(straight, 'deform', { kind: 'curve', axis: 'y', curve: { points: [[3, 0, 0], [3, 0, 8]], closed: false } }); // prettier-ignore
    edgeLengths(straight).forEach((l, i) => expect(l).toBeCloseTo(lengths[i], 9));
    expect(enclosedVolume(straight)).toBeCloseTo(8, 9);
    const bent = bar();
    const curve = { points: arc(8 / Math.PI, Math.PI), closed: false };
    run(bent, 'deform', { kind: 'curve', axis: 'y', curve });
    // Pappus: the middle line keeps its length, so the volume stays
    expect(enclosedVolume(bent)).toBeGreaterThan(7.9);
    expect(enclosedVolume(bent)).toBeLessThan(8.01);
  });

  it('copies stand on the curve at even steps, the first where it starts', () => {
    const mesh = shape('box', { width: 0.2, height: 0.2, depth: 0.2, columns: 1, floors: 1, rows: 1 });
    const curve = { points: arc(4, Math.PI / 2), closed: false };
    run(mesh, 'copies', { arranged: 'along', count: 5, curve }, { ...EMPTY_SELECTION, faces: [0] });
    const middles = components(mesh).slice(1).map((part) => {
      const own = part.map((v) => mesh.point(v));
      return [0, 1, 2].map((k) => own.reduce((s, p) => s + p[k], 0) / own.length) as unknown as Vec3;
    }); // prettier-ignore
    expect(middles).toHaveLength(5);
    for (const m of middles) expect(Math.hypot(m[1], m[2] - 4)).toBeCloseTo(4, 3);
    const steps = middles.slice(1).map((m, i) => distance(m, middles[i]));
    steps.forEach((s) => expect(s).toBeCloseTo(steps[0], 3));
  });

  it('studs stand on it by spacing, upright, with some left out', () => {
    const mesh = shape('box', { width: 0.2, height: 0.2, depth: 0.2, columns: 1, floors: 1, rows: 1, at: [9, 0, 0] });
    const curve = { points: arc(4, Math.PI / 2), closed: false };
    const { report } = run(mesh, 'studs', { by: 'spacing', spacing: 0.5, curve, without: [0, 1] }, { ...EMPTY_SELECTION, faces: [0] }); // prettier-ignore
    const length = (4 * Math.PI) / 2;
    expect(report.counts.studs).toBe(Math.ceil(length / 0.5) + 1 - 2);
    for (const part of components(mesh).slice(1)) {
      const low = part.map((v) => mesh.point(v)).sort((a, b) => a[1] - b[1]).slice(0, 4); // prettier-ignore
      const foot = [0, 1, 2].map((k) => low.reduce((s, q) => s + q[k], 0) / 4);
      expect(Math.hypot(foot[1], foot[2] - 4)).toBeCloseTo(4, 2);
    }
  });

  it('draws border edges out in rows, and a closed curve gives a closed strip', () => {
    const mesh = shape('tube', { sides: 8 });
    const ring = [...mesh.edges()].filter((e) => mesh.isBorderEdge(e));
    const sheet = gridMesh(2, 1);
    const edge = [...sheet.edges()].find((e) => sheet.isBorderEdge(e)) as number;
    run(sheet, 'draw-along', { rows: 6, size: 0.5, curve: { points: arc(3, 1), closed: false } }, { ...EMPTY_SELECTION, edges: [edge] }); // prettier-ignore
    expect(sheet.faceCount).toBe(2 + 6);
    expect(checkInvariants(sheet)).toEqual([]);
    expect(ring).toHaveLength(0);
    const strip = new PolyMesh();
    const loop = { points: arc(3, 2 * Math.PI).slice(0, -1), closed: true };
    const { report } = run(strip, 'draw-along', { rows: 20, width: 0.5, curve: loop });
    expect(report.counts).toMatchObject({ rows: 20, faces: 20 });
    expect([strip.vertexCount, strip.faceCount]).toEqual([40, 20]);
    expect(checkInvariants(strip)).toEqual([]);
    expect(() => run(strip, 'draw-along', {})).toThrow('Choose the curve');
  });
});

describe('even out', () => {
  it('gives quads or triangles only, of about the length, the form and its sharp edges kept, over seeded shapes', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const size = (): number => 1 + 2 * rng();
        const mesh = rng() < 0.5 ? shape('box', { width: size(), height: size(), depth: size(), columns: 2, floors: 3, rows: 1 }) : shape('cylinder', { radius: size(), height: size(), sides: 12 + Math.floor(rng() * 12), ends: 'fan' }); // prettier-ignore
        const volume = enclosedVolume(mesh);
        const corners = sharpCorners(mesh);
        const into = rng() < 0.5 ? 'quads' : 'triangles';
        run(mesh, 'even-out', { into, length: 0.25 });
        expect(checkInvariants(mesh)).toEqual([]);
        expect(new Set([...mesh.faces()].map((f) => mesh.faceHalves(f).length))).toEqual(new Set([into === 'quads' ? 4 : 3])); // prettier-ignore
        expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(2);
        expect(Math.abs(enclosedVolume(mesh) / volume - 1)).toBeLessThan(0.02);
        for (const c of corners) expect(Math.min(...points(mesh).map((p) => distance(p, c)))).toBeLessThan(1e-9);
        const lengths = edgeLengths(mesh);
        expect(lengths.reduce((a, b) => a + b) / lengths.length).toBeGreaterThan(0.15);
        expect(lengths.reduce((a, b) => a + b) / lengths.length).toBeLessThan(0.35);
      }),
      { numRuns: 20 },
    );
  });

  it('keeps hard edges hard and the borders of groups between groups', () => {
    const mesh = gridMesh(6, 6);
    const hard = mesh.channel({ domain: 'edge', name: 'hard', type: 'i32', stride: 1, fill: 0 });
    const group = mesh.channel({ domain: 'face', name: 'group', type: 'i32', stride: 1, fill: 0 });
    const middle = (Math.min(...points(mesh).map((p) => p[0])) + Math.max(...points(mesh).map((p) => p[0]))) / 2;
    const isMiddle = (e: number): boolean => [mesh.origin(2 * e), mesh.target(2 * e)].every((v) => Math.abs(mesh.point(v)[0] - middle) < 1e-9); // prettier-ignore
    for (const e of mesh.edges()) if (isMiddle(e)) hard.set(e, 1);
    for (const f of mesh.faces()) group.set(f, mesh.faceVertices(f).every((v) => mesh.point(v)[0] <= middle + 1e-9) ? 1 : 2); // prettier-ignore
    const before = edgeLengths(mesh).filter((_, i) => hard.get([...mesh.edges()][i]) === 1).reduce((a, b) => a + b); // prettier-ignore
    run(mesh, 'even-out', { length: edgeLengths(mesh)[0] * 0.7 });
    const kept = [...mesh.edges()].filter((e) => hard.get(e) === 1);
    expect(kept.every(isMiddle)).toBe(true);
    expect(kept.reduce((s, e) => s + distance(mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))), 0)).toBeCloseTo(before, 6); // prettier-ignore
    for (const e of mesh.edges()) {
      const [f, g] = [mesh.face(2 * e), mesh.face(2 * e + 1)];
      if (f >= 0 && g >= 0 && group.get(f) !== group.get(g)) expect(hard.get(e)).toBe(1);
    }
    expect(() => run(mesh, 'even-out', { length: 1e-4 })).toThrow('take a longer one');
  });
});

describe('bore with a side count of its own', () => {
  it('inserts the loops that the wanted count or the far side lacks, and refuses what it cannot reach', () => {
    const mesh = shape('box', { width: 10, height: 4, depth: 10, columns: 5, floors: 1, rows: 5 });
    const top = [...mesh.faces()].filter((f) => mesh.faceVertices(f).every((v) => mesh.point(v)[1] > 3.99));
    const inner = top.filter((f) => mesh.faceVertices(f).every((v) => Math.abs(mesh.point(v)[0]) < 3.1 && Math.abs(mesh.point(v)[2]) < 3.1)); // prettier-ignore
    const picked = { ...EMPTY_SELECTION, faces: inner };
    expect(() => run(mesh, 'bore', { sides: 6, radius: 1.5 }, picked)).toThrow(/pick fewer faces/);
    expect(() => run(mesh, 'bore', { sides: 15, radius: 1.5 }, picked)).toThrow(/2 edges at a time/);
    const { report } = run(mesh, 'bore', { sides: 16, radius: 1.5 }, picked);
    expect(report.counts).toMatchObject({ sides: 16 });
    expect(checkInvariants(mesh)).toEqual([]);
    expect([...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4)).toBe(true);
    expect([...mesh.edges()].some((e) => mesh.isBorderEdge(e))).toBe(false);
    // a hole through the wall: a handle
    expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(0);
    const hole = (16 / 2) * 1.5 ** 2 * Math.sin((2 * Math.PI) / 16) * 4;
    expect(enclosedVolume(mesh)).toBeCloseTo(400 - hole, 4);
  });
});

/** Points where edges that bend by a right angle meet from three sides. */
function sharpCorners(mesh: PolyMesh): Vec3[] {
  const isSharp = (h: number): boolean => {
    const [a, b] = [faceNormal(mesh, mesh.face(h)), faceNormal(mesh, mesh.face(h ^ 1))];
    return Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) < 0.1;
  };
  return [...mesh.vertices()].filter((v) => mesh.vertexHalves(v).filter(isSharp).length >= 3).map((v) => mesh.point(v)); // prettier-ignore
}
