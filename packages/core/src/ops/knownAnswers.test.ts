import { describe, expect, it } from 'vitest';
import { bestCircle, cross, distance, dot, length, normalize, sub, type Vec3 } from '../math';
import {
  addFace,
  addVertex,
  checkInvariants,
  cornerQuality,
  borderLoops,
  edgeLoop,
  EMPTY_SELECTION,
  faceNormal,
  PolyMesh,
  tracedFaces,
} from '../mesh';
import { ballMesh, cubeMesh, gridMesh, torusMesh, tubeMesh } from '../testing';
import {
  bevel,
  collapse,
  connect,
  crease,
  cut,
  cutFaces,
  dissolve,
  extrude,
  fair,
  frameOfPicked,
  insertLoops,
  inset,
  pairTriangles,
  poke,
  relax,
  runOperator,
  slide,
  spin,
  split,
  stitch,
  subdivideMesh,
  transform,
  trueUp,
  weldPicked,
} from '.';

const edgeAt = (mesh: PolyMesh, u: number, v: number): number => mesh.findHalf(u, v) >> 1;
const edges = (...list: number[]) => ({ ...EMPTY_SELECTION, edges: list });
const faces = (...list: number[]) => ({ ...EMPTY_SELECTION, faces: list });
const loopOf = (mesh: PolyMesh, u: number, v: number): number[] =>
  edgeLoop(mesh, mesh.findHalf(u, v)).halves.map((h) => h >> 1);
const ends = (mesh: PolyMesh, list: readonly number[]): number[] => [
  ...new Set(list.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)])),
];
/** Least and greatest distance of points from the y axis. */
const radii = (mesh: PolyMesh, vertices: readonly number[]): [number, number] => {
  const r = vertices.map((v) => Math.hypot(mesh.point(v)[0], mesh.point(v)[2]));
  return [Math.min(...r), Math.max(...r)];
};

describe('insert loops', () => {
  it('that follow curvature lie on a coarse tube and ball within 2 % where flat ones miss by over 5 %', () => {
    const along = (following: boolean): number => {
      const mesh = tubeMesh(8, 3);
      const { selection } = runOperator(mesh, insertLoops, edges(edgeAt(mesh, 8, 9)), { following });
      expect(selection.edges).toHaveLength(3);
      return radii(mesh, ends(mesh, selection.edges))[0];
    };
    expect(along(true)).toBeGreaterThan(0.98);
    expect(along(false)).toBeLessThan(0.95);
    const onBall = (following: boolean): number => {
      const mesh = ballMesh(2);
      const { selection } = runOperator(mesh, insertLoops, edges(0), { following });
      return Math.min(...ends(mesh, selection.edges).map((v) => length(mesh.point(v))));
    };
    expect(onBall(true)).toBeGreaterThan(0.98);
    expect(onBall(false)).toBeLessThan(0.95);
  });
  it('stays straight on a cube, and counts n loops round it', () => {
    const mesh = cubeMesh();
    const { report } = runOperator(mesh, insertLoops, edges(edgeAt(mesh, 0, 4)), { count: 3 });
    expect(report.counts).toMatchObject({ loops: 3, faces: 12, stopped: 0 });
    expect([mesh.vertexCount, mesh.edgeCount, mesh.faceCount]).toEqual([20, 36, 18]);
    for (const v of mesh.vertices()) expect(Math.max(...mesh.point(v).map(Math.abs))).toBe(1);
  });
  it('holds at a distance from one side or both', () => {
    const mesh = gridMesh(1, 1);
    runOperator(mesh, insertLoops, edges(edgeAt(mesh, 0, 1)), { hold: 0.2, side: 'both' });
    expect([...mesh.vertices()].map((v) => Number(mesh.point(v)[0].toFixed(9))).sort()).toEqual([
      0, 0, 0.2, 0.2, 0.8, 0.8, 1, 1,
    ]);
  });
  it('makes a grid where rings cross, and says where it stops', () => {
    const mesh = gridMesh(3, 3);
    const both = runOperator(mesh, insertLoops, edges(edgeAt(mesh, 5, 6), edgeAt(mesh, 5, 9)), { count: 2 });
    expect(mesh.faceCount).toBe(25);
    expect(both.report.counts.stopped).toBe(0);
    const poked = gridMesh(3, 1);
    runOperator(poked, poke, faces(2), {});
    const before = poked.faceCount;
    const { report } = runOperator(poked, insertLoops, edges(edgeAt(poked, 0, 4)), {});
    expect(report.sentence).toContain('it stops in 1 face that is no quad');
    expect(poked.faceCount).toBe(before + 2);
    expect(tracedFaces(poked).lit.length).toBeGreaterThan(0);
  });
});

