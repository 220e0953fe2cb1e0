import { describe, expect, it } from 'vitest';
import { addFace, addVertex, EMPTY_SELECTION, encodeMesh, type Selection } from '../mesh';
import { ballMesh, cubeMesh, gridMesh, tubeMesh } from '../testing';
import {
  all,
  between,
  border,
  byAngle,
  byFacing,
  bySides,
  byValence,
  connected,
  countRhythm,
  grow,
  hard,
  insideOutline,
  invert,
  loop,
  none,
  open,
  pickedRuns,
  region,
  regionIsland,
  rhythm,
  ring,
  runQuery,
  same,
  SELECTION_QUERIES,
  shrink,
  strip,
  toEdges,
  toFaces,
  toVertices,
} from '.';

const picked = (what: Partial<Selection>): Selection => ({ ...EMPTY_SELECTION, ...what });

describe('walks', () => {
  it('find loops, rings, strips and borders from one edge', () => {
    const mesh = gridMesh(4, 3);
    const inner = picked({ edges: [mesh.findHalf(6, 7) >> 1] });
    expect(runQuery(mesh, loop, inner, {}).edges).toHaveLength(4);
    expect(runQuery(mesh, ring, inner, {}).edges).toHaveLength(4);
    expect(runQuery(mesh, strip, inner, {}).faces).toHaveLength(3);
    const rim = picked({ edges: [mesh.findHalf(0, 1) >> 1] });
    expect(runQuery(mesh, border, rim, {}).edges).toHaveLength(14);
    expect(runQuery(mesh, loop, rim, {}).edges).toHaveLength(4);
    expect(runQuery(mesh, border, inner, {}).edges).toEqual([]);
    expect(runQuery(mesh, open, EMPTY_SELECTION, {}).edges).toHaveLength(14);
    expect(runQuery(cubeMesh(), open, EMPTY_SELECTION, {}).edges).toEqual([]);
  });
  it('leave the midline out of what is open, and count its poles with the mirrored half', () => {
    const mesh = gridMesh(4, 3);
    const plane = { axis: 'x', offset: 0 } as const;
    expect(runQuery(mesh, open, EMPTY_SELECTION, {}, plane).edges).toHaveLength(11);
    expect(runQuery(mesh, byValence, EMPTY_SELECTION, {}, plane).vertices).toEqual([]);
    expect(runQuery(mesh, byValence, EMPTY_SELECTION, { valence: 4 }, plane).vertices).toHaveLength(6 + 2);
  });
  it('take the shortest way between two, along a loop where there is one', () => {
    const mesh = gridMesh(5, 5);
    expect(runQuery(mesh, between, picked({ vertices: [0, 14] }), {}).vertices).toHaveLength(5);
    const edges = [mesh.findHalf(7, 8) >> 1, mesh.findHalf(9, 10) >> 1];
    expect(runQuery(mesh, between, picked({ edges }), {}).edges).toHaveLength(3);
    expect(runQuery(mesh, between, picked({ faces: [0, 24] }), {}).faces).toHaveLength(9);
    const tube = tubeMesh(8, 2);
    const round = [tube.findHalf(8, 9) >> 1, tube.findHalf(14, 15) >> 1];
    expect(runQuery(tube, between, picked({ edges: round }), {}).edges).toHaveLength(3);
  });
});

describe('rhythm', () => {
  it('takes n and skips m from the picked edge on, and tells the remainder first', () => {
    const tube = tubeMesh(12, 2);
    const start = picked({ edges: [tube.findHalf(12, 13) >> 1] });
    const asked = { take: 2, skip: 1, offset: 0, along: 'loop' } as const;
    expect(countRhythm(tube, start, asked)).toEqual({ length: 12, closed: true, picked: 8, remainder: 0 });
    const { edges } = runQuery(tube, rhythm, start, asked);
    expect(edges[0]).toBe(start.edges[0]);
    expect(pickedRuns(tube, edges)).toMatchObject({ edges: 8, runs: [2, 2, 2, 2].map((n) => ({ edges: n, closed: false })) }); // prettier-ignore
    expect(countRhythm(tube, start, { ...asked, take: 3, skip: 2 })).toMatchObject({ remainder: 2 });
    const faces = runQuery(tube, rhythm, picked({ edges: [tube.findHalf(0, 12) >> 1] }), {
      take: 1,
      skip: 2,
      along: 'strip',
    });
    expect(faces.faces).toHaveLength(4);
  });
});

