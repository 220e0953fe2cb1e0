import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cross, dot, length, seededRng, sub, type Box, type Vec3 } from '../../math';
import { EMPTY_SELECTION, PolyMesh } from '../../mesh';
import { OPERATORS, runOperator, type Operator } from '..';
import { solidReach } from './solidReach';

const SHAPES: [string, object][] = [
  ['box', { width: 2, height: 2, depth: 2, columns: 8, floors: 8, rows: 8 }],
  ['cylinder', { radius: 1, height: 2, sides: 24, rings: 8 }],
  ['ball', { radius: 1, cells: 8 }],
  ['torus', {}],
];

/** How often triangles enclose a point, by their solid angles. */
function enclosed(triangles: readonly (readonly Vec3[])[], p: Vec3): number {
  let sum = 0;
  for (const triangle of triangles) {
    const [a, b, c] = triangle.map((q) => sub(q, p));
    const [la, lb, lc] = [a, b, c].map(length);
    sum += 2 * Math.atan2(dot(a, cross(b, c)), la * lb * lc + dot(a, b) * lc + dot(a, c) * lb + dot(b, c) * la);
  }
  return sum / (4 * Math.PI);
}

const fan = (corners: readonly Vec3[]): Vec3[][] => corners.slice(2).map((c, k) => [corners[0], corners[k + 1], c]);

describe('what a box reaches of a solid', () => {
  it('is closed, keeps out of the box by what closes it, and encloses the box’s points as often as the whole, over seeded boxes', () => {
    let made = 0;
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const [kind, settings] = SHAPES[Math.floor(rng() * SHAPES.length)];
        const mesh = new PolyMesh();
        runOperator(mesh, OPERATORS.get(kind) as Operator, EMPTY_SELECTION, settings as never);
        const centre = [rng() * 2.4 - 1.2, rng() * 2.4 - 0.2, rng() * 2.4 - 1.2];
        const half = [0, 1, 2].map(() => 0.1 + 0.5 * rng());
        const box = {
          min: centre.map((c, k) => c - half[k]),
          max: centre.map((c, k) => c + half[k]),
        } as unknown as Box;
        const reach = solidReach(mesh, [...mesh.faces()], box);
        if (!reach) return;
        made++;
        expect(reach.faces.length + reach.beyond.length).toBe(mesh.faceCount);
        const at = (v: number): Vec3 => (v < 0 ? reach.points[-1 - v] : mesh.point(v));
        // every side has its partner
        const open = new Map<string, number>();
        for (const loop of [...reach.faces.map((f) => mesh.faceVertices(f)), ...reach.closing])
          loop.forEach((u, k) => {
            const v = loop[(k + 1) % loop.length];
            const key = u < v ? `${u} ${v}` : `${v} ${u}`;
            open.set(key, (open.get(key) ?? 0) + (u < v ? 1 : -1));
          });
        expect([...open.values()].every((n) => n === 0)).toBe(true);
        const closing = reach.closing.map((corners) => corners.map(at));
        for (const corners of closing)
          expect([0, 1, 2].some((k) => corners.every((p) => p[k] > box.max[k]) || corners.every((p) => p[k] < box.min[k]))).toBe(true); // prettier-ignore
        const whole = [...mesh.faces()].flatMap((f) => fan(mesh.faceVertices(f).map((v) => mesh.point(v))));
        const own = [...reach.faces.flatMap((f) => fan(mesh.faceVertices(f).map((v) => mesh.point(v)))), ...closing];
        for (let i = 0; i < 5; i++) {
          const p = centre.map((c, k) => c + (2 * rng() - 1) * half[k]) as unknown as Vec3;
          expect(enclosed(own, p)).toBeCloseTo(enclosed(whole, p), 6);
        }
      }),
      { numRuns: 120 },
    );
    expect(made).toBeGreaterThan(60);
  });

  it('is nothing to gain where the box reaches all, or nothing', () => {
    const mesh = new PolyMesh();
    runOperator(mesh, OPERATORS.get('box') as Operator, EMPTY_SELECTION, {} as never);
    const faces = [...mesh.faces()];
    expect(solidReach(mesh, faces, { min: [-9, -9, -9], max: [9, 9, 9] })).toBeNull();
    expect(solidReach(mesh, faces, { min: [8, 8, 8], max: [9, 9, 9] })).toBeNull();
  });
});
