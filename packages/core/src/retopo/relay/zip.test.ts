import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Vec3 } from '../../math';
import { zipped } from './zip';

const ring = (n: number, radius: number, from = 0): Vec3[] =>
  Array.from({ length: n }, (_, i) => [radius * Math.cos((2 * Math.PI * (i + from)) / n), radius * Math.sin((2 * Math.PI * (i + from)) / n), 0]); // prettier-ignore
const plain = (n: number) => ({ outside: new Array<number>(n).fill(2), normals: new Array<Vec3>(n).fill([0, 0, 1]) });

test('rings of one count are joined spoke by spoke, wherever each begins', () => {
  const faces = zipped(ring(24, 2), ring(24, 1.7, 5), plain(24));
  expect(faces).toHaveLength(24);
  for (const face of faces) {
    expect(face.filter((c) => c >= 0)).toHaveLength(2);
    const [outer, inner] = [face[0], -1 - face[3]];
    expect((inner + 5) % 24).toBe(outer);
  }
});

test('every edge of both loops has one face, in quads; one triangle where the counts differ by an odd number, over all counts', () => {
  fc.assert(
    fc.property(fc.integer({ min: 4, max: 60 }), fc.integer({ min: 4, max: 60 }), (n, m) => {
      const faces = zipped(ring(n, 2), ring(m, 1.5), plain(n));
      const sides = faces.flatMap((face) => face.map((c, k) => [c, face[(k + 1) % face.length]]));
      const outer = sides.filter(([a, b]) => a >= 0 && b >= 0).map(([a, b]) => (expect(b).toBe((a + 1) % n), a));
      const inner = sides.filter(([a, b]) => a < 0 && b < 0).map(([a, b]) => (expect(-1 - a).toBe(-b % m), -1 - b));
      expect(outer.sort((a, b) => a - b)).toEqual([...Array(n).keys()]);
      expect(inner.sort((a, b) => a - b)).toEqual([...Array(m).keys()]);
      // spokes have a face on either side
      const spokes = new Set(sides.filter(([a, b]) => a >= 0 !== b >= 0).map(String));
      for (const [a, b] of sides.filter(([u, v]) => u >= 0 !== v >= 0)) expect(spokes.has(String([b, a]))).toBe(true);
      expect(faces.filter((face) => face.length === 3)).toHaveLength((n + m) % 2);
    }),
    { numRuns: 60 },
  );
});
