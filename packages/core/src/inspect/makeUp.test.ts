import { describe, expect, it } from 'vitest';
import { seededRng } from '../math';
import { addEdge, addFace, addVertex, EMPTY_SELECTION, meshFromSoup, PolyMesh, removeFaceOnly } from '../mesh';
import { makeReal, movePoints, pin, runOperator, threadEnds } from '../ops';
import { SculptSurface, sculptFromSoup } from '../surface';
import { ballSoup, cubeMesh, gridMesh } from '../testing';
import { makeUp, polesOf, proposeBudget, SculptDistance } from '.';

describe('make-up', () => {
  it('counts kinds of faces, poles and open edges', () => {
    expect(makeUp(cubeMesh(), null)).toMatchObject({ faces: 6, quads: 6, poles: { three: 8, five: 0 }, openEdges: 0 });
    expect(makeUp(gridMesh(3, 2), null)).toMatchObject({
      faces: 6,
      openEdges: 10,
      poles: { three: 0, five: 0, sixPlus: 0 },
    });
    const ball = makeUp(meshFromSoup(ballSoup(6)).mesh, null);
    expect(ball).toMatchObject({ triangles: 120, poles: { five: 24, sixPlus: 38 }, openEdges: 0 });
  });

  it('tells what lies at released points, of each count as much as it holds there', () => {
    const mesh = gridMesh(3, 2);
    expect(makeUp(mesh, null).released).toEqual({ openEdges: 0, looseEdges: 0, ngons: 0, sixPlus: 0, two: 0 });
    const left = [...mesh.vertices()].filter((v) => mesh.point(v)[0] === 0);
    const end = addVertex(mesh, [-1, 0, 0]);
    addEdge(mesh, left[0], end);
    expect(threadEnds(mesh)).toEqual([end]);
    const release = (vertices: number[]): void => void runOperator(mesh, pin, { ...EMPTY_SELECTION, vertices }, { becomes: 'release' }); // prettier-ignore
    release(left);
    // two edges between three points, counted twice where a plane mirrors them, once on it
    expect(makeUp(mesh, null)).toMatchObject({
      openEdges: 10,
      looseEdges: 1,
      released: { openEdges: 2, looseEdges: 0 },
    });
    expect(makeUp(mesh, { axis: 'x', offset: 7 }).released.openEdges).toBe(4);
    expect(makeUp(mesh, { axis: 'x', offset: 0 }).released.openEdges).toBe(0);
    release([end]);
    expect(makeUp(mesh, null).released.looseEdges).toBe(1);
    expect(threadEnds(mesh)).toEqual([]);
    const ball = meshFromSoup(ballSoup(6)).mesh;
    runOperator(ball, pin, { ...EMPTY_SELECTION, vertices: [...ball.vertices()] }, { becomes: 'release' });
    const { poles, released } = makeUp(ball, null);
    expect(released.sixPlus).toBe(poles.sixPlus);
  });

  it('counts a mirrored half as the whole that it becomes, poles on the midline once', () => {
    const rng = seededRng(9);
    for (let i = 0; i < 20; i++) {
      const mesh = gridMesh(4, 4);
      const plane = { axis: 'x', offset: 0 } as const;
      for (let k = 0; k < 3; k++) {
        const f = Math.floor(rng() * mesh.faceRows);
        if (!mesh.hasFace(f)) continue;
        const vertices = mesh.faceVertices(f);
        const n = vertices.length;
        const points = vertices.map((v) => mesh.point(v));
        const [x, y] = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k], 0) / n);
        const middle = addVertex(mesh, [x, y, 0]);
        removeFaceOnly(mesh, f);
        vertices.forEach((v, j) => addFace(mesh, [v, vertices[(j + 1) % n], middle]));
      }
      const half = makeUp(mesh, plane);
      runOperator(mesh, makeReal, EMPTY_SELECTION, plane);
      expect(makeUp(mesh, null)).toEqual(half);
    }
  });

  it('finds a pole on the midline by its edges on both sides', () => {
    const mesh = new PolyMesh();
    const [o, a, b, c] = [[0, 0, 0], [0, 1, 0], [1, 0, 0], [0, -1, 0]].map((p) => addVertex(mesh, p as [number, number, number])); // prettier-ignore
    addFace(mesh, [o, b, a]);
    addFace(mesh, [o, c, b]);
    expect(polesOf(mesh, { axis: 'x', offset: 0 })).toEqual([]);
    const [d] = [addVertex(mesh, [2, -1, 0])];
    addFace(mesh, [b, c, d]);
    expect(makeUp(mesh, { axis: 'x', offset: 0 }).openEdges).toBe(6);
  });
});

describe('distance to the sculpt', () => {
  const ball = SculptSurface.build(sculptFromSoup(ballSoup(60, 10)));
  it('measures a shell outside as its gap, and only the faces that an edit touched again', () => {
    const { mesh } = meshFromSoup(ballSoup(20, 10.5));
    const distance = new SculptDistance(mesh, ball);
    let asked = 0;
    expect(distance.update(() => asked++ > 100)).toBe(false);
    expect(distance.summary().measuredFaces).toBe(101);
    expect(distance.update(() => false)).toBe(true);
    const { typical, worst } = distance.summary();
    expect(typical).toBeCloseTo(0.45, 1);
    expect(worst).toBeLessThan(0.52);
    expect(distance.signedWorst(0)).toBeGreaterThan(0.3);
    expect(distance.summary().worstAt?.every(Number.isFinite)).toBe(true);
    runOperator(mesh, movePoints, EMPTY_SELECTION, { points: [{ vertex: 0, to: [0, 13, 0] }] });
    const around = mesh.vertexFaces(0);
    expect(around.map((f) => distance.signedWorst(f))).toEqual(around.map(() => null));
    let again = 0;
    distance.update(() => {
      again++;
      return false;
    });
    expect(again).toBe(around.length);
    expect(distance.summary().worst).toBeCloseTo(3, 1);
    expect(distance.summary().worstAt).toEqual([0, 13, 0]);
  });
  it('tells inside from outside', () => {
    const { mesh } = meshFromSoup(ballSoup(12, 9));
    const distance = new SculptDistance(mesh, ball);
    distance.update(() => false);
    expect([...mesh.faces()].every((f) => (distance.signedWorst(f) ?? 1) < -0.9)).toBe(true);
  });
});

describe('the proposed budget', () => {
  it('grows with the square of the size and is smallest for what is subdivided later', () => {
    expect(proposeBudget('bends', 400)).toBe(2100);
    expect(proposeBudget('bends', 800) / proposeBudget('bends', 400)).toBeCloseTo(4, 0);
    expect(proposeBudget('subdivided', 400)).toBeLessThan(proposeBudget('rigid', 400));
    expect(proposeBudget('still', 8)).toBe(40);
  });
});
