import { describe, expect, it } from 'vitest';
import { distanceColour, niceCeil } from './distanceScale';

const lightness = ([r, g, b]: readonly number[]): number => 0.2126 * r ** 2.2 + 0.7152 * g ** 2.2 + 0.0722 * b ** 2.2;

describe('the distance scale', () => {
  it('darkens evenly to both ends from a pale middle, and clamps', () => {
    for (const side of [-1, 1]) {
      const steps = Array.from({ length: 11 }, (_, i) => lightness(distanceColour((side * i) / 10)));
      for (let i = 1; i < steps.length; i++) expect(steps[i]).toBeLessThan(steps[i - 1]);
      expect(distanceColour(side * 9)).toEqual(distanceColour(side));
    }
    expect(lightness(distanceColour(0))).toBeGreaterThan(0.7);
    expect(Math.abs(lightness(distanceColour(-1)) - lightness(distanceColour(1)))).toBeLessThan(0.06);
  });
  it('ends at round numbers at or above the worst', () => {
    expect([0.013, 0.2, 0.21, 4.9, 5, 51, 0].map(niceCeil)).toEqual([0.02, 0.2, 0.5, 5, 5, 100, 1]);
  });
});
