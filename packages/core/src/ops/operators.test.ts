import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TopologyError } from '../errors';
import { seededRng, type Rng } from '../math';
import {
  borderLoops,
  checkInvariants,
  deltaSize,
  encodeMesh,
  EMPTY_SELECTION,
  NONE,
  type Delta,
  type PolyMesh,
  type Selection,
} from '../mesh';
import { makeUp } from '../inspect';
import { gridMesh, pick } from '../testing';
import {
  bevel,
  collapse,
  deletePicked,
  dissolve,
  drawOut,
  extrude,
  inset,
  layFace,
  makeReal,
  movePoints,
  OPERATORS,
  pairsWithin,
  poke,
  Preview,
  runOperator,
  slide,
  spin,
  split,
  subdivideMesh,
  weld,
} from '.';

/** Operators that reach no further than the neighbours of what is picked. */
const LOCAL_CASES = [
  [spin, 'edges'],
  [split, 'edges'],
  [collapse, 'edges'],
  [poke, 'faces'],
  [inset, 'faces'],
  [extrude, 'faces'],
  [subdivideMesh, 'faces'],
  [bevel, 'vertices'],
  [dissolve, 'vertices'],
  [slide, 'vertices'],
] as const;

/** One random operator with random parameters; returns its delta, or null when it was refused. */
function randomStep(mesh: PolyMesh, rng: Rng): Delta | null {
  const vertices = [...mesh.vertices()];
  const point = (): [number, number, number] => [rng() * 9 - 2, rng() * 9 - 2, rng() * 2];
  const corner = (): { vertex: number } | { point: [number, number, number] } =>
    rng() < 0.6 && vertices.length > 0 ? { vertex: pick(rng, vertices) } : { point: point() };
  const open = [...mesh.edges()].filter((e) => mesh.isBorderEdge(e));
  if (open.length === 0) return null;
  const before = encodeMesh(mesh);
  try {
    switch (Math.floor(rng() * 6)) {
      case 0:
        return runOperator(mesh, layFace, EMPTY_SELECTION, {
          corners: Array.from({ length: 3 + Math.floor(rng() * 3) }, corner),
          facing: [0, 0, 1],
        }).delta;
      case 1: {
        const edges = [pick(rng, open)];
        const ends = [...new Set(edges.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]))];
        return runOperator(mesh, drawOut, EMPTY_SELECTION, {
          edges,
          ends: ends.map((from) => ({ from, to: corner() })),
        }).delta;
      }
      case 2:
        return runOperator(mesh, movePoints, EMPTY_SELECTION, {
          points: [{ vertex: pick(rng, vertices), to: point() }],
        }).delta;
      case 3:
        return runOperator(mesh, weld, EMPTY_SELECTION, { pairs: [[pick(rng, vertices), pick(rng, vertices)]] }).delta;
      case 4:
        return runOperator(mesh, deletePicked, randomSelection(mesh, rng), {}).delta;
      default:
        return runOperator(mesh, makeReal, EMPTY_SELECTION, { axis: 'x', offset: pick(rng, [0, 2]) }).delta;
    }
  } catch (error) {
    if (!(error instanceof TopologyError)) throw error;
    expect(encodeMesh(mesh)).toEqual(before);
    return null;
  }
}

function randomSelection(mesh: PolyMesh, rng: Rng): Selection {
  const some = (ids: number[]): number[] => (ids.length > 0 ? [pick(rng, ids)] : []);
  const kind = Math.floor(rng() * 3);
  return {
    vertices: kind === 0 ? some([...mesh.vertices()]) : [],
    edges: kind === 1 ? some([...mesh.edges()]) : [],
    faces: kind === 2 ? some([...mesh.faces()]) : [],
  };
}

