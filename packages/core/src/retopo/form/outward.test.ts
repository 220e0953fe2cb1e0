import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sculptFromSoup } from '../../surface';
import { ballSoup } from '../../testing';
import { cleaned, type Triangles } from './clean';
import { halfOf } from './halve';
import { facingOutward } from './outward';
import type { TriMesh } from './TriMesh';

/** Balls in one form, each with a radius and how far along x it lies; inside out where that is below zero. */
function balls(...own: readonly (readonly [radius: number, along: number])[]): Triangles {
  const { positions, indices } = sculptFromSoup(ballSoup(12));
  const n = positions.length / 3;
  return {
    positions: own.flatMap(([radius, along]) =>
      [...positions].map((x, i) => Math.abs(radius) * x + (i % 3 === 0 ? along : 0)),
    ),
    indices: own.flatMap(([radius], k) => {
      const at = [...indices].map((v) => v + k * n);
      return radius > 0 ? at : at.reverse();
    }),
  };
}

/** Six times what a mesh encloses. */
function volume({ points: p, from, triangles }: TriMesh): number {
  let sum = 0;
  for (let h = 0; h < 3 * triangles; h += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => p.subarray(3 * from[h + k], 3 * from[h + k] + 3));
    sum += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return sum;
}

test('closed parts that face inward are turned over, and stay what they were but for that', () => {
  fc.assert(
    fc.property(fc.array(fc.boolean(), { minLength: 1, maxLength: 4 }), (isInward) => {
      const { parts } = cleaned(balls(...isInward.map((is, i) => [is ? -1 : 1, 3 * i] as const)));
      const made = facingOutward(parts, null);
      expect(made.turned).toBe(isInward.filter(Boolean).length);
      for (const [i, mesh] of made.parts.entries()) {
        expect(volume(mesh)).toBeGreaterThan(0);
        expect([mesh.triangles, mesh.vertices]).toEqual([parts[i].triangles, parts[i].vertices]);
        for (let h = 0; h < 3 * mesh.triangles; h++) {
          expect(mesh.twin[mesh.twin[h]]).toBe(h);
          expect([mesh.from[h], mesh.to(h)]).toEqual([mesh.to(mesh.twin[h]), mesh.from[mesh.twin[h]]]);
        }
        expect([...mesh.fan(0)].every((h) => mesh.from[h] === 0)).toBe(true);
      }
      expect(facingOutward(made.parts, null).turned).toBe(0);
    }),
    { numRuns: 20 },
  );
});

test('the wall of a hollow stays; what is stuck into another part half way is turned over', () => {
  const turnedIn = (form: Triangles): number => facingOutward(cleaned(form).parts, null).turned;
  expect(turnedIn(balls([1, 0], [-0.6, 0.1]))).toBe(0);
  expect(turnedIn(balls([1, 0], [-0.6, 0.8]))).toBe(1);
  // what lies within and faces outward is a part of its own: an eye in its socket
  expect(turnedIn(balls([1, 0], [0.6, 0.1]))).toBe(0);
});

test('a hole at a tip leaves a part closed, a great one does not', () => {
  const without = (below: number): TriMesh[] => {
    const { positions, indices } = balls([-1, 0]);
    const isLow = (t: number): boolean => [0, 1, 2].every((k) => positions[3 * indices[3 * t + k] + 1] < below);
    const kept = Array.from({ length: indices.length / 3 }, (_, t) => t).filter((t) => !isLow(t));
    return cleaned({ positions, indices: kept.flatMap((t) => [0, 1, 2].map((k) => indices[3 * t + k])) }).parts;
  };
  expect(without(-0.95)[0].twin.some((other) => other < 0)).toBe(true);
  expect(facingOutward(without(-0.95), null).turned).toBe(1);
  expect(facingOutward(without(0), null).turned).toBe(0);
});

test('open parts stay as they are, and a half counts as closed by the mirror plane', () => {
  const plane = { axis: 'x', offset: 0.3 } as const;
  const { parts } = cleaned(halfOf(balls([-1, 0]), plane));
  expect(facingOutward(parts, null).turned).toBe(0);
  const made = facingOutward(parts, plane);
  expect(made.turned).toBe(1);
  expect(facingOutward(made.parts, plane).turned).toBe(0);
});
