import { describe, expect, it } from 'vitest';
import { TopologyError } from '../errors';
import { borderLoops, EMPTY_SELECTION } from '../mesh';
import { cubeMesh, gridMesh } from '../testing';
import { drawOut, outwardAt, rowPlaces, runOperator, uniqueEnds } from '.';

describe('a row drawn out of a border', () => {
  it('goes straight out of a flat grid, along the corners’ halves', () => {
    const mesh = gridMesh(3, 2);
    const edges = borderLoops(mesh)[0].halves.map((h) => h >> 1);
    const places = rowPlaces(mesh, edges, 0.5);
    expect(uniqueEnds(mesh, edges)).toHaveLength(10);
    for (const [v, [x, y, z]] of places) {
      const [a, b] = mesh.point(v);
      expect(Math.hypot(x - a, y - b, z)).toBeCloseTo(0.5, 9);
      const out = [a === 0 ? -1 : a === 3 ? 1 : 0, b === 0 ? -1 : b === 2 ? 1 : 0];
      const l = Math.hypot(out[0], out[1]);
      expect((x - a) / 0.5).toBeCloseTo(out[0] / l, 9);
      expect((y - b) / 0.5).toBeCloseTo(out[1] / l, 9);
    }
    const ends = [...places].map(([from, p]) => ({ from, to: { point: [...p] as [number, number, number] } }));
    runOperator(mesh, drawOut, EMPTY_SELECTION, { edges, ends });
    expect([mesh.faceCount, borderLoops(mesh)[0].halves.length]).toEqual([16, 10]);
  });
  it('refuses edges with faces on both sides, and a missing end, and changes nothing', () => {
    const cube = cubeMesh();
    expect(() => outwardAt(cube, [0], cube.origin(0))).toThrow(TopologyError);
    const mesh = gridMesh(1, 1);
    const edge = mesh.findHalf(0, 1) >> 1;
    expect(() =>
      runOperator(mesh, drawOut, EMPTY_SELECTION, { edges: [edge], ends: [{ from: 0, to: { point: [0, -1, 0] } }] }),
    ).toThrow(/place to go/);
    expect([mesh.vertexCount, mesh.faceCount]).toEqual([4, 1]);
  });
  it('welds the far ends where it is told to, down to a triangle', () => {
    const mesh = gridMesh(1, 1);
    const edge = mesh.findHalf(0, 1) >> 1;
    const tip = { point: [0.5, -1, 0] as [number, number, number] };
    runOperator(mesh, drawOut, EMPTY_SELECTION, { edges: [edge], ends: [{ from: 0, to: tip }, { from: 1, to: { vertex: 1 } }] }); // prettier-ignore
    expect([...mesh.faces()].map((f) => mesh.faceHalves(f).length).sort()).toEqual([3, 4]);
  });
});
