import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, type Vec3 } from '../../math';
import { RoundLine } from './RoundLine';

/** Points round an ellipse, from a share of the way round its parameter on. */
const ellipse = (count: number, from = 0, way = 1, wide = 1): Vec3[] =>
  Array.from({ length: count }, (_, i) => {
    const a = 2 * Math.PI * (from + (way * i) / count);
    return [wide * Math.cos(a), Math.sin(a), 3];
  });

describe('a line round a limb', () => {
  it('is as long as it is, and has its middle in the middle', () => {
    const line = new RoundLine(ellipse(400), ellipse(5));
    expect(line.length).toBeCloseTo(2 * Math.PI, 3);
    line.middle.forEach((x, k) => expect(x).toBeCloseTo([0, 0, 3][k], 3));
  });

  it('has places at even steps on it, wherever they begin', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 12 }), fc.double({ min: -2, max: 2, noNaN: true }), (count, from) => {
        const places = new RoundLine(ellipse(600), ellipse(4)).places(count, from);
        const side = 2 * Math.sin(Math.PI / count);
        places.forEach((p, i) => {
          expect(Math.hypot(p[0], p[1])).toBeCloseTo(1, 4);
          expect(distance(p, places[(i + 1) % count])).toBeCloseTo(side, 4);
        });
      }),
    );
  });

  it('runs the way of the ring that it is like', () => {
    for (const way of [1, -1])
      for (const own of [1, -1]) {
        const [a, b] = new RoundLine(ellipse(60, 0, own), ellipse(6, 0.3, way)).places(12, 0);
        expect(Math.sign(a[0] * b[1] - a[1] * b[0])).toBe(way);
      }
  });

  it('is begun where a ring of another size beside it lies nearest', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 9 }), fc.double({ min: 0, max: 1, noNaN: true }), (count, from) => {
        const line = new RoundLine(ellipse(720), ellipse(count));
        const ring = ellipse(count, from).map(([x, y, z]): Vec3 => [1.7 * x + 4, 1.7 * y, z - 2]);
        // as many turns by as much as a side are alike
        const off = (line.shareLike(ring) - from) * count;
        expect(Math.abs(off - Math.round(off))).toBeLessThanOrEqual(1 / 16 + 0.02);
      }),
    );
  });
});
