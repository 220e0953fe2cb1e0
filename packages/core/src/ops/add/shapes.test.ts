import fc from 'fast-check';
import type * as z from 'zod/mini';
import { describe, expect, it } from 'vitest';
import { TopologyError } from '../../errors';
import { seededRng, type Rng } from '../../math';
import {
  borderLoops,
  checkInvariants,
  components,
  cornerQuality,
  EMPTY_SELECTION,
  encodeMesh,
  PolyMesh,
} from '../../mesh';
import { enclosedVolume, pick } from '../../testing';
import { FIELDS, makeReal, OPERATORS, runOperator, SHAPES, type Ground, type Operator } from '..';

/** Settings as a person could set them on the card. */
function anySettings(op: Operator, rng: Rng): Record<string, unknown> {
  const shape = (op.params as unknown as z.ZodMiniObject).shape;
  const drawn = Object.entries(shape).map(([name, schema]) => {
    const field = FIELDS.get(schema as z.ZodMiniType);
    if (!field || rng() < 0.25) return [name, undefined];
    if (field.kind === 'switch') return [name, rng() < 0.5];
    if (field.kind === 'choice') return [name, pick(rng, field.options)[0]];
    if (field.kind === 'length') return [name, 0.2 + rng() * 3];
    if (field.kind === 'curve') return [name, undefined];
    const most = Math.min(field.max, field.min + (name === 'parts' || name === 'cells' ? 5 : 20));
    const value = field.min + rng() * (most - field.min);
    return [name, field.unit === 'count' ? Math.round(value) : value];
  });
  return Object.fromEntries(drawn.filter(([, value]) => value !== undefined)) as Record<string, unknown>;
}

const ROUND_HOLES: Readonly<Record<string, number>> = { torus: 0, tube: 0 };
const euler = (mesh: PolyMesh): number => mesh.vertexCount - mesh.edgeCount + mesh.faceCount;

describe.each(SHAPES.map((op) => op as unknown as Operator))('$name', (op) => {
  it('is manifold, wound outward, closed or open as said, of quads where quads are promised, for all settings', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const mesh = new PolyMesh();
        const settings = anySettings(op, rng);
        const empty = encodeMesh(mesh);
        let made;
        try {
          made = runOperator(mesh, op, EMPTY_SELECTION, settings as never);
        } catch (error) {
          if (!(error instanceof TopologyError)) throw error;
          expect(encodeMesh(mesh)).toEqual(empty);
          // refused settings do not count as a run: others are drawn in their place
          return void fc.pre(false);
        }
        expect(checkInvariants(mesh)).toEqual([]);
        expect(components(mesh)).toHaveLength(1);
        const isOpen = op.name === 'plane-grid' ? 1 : settings.ends === 'open' ? (op.name === 'cone' && !settings.top ? 1 : 2) : 0; // prettier-ignore
        expect(borderLoops(mesh)).toHaveLength(isOpen);
        expect(euler(mesh) + isOpen).toBe(ROUND_HOLES[op.name] ?? 2);
        if (isOpen === 0) expect(enclosedVolume(mesh)).toBeGreaterThan(0);
        const { sides } = made.report.counts;
        const promised = ['box', 'plane-grid', 'tube', 'torus', 'ball'].includes(op.name) || (settings.ends === 'quads' && sides % 2 === 0 && !(op.name === 'cone' && !settings.top)); // prettier-ignore
        if (promised) expect([...mesh.faces()].filter((f) => mesh.faceHalves(f).length !== 4)).toEqual([]);
        if (sides % 2 === 1 && 'ends' in (op.params as unknown as z.ZodMiniObject).shape)
          expect(made.report.sentence).toContain(`${sides} is odd`);
        mesh.apply(made.delta, 'backward');
        expect(encodeMesh(mesh)).toEqual(empty);
      }),
      { numRuns: 40 },
    );
  });

  it('with symmetry is the half that mirrors into the whole, or refuses to be cut', () => {
    const plane = { axis: 'x', offset: 0 } as const;
    const ground: Ground = { plane, form: null };
    const whole = new PolyMesh();
    runOperator(whole, op, EMPTY_SELECTION, {} as never);
    const half = new PolyMesh();
    try {
      runOperator(half, op, EMPTY_SELECTION, {} as never, ground);
    } catch (error) {
      return void expect((error as Error).message).toMatch(/across the midline/);
    }
    runOperator(half, makeReal, EMPTY_SELECTION, plane);
    expect(checkInvariants(half)).toEqual([]);
    expect([half.vertexCount, half.faceCount]).toEqual([whole.vertexCount, whole.faceCount]);
  });
});

