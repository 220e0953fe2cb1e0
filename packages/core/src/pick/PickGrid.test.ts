import { describe, expect, it } from 'vitest';
import { normalize, seededRng, type Vec3 } from '../math';
import { EMPTY_SELECTION, meshFromSoup, touchedElements } from '../mesh';
import { deletePicked, movePoints, runOperator } from '../ops';
import { sculptFromSoup, SculptSurface } from '../surface';
import { ballSoup, gridMesh } from '../testing';
import { grabOnEdge, PickGrid } from '.';

const nothingLoose = { vertices: [], edges: [] };

describe('picking', () => {
  it('finds the same first face distance as the BVH on random rays', () => {
    const soup = ballSoup(16);
    const grid = new PickGrid(meshFromSoup(soup).mesh, 0.25);
    const surface = SculptSurface.build(sculptFromSoup(soup));
    const rng = seededRng(2);
    let hits = 0;
    for (let i = 0; i < 300; i++) {
      const o: Vec3 = [rng() * 8 - 4, rng() * 8 - 4, 4];
      const d = normalize([rng() * 2 - 1 - o[0], rng() * 2 - 1 - o[1], -4 - rng()]);
      const [a, b] = [grid.raycast(o, d), surface.raycast(o, d)];
      expect(a === null).toBe(b === null);
      if (!a || !b) continue;
      hits++;
      expect(a.distance).toBeCloseTo(b.distance, 4);
    }
    expect(hits).toBeGreaterThan(50);
  });

  it('finds vertices and edges near a ray, also from outside the mesh, and follows edits', () => {
    const mesh = gridMesh(10, 10);
    const grid = new PickGrid(mesh, 2);
    const down: Vec3 = [0, 0, -1];
    const near = grid.nearest([3.1, 4.05, 10], down, 0.03, 100, nothingLoose);
    expect(mesh.point(near.vertex?.id ?? -1)).toEqual([3, 4, 0]);
    const beside = grid.nearest([-0.2, 4.5, 10], down, 0.03, 100, nothingLoose).edge;
    expect(beside?.slope).toBeCloseTo(0.02);
    expect(beside?.span).toBeCloseTo(0.1);
    expect(grid.nearest([-0.2, 4.5, 10], down, 0.01, 100, nothingLoose)).toEqual({ vertex: null, edge: null });
    const v = mesh.findHalf(0, 1) >= 0 ? 0 : -1;
    const moved = runOperator(mesh, movePoints, EMPTY_SELECTION, { points: [{ vertex: v, to: [-6, -6, 0] }] });
    grid.update(touchedElements(mesh, moved.delta.columns));
    expect(grid.nearest([-6, -6, 10], down, 0.01, 100, nothingLoose).vertex?.id).toBe(v);
    expect(grid.raycast([-3, -3, 10], down)).toMatchObject({ distance: 10 });
    const gone = runOperator(mesh, deletePicked, { ...EMPTY_SELECTION, vertices: [v] }, {});
    grid.update(touchedElements(mesh, gone.delta.columns));
    expect(grid.raycast([-3, -3, 10], down)).toBeNull();
  });

  it('finds the vertex within a distance of a point, exceptions left out', () => {
    const grid = new PickGrid(gridMesh(4, 4), 2);
    expect(grid.vertexWithin([2.2, 1.1, 0], 0.5, new Set())).toBe(7);
    expect(grid.vertexWithin([2.2, 1.1, 0], 0.5, new Set([7]))).toBeNull();
    expect(grid.vertexWithin([2.2, 1.1, 0], 1, new Set([7]))).toBe(8);
  });

  it('grabs an edge where the ray passes it', () => {
    expect(grabOnEdge([0.25, 1, 5], [0, 0, -1], [0, 0, 0], [1, 0, 0])).toEqual([0.25, 0, 0]);
    expect(grabOnEdge([9, 1, 5], [0, 0, -1], [0, 0, 0], [1, 0, 0])).toEqual([1, 0, 0]);
  });
});
