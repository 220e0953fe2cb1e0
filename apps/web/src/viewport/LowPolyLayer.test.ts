import { describe, expect, it } from 'vitest';
import type { BufferGeometry, Mesh } from 'three';
import { seededRng, type Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION, touchedElements, type PolyMesh } from '@half-loop/core/mesh';
import { deletePicked, drawOut, layFace, movePoints, runOperator } from '@half-loop/core/ops';
import { gridMesh, pick } from '@half-loop/core/testing';
import { LowPolyLayer, type Emphasis } from './LowPolyLayer';

const nothing: Emphasis = {
  picked: { vertices: new Set(), edges: new Set(), faces: new Set() },
  pointed: { edges: new Set(), face: null },
};
const colours: LowPolyLayer['colours'] = {
  edge: () => null,
  face: () => [0.5, 0.5, 0.5],
  ink: [0, 0, 0],
  border: [0, 0, 0.2],
  picked: [1, 0, 1],
  pointed: [1, 1, 0],
};
const layer = (emphasis: Emphasis = nothing): LowPolyLayer => new LowPolyLayer(colours, () => emphasis);
const geometryOf = (l: LowPolyLayer, child: number): BufferGeometry => (l.own.children[child] as Mesh).geometry;

/** The triangles on the GPU that have an area, as sorted text: what is drawn, whatever slots it lies in. */
function drawnTriangles(l: LowPolyLayer): string[] {
  const geometry = geometryOf(l, 0);
  const { array } = geometry.getAttribute('position');
  const triangles: string[] = [];
  for (let t = 0; t < geometry.drawRange.count / 3; t++) {
    const p = Array.from(array.slice(9 * t, 9 * t + 9));
    if (p.some((x) => x !== 0)) triangles.push(p.map((x) => x.toFixed(4)).join());
  }
  return triangles.sort();
}
function drawnEdges(l: LowPolyLayer): string[] {
  const geometry = geometryOf(l, 1) as BufferGeometry & { instanceCount: number };
  const [start, end, width] = ['aStart', 'aEnd', 'aWidth'].map((n) => geometry.getAttribute(n).array);
  return Array.from({ length: geometry.instanceCount }, (_, e) => e)
    .filter((e) => width[e] > 0)
    .map((e) =>
      [...start.slice(3 * e, 3 * e + 3), ...end.slice(3 * e, 3 * e + 3), width[e]].map((x) => x.toFixed(3)).join(),
    )
    .sort();
}

function randomEdit(mesh: PolyMesh, rng: () => number): ReturnType<typeof runOperator>['delta'] | null {
  const at = (): Vec3 => [rng() * 9, rng() * 9, rng()];
  const vertices = [...mesh.vertices()];
  try {
    if (rng() < 0.3)
      return runOperator(mesh, movePoints, EMPTY_SELECTION, {
        points: [{ vertex: pick(rng, vertices), to: [...at()] }],
      }).delta;
    if (rng() < 0.4)
      return runOperator(mesh, deletePicked, { ...EMPTY_SELECTION, faces: [pick(rng, [...mesh.faces()])] }, {}).delta;
    if (rng() < 0.5) {
      const e = pick(rng, [...mesh.edges()].filter((x) => mesh.isBorderEdge(x))); // prettier-ignore
      const ends = [2 * e, 2 * e + 1].map((h) => ({
        from: mesh.origin(h),
        to: { point: [...at()] as [number, number, number] },
      }));
      return runOperator(mesh, drawOut, EMPTY_SELECTION, { edges: [e], ends }).delta;
    }
    const corners = Array.from({ length: 3 + Math.floor(rng() * 4) }, () => ({
      point: [...at()] as [number, number, number],
    }));
    return runOperator(mesh, layFace, EMPTY_SELECTION, { corners }).delta;
  } catch {
    return null;
  }
}

describe('the low-poly on the GPU', () => {
  it('after any edits and undos holds what a fresh build would hold', () => {
    for (let seed = 0; seed < 12; seed++) {
      const rng = seededRng(seed);
      const mesh = gridMesh(5, 4);
      const live = layer();
      live.rebuild(mesh, null);
      let edits = 0;
      for (let i = 0; i < 15 && mesh.faceCount > 2; i++) {
        const delta = randomEdit(mesh, rng);
        if (!delta) continue;
        edits++;
        live.update(mesh, touchedElements(mesh, delta.columns), null);
        if (rng() < 0.3) {
          const touched = touchedElements(mesh, delta.columns);
          mesh.apply(delta, 'backward');
          live.update(mesh, touchedElements(mesh, delta.columns, touched), null);
        }
        const fresh = layer();
        fresh.rebuild(mesh, null);
        expect(drawnTriangles(live)).toEqual(drawnTriangles(fresh));
        expect(drawnEdges(live)).toEqual(drawnEdges(fresh));
      }
      expect(edits).toBeGreaterThan(5);
    }
  });

  it('uploads ranges in proportion to the edit, not to the mesh', () => {
    const uploaded = (side: number): number => {
      const mesh = gridMesh(side, side);
      const live = layer();
      live.rebuild(mesh, null);
      const attribute = geometryOf(live, 0).getAttribute('position') as {
        updateRanges: { count: number }[];
        clearUpdateRanges(): void;
      };
      attribute.clearUpdateRanges();
      const { delta } = runOperator(mesh, movePoints, EMPTY_SELECTION, {
        points: [{ vertex: side + 3, to: [1, 1, 1] }],
      });
      live.update(mesh, touchedElements(mesh, delta.columns), null);
      return attribute.updateRanges.reduce((n, r) => n + r.count, 0);
    };
    expect(uploaded(60)).toBe(uploaded(12));
    expect(uploaded(12)).toBeGreaterThan(0);
  });

  it('marks picked and pointed faces and edges', () => {
    const mesh = gridMesh(2, 2);
    const edge = mesh.findHalf(0, 1) >> 1;
    const emphasis: Emphasis = {
      picked: { vertices: new Set(), edges: new Set(), faces: new Set([1]) },
      pointed: { edges: new Set([edge]), face: 2 },
    };
    const live = layer(emphasis);
    live.rebuild(mesh, null);
    const tint = geometryOf(live, 0).getAttribute('tint').array;
    expect([0, 1, 2, 3].map((f) => tint[24 * f + 3])).toEqual([0, 128, 255, 0]);
    expect(geometryOf(live, 1).getAttribute('aWidth').array[edge]).toBeGreaterThan(3);
    expect([
      ...geometryOf(live, 1)
        .getAttribute('aColour')
        .array.slice(4 * edge, 4 * edge + 3),
    ]).toEqual([255, 255, 0]);
  });
});
