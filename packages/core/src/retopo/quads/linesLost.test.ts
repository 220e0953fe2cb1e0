import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Curve } from '../lines/lines';
import { linesLost } from './linesLost';
import type { QuadSoup } from './QuadSoup';

const SIDES = 24;
const ROWS = 4;

/** A tube of quads about one wide; points of its second row are on a ring round it where `isOn`. */
function tube(isOn: (i: number) => boolean): { soup: QuadSoup; ring: Float64Array } {
  const radius = SIDES / (2 * Math.PI);
  const points = new Float64Array(3 * SIDES * ROWS);
  const onLine = new Int32Array(SIDES * ROWS).fill(-1);
  const quads: number[] = [];
  for (let j = 0; j < ROWS; j++)
    for (let i = 0; i < SIDES; i++) {
      const angle = (2 * Math.PI * i) / SIDES;
      points.set([radius * Math.cos(angle), radius * Math.sin(angle), j], 3 * (j * SIDES + i));
      if (j === 1 && isOn(i)) onLine[SIDES + i] = 0;
      const next = (i + 1) % SIDES;
      if (j + 1 < ROWS) quads.push(j * SIDES + i, j * SIDES + next, (j + 1) * SIDES + next, (j + 1) * SIDES + i);
    }
  // the form's own line is finer than quads are
  const fine = 10 * SIDES;
  const ring = new Float64Array(3 * (fine + 1));
  for (let i = 0; i <= fine; i++) {
    const angle = (2 * Math.PI * (i % fine)) / fine;
    ring.set([radius * Math.cos(angle), radius * Math.sin(angle), 1], 3 * i);
  }
  return { soup: { points, quads: Int32Array.from(quads), onLine }, ring };
}

const curve = (points: Float64Array, isDrawn: boolean): Curve => ({ points, isBorder: false, isDrawn, isMirrored: false }); // prettier-ignore

test('a ring is kept where edges run all round it, and lost with any of them', () => {
  fc.assert(
    fc.property(fc.subarray(Array.from({ length: SIDES }, (_, i) => i)), fc.boolean(), (off, isDrawn) => {
      const { soup, ring } = tube((i) => !off.includes(i));
      const lost = linesLost(soup, [curve(ring, isDrawn)], 1);
      expect(lost).toEqual({ ofForm: 0, drawn: 0, [isDrawn ? 'drawn' : 'ofForm']: off.length > 0 ? 1 : 0 });
    }),
  );
});

test('an open guide may be a quad short at each end, an edge of the form may not', () => {
  // twelve quads of the ring, from its first point on
  const arc = (ring: Float64Array): Float64Array => ring.slice(0, 3 * (10 * 12 + 1));
  const lostFrom = (first: number, last: number, isDrawn: boolean): number => {
    const { soup, ring } = tube((i) => i >= first && i <= last);
    const { ofForm, drawn } = linesLost(soup, [curve(arc(ring), isDrawn)], 1);
    return isDrawn ? drawn : ofForm;
  };
  expect([lostFrom(0, 12, true), lostFrom(1, 11, true), lostFrom(2, 10, true)]).toEqual([0, 0, 1]);
  expect([lostFrom(0, 12, false), lostFrom(1, 12, false), lostFrom(0, 11, false)]).toEqual([0, 1, 1]);
});

test('neither ridges nor mirror cuts are lost, nor what is shorter than two quads', () => {
  const { soup, ring } = tube(() => false);
  const lines: Curve[] = [
    { ...curve(ring, false), isRidge: true },
    { ...curve(ring, false), isMirrored: true },
    curve(ring.slice(0, 3 * 18), false),
  ];
  expect(linesLost(soup, lines, 1)).toEqual({ ofForm: 0, drawn: 0 });
});

test('the ragged border of a scan is followed by edges within half a quad of it, and is not where it goes further off', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.02, max: 0.4, noNaN: true }),
      fc.integer({ min: 0, max: 10 * SIDES - 1 }),
      (by, at) => {
        const { soup, ring } = tube(() => true);
        const ragged = ring.map((x, i) => (i % 3 === 2 && Math.floor(i / 3) % 2 === 1 ? x + by : x));
        expect(linesLost(soup, [curve(ragged, false)], 1)).toEqual({ ofForm: 0, drawn: 0 });
        // a spike of one of its points
        const spiked = ragged.slice();
        spiked[3 * at + 2] += 1;
        if (at === 0) spiked[spiked.length - 1] += 1;
        expect(linesLost(soup, [curve(spiked, false)], 1)).toEqual({ ofForm: 1, drawn: 0 });
      },
    ),
  );
});
