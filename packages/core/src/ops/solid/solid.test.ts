import { describe, expect, it } from 'vitest';
import { distance, dot, length, sub, type Vec3 } from '../../math';
import { borderLoops, checkInvariants, components, EMPTY_SELECTION, PolyMesh, type Selection } from '../../mesh';
import { cageOf, subdivide } from '../../subdivide';
import { enclosedVolume, gridMesh, ballMesh } from '../../testing';
import { bore, copies, deform, groove, holdingBorders, OPERATORS, recoverCoarser, runOperator, studs, subdivideMesh, thicken, type Operator } from '..'; // prettier-ignore

const faces = (list: Iterable<number>): Selection => ({ ...EMPTY_SELECTION, faces: [...list] });
const shape = (name: string, settings: object): PolyMesh => {
  const mesh = new PolyMesh();
  runOperator(mesh, OPERATORS.get(name) as Operator, EMPTY_SELECTION, settings as never);
  return mesh;
};
const allQuads = (mesh: PolyMesh): boolean => [...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4);
const euler = (mesh: PolyMesh): number => mesh.vertexCount - mesh.edgeCount + mesh.faceCount;
const middle = (mesh: PolyMesh, f: number): Vec3 => {
  const points = mesh.faceVertices(f).map((v) => mesh.point(v));
  return [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k], 0) / points.length) as unknown as Vec3;
};

/** Edges of a ball's inner layer that have turned round at a thickness: what it means that the wall crosses itself. */
function turnedAt(thickness: number): number {
  const ball = shape('ball', { radius: 1, cells: 12, at: [0, -1, 0] });
  const old = [...ball.faces()].map((f) => ball.faceVertices(f).map((v) => ball.point(v)));
  const { selection } = runOperator(ball, thicken, faces(ball.faces()), { thickness });
  const made = [...ball.faces()].slice(old.length);
  expect(selection.faces.length).toBeGreaterThan(0);
  return made.filter((f, i) => {
    const inner = ball.faceVertices(f).map((v) => ball.point(v)).reverse(); // prettier-ignore
    const side = (points: Vec3[], k: number): Vec3 => sub(points[(k + 1) % 4], points[k]);
    return [0, 1, 2, 3].some((k) => dot(side(inner, k), side(old[i], k)) < 0);
  }).length;
}

describe('thicken', () => {
  it('gives a flat sheet an even wall, closed and of the volume that it should have', () => {
    const mesh = gridMesh(4, 3);
    const { report } = runOperator(mesh, thicken, EMPTY_SELECTION, { thickness: 0.25, rows: 2 });
    expect(report.counts).toMatchObject({ faces: 12, rim: 28, crossing: 0 });
    expect(checkInvariants(mesh)).toEqual([]);
    expect([borderLoops(mesh).length, euler(mesh), allQuads(mesh)]).toEqual([0, 2, true]);
    expect(enclosedVolume(mesh)).toBeCloseTo(12 * 0.25, 5);
  });
  it('keeps the thickness within 2 % on a ball and a tube, and tells the limit within 5 %', () => {
    const ball = shape('ball', { radius: 1, cells: 12, at: [0, -1, 0] });
    const outer = new Set(ball.vertices());
    const { report } = runOperator(ball, thicken, faces(ball.faces()), { thickness: 0.2 });
    for (const v of ball.vertices()) if (!outer.has(v)) expect(Math.abs(length(ball.point(v)) - 0.8)).toBeLessThan(0.2 * 0.02); // prettier-ignore
    const { limit } = report.counts;
    expect(turnedAt(limit * 0.95)).toBe(0);
    expect(turnedAt(limit * 1.05)).toBeGreaterThan(0);
    const pipe = shape('cylinder', { radius: 1, height: 3, sides: 48, ends: 'open', rings: 4 });
    const done = runOperator(pipe, thicken, EMPTY_SELECTION, { thickness: 0.3 });
    expect(Math.abs(done.report.counts.limit - 1)).toBeLessThan(0.05);
    const wall = enclosedVolume(pipe) / ((48 / 2) * Math.sin((2 * Math.PI) / 48) * 3);
    expect(Math.abs(wall - (1 - 0.7 ** 2))).toBeLessThan(0.02 * (1 - 0.7 ** 2));
    const crossed = shape('cylinder', { radius: 1, height: 3, sides: 24, ends: 'open', rings: 2 });
    const beyond = runOperator(crossed, thicken, EMPTY_SELECTION, { thickness: 1.2 });
    expect(beyond.report.sentence).toMatch(/crosses itself beyond (0\.99|1)\d*, as 48 picked faces do/);
  });
  it('tells the limit between two walls that face each other', () => {
    // a channel: two walls one unit apart, joined by a floor
    const mesh = gridMesh(3, 4);
    const fold: Vec3[] = [[0, 0, 1], [0, 0, 0], [1, 0, 0], [1, 0, 1]]; // prettier-ignore
    for (const v of mesh.vertices()) {
      const [x, y] = mesh.point(v);
      const p = fold[x];
      mesh.setPoint(v, [p[0], y, p[2]]);
    }
    const grow = [...['inward', 'outward']].map((grows) => {
      const copy = gridMesh(3, 4);
      for (const v of mesh.vertices()) copy.setPoint(v, mesh.point(v));
      return runOperator(copy, thicken, EMPTY_SELECTION, { thickness: 0.1, grows: grows as 'inward' }).report.counts.limit; // prettier-ignore
    });
    // one of the two ways the walls grow towards each other and meet half-way
    expect(grow.filter((limit) => Math.abs(limit - 0.5) < 0.025)).toHaveLength(1);
  });
});

