import fc from 'fast-check';
import type * as z from 'zod/mini';
import { describe, expect, it } from 'vitest';
import { TopologyError } from '../errors';
import { seededRng, type Rng } from '../math';
import {
  borderLoops,
  checkInvariants,
  components,
  EMPTY_SELECTION,
  encodeMesh,
  FILE_CHANNELS,
  type PolyMesh,
  type Selection,
} from '../mesh';
import { ballMesh, cubeMesh, gridMesh, pick, torusMesh, tubeMesh } from '../testing';
import {
  brush,
  cut,
  deletePicked,
  FIELDS,
  makeReal,
  OPERATORS,
  runOperator,
  SHAPES,
  type Ground,
  type Operator,
} from '.';

/** A mesh of quads, or of mixed polygons with poles, borders and several parts. */
function randomMesh(rng: Rng): PolyMesh {
  const mesh = pick(rng, [
    () => gridMesh(5, 4),
    () => cubeMesh(),
    () => tubeMesh(7, 4),
    () => torusMesh(8, 6),
    () => ballMesh(3),
  ])();
  for (const name of ['dissolve', 'poke', 'spin', 'split', 'connect']) {
    if (rng() < 0.55) continue;
    attempt(mesh, OPERATORS.get(name) as Operator, randomSelection(mesh, rng, 2), {});
  }
  if (rng() < 0.3) attempt(mesh, deletePicked as unknown as Operator, randomSelection(mesh, rng, 2), {});
  const groups = mesh.channel(FILE_CHANNELS.groups);
  for (const f of mesh.faces()) groups.set(f, 1 + Math.floor(rng() * 3));
  const uv = mesh.channel(FILE_CHANNELS.uvs);
  for (const f of mesh.faces())
    for (const h of mesh.faceHalves(f)) mesh.point(mesh.origin(h)).slice(0, 2).forEach((x, k) => uv.set(h, x, k)); // prettier-ignore
  const hard = mesh.channel(FILE_CHANNELS.hardEdges);
  for (const e of mesh.edges()) if (rng() < 0.15) hard.set(e, 1);
  return mesh;
}

function randomSelection(mesh: PolyMesh, rng: Rng, most = 5): Selection {
  const some = (ids: number[]): number[] =>
    ids.length === 0 ? [] : Array.from({ length: 1 + Math.floor(rng() * most) }, () => pick(rng, ids));
  const kind = Math.floor(rng() * 4);
  const edges = [...mesh.edges()];
  return {
    vertices: kind === 0 ? some([...mesh.vertices()]) : [],
    edges: kind === 1 || kind === 3 ? some(kind === 3 ? edges.filter((e) => mesh.isBorderEdge(e)) : edges) : [],
    faces: kind === 2 ? some([...mesh.faces()]) : [],
  };
}

