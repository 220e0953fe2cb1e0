import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, seededRng, type Vec3 } from '../../math';
import { borderLoops, checkInvariants, cornerQuality, EMPTY_SELECTION, PolyMesh } from '../../mesh';
import { sectionNear, WalkingForm } from '../../surface';
import { enclosedVolume, gridMesh } from '../../testing';
import { besideMidline, liftedForm, makeReal, sidesOf } from '..';
import { ball, cylinder, facesOut, groundOn, isQuads, run, surfaceOf } from './fixtures';

const torus = surfaceOf('torus', { radius: 3, thickness: 1, sides: 48, around: 96, at: [0, 0, 0] });

describe('sections', () => {
  it('cut a cylinder in its circle, and a torus in the one of its two circles that is near', () => {
    const round = sectionNear(cylinder, [1, 4.321, 0], [0, 1, 0]);
    expect(round?.closed).toBe(true);
    for (const p of round?.points ?? []) expect(Math.hypot(p[0], p[2])).toBeCloseTo(1, 2);
    const limb = sectionNear(torus, [4, 0.2, 0], [0, 0, 1]);
    expect(limb?.closed).toBe(true);
    expect(limb?.points.every((p) => p[0] > 0)).toBe(true);
    expect(sectionNear(cylinder, [0, 30, 0], [0, 1, 0])).toBeNull();
  });
});

describe('rings', () => {
  it('lie evenly on the limb, join to the ring before, and look outward, whichever way they are laid', () => {
    for (const way of [1, -1]) {
      const mesh = new PolyMesh();
      const ground = groundOn(cylinder);
      run(mesh, 'lay-ring', { count: 12, at: [1, 5, 0], normal: [0, 1, 0] }, {}, ground);
      expect([mesh.vertexCount, mesh.edgeCount, mesh.faceCount]).toEqual([12, 12, 0]);
      const { report } = run(mesh, 'lay-ring', { count: 12, at: [1, 5 + way, 0], normal: [0, 1, 0] }, {}, ground);
      expect(report.sentence).toBe('1 ring of 12 laid, 12 quads, joined to the ring before');
      run(mesh, 'lay-ring', { count: 12, repeat: 3, step: 0.5, at: [1, 5 + 2 * way, 0], normal: [0, 1, 0] }, {}, ground); // prettier-ignore
      expect(mesh.faceCount).toBe(12 * 4);
      expect(checkInvariants(mesh)).toEqual([]);
      expect(isQuads(mesh)).toBe(true);
      expect(facesOut(mesh, (p) => [0, p[1], 0])).toBe(true);
      for (const v of mesh.vertices()) expect(Math.hypot(mesh.point(v)[0], mesh.point(v)[2])).toBeCloseTo(1, 2);
      // rungs run along the limb: no twist from ring to ring
      const rungs = [...mesh.edges()].filter((e) => Math.abs(mesh.point(mesh.origin(2 * e))[1] - mesh.point(mesh.target(2 * e))[1]) > 0.1); // prettier-ignore
      for (const e of rungs) {
        const [a, b] = [mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))];
        expect(Math.hypot(a[0] - b[0], a[2] - b[2])).toBeLessThan(0.08);
      }
      const heights = [...new Set([...mesh.vertices()].map((v) => mesh.point(v)[1].toFixed(2)))];
      expect(heights).toHaveLength(5);
    }
  });

  it('follow a limb that bends, tilt and slide, and say where the section does not close', () => {
    const mesh = new PolyMesh();
    const ground = groundOn(torus);
    run(mesh, 'lay-ring', { count: 8, repeat: 12, step: 0.8, at: [4, 0.5, 0], normal: [0, 0, 1] }, {}, ground);
    expect(mesh.faceCount).toBe(8 * 11);
    for (const v of mesh.vertices()) expect(torus.closest(mesh.point(v)).distance).toBeLessThan(0.02);
    // twelve rings of 0.8 go some 9.6 round a circle of 18.8
    const last = [...mesh.vertices()].slice(-8).map((v) => mesh.point(v));
    const angle = Math.atan2(last.reduce((s, p) => s + p[2], 0), last.reduce((s, p) => s + p[0], 0)); // prettier-ignore
    expect(Math.abs(angle)).toBeGreaterThan(2.4);
    const tilted = new PolyMesh();
    run(tilted, 'lay-ring', { count: 8, tilt: 30, at: [1, 5, 0], normal: [0, 1, 0] }, {}, groundOn(cylinder));
    const ys = [...tilted.vertices()].map((v) => tilted.point(v)[1]);
    expect(Math.max(...ys) - Math.min(...ys)).toBeGreaterThan(0.9);
    const sheet = surfaceOf('plane-grid', { width: 4, depth: 4, columns: 8, rows: 8 });
    expect(() => run(new PolyMesh(), 'lay-ring', { count: 8, at: [0, 0, 0], normal: [1, 0, 0] }, {}, groundOn(sheet))).toThrow('does not close'); // prettier-ignore
    expect(() => run(new PolyMesh(), 'lay-ring', { count: 8, at: [0, 0, 0], normal: [1, 0, 0] })).toThrow('choose what points stick to'); // prettier-ignore
  });
});

