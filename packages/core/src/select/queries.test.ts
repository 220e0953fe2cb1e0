import { describe, expect, it } from 'vitest';
import { EMPTY_SELECTION, encodeMesh } from '../mesh';
import { cubeMesh, gridMesh } from '../testing';
import { all, border, connected, invert, loop, none, open, ring, SELECTION_QUERIES } from '.';
import { addFace, addVertex } from '../mesh';

describe('selection queries', () => {
  it('find loops, rings and borders from one edge', () => {
    const mesh = gridMesh(4, 3);
    const inner = { ...EMPTY_SELECTION, edges: [mesh.findHalf(6, 7) >> 1] };
    expect(loop.run(mesh, inner).edges).toHaveLength(4);
    expect(ring.run(mesh, inner).edges).toHaveLength(4);
    const rim = { ...EMPTY_SELECTION, edges: [mesh.findHalf(0, 1) >> 1] };
    expect(border.run(mesh, rim).edges).toHaveLength(14);
    expect(loop.run(mesh, rim).edges).toHaveLength(4);
    expect(border.run(mesh, inner).edges).toEqual([]);
    expect(open.run(mesh, EMPTY_SELECTION).edges).toHaveLength(14);
    expect(open.run(cubeMesh(), EMPTY_SELECTION).edges).toEqual([]);
  });
  it('take all that hangs together, from any kind of element', () => {
    const mesh = gridMesh(2, 2);
    const [a, b, c] = [9, 10, 11].map((x) => addVertex(mesh, [x, x * x, 0]));
    const lone = addFace(mesh, [a, b, c]);
    for (const start of [{ vertices: [0] }, { edges: [mesh.findHalf(0, 1) >> 1] }, { faces: [0] }])
      expect(connected.run(mesh, { ...EMPTY_SELECTION, ...start }).faces.toSorted()).toEqual([0, 1, 2, 3]);
    expect(connected.run(mesh, { ...EMPTY_SELECTION, vertices: [b] }).faces).toEqual([lone]);
  });
  it('invert within the kind that is picked', () => {
    const mesh = gridMesh(2, 1);
    expect(invert.run(mesh, { ...EMPTY_SELECTION, faces: [0] }).faces).toEqual([1]);
    expect(invert.run(mesh, { ...EMPTY_SELECTION, vertices: [0, 1] }).vertices).toEqual([2, 3, 4, 5]);
    expect(invert.run(mesh, { ...EMPTY_SELECTION, edges: [0] }).edges).toHaveLength(6);
    expect(invert.run(mesh, none.run(mesh, all.run(mesh, EMPTY_SELECTION))).faces).toEqual([0, 1]);
  });
  it('change nothing and stand in the registry under their names', () => {
    const mesh = gridMesh(3, 3);
    const before = encodeMesh(mesh);
    for (const [name, query] of SELECTION_QUERIES) {
      expect(query.name).toBe(name);
      query.run(mesh, { vertices: [0], edges: [0], faces: [0] });
    }
    expect(encodeMesh(mesh)).toEqual(before);
    expect(SELECTION_QUERIES.size).toBe(8);
  });
});