describe('holding borders', () => {
  it('are loops of even width on both sides of a region, quads all round', () => {
    const mesh = gridMesh(6, 6);
    const region = [...mesh.faces()].filter((f) => middle(mesh, f).every((x, k) => k === 2 || (x > 2 && x < 4)));
    const { report } = runOperator(mesh, holdingBorders, faces(region), { width: 0.2, loops: 2 });
    expect(report.counts.rims).toBe(4 * 8);
    expect(checkInvariants(mesh)).toEqual([]);
    expect([allQuads(mesh), mesh.faceCount]).toEqual([true, 36 + 32]);
    const lines = new Set([...mesh.vertices()].map((v) => mesh.point(v)[0].toFixed(4)).filter((x) => Number(x) > 1.5 && Number(x) < 2.5)); // prettier-ignore
    expect([...lines].sort()).toEqual(['1.8000', '1.9000', '2.0000', '2.1000', '2.2000']);
  });
});

describe('groove', () => {
  it('sinks the middle of a strip along a loop, all round a tube', () => {
    const mesh = shape('cylinder', { radius: 1, height: 2, sides: 16, ends: 'open', rings: 4 });
    const loop = [...mesh.edges()].filter((e) => [2 * e, 2 * e + 1].every((h) => Math.abs(mesh.point(mesh.origin(h))[1] - 1) < 1e-9)); // prettier-ignore
    expect(loop).toHaveLength(16);
    runOperator(mesh, groove, { ...EMPTY_SELECTION, edges: loop }, { width: 0.4, depth: 0.1, profile: 'flat' });
    expect(checkInvariants(mesh)).toEqual([]);
    const radii = [...mesh.vertices()].map((v) => Math.hypot(mesh.point(v)[0], mesh.point(v)[2]));
    expect(Math.min(...radii)).toBeCloseTo(0.9, 2);
    expect(radii.filter((r) => r < 0.95)).toHaveLength(48);
    expect(allQuads(mesh)).toBe(true);
  });
});

