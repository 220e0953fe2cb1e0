import fc from 'fast-check';
import { expect, test } from 'vitest';
import { weightsOf } from './weights';

const number = fc.double({ min: -2, max: 2, noNaN: true });
/** Two edges of a triangle that is not too thin, even drawn out. */
const edges = fc
  .tuple(number, number, number, number)
  .filter(([a, b, c, d]) => Math.abs(a * d - b * c) > 0.5 * Math.max(a * a + b * b, c * c + d * d));

test('what steps are off, weighed, is what gradients are off along and across the axes', () => {
  fc.assert(
    fc.property(
      edges,
      number,
      number,
      fc.double({ min: 0.4, max: 1, noNaN: true }),
      ([a, b, c, d], gx, gy, lengths) => {
        const wish = Float64Array.of(a, b, c - a, d - b, -c, -d);
        const weights = weightsOf(wish, lengths);
        const area = Math.abs(a * d - b * c) / 2;
        for (const axis of [0, 1]) {
          let sum = 0;
          for (let h = 0; h < 3; h++) sum += weights[2 * h + axis] * (gx * wish[2 * h] + gy * wish[2 * h + 1]) ** 2;
          const [along, across] = axis === 0 ? [gx, gy] : [gy, gx];
          expect(sum).toBeCloseTo(area * (lengths * along ** 2 + across ** 2), 9);
        }
      },
    ),
  );
});

test('no triangle holds more than its share, however thin', () => {
  fc.assert(
    fc.property(number, number, fc.double({ min: 1e-9, max: 1e-3, noNaN: true }), (gx, gy, thin) => {
      const wish = Float64Array.of(1, 0, -0.5, thin, -0.5, -thin);
      for (const axis of [0, 1]) {
        const weights = weightsOf(wish, 0.5).filter((_, i) => (i & 1) === axis);
        expect(Math.max(...weights)).toBeLessThanOrEqual(2.5);
        let sum = 0;
        for (let h = 0; h < 3; h++) sum += weights[h] * (gx * wish[2 * h] + gy * wish[2 * h + 1]) ** 2;
        expect(sum).toBeGreaterThanOrEqual(-1e-9);
      }
    }),
  );
});

test('flat triangles have weights, too, in whatever units', () => {
  for (const unit of [1e-9, 1, 1e9])
    for (const flat of [
      [1, 0, 1, 0, -2, 0],
      [0, 0, 1, 1, -1, -1],
      [0, 0, 0, 0, 0, 0],
    ])
      for (const w of weightsOf(
        Float64Array.from(flat, (x) => unit * x),
        0.5,
      ))
        expect(Math.abs(w)).toBeLessThan(10);
});
