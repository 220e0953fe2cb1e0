import { describe, expect, it } from 'vitest';
import { PickGrid } from '@half-loop/core/pick';
import { REGION_CHANNEL } from '@half-loop/core/ops';
import { gridMesh } from '@half-loop/core/testing';
import { allHidden, isHiddenFace } from './hiddenFaces';

describe('what is hidden with its region', () => {
  const mesh = gridMesh(4, 1);
  const column = mesh.channel(REGION_CHANNEL);
  column.set(1, 3);
  column.set(2, 3);

  it('are faces of hidden regions, with 0 for those in none; nothing where none is hidden', () => {
    const hidden = (...of: number[]): number[] => [...mesh.faces()].filter((f) => isHiddenFace(mesh, f, new Set(of)));
    expect([hidden(), hidden(3), hidden(0), hidden(0, 3)]).toEqual([[], [1, 2], [0, 3], [0, 1, 2, 3]]);
  });
  it('are edges and points with hidden faces alone; loose ones are shown', () => {
    const hidden = new Set([3]);
    expect(allHidden(mesh, [1, 2], hidden)).toBe(true);
    expect(allHidden(mesh, [0, 1], hidden)).toBe(false);
    expect(allHidden(mesh, [], hidden)).toBe(false);
    expect(allHidden(mesh, [1], new Set())).toBe(false);
  });
  it('is passed by the pointer, which finds what lies behind', () => {
    const at = (f: number): [number, number, number] => {
      const points = mesh.faceVertices(f).map((v) => mesh.point(v));
      return [0, 1, 2].map((k) => points.reduce((sum, p) => sum + p[k], 0) / 4) as [number, number, number];
    };
    const grid = new PickGrid(mesh, 2, (f) => !isHiddenFace(mesh, f, new Set([3])));
    const hit = (f: number): number | undefined => {
      const [x, y, z] = at(f);
      return grid.raycast([x, y, z + 5], [0, 0, -1])?.face;
    };
    expect([0, 1, 2, 3].map(hit)).toEqual([0, undefined, undefined, 3]);
    grid.update({ vertices: new Set(), edges: new Set(), faces: new Set([1, 3]) });
    expect([0, 1, 2, 3].map(hit)).toEqual([0, undefined, undefined, 3]);
  });
});
