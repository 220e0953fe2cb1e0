import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { TopologyError } from '../../errors';
import { seededRng } from '../../math';
import {
  areaNormal,
  borderLoops,
  checkInvariants,
  components,
  EMPTY_SELECTION,
  encodeMesh,
  PolyMesh,
  type Selection,
} from '../../mesh';
import { enclosedVolume, gridMesh } from '../../testing';
import { booleanParts, loadSolids, OPERATORS, runOperator, type Operator } from '..';

const wasm = async (): Promise<ArrayBuffer> => {
  const bytes = await readFile(createRequire(import.meta.url).resolve('manifold-3d/manifold.wasm'));
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
};
const add = (mesh: PolyMesh, name: string, settings: object): Selection =>
  runOperator(mesh, OPERATORS.get(name) as Operator, EMPTY_SELECTION, settings as never).selection;
const sidesOf = (mesh: PolyMesh): number[] => [...mesh.faces()].map((f) => mesh.faceHalves(f).length);

describe('a Boolean', () => {
  it('refuses before its kernel is there', () => {
    const mesh = new PolyMesh();
    add(mesh, 'box', {});
    const cutter = add(mesh, 'box', { at: [1, 0.5, 0] });
    expect(() => runOperator(mesh, booleanParts, cutter, {})).toThrow(/not loaded yet/);
  });

  describe('with its kernel', () => {
    beforeAll(() => loadSolids(wasm));

    it('cuts a corner out of a box: the volume that it should have, hard edges along it, faces beyond untouched', () => {
      const mesh = new PolyMesh();
      add(mesh, 'box', { width: 2, height: 2, depth: 2 });
      const far = mesh.faceVertices(0).map((v) => mesh.point(v).join()).join(' '); // prettier-ignore
      const cutter = add(mesh, 'box', {
        width: 1,
        height: 1,
        depth: 1,
        at: [1, 1.5, 1],
        columns: 1,
        floors: 1,
        rows: 1,
      });
      const { report } = runOperator(mesh, booleanParts, cutter, {});
      expect(checkInvariants(mesh)).toEqual([]);
      expect([borderLoops(mesh).length, components(mesh).length]).toEqual([0, 1]);
      expect(enclosedVolume(mesh)).toBeCloseTo(8 - 0.5 * 0.5 * 0.5, 6);
      expect(report.counts.hard).toBe(6);
      // flat sides stay flat, and nothing on them is turned over
      for (const f of mesh.faces()) {
        const points = mesh.faceVertices(f).map((v) => mesh.point(v));
        const n = areaNormal(points);
        const outer = [0, 1, 2].filter((k) => points.every((p) => p[k] === points[0][k] && (k === 1 ? p[k] === 0 || p[k] === 2 : Math.abs(p[k]) === 1))); // prettier-ignore
        for (const k of outer) expect(n[k] * (k === 1 ? points[0][k] - 1 : points[0][k])).toBeGreaterThan(0);
      }
      expect(sidesOf(mesh).every((n) => n <= 4)).toBe(true);
      expect([...mesh.faces()].some((f) => mesh.faceVertices(f).map((v) => mesh.point(v).join()).join(' ') === far)).toBe(true); // prettier-ignore
    });

    it('takes a round hole out of a face grid without turning any face over', () => {
      const mesh = new PolyMesh();
      add(mesh, 'box', { width: 4, height: 4, depth: 4 });
      const cutter = add(mesh, 'cylinder', { radius: 1.2, height: 6, at: [0.1, -1, 0.2] });
      const { report } = runOperator(mesh, booleanParts, cutter, {});
      expect(borderLoops(mesh)).toEqual([]);
      const top = [...mesh.faces()].filter((f) => mesh.faceVertices(f).every((v) => mesh.point(v)[1] === 4));
      expect(top.length).toBeGreaterThan(8);
      for (const f of top) expect(areaNormal(mesh.faceVertices(f).map((v) => mesh.point(v)))[1]).toBeGreaterThan(0);
      const area = top.reduce((s, f) => s + areaNormal(mesh.faceVertices(f).map((v) => mesh.point(v)))[1], 0);
      expect(area / 2).toBeCloseTo(16 - 6 * 1.44 * Math.sin(Math.PI / 6), 4);
      // a hollow curve takes triangles where no point is added; as many as are said
      expect(sidesOf(mesh).filter((n) => n === 3)).toHaveLength(report.counts.triangles);
    });

    it('is manifold, of quads and the triangles it says, volumes adding up, over seeded shapes and places; undone to the last bit', () => {
      let done = 0;
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const rng = seededRng(seed);
          const kinds: [string, object][] = [
            ['box', { width: 2, height: 2, depth: 2, columns: 3, floors: 3, rows: 3 }],
            ['cylinder', { radius: 1, height: 2, sides: 16, rings: 3 }],
            ['ball', { radius: 1, cells: 4 }],
          ];
          const pick = (): [string, object] => kinds[Math.floor(rng() * kinds.length)];
          const [bodyKind, body] = pick();
          const [cutKind, cut] = pick();
          const at = [rng() * 1.6 - 0.8, rng() * 1.6 - 0.8, rng() * 1.6 - 0.8];
          const build = (): { mesh: PolyMesh; cutter: Selection; whole: number } => {
            const mesh = new PolyMesh();
            add(mesh, bodyKind, body);
            const whole = enclosedVolume(mesh);
            return { mesh, cutter: add(mesh, cutKind, { ...cut, at }), whole };
          };
          const volumes = (['cut', 'common', 'join'] as const).map((change) => {
            const { mesh, cutter } = build();
            const before = encodeMesh(mesh);
            let made;
            try {
              made = runOperator(mesh, booleanParts, cutter, { change });
            } catch (error) {
              if (!(error instanceof TopologyError)) throw error;
              expect(encodeMesh(mesh)).toEqual(before);
              return null;
            }
            expect(checkInvariants(mesh)).toEqual([]);
            expect(borderLoops(mesh)).toEqual([]);
            const sides = sidesOf(mesh);
            expect(sides.every((n) => n <= 4)).toBe(true);
            expect(sides.filter((n) => n === 3).length).toBeGreaterThanOrEqual(made.report.counts.triangles);
            const after = enclosedVolume(mesh);
            mesh.apply(made.delta, 'backward');
            expect(encodeMesh(mesh)).toEqual(before);
            return after;
          });
          const { whole, mesh } = build();
          const [rest, common, joined] = volumes;
          if (rest === null || common === null || joined === null) return;
          done++;
          // welded slivers move the surface by less than their own size
          expect(Math.abs(rest + common - whole)).toBeLessThan(0.02 * whole);
          expect(Math.abs(joined + common - enclosedVolume(mesh))).toBeLessThan(0.02 * whole);
        }),
        { numRuns: 40 },
      );
      expect(done).toBeGreaterThan(25);
    });

    it('keeps the cutting shape when asked, and refuses what is no solid or does not meet', () => {
      const mesh = new PolyMesh();
      add(mesh, 'box', {});
      const cutter = add(mesh, 'cylinder', { radius: 0.4, height: 4, at: [0, -1, 0] });
      runOperator(mesh, booleanParts, cutter, { keep: true });
      expect(components(mesh)).toHaveLength(2);
      const open = gridMesh(2, 2);
      add(open, 'box', {});
      expect(() => runOperator(open, booleanParts, { ...EMPTY_SELECTION, faces: [0] }, {})).toThrow(/cutting shape is no closed solid/); // prettier-ignore
      const apart = new PolyMesh();
      add(apart, 'box', {});
      const far = add(apart, 'box', { at: [9, 0, 0] });
      expect(() => runOperator(apart, booleanParts, far, { change: 'common' })).toThrow(/Nothing would be left/);
    });
  });
});