describe('rings with symmetry', () => {
  it('are half rings from midline to midline, that join and are one ring when the mirror is made real', () => {
    const mesh = new PolyMesh();
    const plane = { axis: 'x', offset: 0 } as const;
    const ground = { ...groundOn(cylinder), plane };
    // drawn askew: laid square to the mirror
    run(mesh, 'lay-ring', { count: 12, at: [1, 3, 0], normal: [0.2, 1, 0] }, {}, ground);
    const { report } = run(mesh, 'lay-ring', { count: 12, repeat: 2, at: [1, 4, 0], normal: [0.2, 1, 0] }, {}, ground);
    expect(report.sentence).toBe('2 half rings of 6 laid, 12 quads, joined to the ring before');
    expect([...mesh.vertices()].every((v) => mesh.point(v)[0] >= 0)).toBe(true);
    run(mesh, 'make-real', plane);
    expect(mesh.faceCount).toBe(24);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(borderLoops(mesh).map(({ halves }) => halves.length)).toEqual([12, 12]);
    expect(isQuads(mesh) && facesOut(mesh, (p) => [0, p[1], 0])).toBe(true);
  });
});

describe('rows', () => {
  const along = (n: number, place: (t: number) => Vec3): Vec3[] =>
    Array.from({ length: n + 1 }, (_, i) => place(i / n));
  it('lie on the surface with their width, face outward, and weld to what they begin and end at', () => {
    const mesh = new PolyMesh();
    const ground = groundOn(ball);
    const stroke = along(60, (t) => [2 * Math.cos(2 * t), 2 * Math.sin(2 * t) * 0.8, 2 * Math.sin(2 * t) * 0.6]);
    const { report } = run(mesh, 'lay-row', { across: 2, width: 0.8, along: 8, stroke }, {}, ground);
    expect(report.sentence).toBe('Row of 8 by 2 laid');
    expect([mesh.faceCount, mesh.vertexCount]).toEqual([16, 27]);
    expect(isQuads(mesh) && facesOut(mesh, () => [0, 0, 0])).toBe(true);
    for (const v of mesh.vertices()) expect(Math.hypot(...mesh.point(v))).toBeCloseTo(2, 2);
    for (const f of mesh.faces()) expect(cornerQuality(mesh.faceVertices(f).map((v) => mesh.point(v)))).toBeGreaterThan(0.85); // prettier-ignore
    // on from its end: three points are there already
    const on = along(20, (t) => [2 * Math.cos(2 + t), 2 * Math.sin(2 + t) * 0.8, 2 * Math.sin(2 + t) * 0.6]);
    const next = run(mesh, 'lay-row', { across: 2, width: 0.8, along: 4, stroke: on }, {}, ground);
    expect(next.report.sentence).toBe('Row of 4 by 2 laid, 3 points welded');
    expect(mesh.vertexCount).toBe(27 + 12);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(borderLoops(mesh)).toHaveLength(1);
  });

  it('turn corners with a mitre, taper, point their spokes to a centre, and close with an even count', () => {
    const corner = new PolyMesh();
    const bent = [...along(20, (t) => [4 * t, 0, 0] as Vec3), ...along(20, (t) => [4, 4 * t, 0] as Vec3).slice(1)];
    run(corner, 'lay-row', { width: 1, along: 8, stroke: bent });
    expect(corner.faceCount).toBe(8);
    // both sides meet in the mitre: the outer corner stands off both legs by half the width
    expect([...corner.vertices()].some((v) => distance(corner.point(v), [4.5, -0.5, 0]) < 0.05)).toBe(true);
    expect([...corner.vertices()].some((v) => distance(corner.point(v), [3.5, 0.5, 0]) < 0.05)).toBe(true);
    const taper = new PolyMesh();
    run(taper, 'lay-row', { width: 1, along: 4, taper: 0.5, stroke: [[0, 0, 0], [4, 0, 0]] }); // prettier-ignore
    const widths = [...taper.edges()].filter((e) => Math.abs(taper.point(taper.origin(2 * e))[0] - taper.point(taper.target(2 * e))[0]) < 1e-9).map((e) => distance(taper.point(taper.origin(2 * e)), taper.point(taper.target(2 * e)))); // prettier-ignore
    expect(widths.sort((a, b) => a - b).map((w) => Number(w.toFixed(3)))).toEqual([0.5, 0.625, 0.75, 0.875, 1]);
    const ring = new PolyMesh();
    const circle = along(72, (t) => [3 * Math.cos(2 * Math.PI * t), 3 * Math.sin(2 * Math.PI * t), 0]).slice(0, -1);
    const { report } = run(ring, 'lay-row', { width: 1, along: 15, closed: true, spokes: 'centre', centre: [0, 0, 0], stroke: circle }); // prettier-ignore
    expect(report.counts.along).toBe(16);
    expect([ring.faceCount, ring.vertexCount]).toEqual([16, 32]);
    expect(borderLoops(ring)).toHaveLength(2);
    expect(() => run(new PolyMesh(), 'lay-row', { stroke: [[1, 1, 1], [1, 1, 1]] })).toThrow('too short'); // prettier-ignore
  });
});

