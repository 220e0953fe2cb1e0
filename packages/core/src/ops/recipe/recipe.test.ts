import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { beforeAll, describe, expect, it } from 'vitest';
import { checkInvariants, components, EMPTY_SELECTION, encodeMesh, PolyMesh } from '../../mesh';
import { ballMesh, enclosedVolume, gridMesh } from '../../testing';
import { loadSolids, OPERATORS, runOperator, type Operator } from '..';
import { cutters, followRecipe, isFollowed, madeReal, type RecipePiece, type RecipeStep } from './recipe';

beforeAll(async () => {
  const bytes = await readFile(createRequire(import.meta.url).resolve('manifold-3d/manifold.wasm'));
  await loadSolids(async () => bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer); // prettier-ignore
});

const op = (name: string): Operator => OPERATORS.get(name) as Operator;
const step = (name: string, params: Record<string, unknown> = {}, more: Partial<RecipeStep> = {}): RecipeStep => ({
  op: name,
  on: true,
  params,
  ...more,
});
function shape(name: string, params: object): PolyMesh {
  const mesh = new PolyMesh();
  runOperator(mesh, op(name), EMPTY_SELECTION, params as never);
  return mesh;
}
const piece = (mesh: PolyMesh, recipe: RecipeStep[], id = 'a'): RecipePiece => ({ id, mesh, recipe });
const box = (size: number, at: number[] = [0, 0, 0]): PolyMesh => shape('box', { width: size, height: size, depth: size, columns: 1, rows: 1, floors: 1, at }); // prettier-ignore