describe('loops', () => {
  it('dissolve takes a loop out with its points, and gives the mesh back that it was inserted into', () => {
    const mesh = tubeMesh(8, 4);
    const { report } = runOperator(mesh, dissolve, edges(...loopOf(mesh, 16, 17)), {});
    expect(report.counts).toMatchObject({ edges: 8, vertices: 8 });
    expect([mesh.faceCount, mesh.vertexCount]).toEqual([24, 32]);
    expect(() => runOperator(cubeMesh(), dissolve, faces(0, 1, 2, 3, 4, 5), {})).toThrow(/close on themselves/);
  });
  it('slide keeps a loop on the tube, goes by the fraction, and stops at the neighbours', () => {
    const mesh = tubeMesh(12, 4);
    const loop = loopOf(mesh, 24, 25);
    runOperator(mesh, slide, edges(...loop), { by: 0.5, towards: 36 });
    expect(ends(mesh, loop).map((v) => Number(mesh.point(v)[1].toFixed(9)))).toEqual(new Array(12).fill(2.5));
    const { report } = runOperator(mesh, slide, edges(...loop), { by: 1, towards: 36, weld: true });
    expect(report.counts.welded).toBe(12);
    expect(mesh.faceCount).toBe(36);
  });
  it('fair restores a displaced loop of a torus to within 1 % of it', () => {
    const mesh = torusMesh(24, 12);
    const loop = loopOf(mesh, 5, 17);
    const off = (): number => Math.max(...ends(mesh, loop).map((v) => {
      const [x, y, z] = mesh.point(v);
      return Math.abs(Math.hypot(Math.hypot(x, z) - 3, y) - 1);
    })); // prettier-ignore
    for (const v of ends(mesh, loop))
      mesh.setPoint(v, [...mesh.point(v)].map((x, k) => x + [0.05, -0.2, 0.08][k]) as unknown as Vec3);
    expect(off()).toBeGreaterThan(0.1);
    runOperator(mesh, fair, edges(...loop), { passes: 8 });
    expect(off()).toBeLessThan(0.01);
  });
  it('true makes a circle, even steps and equal squares of a jagged loop', () => {
    const mesh = tubeMesh(16, 2);
    for (let i = 0; i < 16; i++)
      mesh.setPoint(16 + i, [
        mesh.point(16 + i)[0] * (1 + 0.3 * Math.sin(5 * i)),
        1 + 0.2 * Math.cos(3 * i),
        mesh.point(16 + i)[2],
      ]);
    const loop = loopOf(mesh, 16, 17);
    runOperator(mesh, trueUp, edges(...loop), { to: 'circle' });
    const points = ends(mesh, loop).map((v) => mesh.point(v));
    const circle = bestCircle(points);
    for (const p of points) expect(distance(p, circle?.point as Vec3)).toBeCloseTo(circle?.radius as number, 9);
    const steps = loop.map((e) => distance(mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))));
    expect(Math.max(...steps) - Math.min(...steps)).toBeLessThan(1e-9);
    runOperator(mesh, trueUp, edges(...loop), { to: 'circle', radius: 2 });
    expect(distance(mesh.point(16), mesh.point(24))).toBeCloseTo(4, 9);
    const grid = gridMesh(2, 2);
    grid.setPoint(4, [1.4, 0.7, 0.2]);
    runOperator(grid, trueUp, faces(0, 1, 2, 3), { to: 'faces' });
    for (const f of grid.faces())
      expect(cornerQuality(grid.faceVertices(f).map((v) => grid.point(v)))).toBeGreaterThan(0.999);
  });
  it('relax never folds, evens a crumpled grid out and leaves its corners', () => {
    const mesh = gridMesh(8, 8);
    for (const v of mesh.vertices()) {
      const [x, y] = mesh.point(v);
      if (x > 0 && x < 8 && y > 0 && y < 8)
        mesh.setPoint(v, [x + 0.45 * Math.sin(7 * v), y + 0.45 * Math.cos(5 * v), 0]);
    }
    const worst = (): number =>
      Math.min(...[...mesh.faces()].map((f) => cornerQuality(mesh.faceVertices(f).map((v) => mesh.point(v)))));
    runOperator(mesh, relax, EMPTY_SELECTION, { passes: 30, strength: 0.6, density: 'even' });
    expect(worst()).toBeGreaterThan(0.9);
    for (const [v, p] of [[0, [0, 0, 0]], [8, [8, 0, 0]], [80, [8, 8, 0]]] as const) expect(mesh.point(v)).toEqual(p); // prettier-ignore
  });
});

