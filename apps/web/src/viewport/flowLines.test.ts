import { expect, test } from 'vitest';
import { distance, type Vec3 } from '@half-loop/core/math';
import { flowLines } from './flowLines';
import type { Line } from './LineSet';

const along = (n: number, long: number): Vec3[] => Array.from({ length: n + 1 }, (_, i) => [1 + (long * i) / n, 0, 0]);
const lengthOf = (lines: readonly Line[]): number => lines.reduce((sum, { a, b }) => sum + distance(a, b), 0);
type Shown = Parameters<typeof flowLines>[0];
const NOTHING: Shown = { loops: [], poles: [], ridges: [], sharp: [], over: 'sculpt', keepsSharp: false };
const PLANE = { axis: 'x', offset: 0 } as const;

test.each([1, 3, 200])(
  'a sharp edge is a double line where it is kept, and broken where it is not: of %d pieces',
  (pieces) => {
    const drawn = (keepsSharp: boolean): Line[] =>
      flowLines({ ...NOTHING, sharp: [along(pieces, 8)], keepsSharp }, null);
    const kept = drawn(true);
    // the light line between both lies over the dark one, all along
    expect(kept).toHaveLength(2 * pieces);
    const [dark, light] = [kept.slice(0, pieces), kept.slice(pieces)];
    expect(lengthOf(dark)).toBeCloseTo(8, 6);
    expect(lengthOf(light)).toBeCloseTo(8, 6);
    for (const [i, { width }] of dark.entries()) expect(width).toBeGreaterThan(2 * light[i].width);
    // a little more than half of it is drawn: it begins and ends with a stretch
    const blunt = drawn(false);
    expect(lengthOf(blunt) / 2).toBeGreaterThan(4);
    expect(lengthOf(blunt) / 2).toBeLessThan(4.5);
    expect(blunt[0].a).toEqual([1, 0, 0]);
    expect(blunt[blunt.length - 1].b).toEqual([9, 0, 0]);
  },
);

test('an edge shorter than a stretch of the longest is broken once all the same', () => {
  const long = flowLines({ ...NOTHING, sharp: [along(100, 32)] }, null);
  const both = flowLines({ ...NOTHING, sharp: [along(100, 32), along(2, 1.5)] }, null);
  // one break in the middle third
  expect((lengthOf(both) - lengthOf(long)) / 2).toBeCloseTo(1, 6);
});

test('ridges are thicker than sample loops; all is drawn on both halves', () => {
  const flow: Shown = { ...NOTHING, loops: [along(4, 1)], ridges: [along(4, 2)] };
  const [whole, halves] = [flowLines(flow, null), flowLines(flow, PLANE)];
  expect(whole).toHaveLength(8);
  expect(whole[4].width).toBeGreaterThan(whole[0].width);
  expect(halves.slice(0, 8)).toEqual(whole);
  for (const [i, { a, b }] of halves.slice(8).entries()) {
    expect(a).toEqual([-whole[i].a[0], whole[i].a[1], whole[i].a[2]]);
    expect(b).toEqual([-whole[i].b[0], whole[i].b[1], whole[i].b[2]]);
  }
});