describe('the sides of an opening', () => {
  it('are counted between its corners, in turn', () => {
    const mesh = gridMesh(7, 5);
    const middle = (f: number): Vec3 => {
      const points = mesh.faceVertices(f).map((v) => mesh.point(v));
      return [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k], 0) / 4) as unknown as Vec3;
    };
    const low = Math.min(...[...mesh.faces()].map((f) => middle(f)[0]));
    const side = Math.max(...mesh.faceHalves(0).map((h) => distance(mesh.point(mesh.origin(h)), mesh.point(mesh.target(h))))); // prettier-ignore
    const base = Math.min(...[...mesh.faces()].map((f) => middle(f)[1]));
    const column = (f: number): number => Math.round((middle(f)[0] - low) / side);
    const row = (f: number): number => Math.round((middle(f)[1] - base) / side);
    const inside = [...mesh.faces()].filter((f) => column(f) >= 2 && column(f) <= 4 && row(f) >= 1 && row(f) <= 2);
    expect(inside).toHaveLength(6);
    run(mesh, 'delete', {}, { faces: inside });
    const [hole] = borderLoops(mesh).filter((l) => l.halves.length === 10);
    const { sides, half } = sidesOf(mesh, hole.halves[0] >> 1, EMPTY_SELECTION, 40, { plane: null, form: null });
    expect(half).toBe(false);
    expect([...sides].sort()).toEqual([2, 2, 3, 3]);
    expect(sides[0]).toBe(sides[2]);
    const round = sidesOf(mesh, borderLoops(mesh).filter((l) => l.halves.length > 10)[0].halves[0] >> 1, EMPTY_SELECTION, 40, { plane: null, form: null }); // prettier-ignore
    expect(round.sides.reduce((a, b) => a + b, 0)).toBe(24);
  });
});

describe('rings round an opening', () => {
  it('lie on the surface round a point, face outward, leave the opening open, and are halved by the midline', () => {
    const mesh = new PolyMesh();
    run(mesh, 'ring-opening', { spokes: 10, rings: 3, radius: 0.4, width: 0.2, at: [0, 0, 2], facing: [0, 0, 1] }, {}, groundOn(ball)); // prettier-ignore
    expect([mesh.faceCount, mesh.vertexCount]).toEqual([30, 40]);
    expect(borderLoops(mesh).map(({ halves }) => halves.length)).toEqual([10, 10]);
    expect(isQuads(mesh) && facesOut(mesh, () => [0, 0, 0])).toBe(true);
    for (const v of mesh.vertices()) expect(Math.hypot(...mesh.point(v))).toBeCloseTo(2, 2);
    const half = new PolyMesh();
    const plane = { axis: 'x', offset: 0 } as const;
    const { report } = run(half, 'ring-opening', { spokes: 10, rings: 2, radius: 0.4, stretch: 2, at: [0.05, 0, 2], facing: [0, 0, 1] }, {}, { ...groundOn(ball), plane }); // prettier-ignore
    expect(report.sentence).toBe('2 rings of 5 quads laid round half an opening');
    run(half, 'make-real', plane);
    expect(borderLoops(half).map(({ halves }) => halves.length)).toEqual([10, 10]);
    expect(facesOut(half, () => [0, 0, 0])).toBe(true);
    const wide = Math.max(...[...half.vertices()].map((v) => half.point(v)[0]));
    const high = Math.max(...[...half.vertices()].map((v) => half.point(v)[1]));
    expect(wide).toBeGreaterThan(1.4 * high);
  });
});