describe('joins', () => {
  it('stitch joins two borders of one count point by point, and says how many loops are missing otherwise', () => {
    const two = twoSheets(4, 4);
    const { report } = runOperator(two.mesh, stitch, edges(...two.rims), { moves: 'both' });
    expect(report.counts).toMatchObject({ pairs: 5, unmatched: 0 });
    expect([two.mesh.vertexCount, two.mesh.faceCount]).toEqual([15, 8]);
    const uneven = twoSheets(4, 3);
    expect(() => runOperator(uneven.mesh, stitch, edges(...uneven.rims), {})).toThrow(
      /4 edges, the other 3: insert 1 loop on the second side/,
    );
    const partly = runOperator(uneven.mesh, stitch, edges(...uneven.rims), { differ: 'open' });
    expect(partly.report.counts).toMatchObject({ pairs: 4, unmatched: 1 });
    const filled = twoSheets(4, 2);
    const done = runOperator(filled.mesh, stitch, edges(...filled.rims), { differ: 'insert' });
    expect(done.report.sentence).toBe('2 loops inserted, 5 pairs stitched');
    expect(checkInvariants(filled.mesh)).toEqual([]);
    expect([...filled.mesh.faces()].every((f) => filled.mesh.faceHalves(f).length === 4)).toBe(true);
    expect(borderLoops(filled.mesh)).toHaveLength(1);
  });
  it('connect cuts a quad across and goes straight over the faces between two far points', () => {
    const mesh = gridMesh(3, 1);
    runOperator(mesh, connect, { ...EMPTY_SELECTION, vertices: [0, 5] }, {});
    expect(mesh.faceCount).toBe(4);
    const far = gridMesh(4, 4);
    runOperator(far, connect, { ...EMPTY_SELECTION, vertices: [0, 13] }, {});
    expect(checkInvariants(far)).toEqual([]);
    expect(far.faceCount).toBeGreaterThan(16);
    const line = [...far.vertices()].filter((v) => v > 24).map((v) => far.point(v));
    for (const [x, y] of line) expect(Math.abs(x * 2 - y * 3)).toBeLessThan(1e-9);
  });
  it('collapse of one rung takes the whole strip when asked', () => {
    const mesh = tubeMesh(8, 3);
    runOperator(mesh, collapse, edges(edgeAt(mesh, 8, 16)), { take: 'ring' });
    expect([mesh.faceCount, mesh.vertexCount]).toEqual([16, 24]);
    const picked = gridMesh(2, 2);
    runOperator(picked, weldPicked, { ...EMPTY_SELECTION, vertices: [0, 1] }, { at: 'last' });
    expect(picked.vertexCount).toBe(8);
    expect(tracedFaces(picked).lit).toHaveLength(1);
  });
});

