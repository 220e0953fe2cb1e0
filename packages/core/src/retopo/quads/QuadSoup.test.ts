import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng, type Vec3 } from '../../math';
import { quadDiagonal } from '../../mesh';
import { quadsOnBall } from '../../testing';
import { mirrored } from './mirrored';
import { cutAsShown } from './QuadSoup';

test('quads are told from a corner that their shown diagonal runs from, and are the same quads; those of an image from its image', () => {
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const rng = seededRng(seed);
      const soup = quadsOnBall(4);
      // bent, and on one side of the plane
      soup.points = soup.points.map((x, i) => x + 0.2 * (rng() - 0.5) + (i % 3 === 0 ? 2 : 0));
      const cut = cutAsShown(soup);
      expect(cut.points).toBe(soup.points);
      const place = (p: Float64Array, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
      let turned = 0;
      for (let q = 0; q < cut.quads.length; q += 4) {
        const [was, now] = [soup.quads, cut.quads].map((quads) => [...quads.subarray(q, q + 4)]);
        const by = was.indexOf(now[0]);
        expect(now).toEqual([...was.slice(by), ...was.slice(0, by)]);
        expect(quadDiagonal(now.map((v) => place(cut.points, v)))).toBe(0);
        if (by > 0) turned++;
      }
      expect(turned).toBeGreaterThan(5);
      expect(turned).toBeLessThan(soup.quads.length / 4 - 5);
      const all = mirrored(cut, { axis: 'x', offset: 0 });
      for (let q = 0; q < all.quads.length; q += 4)
        expect(quadDiagonal([...all.quads.subarray(q, q + 4)].map((v) => place(all.points, v)))).toBe(0);
    }),
    { numRuns: 40 },
  );
});