/** What these take is seldom met by chance. */
const CHOOSY = ['bore', 'studs', 'recover-coarser', 'draw-along'];
/** A selection that the operator can often use; a random one half of the time, but for the choosy ones. */
function fittingSelection(name: string, mesh: PolyMesh, rng: Rng): Selection {
  if (!CHOOSY.includes(name) && rng() < 0.5) return randomSelection(mesh, rng);
  const open = borderLoops(mesh).map((walk) => walk.halves.map((h) => h >> 1));
  if ((name === 'stitch' || name === 'bridge') && open.length > 0) {
    const [a, b] = [open[0], open[1] ?? open[0]];
    const edges = a === b ? [a[0], a[Math.floor(a.length / 2)]] : [...a, ...b];
    return { vertices: [], edges, faces: [] };
  }
  // with nothing picked it lays a strip of its own, which has no uv to carry
  if (name === 'draw-along') {
    const border = open.length > 0 ? pick(rng, open) : [...mesh.edges()].slice(0, 1);
    const off = border.filter(
      (e) => mesh.point(mesh.origin(2 * e))[0] !== 0 || mesh.point(mesh.target(2 * e))[0] !== 0,
    );
    return { vertices: [], edges: off.length > 0 ? off : border, faces: [] };
  }
  if (name === 'pair-triangles' && mesh.faceCount > 0) {
    const poked = attempt(
      mesh,
      OPERATORS.get('poke') as Operator,
      { vertices: [], edges: [], faces: [...mesh.faces()].slice(0, 4) },
      {},
    );
    if (poked) return poked.selection;
  }
  if (name === 'recover-coarser' && rng() < 0.7)
    attempt(mesh, OPERATORS.get('subdivide') as Operator, EMPTY_SELECTION, { levels: 1, shape: 'flat' });
  if (name === 'bore') {
    const inner = [...mesh.vertices()].filter((v) => !mesh.isBorderVertex(v) && mesh.valence(v) > 2);
    return rng() < 0.2 || inner.length === 0
      ? randomSelection(mesh, rng)
      : { vertices: [], edges: [], faces: mesh.vertexFaces(pick(rng, inner)) };
  }
  if (name === 'studs') {
    const edges = [...mesh.edges()];
    const stud = attempt(mesh, OPERATORS.get('box') as Operator, EMPTY_SELECTION, { about: 0.2, at: [3, 0, 0] });
    const uv = mesh.channel(FILE_CHANNELS.uvs);
    for (const f of stud?.selection.faces ?? []) for (const h of mesh.faceHalves(f)) for (const k of [0, 1]) uv.set(h, 0, k); // prettier-ignore
    return { vertices: [], edges: [pick(rng, edges)], faces: stud?.selection.faces ?? [] };
  }
  return randomSelection(mesh, rng);
}

/** Parameters drawn from what the operator's card would let a person set. */
function randomParams(op: Operator, mesh: PolyMesh, rng: Rng): Record<string, unknown> {
  const shape = (op.params as unknown as z.ZodMiniObject).shape ?? {};
  const drawn = Object.entries(shape).map(([name, schema]) => {
    const field = FIELDS.get(schema as z.ZodMiniType);
    if (!field || rng() < 0.3) return [name, undefined];
    if (field.kind === 'switch') return [name, rng() < 0.5];
    if (field.kind === 'choice') return [name, pick(rng, field.options)[0]];
    if (field.kind === 'curve')
      return [
        name,
        { points: Array.from({ length: 4 }, (_, i) => [i + rng(), rng() * 2, rng() * 2]), closed: rng() < 0.3 },
      ];
    if (field.kind === 'length')
      return [name, op.name === 'even-out' ? 0.3 + rng() : rng() * (op.name === 'weld-within' ? 2.5 : 0.4)];
    const value = name === 'levels' ? 1 + rng() : field.min + rng() * (Math.min(field.max, field.min + 6) - field.min);
    return [name, field.unit === 'count' ? Math.round(value) : value];
  });
  const given = Object.fromEntries(drawn.filter(([, value]) => value !== undefined)) as Record<string, unknown>;
  const vertices = [...mesh.vertices()];
  const point = (): number[] => [rng() * 2 - 1, rng() * 2 - 1, rng() * 2 - 1];
  if (op.name === cut.name) return { ...given, anchors: Array.from({ length: 2 }, () => randomAnchor(mesh, rng)) };
  if (op.name === brush.name)
    return { ...given, radius: 0.5 + rng() * 2, dabs: [{ at: point(), near: pick(rng, vertices), from: point() }] };
  if (op.name === 'transform')
    return { ...given, move: point(), turn: { axis: point(), degrees: rng() * 90 }, scale: [1, 1 + rng(), 1] };
  if (op.name === 'settle' && rng() < 0.5)
    return { pivot: 'typed', goes: 'to', y: rng(), tx: rng() * 90, size: 0.5 + rng() };
  if (op.name === 'lattice') return { ...given, moves: { '0,0,0': point(), '1,1,0': point(), '1,0,1': point() } };
  if (op.name === 'true') return { ...given, facing: [0, 0, 1] };
  return given;
}

