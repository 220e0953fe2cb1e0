import { describe, expect, it } from 'vitest';
import { EMPTY_SELECTION, tracedFaces, type PolyMesh } from '../../mesh';
import { gridMesh } from '../../testing';
import { connect, dissolve, insertLoops, mend, meantToBe, poke, repairFor, runOperator, split } from '..';

const edgeAt = (mesh: PolyMesh, u: number, v: number): number => mesh.findHalf(u, v) >> 1;
const sides = (mesh: PolyMesh): number[] => [...mesh.faces()].map((f) => mesh.faceHalves(f).length).sort();

describe('traces and their repair', () => {
  it('a point put on an edge lights its faces, and mending takes it out again', () => {
    const mesh = gridMesh(2, 2);
    runOperator(mesh, split, { ...EMPTY_SELECTION, edges: [edgeAt(mesh, 1, 4)] }, {});
    expect(tracedFaces(mesh).lit).toHaveLength(2);
    expect(runOperator(mesh, mend, EMPTY_SELECTION, {}).report.counts).toEqual({ mended: 1, left: 0 });
    expect([tracedFaces(mesh).lit, mesh.vertexCount]).toEqual([[], 9]);
  });
  it('an edge taken out leaves a hexagon, which is connected where its parts are squarest', () => {
    const mesh = gridMesh(3, 1);
    runOperator(mesh, dissolve, { ...EMPTY_SELECTION, edges: [edgeAt(mesh, 1, 5)] }, { tidy: false });
    expect(sides(mesh)).toEqual([4, 6]);
    expect(repairFor(mesh, tracedFaces(mesh).lit[0])).toMatchObject({ kind: 'dissolve' });
    runOperator(mesh, mend, EMPTY_SELECTION, {});
    expect(sides(mesh)).toEqual([4, 4]);
    const inner = gridMesh(3, 3);
    runOperator(inner, dissolve, { ...EMPTY_SELECTION, edges: [edgeAt(inner, 5, 6)] }, { tidy: false });
    expect(repairFor(inner, tracedFaces(inner).lit[0])).toMatchObject({ kind: 'connect' });
    runOperator(inner, mend, EMPTY_SELECTION, {});
    expect(sides(inner)).toEqual(new Array(9).fill(4));
  });
  it('two triangles are paired; what no plain repair fits is refused, and can be left as meant to be', () => {
    const mesh = gridMesh(2, 1);
    runOperator(mesh, connect, { ...EMPTY_SELECTION, vertices: [0, 4] }, {});
    expect(tracedFaces(mesh).lit).toHaveLength(2);
    runOperator(mesh, mend, EMPTY_SELECTION, {});
    expect(sides(mesh)).toEqual([4, 4]);
    const odd = gridMesh(3, 1);
    runOperator(odd, poke, { ...EMPTY_SELECTION, faces: [2] }, {});
    runOperator(odd, insertLoops, { ...EMPTY_SELECTION, edges: [edgeAt(odd, 0, 4)] }, {});
    const left = tracedFaces(odd).lit.length;
    runOperator(odd, meantToBe, EMPTY_SELECTION, {});
    expect(tracedFaces(odd)).toMatchObject({ lit: [] });
    expect(tracedFaces(odd).meant).toHaveLength(left);
    expect(() => runOperator(gridMesh(2, 2), mend, EMPTY_SELECTION, {})).toThrow(/No plain repair/);
  });
});