describe('fill', () => {
  it('closes a hole in a ball with quads on the ball, without a gap', () => {
    const mesh = new PolyMesh();
    run(mesh, 'ball', { radius: 2, cells: 8, at: [0, -2, 0] });
    const gone = [...mesh.faces()].filter((f) => mesh.faceVertices(f).some((v) => mesh.point(v)[1] > 1.2));
    run(mesh, 'delete', {}, { faces: gone });
    const edge = [...mesh.edges()].find((e) => mesh.isBorderEdge(e)) as number;
    const { report } = run(mesh, 'fill', {}, { edges: [edge] }, groundOn(ball));
    expect(report.sentence).toMatch(/^Filled with \d+ quads: /);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(isQuads(mesh)).toBe(true);
    expect([...mesh.edges()].some((e) => mesh.isBorderEdge(e))).toBe(false);
    expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(2);
    for (const v of mesh.vertices()) expect(Math.hypot(...mesh.point(v))).toBeCloseTo(2, 1);
    expect(facesOut(mesh, () => [0, 0, 0])).toBe(true);
  });

  it('refuses an odd border and mends it when asked', () => {
    const odd = (): { mesh: PolyMesh; edge: number } => {
      const mesh = gridMesh(5, 5);
      const inner = [...mesh.vertices()].filter((v) => !mesh.isBorderVertex(v));
      run(mesh, 'delete', {}, { vertices: [inner[5]] });
      const hole = borderLoops(mesh).sort((a, b) => a.halves.length - b.halves.length)[0].halves;
      run(mesh, 'split', {}, { edges: [hole[0] >> 1] });
      const again = borderLoops(mesh).sort((a, b) => a.halves.length - b.halves.length)[0].halves;
      expect(again.length % 2).toBe(1);
      return { mesh, edge: again[2] >> 1 };
    };
    const first = odd();
    expect(() => run(first.mesh, 'fill', {}, { edges: [first.edge] })).toThrow(
      /has 9 edges, and an odd one has no fill of quads/,
    );
    for (const repair of ['loop', 'split']) {
      const { mesh, edge } = odd();
      const { report } = run(mesh, 'fill', { odd: repair }, { edges: [edge] });
      expect(report.sentence).toMatch(repair === 'loop' ? /^A loop inserted/ : /^Its longest edge split/);
      expect(borderLoops(mesh)).toHaveLength(1);
      expect(checkInvariants(mesh)).toEqual([]);
    }
  });

  it('goes on along the midline where the mirrored half has the rest of the opening', () => {
    const mesh = gridMesh(6, 6);
    const middle = [...mesh.vertices()].reduce((s, v) => s + mesh.point(v)[0], 0) / mesh.vertexCount;
    const plane = { axis: 'x', offset: middle } as const;
    run(mesh, 'delete', {}, { faces: [...mesh.faces()].filter((f) => mesh.faceVertices(f).some((v) => mesh.point(v)[0] < middle - 1e-9)) }); // prettier-ignore
    const centre = [...mesh.vertices()].filter((v) => mesh.point(v)[0] === middle)[3];
    run(mesh, 'delete', {}, { vertices: [centre] });
    const edge = [...mesh.edges()].find((e) => mesh.isBorderEdge(e) && [mesh.origin(2 * e), mesh.target(2 * e)].every((v) => distance(mesh.point(v), [middle, 0, 0]) < 1.8) && mesh.point(mesh.origin(2 * e))[0] + mesh.point(mesh.target(2 * e))[0] > 2 * middle + 0.1) as number; // prettier-ignore
    run(mesh, 'fill', {}, { edges: [edge] }, { plane, form: null });
    run(mesh, 'make-real', plane);
    expect(makeReal.name).toBe('make-real');
    expect(borderLoops(mesh)).toHaveLength(1);
    expect(isQuads(mesh)).toBe(true);
  });
});