function randomAnchor(mesh: PolyMesh, rng: Rng): object {
  if (rng() < 0.3) return { vertex: pick(rng, [...mesh.vertices()]) };
  const e = pick(rng, [...mesh.edges()]);
  return { edge: [mesh.origin(2 * e), mesh.target(2 * e)], at: 0.1 + 0.8 * rng() };
}

function attempt(mesh: PolyMesh, op: Operator, selection: Selection, params: object, ground?: Ground) {
  try {
    return runOperator(mesh, op, selection, params as never, ground);
  } catch (error) {
    if (error instanceof TopologyError) return null;
    throw error;
  }
}

/** Operators that change neither the number of parts nor their borders or handles. */
const LOCAL = ['insert-loops', 'slide', 'fair', 'true', 'relax', 'smooth', 'route-on', 'cut', 'cut-faces', 'spin', 'split', 'poke', 'pair-triangles', 'connect', 'inset', 'subdivide', 'crease', 'transform', 'brush', 'bevel']; // prettier-ignore
/** made by gestures, or tested beside their own files */
const FROM_GESTURES = [
  'boolean',
  'lay-face',
  'lay-row',
  'lay-ring',
  'ring-opening',
  'lay-thread',
  'relay',
  'close-cells',
  'tie-threads',
  'bring-back',
  'to-midline',
  'set-region',
  'mark-border',
  'draw-out',
  'move',
  'weld',
  'make-real',
  ...SHAPES.map(({ name }) => name),
];

/** An operator must have done its work on more random meshes than this, of at most so many times 150. */
const ENOUGH = 5;
const ROUNDS = 4;

describe.each([...OPERATORS.keys()].filter((name) => !FROM_GESTURES.includes(name)))('%s', (name) => {
  const op = OPERATORS.get(name) as Operator;

  it('keeps the invariants and the Euler number, carries attributes, undoes to the last bit, or refuses and leaves all as it was', () => {
    let done = 0;
    const holds = fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      const mesh = randomMesh(rng);
      if (mesh.faceCount === 0) return;
      const selection = fittingSelection(name, mesh, rng);
      const before = stateOf(mesh);
      const result = attempt(mesh, op, selection, randomParams(op, mesh, rng));
      if (!result) return void expect(same(encodeMesh(mesh), before.bytes), 'a refusal changed the mesh').toBe(true);
      done++;
      const after = stateOf(mesh);
      expect(after.broken).toEqual([]);
      if (LOCAL.includes(name) && !before.pinched && !after.pinched)
        expect([after.euler, after.parts]).toEqual([before.euler, before.parts]);
      expect(after.groups.filter((g) => !before.groups.includes(g))).toEqual([]);
      mesh.apply(result.delta, 'backward');
      expect(same(encodeMesh(mesh), before.bytes), 'undo').toBe(true);
      mesh.apply(result.delta, 'forward');
      expect(same(encodeMesh(mesh), after.bytes), 'redo').toBe(true);
    });
    // few meshes have what some operators ask for: more are made until some had
    for (let round = 0; round < ROUNDS && done <= ENOUGH; round++) fc.assert(holds, { numRuns: 150 });
    expect(done).toBeGreaterThan(ENOUGH);
  });
});

/** The half of a form that lies right of the plane x = 0, with poles, n-gons and holes in it, its points somewhat astray. */
function randomHalf(rng: Rng, ground: Ground): PolyMesh {
  const mesh = pick(rng, [() => gridMesh(4, 4), () => ballMesh(4)])();
  const left = [...mesh.faces()].filter((f) => mesh.faceVertices(f).some((v) => mesh.point(v)[0] < -1e-9));
  if (left.length > 0) runOperator(mesh, deletePicked, { vertices: [], edges: [], faces: left }, {});
  for (const v of mesh.vertices()) {
    const [x, y, z] = mesh.point(v);
    mesh.setPoint(v, [Math.abs(x) < 1e-9 ? 0 : x * (1 + 0.2 * rng()), y + 0.1 * rng(), z + 0.1 * rng()]);
  }
  for (const name of ['poke', 'connect', 'dissolve'])
    if (rng() < 0.3) attempt(mesh, OPERATORS.get(name) as Operator, randomSelection(mesh, rng, 1), {}, ground);
  return mesh;
}

