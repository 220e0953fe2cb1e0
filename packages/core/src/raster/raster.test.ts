import { describe, expect, it } from 'vitest';
import type { Vec3 } from '../math';
import { soupNormals } from '../mesh';
import { ballSoup, CUBE_SOUP } from '../testing';
import { frame, projector, rasterize, type Picture } from '.';

const ball = ballSoup(24);
const solid = {
  positions: ball.positions,
  indices: ball.corners,
  normals: soupNormals(ball),
  colour: [200, 180, 160] as const,
};
const grey = { top: [100, 100, 100] as const, bottom: [100, 100, 100] as const };
const draw = (change: Partial<Parameters<typeof rasterize>[0]> = {}): Picture =>
  rasterize({
    width: 120,
    height: 90,
    camera: frame([ball.positions], [0, 0, 1], 4 / 3),
    solids: [solid],
    background: grey,
    ...change,
  });
const at = ({ data, width }: Picture, x: number, y: number): number[] => [
  ...data.slice(4 * (y * width + x), 4 * (y * width + x) + 3),
];

describe('the rasteriser', () => {
  it('draws a ball as a disc, lit from the upper left, on its background', () => {
    const picture = draw();
    expect(at(picture, 2, 2)).toEqual([100, 100, 100]);
    expect(at(picture, 60, 45)).not.toEqual([100, 100, 100]);
    const sum = (x: number, y: number): number => at(picture, x, y).reduce((a, b) => a + b);
    expect(sum(50, 35)).toBeGreaterThan(sum(70, 58));
    const covered = Array.from({ length: 120 * 90 }, (_, i) => at(picture, i % 120, Math.floor(i / 120))).filter(
      (p) => p[0] !== 100,
    ).length;
    const { project, right } = projector(frame([ball.positions], [0, 0, 1], 4 / 3), 120, 90);
    const radius = project(right)[0] - 60;
    expect(covered / (Math.PI * radius * radius)).toBeGreaterThan(0.9);
    expect(covered / (Math.PI * radius * radius)).toBeLessThan(1.2);
  });
  it('shows only fronts, nearest first; what is lifted wins over what it lies on', () => {
    const inside = { ...solid, indices: [...ball.corners].reverse() };
    expect(at(draw({ solids: [inside] }), 60, 45)).not.toEqual(at(draw(), 60, 45));
    const red = { ...solid, colour: [250, 0, 0] as const };
    expect(at(draw({ solids: [solid, { ...red, lift: 0.1 }] }), 60, 45)[1]).toBe(0);
    expect(at(draw({ solids: [{ ...red, lift: 0.1 }, solid] }), 60, 45)[1]).toBe(0);
    const line = { segments: [-1, 0, 0, 1, 0, 0], colour: [0, 0, 255] as const, lift: 3 };
    expect(at(draw({ lines: [line] }), 60, 45)[2]).toBeGreaterThan(at(draw(), 60, 45)[2]);
  });
  it('survives what lies behind the camera and sees what it frames whole, as large as it fits', () => {
    const camera = { eye: [0, 0, 0.2] as const, target: [0, 0, 1] as const, fov: 60 };
    expect(draw({ camera }).data).toHaveLength(4 * 120 * 90);
    const ways: Vec3[] = [[1, 2, 3], [-3, 0.1, 1], [0, 1, 0]]; // prettier-ignore
    const sizes = [[300, 300], [480, 320], [90, 400]]; // prettier-ignore
    const away = CUBE_SOUP.positions.map((x) => x + 7);
    for (const [width, height] of sizes)
      for (const from of ways) {
        const { project } = projector(frame([away], from, width / height), width, height);
        const seen = Array.from({ length: 8 }, (_, k) => {
          const [x, y, z] = project([away[3 * k], away[3 * k + 1], away[3 * k + 2]]);
          expect(z).toBeGreaterThan(0);
          return [Math.abs((2 * x) / width - 1), Math.abs((2 * y) / height - 1)];
        });
        const most = Math.max(...seen.flat());
        expect(most).toBeGreaterThan(0.9);
        expect(most).toBeLessThan(0.96);
      }
  });
  it('draws marks as polygons of so many sides, a corner up, in front of what they are lifted over and behind what hides them', () => {
    const mark = { at: [0, 0, 1] as const, radius: 12, colour: [0, 0, 250] as const, lift: 0.05 };
    const shape = (sides: number, z = 1): number[][] => {
      const picture = draw({ marks: [{ ...mark, sides, at: [0, 0, z] }] });
      return Array.from({ length: 120 * 90 }, (_, i) => [(i % 120) + 0.5 - 60, Math.floor(i / 120) + 0.5 - 45]).filter(
        ([x, y]) => at(picture, x + 59.5, y + 44.5)[0] === 0 && at(picture, x + 59.5, y + 44.5)[2] === 250,
      );
    };
    for (const sides of [3, 4, 5, 6]) {
      const found = shape(sides);
      // as many pixels as the polygon has area, but for those that it covers in part
      const area = (sides / 2) * 12 ** 2 * Math.sin((2 * Math.PI) / sides);
      expect(found.length).toBeGreaterThan(0.75 * area);
      expect(found.length).toBeLessThan(area);
      expect(Math.min(...found.map(([, y]) => y))).toBeLessThan(-9);
    }
    // a triangle's side is below, half as far out as its corner
    expect(Math.max(...shape(3).map(([, y]) => y))).toBeLessThan(7);
    expect(shape(4, -1)).toEqual([]);
  });
});