describe('every operator', () => {
  it('keeps the invariants, and undoes and redoes to the last bit, in any order', () => {
    let done = 0;
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const mesh = gridMesh(3, 2);
        mesh.channel({ domain: 'face', name: 'region', type: 'i32', stride: 1, fill: 0 }).set(0, 7);
        const states = [encodeMesh(mesh)];
        const deltas: Delta[] = [];
        for (let i = 0; i < 12; i++) {
          const delta = randomStep(mesh, rng);
          if (!delta) continue;
          done++;
          expect(checkInvariants(mesh)).toEqual([]);
          deltas.push(delta);
          states.push(encodeMesh(mesh));
        }
        for (let i = deltas.length - 1; i >= 0; i--) {
          mesh.apply(deltas[i], 'backward');
          expect(encodeMesh(mesh)).toEqual(states[i]);
        }
        for (let i = 0; i < deltas.length; i++) {
          mesh.apply(deltas[i], 'forward');
          expect(encodeMesh(mesh)).toEqual(states[i + 1]);
        }
        expect(checkInvariants(mesh)).toEqual([]);
      }),
      { numRuns: 150 },
    );
    expect(done).toBeGreaterThan(500);
  });

  it('touches no more elements in a large mesh than in a small one', () => {
    const cost = (side: number): number[] => {
      const mesh = gridMesh(side, side);
      const middle = Math.floor(side / 2) * (side + 1) + Math.floor(side / 2);
      const edge = mesh.findHalf(1, 2) >> 1;
      const run = [
        runOperator(mesh, movePoints, EMPTY_SELECTION, { points: [{ vertex: middle, to: [0, 0, 1] }] }),
        runOperator(mesh, drawOut, EMPTY_SELECTION, {
          edges: [edge],
          ends: [
            { from: 1, to: { point: [1, -1, 0] } },
            { from: 2, to: { point: [2, -1, 0] } },
          ],
        }),
        runOperator(mesh, weld, EMPTY_SELECTION, { pairs: [[middle, middle + 1]] }),
        runOperator(mesh, deletePicked, { ...EMPTY_SELECTION, faces: [middle] }, {}),
        ...LOCAL_CASES.map(([op, kind]) => {
          // two rows further on, away from what the others did
          const v = middle + 4 * (side + 1);
          const edge = mesh.findHalf(v, v + 1) >> 1;
          const id = { vertices: v, edges: edge, faces: mesh.face(2 * edge) }[kind];
          const done = runOperator(mesh, op as never, { ...EMPTY_SELECTION, [kind]: [id] }, {});
          mesh.apply(done.delta, 'backward');
          return done;
        }),
      ];
      return run.flatMap(({ delta }) => [deltaSize(delta).rows, deltaSize(delta).bytes]);
    };
    expect(cost(100)).toEqual(cost(32));
    expect(cost(316)).toEqual(cost(32));
  });

  it('is in the registry under its own name, and refuses nonsense in words', () => {
    for (const [name, op] of OPERATORS) expect(op.name).toBe(name);
    const mesh = gridMesh(1, 1);
    expect(() => runOperator(mesh, movePoints, EMPTY_SELECTION, { points: [] })).toThrow(/^Move: points/);
    expect(() => runOperator(mesh, movePoints, EMPTY_SELECTION, { points: [{ vertex: 99, to: [0, 0, 0] }] })).toThrow(
      /no longer there/,
    );
  });
});

describe('lay face', () => {
  const square = [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]] as [number, number, number][]; // prettier-ignore
  it('winds towards the viewer and puts crossed corners in order', () => {
    const mesh = gridMesh(0, 0);
    const crossed = [0, 2, 1, 3].map((i) => ({ point: square[i] }));
    runOperator(mesh, layFace, EMPTY_SELECTION, { corners: crossed, facing: [0, 0, -1] });
    const [a, b, c] = mesh.faceVertices(0).map((v) => mesh.point(v));
    expect((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])).toBe(-1);
  });
  it('takes the winding of its neighbour over the view', () => {
    const mesh = gridMesh(1, 1);
    const corners = [
      { vertex: 1 },
      { point: [2, 0, 0] as [number, number, number] },
      { point: [2, 1, 0] as [number, number, number] },
      { vertex: 3 },
    ];
    runOperator(mesh, layFace, EMPTY_SELECTION, { corners, facing: [0, 0, -1] });
    expect(checkInvariants(mesh)).toEqual([]);
    expect(mesh.edgeCount).toBe(7);
  });
  it('refuses corners on one line', () => {
    const mesh = gridMesh(0, 0);
    const corners = [0, 1, 2].map((x) => ({ point: [x, 0, 0] as [number, number, number] }));
    expect(() => runOperator(mesh, layFace, EMPTY_SELECTION, { corners })).toThrow(/one line/);
    expect(mesh.vertexCount).toBe(1);
  });
});