describe('a recipe', () => {
  it('follows its steps in order and leaves the piece itself as it was', () => {
    const mesh = gridMesh(4, 4);
    const before = encodeMesh(mesh);
    const steps = [step('thicken', { thickness: 0.2 }), step('subdivide', { levels: 1, shape: 'flat' })];
    const { mesh: made, told } = followRecipe(piece(mesh, steps), null, []);
    expect(made.faceCount).toBe(4 * (16 + 16 + 16));
    expect(told.map((t) => t?.refused)).toEqual([false, false]);
    expect(encodeMesh(mesh)).toEqual(before);
    // the other way round the rim is thickened after it was divided
    const other = followRecipe(piece(mesh, [...steps].reverse()), null, []).mesh;
    expect(other.faceCount).toBe(64 + 64 + 32);
  });

  it('leaves out what is switched off, and what is refused, saying why', () => {
    const steps = [
      step('thicken', { thickness: 0.2 }, { on: false }),
      step('deform', { kind: 'curve' }),
      step('subdivide'),
    ];
    const { mesh: made, told } = followRecipe(piece(gridMesh(2, 2), steps), null, []);
    expect(told[0]).toBeNull();
    expect(told[1]).toMatchObject({ refused: true, sentence: expect.stringContaining('Choose the curve') as string });
    expect(made.faceCount).toBe(16);
    expect(isFollowed({ recipe: [steps[0]] })).toBe(false);
    const unknown = followRecipe(piece(gridMesh(2, 2), [step('poke')]), null, []);
    expect(unknown.told[0]?.refused).toBe(true);
    const wrong = followRecipe(piece(gridMesh(2, 2), [step('subdivide', { levels: 'many' })]), null, []);
    expect(wrong.told[0]?.sentence).toContain('levels');
  });

  it('makes twins that follow their original until they are made real', () => {
    const mesh = box(1, [3, 0, 0]);
    const steps = [step('copies', { arranged: 'ring', axis: 'y', count: 6 })];
    const first = followRecipe(piece(mesh, steps), null, []).mesh;
    expect(components(first)).toHaveLength(6);
    runOperator(mesh, op('subdivide'), EMPTY_SELECTION, { levels: 1, shape: 'flat' } as never);
    const second = followRecipe(piece(mesh, steps), null, []).mesh;
    expect(second.faceCount).toBe(6 * 24);
    // each twin is its original turned by a sixth
    const radii = new Set(
      [...second.vertices()].map((v) => Math.hypot(second.point(v)[0], second.point(v)[2]).toFixed(6)),
    );
    const own = new Set([...mesh.vertices()].map((v) => Math.hypot(mesh.point(v)[0], mesh.point(v)[2]).toFixed(6)));
    expect(radii).toEqual(own);
    const { mesh: real, rest } = madeReal(piece(mesh, [...steps, step('subdivide')]), 1, null, []);
    expect(real.faceCount).toBe(6 * 24);
    expect(rest).toEqual([step('subdivide')]);
  });

  it('makes the mirrored half real first', () => {
    const half = gridMesh(2, 2);
    const plane = { axis: 'x', offset: Math.min(...[...half.vertices()].map((v) => half.point(v)[0])) } as const;
    const { mesh } = followRecipe(piece(half, [step('subdivide', { levels: 1, shape: 'flat' })]), plane, []);
    expect(mesh.faceCount).toBe(2 * 4 * 4);
    expect(components(mesh)).toHaveLength(1);
  });

  it('cuts by another piece, several times in a line, and follows it when it moves', () => {
    const body = shape('box', { width: 12, height: 2, depth: 2, columns: 12, floors: 2, rows: 2 });
    const cutter = box(1, [-4, 1.5, 0]);
    const steps = [step('boolean', { count: 3, axis: 'x', step: 4 }, { piece: 'b' })];
    const pieces = [piece(body, steps), piece(cutter, [], 'b')];
    const { mesh, told } = followRecipe(pieces[0], null, pieces);
    expect(told[0]).toMatchObject({ refused: false });
    expect(checkInvariants(mesh)).toEqual([]);
    // three pockets, half a unit deep
    expect(enclosedVolume(mesh)).toBeCloseTo(48 - 3 * 0.5, 4);
    expect(cutters(pieces)).toEqual(new Set(['b']));
    runOperator(cutter, op('transform'), { ...EMPTY_SELECTION, vertices: [...cutter.vertices()] }, {
      move: [0, -0.25, 0],
    } as never);
    expect(enclosedVolume(followRecipe(pieces[0], null, pieces).mesh)).toBeCloseTo(48 - 3 * 0.75, 4);
  });

  it('refuses a piece that would cut itself by way of another, and a cutting shape that is gone', () => {
    const a = piece(box(1), [step('boolean', {}, { piece: 'b' })]);
    const b = piece(box(1), [step('boolean', {}, { piece: 'a' })], 'b');
    expect(followRecipe(a, null, [a, b]).told[0]).toMatchObject({ refused: true });
    expect(followRecipe(a, null, [a]).told[0]?.sentence).toContain('Choose the piece');
    expect(() => madeReal(a, 1, null, [a])).toThrow('cannot be made real yet');
  });

  it('joins halves at a plane with nothing left open, or says what does not fit', () => {
    const ball = ballMesh(4);
    runOperator(ball, op('delete'), { ...EMPTY_SELECTION, faces: [...ball.faces()].filter((f) => ball.faceVertices(f).some((v) => ball.point(v)[0] < -1e-9)) }, {} as never); // prettier-ignore
    for (const v of ball.vertices())
      if (Math.abs(ball.point(v)[0]) < 1e-9) ball.setPoint(v, [0.01, ball.point(v)[1], ball.point(v)[2]]);
    const { mesh, told } = followRecipe(piece(ball, [step('join-halves', { within: 0.05 })]), null, []);
    expect(told[0]?.sentence).toMatch(
      /1 border ring of \d+ edges in one plane, \d+ points brought onto it, .*nothing left open/,
    );
    expect([...mesh.edges()].some((e) => mesh.isBorderEdge(e))).toBe(false);
    // two halves that are there: copied across, then joined point by point
    const both = followRecipe(piece(ball, [step('copies', { arranged: 'mirror', axis: 'x' }), step('join-halves', { half: 'there', within: 0.05 })]), null, []); // prettier-ignore
    expect(both.told[1]?.sentence).toMatch(/2 border rings .*pairs welded, nothing left open/);
    expect(both.mesh.faceCount).toBe(mesh.faceCount);
    const far = followRecipe(piece(ball, [step('join-halves', { at: 5, within: 0.05 })]), null, []);
    expect(far.told[0]).toMatchObject({ refused: true });
  });
});