/** Two rows of quads, one above the other, `a` and `b` wide, and the border edges that face each other. */
function twoSheets(a: number, b: number): { mesh: PolyMesh; rims: number[] } {
  const mesh = new PolyMesh();
  const row = (n: number, y: number): number[] =>
    Array.from({ length: n + 1 }, (_, i) => addVertex(mesh, [(i * 4) / n, y, 0]));
  const rows = [row(a, 0), row(a, 1), row(b, 1.5), row(b, 2.5)];
  for (const j of [0, 2])
    for (let i = 0; i + 1 < rows[j].length; i++)
      addFace(mesh, [rows[j][i], rows[j][i + 1], rows[j + 1][i + 1], rows[j + 1][i]]);
  const rims = [rows[1], rows[2]].flatMap((r) => r.slice(1).map((v, i) => edgeAt(mesh, r[i], v)));
  return { mesh, rims };
}

describe('cuts', () => {
  it('cut runs through several faces from anchor to anchor, and all the way round', () => {
    const mesh = gridMesh(4, 4);
    const { report, selection } = runOperator(mesh, cut, EMPTY_SELECTION, {
      anchors: [{ edge: [0, 5], at: 0.5 }, { edge: [4, 9], at: 0.5 }],
    }); // prettier-ignore
    expect([report.counts.faces, selection.edges.length]).toEqual([4, 4]);
    const tube = tubeMesh(8, 3);
    const round = runOperator(tube, cut, EMPTY_SELECTION, {
      anchors: [{ edge: [8, 16], at: 0.5 }, { edge: [9, 17], at: 0.5 }],
      round: true,
    }); // prettier-ignore
    expect(round.report.counts.faces).toBe(8);
    expect(tracedFaces(tube).lit).toEqual([]);
  });
  it('the same cut goes through a strip of faces in one line', () => {
    const mesh = gridMesh(5, 1);
    const { selection } = runOperator(mesh, cutFaces, faces(0, 1, 2, 3, 4), { from: 4, to: 2, fromAt: 0.5, toAt: 0.5 });
    expect(mesh.faceCount).toBe(10);
    expect(new Set(ends(mesh, selection.edges).map((v) => mesh.point(v)[1]))).toEqual(new Set([0.5]));
  });
  it('spin turns an edge inside its two quads and moves two poles on', () => {
    const mesh = gridMesh(2, 3);
    const before = [4, 7, 3, 5, 6, 8].map((v) => mesh.valence(v));
    runOperator(mesh, spin, edges(edgeAt(mesh, 4, 7)), {});
    const after = [4, 7, 3, 5, 6, 8].map((v) => mesh.valence(v));
    expect(after[0]).toBe(before[0] - 1);
    expect(after[1]).toBe(before[1] - 1);
    expect(after.slice(2).reduce((a, b) => a + b)).toBe(before.slice(2).reduce((a, b) => a + b) + 2);
    expect([...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4)).toBe(true);
  });
  it('pairs triangles back into the quads they were cut from, all of them', () => {
    const mesh = gridMesh(6, 6);
    for (const f of [...mesh.faces()]) {
      const [a, , c] = mesh.faceVertices(f);
      runOperator(mesh, connect, { ...EMPTY_SELECTION, vertices: [a, c] }, {});
    }
    expect(mesh.faceCount).toBe(72);
    const { report } = runOperator(mesh, pairTriangles, EMPTY_SELECTION, {});
    expect(report.counts).toMatchObject({ quads: 36, left: 0 });
  });
  it('split lights the faces that are no quads any more, and a quad goes out again', () => {
    const mesh = gridMesh(2, 1);
    const { selection } = runOperator(mesh, split, edges(edgeAt(mesh, 0, 1)), {});
    expect(tracedFaces(mesh).lit).toHaveLength(1);
    runOperator(
      mesh,
      dissolve,
      { ...EMPTY_SELECTION, edges: [], faces: [...mesh.faces()], vertices: [] },
      { tidy: false },
    );
    expect(mesh.faceCount).toBe(1);
    expect(selection.vertices).toHaveLength(1);
  });
});