describe('draw out, weld, mirror', () => {
  it('draws a whole border out as one row that shares its spokes', () => {
    const mesh = gridMesh(2, 2);
    const edges = borderLoops(mesh)[0].halves.map((h) => h >> 1);
    const ends = [...new Set(edges.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]))].map((from) => {
      const [x, y] = mesh.point(from);
      return { from, to: { point: [2 * x - 1, 2 * y - 1, 1] as [number, number, number] } };
    });
    const { selection, report } = runOperator(mesh, drawOut, EMPTY_SELECTION, { edges, ends });
    expect([mesh.faceCount, mesh.vertexCount, selection.edges.length]).toEqual([12, 17, 8]);
    expect(report.sentence).toBe('8 faces drawn out, 8 new points');
    expect(borderLoops(mesh)).toHaveLength(1);
  });

  it('welds two borders into a tube and keeps region values', () => {
    const mesh = gridMesh(4, 1);
    const region = mesh.channel({ domain: 'face', name: 'region', type: 'i32', stride: 1, fill: 0 });
    [...mesh.faces()].forEach((f) => region.set(f, f + 10));
    const { report } = runOperator(mesh, weld, EMPTY_SELECTION, {
      pairs: [
        [4, 0],
        [9, 5],
      ],
    });
    expect(report.counts.pairs).toBe(2);
    expect([mesh.vertexCount, mesh.edgeCount, mesh.faceCount]).toEqual([8, 12, 4]);
    expect(borderLoops(mesh)).toHaveLength(2);
    expect([...mesh.faces()].map((f) => region.get(f)).sort()).toEqual([10, 11, 12, 13]);
  });

  it('finds the pairs within a distance, nearest first, each point once', () => {
    const mesh = gridMesh(2, 0);
    mesh.setPoint(1, [0.1, 0, 0]);
    expect(pairsWithin(mesh, 0.5)).toEqual([[1, 0]]);
    expect(pairsWithin(mesh, 0.05)).toEqual([]);
  });

  it('makes the mirrored half real with exact partners and a shared midline', () => {
    const mesh = gridMesh(2, 2);
    const half = makeUp(mesh, { axis: 'x', offset: 0 });
    runOperator(mesh, makeReal, EMPTY_SELECTION, { axis: 'x', offset: 0 });
    const whole = makeUp(mesh, null);
    expect(whole).toEqual(half);
    expect([whole.faces, whole.vertices]).toEqual([8, 15]);
    const points = new Set([...mesh.vertices()].map((v) => mesh.point(v).join()));
    for (const v of mesh.vertices()) {
      const [x, y, z] = mesh.point(v);
      expect(points.has([x === 0 ? 0 : -x, y, z].join())).toBe(true);
    }
  });
});

describe('preview', () => {
  it('applies each update to the state at the start and cancels to the last bit', () => {
    const mesh = gridMesh(2, 2);
    const before = encodeMesh(mesh);
    const drag = new Preview(mesh);
    for (let i = 1; i < 5; i++) drag.update(movePoints, EMPTY_SELECTION, { points: [{ vertex: i, to: [i, i, i] }] });
    expect(mesh.point(1)).toEqual([1, 0, 0]);
    drag.cancel();
    expect(encodeMesh(mesh)).toEqual(before);
  });
  it('commits the last update as one delta, and nothing after a refusal', () => {
    const mesh = gridMesh(2, 2);
    const drag = new Preview(mesh);
    drag.update(movePoints, EMPTY_SELECTION, { points: [{ vertex: 0, to: [5, 5, 5] }] });
    drag.update(movePoints, EMPTY_SELECTION, { points: [{ vertex: 1, to: [6, 6, 6] }] });
    const done = drag.commit();
    expect(done && deltaSize(done.delta).rows).toBe(1);
    const refused = new Preview(mesh);
    expect(refused.update(weld, EMPTY_SELECTION, { pairs: [[0, 99]] })).toBeInstanceOf(TopologyError);
    expect(refused.commit()).toBeNull();
    expect(mesh.face(mesh.findHalf(0, 1))).not.toBe(NONE);
  });
});