/** say at once that halves are joined already, or that a half is no sector */
const ONLY_WHOLE = ['join-halves', 'join-sectors', 'mirror-over'];

describe.each([...OPERATORS.keys()].filter((name) => ![...FROM_GESTURES, ...ONLY_WHOLE].includes(name)))(
  '%s with symmetry',
  (name) => {
    const op = OPERATORS.get(name) as Operator;
    const plane = { axis: 'x', offset: 0 } as const;
    const ground: Ground = { plane, form: null };

    it('keeps the midline where it is and the half on its side, so that both halves join without a gap or a wall between', () => {
      let done = 0;
      const holds = fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const mesh = randomHalf(rng, ground);
        const selection = fittingSelection(name, mesh, rng);
        const midline = [...mesh.vertices()].filter((v) => mesh.point(v)[0] === 0);
        if (!attempt(mesh, op, selection, randomParams(op, mesh, rng), ground)) return;
        done++;
        expect(
          [...mesh.vertices()].filter((v) => mesh.point(v)[0] < 0),
          'across',
        ).toEqual([]);
        // a bevelled point goes, and the next new one may have its number
        if (name !== 'bevel' && name !== 'groove')
          expect(
            midline.filter((v) => mesh.hasVertex(v) && mesh.point(v)[0] !== 0),
            'off the midline',
          ).toEqual([]);
        const onPlane = (vertices: readonly number[]): boolean => vertices.every((v) => mesh.point(v)[0] === 0);
        expect(
          [...mesh.faces()].filter((f) => onPlane(mesh.faceVertices(f))),
          'flat in the midline',
        ).toEqual([]);
        runOperator(mesh, makeReal, EMPTY_SELECTION, plane);
        expect(checkInvariants(mesh)).toEqual([]);
        const open = [...mesh.edges()].filter((e) => mesh.isBorderEdge(e) && !mesh.isLooseEdge(e));
        expect(
          open.filter((e) => onPlane([mesh.origin(2 * e), mesh.target(2 * e)])),
          'a gap',
        ).toEqual([]);
      });
      // few halves have what some operators ask for
      for (let round = 0; round < ROUNDS && done <= ENOUGH; round++) fc.assert(holds, { numRuns: 120 });
      expect(done).toBeGreaterThan(ENOUGH);
    });
  },
);

const same = (a: Uint8Array, b: Uint8Array): boolean => a.length === b.length && a.every((x, i) => x === b[i]);

/** Everything that the property compares, and what is wrong with the mesh as it is. */
function stateOf(mesh: PolyMesh) {
  const broken = checkInvariants(mesh);
  const uv = mesh.findChannel('corner', 'uv');
  for (const v of mesh.vertices()) if (!mesh.point(v).every(Number.isFinite)) broken.push(`point ${v} is nowhere`);
  for (const f of mesh.faces())
    for (const h of mesh.faceHalves(f)) if (!Number.isFinite(uv?.get(h))) broken.push(`corner ${h} lost its uv`);
  const group = mesh.findChannel('face', 'group');
  return {
    broken,
    bytes: encodeMesh(mesh),
    // V − E + F with every border closed by a face: what local edits must not change
    euler: mesh.vertexCount - mesh.edgeCount + mesh.faceCount + borderLoops(mesh).length,
    parts: components(mesh).length,
    pinched: [...mesh.vertices()].some((v) => mesh.vertexHalves(v).filter((h) => mesh.face(h) < 0).length > 1),
    groups: [...new Set([...mesh.faces()].map((f) => group?.get(f)))],
  };
}
