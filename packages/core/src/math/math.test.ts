import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  boxOf,
  cross,
  distance,
  directionAcross,
  directionFromPlaced,
  dot,
  frameOf,
  fromPlaced,
  frontBeside,
  isOnPlane,
  length,
  mirrored,
  normalize,
  ontoPlane,
  placementOf,
  seededRng,
  SIGNED_AXES,
  squaredToTriangle,
  toPlaced,
  type Vec3,
} from '.';

const coordinate = fc.double({ min: -1e4, max: 1e4, noNaN: true });
const point = fc.tuple(coordinate, coordinate, coordinate);

describe('placement', () => {
  it('is a rotation for every pair of axes, puts up on y and front on z, and stands the box on the floor', () => {
    const box = { min: [-1, -2, -3] as Vec3, max: [4, 5, 6] as Vec3 };
    for (const up of SIGNED_AXES)
      for (const front of SIGNED_AXES) {
        const placement = placementOf(up, front, box, true);
        const [x, y, z] = placement.rotation;
        expect(dot(cross(x, y), z)).toBe(1);
        const used = frontBeside(up, front);
        if (up[1] !== front[1]) expect(used).toBe(front);
        const low = boxOf([box.min, box.max].flatMap((p) => [...toPlaced(p, placement)]));
        expect(low.min[1]).toBe(0);
      }
  });
  it('comes back exactly enough, points and directions', () => {
    fc.assert(
      fc.property(point, fc.constantFrom(...SIGNED_AXES), fc.constantFrom(...SIGNED_AXES), (p, up, front) => {
        const placement = placementOf(up, front, { min: [-3, -3, -3], max: [3, 3, 3] }, true);
        const back = fromPlaced(toPlaced(p, placement), placement);
        back.forEach((x, k) => expect(x).toBeCloseTo(p[k], 8));
        expect(directionFromPlaced([0, 1, 0], placement).map((x) => x + 0)).toEqual(
          placement.rotation[1].map((x) => x + 0),
        );
      }),
    );
  });
});

describe('the mirror plane', () => {
  it('mirrors twice to the same place, exactly for points on it', () => {
    fc.assert(
      fc.property(
        point,
        fc.constantFrom('x', 'y', 'z' as const),
        fc.integer({ min: -50, max: 50 }),
        (p, axis, offset) => {
          const plane = { axis, offset } as const;
          const twice = mirrored(mirrored(p, plane), plane);
          twice.forEach((x, k) => expect(x).toBeCloseTo(p[k], 8));
          const on = ontoPlane(p, plane);
          expect(isOnPlane(on, plane)).toBe(true);
          expect(mirrored(on, plane)).toEqual(on);
          expect(directionAcross(directionAcross(p, plane), plane)).toEqual(p);
        },
      ),
    );
  });
});

describe('vectors', () => {
  it('frames are right-handed and square for any direction', () => {
    fc.assert(
      fc.property(point, (p) => {
        fc.pre(length(p) > 1e-3);
        const n = normalize(p);
        const [u, v] = frameOf(n);
        expect(dot(u, v)).toBeCloseTo(0, 9);
        expect(length(u)).toBeCloseTo(1, 9);
        cross(u, v).forEach((x, k) => expect(x).toBeCloseTo(n[k], 9));
      }),
    );
    expect(normalize([0, 0, 0])).toEqual([0, 0, 0]);
  });
  it('the seeded source repeats itself and fills [0, 1) evenly', () => {
    const [a, b] = [seededRng(7), seededRng(7)];
    const numbers = Array.from({ length: 4000 }, a);
    expect(numbers.slice(0, 50)).toEqual(Array.from({ length: 50 }, b));
    expect(numbers.every((x) => x >= 0 && x < 1)).toBe(true);
    const counts = [0, 1, 2, 3].map((q) => numbers.filter((x) => Math.floor(x * 4) === q).length);
    for (const n of counts) expect(Math.abs(n - 1000)).toBeLessThan(120);
    expect(boxOf([])).toEqual({ min: [0, 0, 0], max: [0, 0, 0] });
  });
});

describe('squaredToTriangle', () => {
  const number = fc.double({ min: -3, max: 3, noNaN: true });
  const place = fc.tuple(number, number, number);
  it('is that of no point of the triangle less, and of one of them as much', () => {
    fc.assert(
      fc.property(place, place, place, place, (p, a, b, c) => {
        const found = Math.sqrt(
          squaredToTriangle(Float64Array.from(p), 0, Float64Array.from([...a, ...b, ...c]), 0, 3, 6),
        );
        let least = Infinity;
        const n = 60;
        for (let i = 0; i <= n; i++)
          for (let j = 0; j <= n - i; j++) {
            const at = [0, 1, 2].map((k) => a[k] + (i / n) * (b[k] - a[k]) + (j / n) * (c[k] - a[k]));
            least = Math.min(least, Math.hypot(at[0] - p[0], at[1] - p[1], at[2] - p[2]));
          }
        const longest = Math.max(distance(a, b), distance(b, c), distance(c, a));
        expect(found).toBeLessThanOrEqual(least + 1e-9);
        expect(found).toBeGreaterThan(least - longest / n - 1e-9);
      }),
      { numRuns: 200 },
    );
  });
  it.each([
    { what: 'over the middle', p: [0.25, 0.25, 2], squared: 4 },
    { what: 'beyond a corner', p: [-3, -4, 0], squared: 25 },
    { what: 'beside the long side', p: [1, 1, 0], squared: 0.5 },
    { what: 'on it', p: [0.5, 0.5, 0], squared: 0 },
  ])('$what', ({ p, squared }) => {
    const points = Float64Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]);
    expect(squaredToTriangle(Float64Array.from(p), 0, points, 0, 3, 6)).toBeCloseTo(squared, 12);
  });
  it('of a needle is that of its sides: which way its plane lies is lost in rounding', () => {
    const needle = Float64Array.from([
      -1.3928414246630124e-9, 1.06e-117, -0.01168811300821162, 0, 8.8e-134, 0, 0, 0, 0,
    ]);
    expect(squaredToTriangle(new Float64Array(3), 0, needle, 0, 3, 6)).toBeLessThan(1e-30);
  });
  it('of one without an area is that of its longest side, of a point its distance', () => {
    const line = Float64Array.from([0, 0, 0, 1, 0, 0, 3, 0, 0]);
    expect(squaredToTriangle(Float64Array.from([2, 2, 0]), 0, line, 0, 3, 6)).toBeCloseTo(4, 12);
    expect(squaredToTriangle(Float64Array.from([0, 3, 4]), 0, new Float64Array(9), 0, 3, 6)).toBeCloseTo(25, 12);
  });
});
