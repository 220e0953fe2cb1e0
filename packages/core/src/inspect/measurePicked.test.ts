import { describe, expect, it } from 'vitest';
import { EMPTY_SELECTION, type PolyMesh } from '../mesh';
import { gridMesh } from '../testing';
import { measurePicked } from '.';

const edgeAt = (mesh: PolyMesh, u: number, v: number): number => mesh.findHalf(u, v) >> 1;

describe('measuring what is picked', () => {
  it('tells the distance of two points, the length of a run, and ratio and angle of two', () => {
    const mesh = gridMesh(4, 4);
    expect(measurePicked(mesh, { ...EMPTY_SELECTION, vertices: [0, 8] })).toEqual({
      kind: 'points',
      length: Math.hypot(3, 1),
    });
    const row = [edgeAt(mesh, 0, 1), edgeAt(mesh, 1, 2)];
    expect(measurePicked(mesh, { ...EMPTY_SELECTION, edges: row })).toEqual({ kind: 'one', length: 2 });
    const two = measurePicked(mesh, { ...EMPTY_SELECTION, edges: [...row, edgeAt(mesh, 13, 18)] });
    expect(two).toMatchObject({ kind: 'two', lengths: [2, 1], ratio: 2 });
    expect(two?.kind === 'two' && two.angle).toBeCloseTo(90, 9);
    expect(measurePicked(mesh, { ...EMPTY_SELECTION, vertices: [0, 1, 2] })).toBeNull();
  });
});
