import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TopologyError } from '../../errors';
import { seededRng } from '../../math';
import {
  borderLoops,
  checkInvariants,
  EMPTY_SELECTION,
  encodeMesh,
  faceNormal,
  PolyMesh,
  type Selection,
} from '../../mesh';
import { gridMesh } from '../../testing';
import { OPERATORS, regionBorder, regionFaces, runOperator, threadCells, threadTroubles, type Operator } from '..';

const run = (mesh: PolyMesh, name: string, params: object, selection: Partial<Selection> = {}) =>
  runOperator(mesh, OPERATORS.get(name) as Operator, { ...EMPTY_SELECTION, ...selection }, params as never);
const isQuads = (mesh: PolyMesh): boolean => [...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4);

describe('threads', () => {
  const grid = (n: number, m: number): { mesh: PolyMesh; at: (i: number, j: number) => object } => {
    const mesh = new PolyMesh();
    const ids = new Map<string, number>();
    const at = (i: number, j: number): object => {
      const known = ids.get(`${i},${j}`);
      if (known !== undefined) return { vertex: known };
      ids.set(`${i},${j}`, ids.size);
      return { point: [i, j, 0] };
    };
    for (let j = 0; j <= m; j++)
      run(mesh, 'lay-thread', { corners: Array.from({ length: n + 1 }, (_, i) => at(i, j)) });
    for (let i = 0; i <= n; i++)
      run(mesh, 'lay-thread', { corners: Array.from({ length: m + 1 }, (_, j) => at(i, j)) });
    return { mesh, at };
  };

  it('that cross in a grid close into quads that all face one way', () => {
    const { mesh } = grid(4, 3);
    expect([mesh.vertexCount, mesh.edgeCount, mesh.faceCount]).toEqual([20, 31, 0]);
    const { report } = run(mesh, 'close-cells', {});
    expect(report.sentence).toBe('12 cells closed, 12 faces');
    expect(checkInvariants(mesh)).toEqual([]);
    expect(isQuads(mesh)).toBe(true);
    expect(borderLoops(mesh)).toHaveLength(1);
    expect(new Set([...mesh.faces()].map((f) => Math.sign(faceNormal(mesh, f)[2]))).size).toBe(1);
  });

  it('close larger even cells with quads, leave odd and larger ones, and tell open ends', () => {
    const { mesh, at } = grid(2, 1);
    // a loop of eight hung on the right side, and an end that leads nowhere
    run(mesh, 'lay-thread', { corners: [at(2, 0), { point: [3, -0.5, 0] }, { point: [4, -0.5, 0] }, { point: [5, 0, 0] }, { point: [5, 1, 0] }, { point: [4, 1.5, 0] }, at(2, 1)] }); // prettier-ignore
    run(mesh, 'lay-thread', { corners: [at(0, 0), { point: [-1, -1, 0] }] });
    const { report } = run(mesh, 'close-cells', { most: 12 });
    expect(report.sentence).toMatch(/^2 cells closed, 2 faces; 1 odd cell left; 1 end open$/);
    expect(isQuads(mesh)).toBe(true);
    const even = grid(2, 1);
    run(even.mesh, 'lay-thread', { corners: [even.at(2, 0), { point: [3, -0.5, 0] }, { point: [4, 0, 0] }, { point: [4, 1, 0] }, { point: [3, 1.5, 0] }, even.at(2, 1)] }); // prettier-ignore
    expect(run(even.mesh, 'close-cells', {}).report.sentence).toMatch(/^2 cells closed, 2 faces; 1 cell left open$/);
    run(even.mesh, 'close-cells', { most: 12 });
    expect(isQuads(even.mesh)).toBe(true);
    expect(borderLoops(even.mesh)).toHaveLength(1);
    expect(checkInvariants(even.mesh)).toEqual([]);
    expect(() => run(gridMesh(2, 2), 'close-cells', {})).toThrow('no threads here');
  });
});