describe('the midline', () => {
  it('takes open points that lie beside it, and one half replaces the other', () => {
    const mesh = gridMesh(4, 4);
    const low = Math.min(...[...mesh.vertices()].map((v) => mesh.point(v)[0]));
    const plane = { axis: 'x', offset: low } as const;
    const edge = [...mesh.vertices()].filter((v) => mesh.point(v)[0] === low);
    for (const v of edge.slice(1)) mesh.setPoint(v, [low + 0.05, mesh.point(v)[1], mesh.point(v)[2]]);
    expect(besideMidline(mesh, plane)).toHaveLength(edge.length - 1);
    run(mesh, 'to-midline', {}, {}, { plane, form: null });
    expect(edge.every((v) => mesh.point(v)[0] === low)).toBe(true);
    expect(() => run(mesh, 'to-midline', {}, {}, { plane, form: null })).toThrow('No open point');
    const ballShape = new PolyMesh();
    run(ballShape, 'ball', { radius: 2, cells: 4, at: [0, -2, 0] });
    const far = [...ballShape.vertices()].filter((v) => ballShape.point(v)[0] < -0.5);
    for (const v of far)
      ballShape.setPoint(v, [ballShape.point(v)[0] * 1.3, ballShape.point(v)[1], ballShape.point(v)[2]]);
    run(ballShape, 'mirror-over', {});
    expect(ballShape.faceCount).toBe(96);
    expect(borderLoops(ballShape)).toHaveLength(0);
    for (const v of ballShape.vertices()) expect(Math.hypot(...ballShape.point(v))).toBeCloseTo(2, 6);
  });
});

describe('cap', () => {
  it('closes an opening with quads, one face, or a fan', () => {
    const open = (): { mesh: PolyMesh; edge: number } => {
      const mesh = new PolyMesh();
      run(mesh, 'cylinder', { radius: 1, height: 2, sides: 12, rings: 2, ends: 'ngon' });
      run(mesh, 'delete', {}, { faces: [...mesh.faces()].filter((f) => mesh.faceHalves(f).length > 4 && mesh.point(mesh.faceVertices(f)[0])[1] > 1) }); // prettier-ignore
      return { mesh, edge: [...mesh.edges()].find((e) => mesh.isBorderEdge(e)) as number };
    };
    for (const [how, added] of [
      ['ngon', 1],
      ['fan', 12],
    ] as const) {
      const { mesh, edge } = open();
      const before = mesh.faceCount;
      run(mesh, 'cap', { how }, { edges: [edge] });
      expect(mesh.faceCount - before).toBe(added);
      expect(borderLoops(mesh)).toHaveLength(0);
      expect(enclosedVolume(mesh)).toBeCloseTo(6, 9);
    }
    const { mesh, edge } = open();
    run(mesh, 'cap', {}, { edges: [edge] });
    expect(borderLoops(mesh)).toHaveLength(0);
    expect(enclosedVolume(mesh)).toBeCloseTo(6, 6);
  });
});

describe('bring back', () => {
  it('puts points onto the form, or off it by a distance, and says how far the farthest went', () => {
    const mesh = new PolyMesh();
    run(mesh, 'ball', { radius: 2.2, cells: 4, at: [0, -2.2, 0] });
    const { report } = run(mesh, 'bring-back', {}, {}, groundOn(ball));
    expect(report.counts.most).toBeCloseTo(0.2, 1);
    for (const v of mesh.vertices()) expect(Math.hypot(...mesh.point(v))).toBeCloseTo(2, 2);
    run(mesh, 'bring-back', { lift: 0.5 }, {}, groundOn(ball));
    for (const v of mesh.vertices()) expect(Math.hypot(...mesh.point(v))).toBeCloseTo(2.5, 2);
    expect(() => run(mesh, 'bring-back', {})).toThrow('held on nothing');
  });
  it('keeps a gap off the body below, which relaxing keeps too', () => {
    const mesh = new PolyMesh();
    run(mesh, 'ball', { radius: 2.2, cells: 4, at: [0, -2.2, 0] });
    const above = { ...groundOn(ball), form: liftedForm(new WalkingForm(ball), 0.3) };
    run(mesh, 'bring-back', {}, {}, above);
    for (const v of mesh.vertices()) expect(Math.hypot(...mesh.point(v))).toBeCloseTo(2.3, 2);
    run(mesh, 'relax', { passes: 9 }, {}, above);
    for (const v of mesh.vertices()) expect(Math.hypot(...mesh.point(v))).toBeCloseTo(2.3, 2);
    expect(Math.hypot(...(above.form.ray?.([0, 0, 9], [0, 0, -1]) as Vec3))).toBeCloseTo(2.3, 2);
    const ring = above.form.section?.([0, 2.3, 0], [1, 0, 0]);
    for (const p of ring?.points ?? []) expect(Math.hypot(...p)).toBeCloseTo(2.3, 2);
    expect(ring?.points.length).toBeGreaterThan(8);
  });
});