describe('bore', () => {
  const patch = (mesh: PolyMesh, holds: (p: Vec3) => boolean): Selection => faces([...mesh.faces()].filter((f) => holds(middle(mesh, f)))); // prettier-ignore
  it('goes through a wall by quads alone, with the volume that a prism takes away', () => {
    const mesh = shape('box', { width: 4, height: 1, depth: 4, columns: 4, floors: 1, rows: 4 });
    const top = patch(mesh, ([x, y, z]) => y > 0.99 && Math.abs(x) < 1 && Math.abs(z) < 1);
    expect(top.faces).toHaveLength(4);
    const { report } = runOperator(mesh, bore, top, { radius: 0.5, goes: 'through', rows: 2 });
    expect(report.counts.sides).toBe(8);
    expect(checkInvariants(mesh)).toEqual([]);
    expect([allQuads(mesh), borderLoops(mesh).length, euler(mesh)]).toEqual([true, 0, 0]);
    const octagon = 4 * 0.25 * Math.sin(Math.PI / 4);
    expect(enclosedVolume(mesh)).toBeCloseTo(16 - octagon, 9);
  });
  it('goes down to a floor, stays on a round wall, and stays round when it is subdivided', () => {
    const mesh = shape('cylinder', { radius: 2, height: 4, sides: 16, rings: 4, ends: 'quads', flat: true });
    const side = patch(mesh, ([x, y, z]) => z > 1.5 && Math.abs(x) < 0.9 && Math.abs(y - 2) < 1);
    const { report } = runOperator(mesh, bore, side, { radius: 0.45, goes: 'blind', depth: 0.5 });
    expect(checkInvariants(mesh)).toEqual([]);
    expect([borderLoops(mesh).length, euler(mesh)]).toEqual([0, 2]);
    expect(report.counts.sides % 2).toBe(0);
    const flat = gridMesh(6, 6);
    const open = patch(flat, ([x, y]) => Math.abs(x - 3) < 1 && Math.abs(y - 3) < 1);
    runOperator(flat, bore, open, { radius: 0.6, goes: 'blind', depth: 0.6, hold: 0.04 });
    const { positions } = subdivide(cageOf(flat, flat.faces(), null), 2);
    const wall: number[] = [];
    for (let i = 0; i < positions.length; i += 3) {
      const r = Math.hypot(positions[i] - 3, positions[i + 1] - 3);
      if (Math.abs(positions[i + 2] + 0.3) < 0.05 && r < 1) wall.push(r);
    }
    expect(wall.length).toBeGreaterThanOrEqual(32);
    expect(Math.max(...wall) / Math.min(...wall)).toBeLessThan(1.02);
  });
  it('refuses what does not fit, and borders of different counts, saying both', () => {
    const mesh = shape('box', { width: 4, height: 1, depth: 4, columns: 4, floors: 1, rows: 4 });
    const top = patch(mesh, ([x, y, z]) => y > 0.99 && Math.abs(x) < 1 && Math.abs(z) < 1);
    expect(() => runOperator(mesh, bore, top, { radius: 3 })).toThrow(/does not fit into these faces; at most 0\.92/);
    const under = [...mesh.faces()].filter((f) => middle(mesh, f)[1] < 0.01 && middle(mesh, f)[0] < 0 && middle(mesh, f)[0] > -1 && Math.abs(middle(mesh, f)[2]) < 1); // prettier-ignore
    expect(() => runOperator(mesh, bore, faces([...top.faces, ...under]), { radius: 0.3 })).toThrow(/has 8 edges, the one opposite 6/); // prettier-ignore
    for (const sides of [0, 8])
      expect(() => runOperator(mesh, bore, faces([...mesh.faces()]), { sides, goes: 'open' })).toThrow(/are a whole closed part/); // prettier-ignore
  });
});

