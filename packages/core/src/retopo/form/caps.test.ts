import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sculptFromSoup } from '../../surface';
import { ballSoup } from '../../testing';
import { borderLoops } from './borderLoops';
import { cleaned } from './clean';

const BALL = sculptFromSoup(ballSoup(10));

const places = (p: readonly number[]): string[] => Array.from({ length: p.length / 3 }, (_, v) => p.slice(3 * v, 3 * v + 3).map((x) => x.toFixed(9)).join(' ')); // prettier-ignore

/** A ball with triangles of three points on a line put in at some edges, one on another where an edge is named again; its points and triangles. */
function withCaps(edges: readonly { at: number; share: number }[]): { positions: number[]; indices: number[] } {
  const positions = Array.from(BALL.positions);
  let triangles: number[][] = Array.from({ length: BALL.indices.length / 3 }, (_, t) => [...BALL.indices.subarray(3 * t, 3 * t + 3)]); // prettier-ignore
  for (const { at, share } of edges) {
    // the last of the triangles that are known come of the last cap
    const u = triangles[triangles.length - 1 - (at % triangles.length)];
    const [c, a, e] = u;
    const b = positions.push(...[0, 1, 2].map((k) => positions[3 * c + k] + share * (positions[3 * a + k] - positions[3 * c + k]))) / 3 - 1; // prettier-ignore
    triangles = [...triangles.filter((t) => t !== u), [c, b, e], [b, a, e], [a, b, c]];
  }
  return { positions, indices: triangles.flat() };
}

test('triangles of three points on a line leave no crack, whatever edges they lie on, one on another, and however they are wound', () => {
  const edge = fc.record({ at: fc.nat(200), share: fc.constantFrom(0.25, 0.5, 0.75) });
  fc.assert(
    fc.property(fc.array(edge, { minLength: 1, maxLength: 12 }), fc.nat(), (edges, turn) => {
      const { positions, indices } = withCaps(edges);
      for (let i = 0; i < indices.length; i += 3)
        if ((i * 7 + turn) % 5 === 0) [indices[i], indices[i + 1]] = [indices[i + 1], indices[i]];
      const { parts, mended } = cleaned({ positions, indices });
      expect(parts).toHaveLength(1);
      const [mesh] = parts;
      expect(borderLoops(mesh)).toEqual([]);
      // one ball yet; points that came to lie at the same place are one
      expect(mesh.triangles).toBe(2 * mesh.vertices - 4);
      expect(mesh.vertices).toBe(new Set(places(positions)).size);
      expect(mended[0]).toMatch(/^\d+ triangle\(s\) without an area dropped$/);
    }),
    { numRuns: 150 },
  );
});

test('one at a border goes, and leaves the border where it was', () => {
  const positions = [0, 0, 0, 2, 0, 0, 1, 1, 0, 1, 0, 0];
  const { parts } = cleaned({ positions, indices: [0, 1, 2, 0, 3, 1] });
  expect([parts.length, parts[0].triangles, parts[0].vertices]).toEqual([1, 2, 4]);
  const alone = cleaned({ positions, indices: [0, 3, 2, 3, 1, 2, 0, 3, 1] });
  expect([alone.parts.length, alone.parts[0].triangles, alone.parts[0].vertices]).toEqual([1, 2, 4]);
});