describe('sets', () => {
  it('take all that hangs together, from any kind of element', () => {
    const mesh = gridMesh(2, 2);
    const [a, b, c] = [9, 10, 11].map((x) => addVertex(mesh, [x, x * x, 0]));
    const lone = addFace(mesh, [a, b, c]);
    for (const start of [{ vertices: [0] }, { edges: [mesh.findHalf(0, 1) >> 1] }, { faces: [0] }])
      expect(runQuery(mesh, connected, picked(start), {}).faces.toSorted()).toEqual([0, 1, 2, 3]);
    expect(runQuery(mesh, connected, picked({ vertices: [b] }), {}).faces).toEqual([lone]);
  });
  it('invert within the kind that is picked', () => {
    const mesh = gridMesh(2, 1);
    expect(runQuery(mesh, invert, picked({ faces: [0] }), {}).faces).toEqual([1]);
    expect(runQuery(mesh, invert, picked({ vertices: [0, 1] }), {}).vertices).toEqual([2, 3, 4, 5]);
    expect(runQuery(mesh, invert, picked({ edges: [0] }), {}).edges).toHaveLength(6);
    expect(runQuery(mesh, invert, runQuery(mesh, none, EMPTY_SELECTION, {}), {}).faces).toEqual([0, 1]);
    expect(runQuery(mesh, all, EMPTY_SELECTION, { kind: 'edges' }).edges).toHaveLength(7);
  });
  it('turn points into edges and faces, wholly or touching, and grow and shrink back', () => {
    const mesh = gridMesh(4, 4);
    const middle = picked({ faces: [5] });
    expect(runQuery(mesh, toVertices, middle, {}).vertices).toHaveLength(4);
    const corners = runQuery(mesh, toVertices, middle, {});
    expect(runQuery(mesh, toFaces, corners, {}).faces).toEqual([5]);
    expect(runQuery(mesh, toFaces, corners, { wholly: false }).faces).toHaveLength(9);
    expect(runQuery(mesh, toEdges, corners, {}).edges).toHaveLength(4);
    expect(runQuery(mesh, toEdges, corners, { wholly: false }).edges).toHaveLength(12);
    const grown = runQuery(mesh, grow, middle, {});
    expect(grown.faces).toHaveLength(9);
    // faces on the mesh's own border have nothing beside them that would make them go
    expect(runQuery(mesh, shrink, grown, {}).faces.toSorted((a, b) => a - b)).toEqual([0, 1, 4, 5]);
  });
  it('find by angle, valence, sides, facing, hardness, region and likeness', () => {
    const cube = cubeMesh();
    expect(runQuery(cube, byAngle, EMPTY_SELECTION, { degrees: 80 }).edges).toHaveLength(12);
    expect(runQuery(cube, byFacing, EMPTY_SELECTION, { direction: [0, 0, 1], degrees: 10 }).faces).toEqual([1]);
    expect(runQuery(ballMesh(4), byValence, EMPTY_SELECTION, {}).vertices).toHaveLength(8);
    expect(runQuery(cube, bySides, EMPTY_SELECTION, { sides: 4 }).faces).toHaveLength(6);
    expect(runQuery(cube, hard, EMPTY_SELECTION, {}).edges).toEqual([]);
    cube.channel({ domain: 'edge', name: 'hard', type: 'i32', stride: 1, fill: 0 }).set(3, 1);
    expect(runQuery(cube, hard, EMPTY_SELECTION, {}).edges).toEqual([3]);
    cube.channel({ domain: 'face', name: 'region', type: 'i32', stride: 1, fill: 0 }).set(2, 5);
    expect(runQuery(cube, region, picked({ faces: [2] }), {}).faces).toEqual([2]);
    const two = gridMesh(5, 1);
    const column = two.channel({ domain: 'face', name: 'region', type: 'i32', stride: 1, fill: 0 });
    for (const f of [0, 1, 3, 4]) column.set(f, 7);
    expect(runQuery(two, region, picked({ faces: [0] }), {}).faces).toEqual([0, 1, 3, 4]);
    expect(runQuery(two, regionIsland, picked({ faces: [0] }), {}).faces).toEqual([0, 1]);
    expect(runQuery(two, regionIsland, picked({ faces: [2, 4] }), {}).faces.toSorted((a, b) => a - b)).toEqual([
      2, 3, 4,
    ]);
    const mesh = gridMesh(3, 1);
    mesh.setPoint(3, [9, 0, 0]);
    expect(runQuery(mesh, same, picked({ edges: [mesh.findHalf(0, 1) >> 1] }), {}).edges).toHaveLength(8);
    expect(runQuery(mesh, same, picked({ faces: [0] }), {}).faces).toEqual([0, 1]);
  });
  it('change nothing, refuse nonsense, and stand in the registry under their names', () => {
    const mesh = gridMesh(3, 3);
    const before = encodeMesh(mesh);
    for (const [name, query] of SELECTION_QUERIES) {
      expect(query.name).toBe(name);
      runQuery(mesh, query, { vertices: [0], edges: [0], faces: [0] }, {});
    }
    expect(encodeMesh(mesh)).toEqual(before);
    expect(() => runQuery(mesh, rhythm, EMPTY_SELECTION, { take: 0 })).toThrow(/^Rhythm: take/);
  });
});

describe('outline', () => {
  const mesh = gridMesh(4, 4);
  const pixels = new Float32Array([...mesh.vertices()].flatMap((v) => [mesh.point(v)[0] * 10, mesh.point(v)[1] * 10]));
  const box = Float32Array.of(5, 5, 25, 5, 25, 25, 5, 25);
  it('takes what lies wholly inside, or touches, of each kind', () => {
    const take = (kind: 'vertices' | 'edges' | 'faces', wholly: boolean): number => {
      const s = insideOutline(mesh, pixels, box, { kind, wholly, isSeen: null });
      return s.vertices.length + s.edges.length + s.faces.length;
    };
    expect([take('vertices', true), take('edges', true), take('edges', false)]).toEqual([4, 4, 12]);
    expect([take('faces', true), take('faces', false)]).toEqual([1, 9]);
  });
  it('takes only what is seen, and follows a lasso that bends inwards', () => {
    const isSeen = (v: number): boolean => v % 2 === 0;
    expect(insideOutline(mesh, pixels, box, { kind: 'vertices', wholly: true, isSeen }).vertices).toEqual([6, 12]);
    const bent = Float32Array.of(-1, -1, 41, -1, 41, 41, 35, 41, 35, 5, -1, 5);
    expect(insideOutline(mesh, pixels, bent, { kind: 'vertices', wholly: true, isSeen: null }).vertices).toHaveLength(
      9,
    );
  });
});