describe('copies, studs, bends', () => {
  it('copies stand in a line at the step, in a ring at even angles, and mirrored the right way round', () => {
    const mesh = shape('box', { width: 1, height: 1, depth: 1 });
    const { selection } = runOperator(mesh, copies, faces([0]), { count: 4, axis: 'x', step: 2 });
    expect([components(mesh).length, selection.faces.length]).toEqual([4, 96]);
    expect(Math.max(...[...mesh.vertices()].map((v) => mesh.point(v)[0]))).toBeCloseTo(6.5, 9);
    expect(enclosedVolume(mesh)).toBeCloseTo(4, 9);
    const ring = shape('box', { width: 1, height: 1, depth: 1, at: [3, 0, 0] });
    runOperator(ring, copies, faces([0]), { arranged: 'ring', axis: 'y', count: 6 });
    const far = [...ring.vertices()].map((v) => Math.hypot(ring.point(v)[0], ring.point(v)[2]));
    expect(components(ring)).toHaveLength(6);
    expect(Math.max(...far)).toBeCloseTo(Math.hypot(3.5, 0.5), 9);
    const mirrored = shape('cone', { radius: 1, height: 2, at: [3, 0, 0] });
    runOperator(mirrored, copies, faces([0]), { arranged: 'mirror', axis: 'x' });
    expect(checkInvariants(mirrored)).toEqual([]);
    expect(enclosedVolume(mirrored)).toBeCloseTo(2 * enclosedVolume(shape('cone', { radius: 1, height: 2 })), 9);
  });
  it('studs stand on their run, out of the surface, evenly all round', () => {
    const mesh = shape('cylinder', { radius: 2, height: 1, sides: 24, ends: 'open' });
    const rim = [...mesh.edges()].filter((e) => mesh.isBorderEdge(e) && mesh.point(mesh.origin(2 * e))[1] === 1);
    const box = runOperator(mesh, OPERATORS.get('box') as Operator, EMPTY_SELECTION, {
      about: 0.2,
      at: [9, 0, 0],
    } as never);
    const before = new Set(mesh.vertices());
    const { report } = runOperator(mesh, studs, { ...EMPTY_SELECTION, edges: rim, faces: [box.selection.faces[0]] }, { count: 12 }); // prettier-ignore
    expect(report.counts).toMatchObject({ studs: 12, faces: 12 * 24 });
    const made = [...mesh.vertices()].filter((v) => !before.has(v)).map((v) => mesh.point(v));
    for (const p of made) {
      const r = Math.hypot(p[0], p[2]);
      expect(r).toBeGreaterThan(2 * Math.cos(Math.PI / 24) - 0.01);
      expect(r).toBeLessThan(2.21);
    }
    const spaced = runOperator(mesh, studs, { ...EMPTY_SELECTION, edges: rim, faces: [box.selection.faces[0]] }, { by: 'spacing', spacing: 1, without: [0, 1] }); // prettier-ignore
    expect(spaced.report.counts.studs).toBe(13 - 2);
  });
  it('a bend keeps the middle line’s length, a twist turns the end, a taper shrinks it', () => {
    const bar = (): PolyMesh => shape('box', { width: 0.2, height: 4, depth: 0.2, columns: 2, floors: 32, rows: 2 });
    const bent = bar();
    runOperator(bent, deform, EMPTY_SELECTION, { kind: 'bend', axis: 'y', angle: 90 });
    const line = [...bar().vertices()].filter((v) => { const p = bar().point(v); return Math.abs(p[0]) < 1e-9 && Math.abs(p[2]) < 1e-9; }); // prettier-ignore
    expect(line).toHaveLength(2);
    const r = 4 / (Math.PI / 2);
    expect(distance(bent.point(line[0]), bent.point(line[1]))).toBeCloseTo(r * Math.SQRT2, 6);
    expect(enclosedVolume(bent)).toBeCloseTo(enclosedVolume(bar()), 2);
    const twisted = bar();
    const corner = [...twisted.vertices()].find((v) => distance(twisted.point(v), [0.1, 4, 0.1]) < 1e-9) as number;
    runOperator(twisted, deform, EMPTY_SELECTION, { kind: 'twist', axis: 'y', angle: 90 });
    expect(length(sub(twisted.point(corner), [0.1, 4, -0.1])) * length(sub(twisted.point(corner), [-0.1, 4, 0.1]))).toBeCloseTo(0, 9); // prettier-ignore
    const tapered = bar();
    runOperator(tapered, deform, EMPTY_SELECTION, { kind: 'taper', axis: 'y', end: 0.5 });
    expect(tapered.point(corner)[0]).toBeCloseTo(0.05, 9);
  });
  it('the coarser mesh of a subdivided one is recovered, and nothing else is taken for one', () => {
    for (const make of [() => ballMesh(2), () => gridMesh(3, 2), () => shape('geodesic-ball', { parts: 2 })]) {
      const mesh = make();
      const points = [...mesh.vertices()].map((v) => mesh.point(v).join());
      const before = [mesh.vertexCount, mesh.edgeCount, mesh.faceCount];
      runOperator(mesh, subdivideMesh, EMPTY_SELECTION, { levels: 1, shape: 'flat' });
      runOperator(mesh, recoverCoarser, EMPTY_SELECTION, {});
      expect(checkInvariants(mesh)).toEqual([]);
      expect([mesh.vertexCount, mesh.edgeCount, mesh.faceCount]).toEqual(before);
      expect([...mesh.vertices()].map((v) => mesh.point(v).join()).sort()).toEqual(points.sort());
    }
    expect(() => runOperator(gridMesh(3, 3), recoverCoarser, EMPTY_SELECTION, {})).toThrow(/not made by subdividing/);
  });
});
