import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../../math';
import { boxOfFaces, EMPTY_SELECTION, PolyMesh } from '../../mesh';
import { OPERATORS, runOperator, type Operator } from '..';
import { nearEachOther } from './nearEachOther';
import { reaches } from './solidReach';

const add = (mesh: PolyMesh, name: string, settings: object): number[] =>
  [...runOperator(mesh, OPERATORS.get(name) as Operator, EMPTY_SELECTION, settings as never).selection.faces]; // prettier-ignore

describe('what two closed parts have near each other', () => {
  it('is little where a rod goes through a block: both ends apart, the rest inside or outside as a whole', () => {
    const mesh = new PolyMesh();
    const block = add(mesh, 'box', { width: 10, height: 10, depth: 10, columns: 20, floors: 20, rows: 20 });
    const rod = add(mesh, 'cylinder', { radius: 1, height: 20, at: [0.1, -5, 0.2], sides: 24, rings: 60 });
    const near = nearEachOther(mesh, block, rod);
    expect(near?.places).toHaveLength(2);
    const [ofBlock, ofRod] = [0, 1].map((k) => near?.places.flatMap((p) => p[k].faces).length ?? 0);
    expect(ofBlock).toBeLessThan(100);
    expect(ofRod).toBeLessThan(300);
    const heights = (faces: readonly number[] = []): number[] => [boxOfFaces(mesh, faces).min[1], boxOfFaces(mesh, faces).max[1]]; // prettier-ignore
    const [low, high] = heights(near?.far[1].inside);
    expect([low > 0 && low < 2, high > 8 && high < 10]).toEqual([true, true]);
    expect(heights(near?.far[1].outside)).toEqual([-5, 15]);
    expect(near?.far[0].inside).toEqual([]);
  });

  it('holds every pair of faces whose boxes meet at one place, and shares no face between two, over seeded shapes and places', () => {
    let found = 0;
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const mesh = new PolyMesh();
        const kinds: [string, object][] = [
          ['box', { width: 2, height: 2, depth: 2, columns: 6, floors: 6, rows: 6 }],
          ['cylinder', { radius: 0.5, height: 3, sides: 16, rings: 12 }],
          ['ball', { radius: 1, cells: 8 }],
          ['torus', {}],
        ];
        const parts = [0, 1].map((k) => {
          const [name, settings] = kinds[Math.floor(rng() * kinds.length)];
          return add(mesh, name, { ...settings, at: [0, 0, 0].map(() => k * (1.6 * rng() - 0.8)) });
        });
        const near = nearEachOther(mesh, parts[0], parts[1]);
        if (!near) return;
        found++;
        for (const k of [0, 1]) {
          const all = [...near.places.flatMap((p) => p[k].faces), ...near.far[k].inside, ...near.far[k].outside];
          expect(all.sort((a, b) => a - b)).toEqual([...parts[k]].sort((a, b) => a - b));
        }
        const placeOf = new Map(near.places.flatMap((p, i) => [...p[0].faces, ...p[1].faces].map((f) => [f, i])));
        for (const f of parts[0]) {
          const box = boxOfFaces(mesh, [f]);
          for (const g of parts[1])
            if (reaches(mesh, g, box)) expect([placeOf.has(f), placeOf.get(f)]).toEqual([true, placeOf.get(g)]);
        }
      }),
      { numRuns: 60 },
    );
    expect(found).toBeGreaterThan(30);
  });

  it('is nothing where they are clear of each other', () => {
    const mesh = new PolyMesh();
    expect(nearEachOther(mesh, add(mesh, 'box', {}), add(mesh, 'box', { at: [9, 0, 0] }))).toBeNull();
  });
});