describe('shapes', () => {
  const add = (name: string, settings: object): { mesh: PolyMesh; counts: Readonly<Record<string, number>> } => {
    const mesh = new PolyMesh();
    const op = OPERATORS.get(name) as Operator;
    return { mesh, counts: runOperator(mesh, op, EMPTY_SELECTION, settings as never).report.counts };
  };

  it('have as many sides as the face width, the outline error, or the rhythm asks for', () => {
    expect(add('cylinder', { radius: 1, sidesBy: 'width', sideWidth: 0.5 }).counts.sides).toBe(12);
    // r(1 − cos(π/n)) ≤ 0.5 px at 40 px a unit: 20 sides miss by 0.49 px, 19 by 0.54
    expect(add('cylinder', { radius: 1, sidesBy: 'outline', outline: 0.5, pixelsPerUnit: 40 }).counts.sides).toBe(20);
    expect(add('cylinder', { sidesBy: 'rhythm', take: 2, skip: 1, times: 5 }).counts.sides).toBe(15);
    expect(add('cylinder', { radius: 1, sides: 12 }).counts).toMatchObject({ angle: 30 });
    expect(add('cylinder', { radius: 1, sides: 12 }).counts.sideWidth).toBeCloseTo(0.5176, 4);
  });
  it('turn a flat to the front, and stand on the floor whichever way is up', () => {
    const zs = (flat: boolean): number => Math.max(...[...add('cylinder', { radius: 1, sides: 8, flat, ends: 'ngon' }).mesh.vertices()].map((v) => add('cylinder', { radius: 1, sides: 8, flat, ends: 'ngon' }).mesh.point(v)[2])); // prettier-ignore
    expect(zs(false)).toBeCloseTo(1, 9);
    expect(zs(true)).toBeCloseTo(Math.cos(Math.PI / 8), 9);
    const { mesh } = add('capsule', { up: '+z', at: [5, 0, 1], radius: 1, height: 4 });
    const heights = [...mesh.vertices()].map((v) => mesh.point(v)[2]);
    expect(Math.min(...heights)).toBeGreaterThan(0.999);
    expect(Math.max(...heights)).toBeLessThan(5.001);
    expect(enclosedVolume(mesh)).toBeGreaterThan(0);
  });
  it('caps of quads have no corner worse than a good grid has', () => {
    for (const sides of [8, 12, 16, 24, 32, 48]) {
      const { mesh } = add('cylinder', { radius: 1, height: 1, sides, ends: 'quads' });
      const caps = [...mesh.faces()].filter((f) => mesh.faceVertices(f).every((v) => mesh.point(v)[1] === 1));
      const worst = Math.min(...caps.map((f) => cornerQuality(mesh.faceVertices(f).map((v) => mesh.point(v)))));
      expect(worst).toBeGreaterThan(0.3);
    }
  });
  it('the ball without poles has eight points of three edges, its faces alike in size', () => {
    const { mesh } = add('ball', { radius: 2, cells: 8 });
    const valences = [...mesh.vertices()].map((v) => mesh.valence(v));
    expect(valences.filter((n) => n === 3)).toHaveLength(8);
    expect(valences.every((n) => n === 3 || n === 4)).toBe(true);
  });
  it('refuses sizes that cannot be', () => {
    for (const [name, settings, why] of [
      ['tube', { radius: 1, inner: 1.5 }, /inside must be less/],
      ['capsule', { radius: 1, height: 1 }, /at least as high/],
      ['torus', { radius: 1, thickness: 3 }, /crosses itself/],
      ['box', { width: -1 }, /more than 0/],
    ] as const)
      // prettier-ignore
      expect(() => add(name, settings)).toThrow(why);
  });
});