describe('bridge', () => {
  it('joins two rings into a closed wall, twisted as asked, and says where counts differ', () => {
    const tube = new PolyMesh();
    const ground = groundOn(cylinder);
    run(tube, 'lay-ring', { count: 10, repeat: 2, at: [1, 2, 0], normal: [0, 1, 0] }, {}, ground);
    run(tube, 'lay-ring', { count: 10, repeat: 2, at: [1, 7, 0], normal: [0, 1, 0], joins: false }, {}, ground);
    const loops = borderLoops(tube).sort((a, b) => tube.point(tube.origin(a.halves[0]))[1] - tube.point(tube.origin(b.halves[0]))[1]); // prettier-ignore
    const edges = [loops[1], loops[2]].flatMap(({ halves }) => halves.map((h) => h >> 1));
    const { report } = run(tube, 'bridge', { rows: 4 }, { edges });
    expect(report.sentence).toBe('Bridged by 40 faces in 4 rows');
    expect(borderLoops(tube)).toHaveLength(2);
    expect(isQuads(tube) && facesOut(tube, (p) => [0, p[1], 0])).toBe(true);
    expect(checkInvariants(tube)).toEqual([]);
    // counts apart by two or four: quads alone, unless triangles are asked for
    for (const [n, differ] of [
      [8, 'quads'],
      [14, 'quads'],
      [8, 'triangles'],
    ] as const) {
      // prettier-ignore
      const mesh = new PolyMesh();
      run(mesh, 'lay-ring', { count: 10, repeat: 2, at: [1, 2, 0], normal: [0, 1, 0] }, {}, ground);
      run(mesh, 'lay-ring', { count: n, repeat: 2, at: [1, 5, 0], normal: [0, 1, 0], joins: false }, {}, ground);
      const rims = borderLoops(mesh).sort((a, b) => mesh.point(mesh.origin(a.halves[0]))[1] - mesh.point(mesh.origin(b.halves[0]))[1]); // prettier-ignore
      const made = run(mesh, 'bridge', { rows: 3, differ }, { edges: [rims[1], rims[2]].flatMap(({ halves }) => halves.map((h) => h >> 1)) }, ground); // prettier-ignore
      expect(made.report.counts.triangles).toBe(differ === 'quads' ? 0 : 2);
      expect(isQuads(mesh)).toBe(differ === 'quads');
      // a triangle of three points of a ring lies in its plane
      if (differ === 'quads') expect(facesOut(mesh, (p) => [0, p[1], 0])).toBe(true);
      expect([borderLoops(mesh).length, mesh.vertexCount - mesh.edgeCount + mesh.faceCount]).toEqual([2, 0]);
      expect(checkInvariants(mesh)).toEqual([]);
    }
    const other = gridMesh(3, 3);
    expect(() => run(other, 'bridge', {}, { edges: [borderLoops(other)[0].halves[0] >> 1] })).toThrow(
      'Pick two borders',
    );
  });

  it('caps a box open at both ends again over random twists, its volume less when twisted', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const mesh = new PolyMesh();
        const sides = 4 + Math.floor(rng() * 9);
        run(mesh, 'cylinder', { radius: 1, height: 4, sides, rings: 3, ends: 'ngon' });
        const wall = [...mesh.faces()].filter((f) => mesh.faceVertices(f).every((v) => mesh.point(v)[1] > 1.2 && mesh.point(v)[1] < 2.8)); // prettier-ignore
        const before = enclosedVolume(mesh);
        run(mesh, 'delete', {}, { faces: wall });
        const edges = borderLoops(mesh).flatMap(({ halves }) => halves.map((h) => h >> 1));
        const twist = Math.floor(rng() * 2);
        run(mesh, 'bridge', { rows: 1, twist }, { edges });
        expect(checkInvariants(mesh)).toEqual([]);
        expect([...mesh.edges()].some((e) => mesh.isBorderEdge(e))).toBe(false);
        if (twist === 0) expect(enclosedVolume(mesh)).toBeCloseTo(before, 9);
        else expect(enclosedVolume(mesh)).toBeLessThan(before);
      }),
      { numRuns: 25 },
    );
  });
});
