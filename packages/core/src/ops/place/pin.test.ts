import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TopologyError } from '../../errors';
import { seededRng, type Vec3 } from '../../math';
import { checkInvariants, EMPTY_SELECTION, encodeMesh, isLocked, pinnedVertices, type PolyMesh } from '../../mesh';
import { ballMesh } from '../../testing';
import { OPERATORS, runOperator, type Ground, type Operator } from '..';

const all = (mesh: PolyMesh) => ({ ...EMPTY_SELECTION, vertices: [...mesh.vertices()] });
const run = (mesh: PolyMesh, name: string, params: object, vertices: number[], ground: Ground = { plane: null, form: null }) =>
  runOperator(mesh, OPERATORS.get(name) as Operator, { ...EMPTY_SELECTION, vertices }, params as never, ground); // prettier-ignore
/** A ball about zero, twice as large as the points are. */
const form: Ground['form'] = {
  closest: (p) => {
    const d = Math.hypot(...p) / 2;
    return { point: [p[0] / d, p[1] / d, p[2] / d], normal: [p[0] / d / 2, p[1] / d / 2, p[2] / d / 2] };
  },
};
const MOVERS: [string, object][] = [
  ['relax', { rounds: 3 }],
  ['smooth', {}],
  ['transform', { move: [0.2, -0.1, 0.3] }],
  ['bring-back', { lift: 0.1 }],
  ['settle', {}],
];

describe('locked points', () => {
  it.each(MOVERS)(
    'stay where they are through %s, which tells how many; the rest moves; undone to the last bit',
    (name, params) => {
      fc.assert(
        fc.property(fc.integer({ min: 1, max: 1000 }), (seed) => {
          const mesh = ballMesh(3);
          const rng = seededRng(seed);
          for (const v of mesh.vertices()) {
            mesh.begin();
            mesh.setPoint(v, mesh.point(v).map((x) => x * (0.9 + 0.2 * rng())) as unknown as Vec3);
            mesh.commit();
          }
          const locked = [...mesh.vertices()].filter(() => rng() < 0.3);
          if (locked.length === 0) return;
          run(mesh, 'pin', { becomes: 'lock' }, locked);
          const before = encodeMesh(mesh);
          const places = new Map([...mesh.vertices()].map((v) => [v, mesh.point(v)]));
          const { delta, report } = run(mesh, name, params, [...mesh.vertices()], { plane: null, form });
          checkInvariants(mesh);
          for (const v of locked) expect(mesh.point(v)).toEqual(places.get(v));
          const moved = [...mesh.vertices()].filter((v) => mesh.point(v).join() !== places.get(v)?.join());
          expect(moved.length).toBeGreaterThan(0);
          expect(moved.some((v) => isLocked(mesh, v))).toBe(false);
          expect(report.sentence).toMatch(/locked points? stayed$/);
          mesh.apply(delta, 'backward');
          expect(encodeMesh(mesh)).toEqual(before);
        }),
        { numRuns: 12 },
      );
    },
  );
  it('move again once they are free', () => {
    const mesh = ballMesh(2);
    run(mesh, 'pin', { becomes: 'lock' }, [0, 1, 2]);
    expect(pinnedVertices(mesh)).toEqual({ locked: [0, 1, 2], released: [] });
    run(mesh, 'pin', { becomes: 'free' }, [1]);
    const places = [0, 1, 2].map((v) => mesh.point(v));
    run(mesh, 'transform', { move: [1, 0, 0] }, [...mesh.vertices()]);
    expect([0, 1, 2].map((v) => mesh.point(v).join() !== places[v].join())).toEqual([false, true, false]);
  });
  it('are refused in words where nothing is picked', () =>
    expect(() => run(ballMesh(2), 'pin', {}, [])).toThrow(TopologyError));
});

describe('released points', () => {
  it('are left by evening out and bringing back, and stick to nothing when they are moved; others do', () => {
    const mesh = ballMesh(3);
    const ground: Ground = { plane: null, form };
    run(mesh, 'pin', { becomes: 'release' }, [0, 5]);
    const [p, q] = [mesh.point(0), mesh.point(5)];
    run(mesh, 'bring-back', {}, all(mesh).vertices, ground);
    run(mesh, 'relax', { rounds: 2 }, all(mesh).vertices, ground);
    expect([mesh.point(0), mesh.point(5)]).toEqual([p, q]);
    expect(Math.hypot(...mesh.point(1))).toBeCloseTo(2, 6);
    run(mesh, 'transform', { move: [0.5, 0, 0] }, [0, 1], ground);
    expect(mesh.point(0)).toEqual([p[0] + 0.5, p[1], p[2]]);
    expect(Math.hypot(...mesh.point(1))).toBeCloseTo(2, 6);
  });
});
