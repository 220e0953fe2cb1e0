import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HalfLoopError } from '../../errors';
import { distance, dot, normalize, type Vec3 } from '../../math';
import { ballSoup } from '../../testing';
import { SculptSurface } from '../SculptSurface';
import { sculptFromSoup } from '../sculptFromSoup';
import { carriedLabels, readLabels, regionCurves, regionParts, regionValue, RegionGround, writeLabels } from '.';

const ball = SculptSurface.build(sculptFromSoup(ballSoup(60)));
const ground = new RegionGround(ball);
const top = ball.closest([0, 2, 0]);
/** vertices of the unit ball within an angle of the top, in radians */
const cap = (angle: number) => {
  const own = Array.from({ length: ground.count }, (_, v) => v).filter((v) => ground.at(v)[1] > Math.cos(angle));
  return new Set(own);
};
const areaIn = (parts: ReturnType<typeof regionParts>): number =>
  parts.reduce((sum, { positions, indices }) => sum + SculptSurface.build({ positions, indices: indices.slice() }).area(), 0); // prettier-ignore

describe('labels as text', () => {
  it('come back as they were', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 1, max: 90 }))), (runs) => {
        const labels = Uint16Array.from(runs.flatMap(([label, n]) => Array.from({ length: n }, () => label)));
        expect(readLabels(writeLabels(labels), labels.length)).toEqual(labels);
      }),
    );
  });
  it('are nothing where nothing is painted', () => expect(writeLabels(new Uint16Array(5000))).toBe(''));
  it('are refused when they belong to another sculpt, or are none', () => {
    const text = writeLabels(Uint16Array.from([0, 0, 2, 2, 1]));
    for (const [bad, count] of [
      [text, 4],
      [text, 6],
      ['x:y', 5],
      ['1:0', 5],
      ['1', 5],
    ] as const)
      // prettier-ignore
      expect(() => readLabels(bad, count)).toThrow(HalfLoopError);
  });
});

describe('labels for another sculpt', () => {
  it('lie where they lay, on one that is finer and larger', () => {
    const own = cap(0.6);
    const labels = Uint16Array.from({ length: ground.count }, (_, v) => (own.has(v) ? 7 : 0));
    const other = sculptFromSoup(ballSoup(90, 1.2));
    const carried = carriedLabels(ball, labels, other.positions);
    for (let v = 0; v < carried.length; v++) {
      const angle = Math.acos(other.positions[3 * v + 1] / 1.2);
      // a side's width round the border is left out
      if (Math.abs(angle - 0.6) > 0.06) expect(carried[v]).toBe(angle < 0.6 ? 7 : 0);
    }
  });
});

describe('what a brush takes', () => {
  it('is what lies within its radius, hangs together and faces the eye', () => {
    const found = ground.brushed(top.triangle, top.point, 0.5, [0, 10, 0]);
    const want = Array.from({ length: ground.count }, (_, v) => v).filter((v) => distance(ground.at(v), top.point) <= 0.5); // prettier-ignore
    expect(new Set(found)).toEqual(new Set(want));
    // the whole ball lies within this radius, but half of it is turned away
    const half = ground.brushed(top.triangle, top.point, 3, [0, 100, 0]);
    expect(half.every((v) => dot(ground.normalAt(v), [0, 1, 0]) > -0.05)).toBe(true);
    expect(half.length / ground.count).toBeCloseTo(0.5, 1);
  });
  it('is one point where the brush is smaller than a triangle', () =>
    expect(ground.brushed(top.triangle, top.point, 1e-6, [0, 10, 0])).toHaveLength(1));
});

describe('filling', () => {
  it('by angle from where it began takes a cap of that angle', () => {
    const found = ground.facingLike(top.triangle, 40, 'start');
    const angles = found.map((v) => (Math.acos(normalize(ground.at(v))[1]) * 180) / Math.PI);
    expect(Math.max(...angles)).toBeGreaterThan(36);
    expect(Math.max(...angles)).toBeLessThan(43);
  });
  it('by angle against the neighbour goes all round a smooth ball', () =>
    expect(ground.facingLike(top.triangle, 40, 'neighbour')).toHaveLength(ground.count));
  it('by part takes what hangs together', () => expect(ground.part(top.triangle)).toHaveLength(ground.count));
});

describe('growing', () => {
  it('adds a belt of its width, and shrinking takes it away again', () => {
    const own = cap(0.5);
    const more = new Set([...own, ...ground.grown((v) => own.has(v), 0.3)]);
    const widest = Math.max(...[...more].map((v) => Math.acos(Math.min(1, ground.at(v)[1] / 1))));
    // along edges a way is somewhat longer than over the surface
    expect(widest).toBeGreaterThan(0.72);
    expect(widest).toBeLessThanOrEqual(0.81);
    const away = new Set(ground.grown((v) => !more.has(v), 0.3));
    const left = [...more].filter((v) => !away.has(v));
    const off = left.filter((v) => !own.has(v)).length + [...own].filter((v) => away.has(v)).length;
    expect(off / own.size).toBeLessThan(0.15);
  });
});

describe('the border of a region', () => {
  it.each([0.3, 0.6, 1.2])('of a cap of %f is a circle, once round, with the region on its left', (angle) => {
    const own = cap(angle);
    const value = regionValue(ground, (v) => own.has(v));
    const lines = regionCurves(ball, value);
    expect(lines.map((l) => l.closed)).toEqual([true]);
    const { points } = lines[0];
    const angles = points.map((p) => Math.acos(p[1]));
    expect(Math.max(...angles) - Math.min(...angles)).toBeLessThan(0.035);
    // round the top, against the clock seen from outside
    const turn = points.reduce((sum, p, i) => {
      const q = points[(i + 1) % points.length];
      return sum + p[2] * q[0] - p[0] * q[2];
    }, 0);
    expect(turn).toBeGreaterThan(0);
    // to within one side of a triangle all along
    const off = areaIn(regionParts(ball, value)) - 2 * Math.PI * (1 - Math.cos(angle));
    expect(Math.abs(off)).toBeLessThan(2 * Math.PI * Math.sin(angle) * 0.04);
  });
  it('parts that do not hang together come apart', () => {
    const value = Float32Array.from({ length: ground.count }, (_, v) => Math.abs(ground.at(v)[1]) - 0.8);
    const parts = regionParts(ball, value);
    expect(parts).toHaveLength(2);
    expect(areaIn(parts)).toBeCloseTo(2 * 2 * Math.PI * 0.2, 1);
    expect(regionCurves(ball, value)).toHaveLength(2);
  });
  it('is none for everything and for nothing', () => {
    const all = regionValue(ground, () => true);
    expect(regionCurves(ball, all)).toEqual([]);
    expect(areaIn(regionParts(ball, all))).toBeCloseTo(ball.area(), 4);
    expect(
      regionParts(
        ball,
        regionValue(ground, () => false),
      ),
    ).toEqual([]);
  });
  it('lies on the surface', () => {
    const own = cap(0.7);
    const [{ points }] = regionCurves(
      ball,
      regionValue(ground, (v) => own.has(v)),
    );
    const off = points.map((p: Vec3) => ball.closest(p).distance);
    expect(Math.max(...off)).toBeLessThan(1e-6);
  });
});