describe('shapes', () => {
  it('even extrusion of a cube corner keeps its thickness, and corners do not shear', () => {
    const mesh = cubeMesh();
    const at = [1, 1, 1] as const;
    const corner = [...mesh.vertices()].find((v) => mesh.point(v).every((x, k) => x === at[k])) as number;
    const { report, selection } = runOperator(mesh, extrude, faces(...mesh.vertexFaces(corner)), { distance: 0.5 });
    expect(report.counts).toMatchObject({ faces: 3, walls: 6 });
    expect(mesh.point(corner).map((x) => Number(x.toFixed(5)))).toEqual([1.5, 1.5, 1.5]);
    for (const f of selection.faces)
      for (const v of mesh.faceVertices(f)) expect(dot(faceNormal(mesh, f), mesh.point(v))).toBeCloseTo(1.5, 4);
  });
  it('extrudes faces each on its own, edges in their plane round a corner', () => {
    const mesh = gridMesh(2, 1);
    expect(runOperator(mesh, extrude, faces(0, 1), { faces: 'apart', distance: 1 }).report.counts.walls).toBe(8);
    const flat = gridMesh(1, 1);
    runOperator(flat, extrude, edges(edgeAt(flat, 0, 1), edgeAt(flat, 1, 3)), { distance: 0.5 });
    const corner = [...flat.vertices()].map((v) => flat.point(v)).find((p) => p[0] > 1 && p[1] < 0) as Vec3;
    expect(corner.map((x) => Number(x.toFixed(6)))).toEqual([1.5, -0.5, 0]);
  });
  it('inset is of even width in a slanted face, and is held back where it would fold', () => {
    const mesh = gridMesh(1, 1);
    mesh.setPoint(3, [2, 1, 0]);
    const { selection, report } = runOperator(mesh, inset, faces(0), { width: 0.1 });
    const inner = mesh.faceVertices(selection.faces[0]).map((v) => mesh.point(v));
    expect(report.counts).toMatchObject({ rim: 4, width: 0.1 });
    for (const [i, p] of inner.entries()) {
      const q = inner[(i + 1) % 4];
      const outer = [[[0, 0, 0], [1, 0, 0]], [[1, 0, 0], [2, 1, 0]], [[2, 1, 0], [0, 1, 0]], [[0, 1, 0], [0, 0, 0]]] as [Vec3, Vec3][]; // prettier-ignore
      const gap = outer.map(
        ([a, b]) => length(cross(sub(p, a), normalize(sub(b, a)))) + length(cross(sub(q, a), normalize(sub(b, a)))),
      );
      expect(Math.min(...gap)).toBeCloseTo(0.2, 5);
    }
    const wide = runOperator(gridMesh(1, 1), inset, faces(0), { width: 5 });
    expect(wide.report.counts.width).toBeLessThan(0.5);
    expect(wide.report.sentence).toContain('held at');
  });
  it('bevels all edges of a cube into round quads with corners on a ball', () => {
    for (const segments of [1, 2, 3, 4]) {
      const mesh = cubeMesh();
      const { report } = runOperator(mesh, bevel, edges(...mesh.edges()), { width: 0.4, segments });
      expect(report.counts.edges).toBe(12);
      expect(checkInvariants(mesh)).toEqual([]);
      expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(2);
      const odd = [...mesh.faces()].filter((f) => mesh.faceHalves(f).length !== 4);
      expect(odd).toHaveLength(segments % 2 === 1 ? 8 : 0);
      for (const v of mesh.vertices()) {
        const q = mesh.point(v).map((x) => Math.max(0, Math.abs(x) - 0.6));
        expect(Math.hypot(...q)).toBeCloseTo(0.4, 5);
      }
    }
  });
  it('bevels points and rows that close or meet a border', () => {
    const mesh = ballMesh(3);
    runOperator(mesh, bevel, { ...EMPTY_SELECTION, vertices: [0] }, { segments: 2 });
    expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(2);
    const tube = tubeMesh(8, 2);
    expect(
      runOperator(tube, bevel, edges(...loopOf(tube, 8, 9)), { width: 0.1, segments: 3 }).report.counts.faces,
    ).toBe(24);
    const ball = ballMesh(4);
    const alone = runOperator(ball, bevel, edges(0), { width: 0.05, segments: 3 });
    expect(alone.report.counts).toMatchObject({ faces: 3, corners: 2 });
    expect(checkInvariants(ball)).toEqual([]);
    expect(ball.vertexCount - ball.edgeCount + ball.faceCount).toBe(2);
  });
  it("subdivides by Catmull and Clark: a cube's corner goes to 5/9 of it, a creased loop stays", () => {
    const mesh = cubeMesh();
    runOperator(mesh, subdivideMesh, EMPTY_SELECTION, {});
    expect([mesh.vertexCount, mesh.faceCount]).toEqual([26, 24]);
    for (let v = 0; v < 8; v++) for (const x of mesh.point(v)) expect(Math.abs(x)).toBeCloseTo(5 / 9, 12);
    const sharp = cubeMesh();
    runOperator(sharp, crease, EMPTY_SELECTION, { which: 'angle', weight: 10 });
    runOperator(sharp, subdivideMesh, EMPTY_SELECTION, { levels: 2 });
    for (let v = 0; v < 8; v++) expect(sharp.point(v).map(Math.abs)).toEqual([1, 1, 1]);
    const some = gridMesh(3, 3);
    runOperator(some, subdivideMesh, faces(4), {});
    expect(some.faceCount).toBe(12);
    expect(tracedFaces(some).lit).toHaveLength(4);
  });
  it('places by move, turn and scale about the middle, and reaches along the skin only', () => {
    const mesh = gridMesh(2, 2);
    const all = { ...EMPTY_SELECTION, vertices: [...mesh.vertices()] };
    runOperator(mesh, transform, all, { turn: { axis: [0, 0, 1], degrees: 90 }, scale: [2, 2, 2], move: [0, 0, 1] });
    expect(mesh.point(0).map((x) => Number(x.toFixed(9)))).toEqual([3, -1, 1]);
    const bent = gridMesh(8, 1);
    for (const v of bent.vertices())
      if (bent.point(v)[0] > 4) bent.setPoint(v, [8 - bent.point(v)[0], bent.point(v)[1], 0.1]);
    const reach = (kind: 'air' | 'skin'): number =>
      runOperator(bent, transform, { ...EMPTY_SELECTION, vertices: [0] }, { reach: kind, radius: 2, move: [0, 0, 1] })
        .report.counts.vertices;
    expect(reach('skin')).toBeLessThan(reach('air'));
  });
});

describe('the own axes of what is picked', () => {
  it('stand out of a face, along an edge, and square to the plane of a loop', () => {
    const close = (a: readonly number[] | undefined, b: number[]): void => b.forEach((x, k) => expect(a?.[k]).toBeCloseTo(x, 6)); // prettier-ignore
    const cube = cubeMesh();
    const front = [...cube.faces()].find((f) => cube.faceVertices(f).every((v) => cube.point(v)[2] === 1)) as number;
    close(frameOfPicked(cube, faces(front))?.[2], [0, 0, 1]);
    const grid = gridMesh(3, 3);
    const [x, y, z] = frameOfPicked(grid, edges(edgeAt(grid, 5, 6))) ?? [];
    close(x?.map(Math.abs), [1, 0, 0]);
    close(y?.map(Math.abs), [0, 1, 0]);
    close(z, [0, 0, 1]);
    const tube = tubeMesh(8, 4);
    expect(Math.abs(frameOfPicked(tube, edges(...loopOf(tube, 8, 9)))?.[2][1] ?? 0)).toBeCloseTo(1, 6);
  });
});
