import fc from 'fast-check';
import { expect, test } from 'vitest';
import { distance, type Vec3 } from '../../math';
import { bandBetween } from './band';

/** Points of a ring round the z axis. */
const ring = (n: number, radius: number, height: number, turn: number): Vec3[] =>
  Array.from({ length: n }, (_, i) => {
    const way = turn + (2 * Math.PI * i) / n;
    return [radius * Math.cos(way), radius * Math.sin(way), height];
  });

test('a band between two rings has both all round, and a slit of even steps where they are nearest, once each way', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 3, max: 12 }),
      fc.integer({ min: 3, max: 12 }),
      fc.double({ min: 0.2, max: 4, noNaN: true }),
      fc.double({ min: 0, max: 6, noNaN: true }),
      (n, m, height, turn) => {
        const points = [...ring(n, 1, 0, 0), ...ring(m, 1.3, height, turn)];
        const one = Array.from({ length: n }, (_, i) => i);
        // the band is on the left of both: they run against each other
        const other = Array.from({ length: m }, (_, i) => n + m - 1 - i);
        const { outline, corners } = bandBetween(one, other, (v) => points[v], (p) => points.push(p) - 1); // prettier-ignore
        const steps = corners[2] - corners[1];
        expect(outline).toHaveLength(n + m + 2 * steps);
        expect([corners[0], corners[1], corners[3] - corners[2], outline.length - corners[3]]).toEqual([
          0,
          n,
          m,
          steps,
        ]);
        // every point of the rings once but for the two ends of the slit, of the slit twice
        const count = new Map<number, number>();
        for (const v of outline) count.set(v, (count.get(v) ?? 0) + 1);
        expect(count.size).toBe(n + m + steps - 1);
        for (const [v, times] of count) expect(times).toBe(v >= n + m || v === outline[0] || v === outline[n + steps] ? 2 : 1); // prettier-ignore
        // side by side in the rings' own order
        for (let i = 0; i < n; i++) expect(outline[i + 1]).toBe((outline[i] + 1) % n);
        const nearest = Math.min(...one.flatMap((u) => other.map((v) => distance(points[u], points[v]))));
        const there = outline.slice(n, n + steps + 1);
        for (let i = 0; i < steps; i++) expect(distance(points[there[i]], points[there[i + 1]])).toBeCloseTo(nearest / steps, 9); // prettier-ignore
        expect(outline.slice(n + steps + m)).toEqual(there.slice(1).reverse());
      },
    ),
  );
});