describe('threads that nearly meet', () => {
  const line = (mesh: PolyMesh, ...points: number[][]) => run(mesh, 'lay-thread', { corners: points.map((point) => ({ point })) }); // prettier-ignore
  it('are found and tied: ends to points and to threads, crossings by a point', () => {
    const mesh = new PolyMesh();
    line(mesh, [0, 0, 0], [4, 0, 0]);
    // crosses it, a little above
    line(mesh, [1, -2, 0.1], [1, 2, 0.1]);
    // ends just short of it, and beside the end of the second
    line(mesh, [3, 2, 0], [3, 0.2, 0]);
    line(mesh, [1.2, 2.1, 0], [2.5, 3, 0]);
    const found = threadTroubles(mesh);
    expect(found.crossings).toHaveLength(1);
    expect(found.crossings[0].at).toEqual([1, 0, 0.05]);
    expect([found.nearPoints.length, found.nearEdges.length]).toEqual([1, 1]);
    const before = encodeMesh(mesh);
    const { report, delta } = run(mesh, 'tie-threads', {});
    expect(report.sentence).toBe('2 ends joined, 1 crossing given a point');
    expect(checkInvariants(mesh)).toEqual([]);
    // V − E of a tree of threads, one component
    expect([mesh.vertexCount, mesh.edgeCount]).toEqual([8, 7]);
    expect(threadTroubles(mesh)).toEqual({ nearPoints: [], nearEdges: [], crossings: [] });
    mesh.apply(delta, 'backward');
    expect(encodeMesh(mesh)).toEqual(before);
  });
  it('over seeds: a net of strokes closes into cells once it is tied, and nothing is left', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const rng = seededRng(seed);
        const mesh = new PolyMesh();
        const at = (): number => 0.1 * (rng() - 0.5);
        const n = 2 + Math.floor(3 * rng());
        for (let i = 0; i <= n; i++) {
          line(mesh, [-0.5, i + at(), at()], [n + 0.5, i + at(), at()]);
          line(mesh, [i + at(), -0.5, at()], [i + at(), n + 0.5, at()]);
        }
        run(mesh, 'tie-threads', { within: 0.2 });
        expect(checkInvariants(mesh)).toEqual([]);
        expect(threadTroubles(mesh, 0.2).crossings).toEqual([]);
        expect(run(mesh, 'close-cells', {}).report.counts.faces).toBe(n * n);
        expect(isQuads(mesh)).toBe(true);
      }),
      { numRuns: 30 },
    );
  });
  it('are told where there is nothing to tie', () => {
    const mesh = new PolyMesh();
    line(mesh, [0, 0, 0], [1, 0, 0]);
    expect(() => run(mesh, 'tie-threads', {})).toThrow(TopologyError);
  });
});

describe('cells by name', () => {
  it('are closed though they are large, or left though they are small; with a thickness they get a wall', () => {
    const mesh = new PolyMesh();
    const hexagon = Array.from({ length: 6 }, (_, i) => [2 * Math.cos((i * Math.PI) / 3), 2 * Math.sin((i * Math.PI) / 3), 0]); // prettier-ignore
    run(mesh, 'lay-thread', { corners: hexagon.map((point) => ({ point })), closed: true });
    run(mesh, 'lay-thread', { corners: [{ vertex: 0 }, { point: [4, 0, 0] }, { point: [3, 2, 0] }, { vertex: 1 }] });
    const cells = threadCells(mesh, [0, 0, 1], { plane: null, form: null });
    expect(cells.map((c) => c.vertices.length).sort()).toEqual([4, 6]);
    const six = cells.find((c) => c.vertices.length === 6)?.name;
    const four = cells.find((c) => c.vertices.length === 4)?.name;
    expect(() => run(mesh, 'close-cells', { except: [four] })).toThrow(TopologyError);
    const { report, delta } = run(mesh, 'close-cells', { also: [six], except: [four] });
    expect(report.sentence).toMatch(/^1 cell closed, \d+ faces; 1 cell left open$/);
    mesh.apply(delta, 'backward');
    // a thread that hangs on the cells comes off the wall, and stays where it was
    run(mesh, 'lay-thread', { corners: [{ vertex: 3 }, { point: [-4, 0, 0] }, { point: [-4, 1, 0] }] });
    const hung = run(mesh, 'close-cells', { also: [six], thickness: 0.2 });
    expect(hung.report.sentence).toMatch(/; 2 thread edges come off it|; 1 thread edge comes off it/);
    expect(checkInvariants(mesh)).toEqual([]);
    const loose = [...mesh.edges()].filter((e) => mesh.isLooseEdge(e));
    expect(loose.map((e) => [2 * e, 2 * e + 1].map((h) => mesh.point(mesh.origin(h))[0]).sort((x, y) => x - y))).toEqual([[-4, -2], [-4, -4]]); // prettier-ignore
    expect(borderLoops(mesh)).toEqual([]);
    mesh.apply(hung.delta, 'backward');
    run(mesh, 'close-cells', { also: [six], thickness: 0.2 });
    expect(checkInvariants(mesh)).toEqual([]);
    expect(borderLoops(mesh)).toEqual([]);
    expect(isQuads(mesh)).toBe(true);
  });
});

describe('regions', () => {
  it('hold faces by number, and their border becomes hard, creased or soft', () => {
    const mesh = gridMesh(4, 4);
    const left = [...mesh.faces()].slice(0, 8);
    expect(() => run(mesh, 'mark-border', {})).toThrow('no border inside the mesh');
    run(mesh, 'set-region', { region: 3 }, { faces: left });
    expect(regionFaces(mesh).get(3)).toEqual(left);
    expect(regionBorder(mesh, 3)).toHaveLength(4);
    const hard = (): number => [...mesh.edges()].filter((e) => mesh.findChannel('edge', 'hard')?.get(e) === 1).length;
    run(mesh, 'mark-border', { region: 3, becomes: 'hard' });
    expect(hard()).toBe(4);
    run(mesh, 'mark-border', { region: 3, becomes: 'crease', weight: 3 });
    run(mesh, 'mark-border', { region: 3, becomes: 'soft' });
    expect(hard()).toBe(0);
    // what is laid beside a region belongs to it
    run(mesh, 'delete', {}, { faces: [left[0], left[1]] });
    const edge = [...mesh.edges()].find((e) => mesh.isBorderEdge(e)) as number;
    expect(edge).toBeDefined();
    run(mesh, 'set-region', { region: 0 }, { faces: left.slice(2) });
    expect(regionFaces(mesh).has(3)).toBe(false);
  });
});
