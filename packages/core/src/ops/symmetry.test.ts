import { describe, expect, it } from 'vitest';
import { mirrored, type Vec3 } from '../math';
import { EMPTY_SELECTION, type PolyMesh } from '../mesh';
import { gridMesh } from '../testing';
import { bevel, extrude, insertLoops, inset, makeReal, relax, runOperator, subdivideMesh, type Ground } from '.';

const edgeAt = (mesh: PolyMesh, u: number, v: number): number => mesh.findHalf(u, v) >> 1;
const edges = (...list: number[]) => ({ ...EMPTY_SELECTION, edges: list });
const faces = (...list: number[]) => ({ ...EMPTY_SELECTION, faces: list });

describe('symmetry', () => {
  const plane: Ground['plane'] = { axis: 'x', offset: 0 };
  const ground: Ground = { plane, form: null };
  /** The right half of a grid round the plane x = 0, bulged. */
  const half = (): PolyMesh => {
    const mesh = gridMesh(3, 4);
    for (const v of mesh.vertices()) {
      const [x, y] = mesh.point(v);
      mesh.setPoint(v, [x * (1 + 0.1 * y), y, 2 * Math.cos(x * 0.3) + 0.2 * Math.sin(y)]);
    }
    return mesh;
  };
  const cloud = (mesh: PolyMesh): string[] =>
    [...mesh.vertices()]
      .map((v) =>
        mesh
          .point(v)
          .map((x) => (Math.abs(x) < 1e-9 ? 0 : x).toFixed(7))
          .join(),
      )
      .sort();
  const cases = {
    relax: {
      op: relax,
      sel: (m: PolyMesh) => ({ ...EMPTY_SELECTION, vertices: [...m.vertices()] }),
      params: { density: 'even' },
    },
    'subdivide smoothed': { op: subdivideMesh, sel: () => EMPTY_SELECTION, params: {} },
    'extrude together': {
      op: extrude,
      sel: (m: PolyMesh) => faces(...[...m.faces()].filter((f) => nearPlane(m, f))),
      params: { distance: 0.4 },
    },
    'inset together': {
      op: inset,
      sel: (m: PolyMesh) => faces(...[...m.faces()].filter((f) => nearPlane(m, f))),
      params: { width: 0.2 },
    },
    'bevel along the midline': {
      op: bevel,
      sel: (m: PolyMesh) =>
        edges(...[...m.edges()].filter((e) => [2 * e, 2 * e + 1].every((h) => m.point(m.origin(h))[0] === 0))),
      params: { width: 0.2, segments: 2 },
    },
    'insert loops': { op: insertLoops, sel: (m: PolyMesh) => edges(edgeAt(m, 4, 5)), params: { count: 2 } },
  } as const;
  const nearPlane = (m: PolyMesh, f: number): boolean => m.faceVertices(f).some((v) => m.point(v)[0] === 0);

  it.each(Object.entries(cases))(
    '%s of a half, made real, is the same as of the whole',
    (_name, { op, sel, params }) => {
      const stored = half();
      runOperator(stored, op as never, sel(stored), params, ground);
      for (const v of stored.vertices()) expect(stored.point(v)[0]).toBeGreaterThanOrEqual(0);
      runOperator(stored, makeReal, EMPTY_SELECTION, plane);
      const whole = half();
      const picked = sel(whole);
      runOperator(whole, makeReal, EMPTY_SELECTION, plane);
      runOperator(whole, op as never, bothSides(whole, picked), params);
      expect(stored.faceCount).toBe(whole.faceCount);
      expect(cloud(stored)).toEqual(cloud(whole));
    },
  );

  /** A selection with its mirror image, found by where things are. */
  function bothSides(
    mesh: PolyMesh,
    s: { vertices: readonly number[]; edges: readonly number[]; faces: readonly number[] },
  ) {
    const key = (points: Vec3[]): string =>
      points
        .map((p) => p.map((x) => x.toFixed(6)).join())
        .sort()
        .join(';');
    const image = (points: Vec3[]): string => key(points.map((p) => mirrored(p, plane as NonNullable<typeof plane>)));
    const pair = (ids: readonly number[], all: Iterable<number>, of: (id: number) => Vec3[]): number[] => {
      const at = new Map([...all].map((id) => [key(of(id)), id]));
      return [...new Set(ids.flatMap((id) => [id, at.get(image(of(id))) as number]))];
    };
    return {
      vertices: pair(s.vertices, mesh.vertices(), (v) => [mesh.point(v)]),
      edges: pair(s.edges, mesh.edges(), (e) => [mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))]),
      faces: pair(s.faces, mesh.faces(), (f) => mesh.faceVertices(f).map((v) => mesh.point(v))),
    };
  }
});
