import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, type Vec3 } from '../../math';
import { soupFromMesh } from '../../mesh';
import { SculptSurface, sculptFromSoup, WalkingForm } from '../../surface';
import { quadsOnBall, torusMesh } from '../../testing';
import { QuadCheck } from '../quads/QuadCheck';
import { QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { tubesLaid, tubesOf } from './tubes';

const FORM = SculptSurface.build(sculptFromSoup(soupFromMesh(torusMesh(160, 40, 3, 0.4))));
const FORMS = [new WalkingForm(FORM), new WalkingForm(FORM)] as const;
const RINGS = 24;

/** Quads round a thin torus, four to a ring, and its rings. */
function thinTorus(): { soup: QuadSoup; rings: number[][] } {
  const { positions, corners } = soupFromMesh(torusMesh(RINGS, 4, 3, 0.4));
  const soup = { points: Float64Array.from(positions), quads: Int32Array.from(corners), onLine: new Int32Array(positions.length / 3).fill(-1) }; // prettier-ignore
  const [tube] = tubesOf(soup, new QuadLinks(soup)).filter(({ rings }) => rings.every((ring) => ring.length === 4));
  return { soup, rings: tube.rings };
}
const placeOf = ({ points: p }: QuadSoup, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];

/** Rings pulled onto one side of the tube, as evening out may leave them. */
function pinched(soup: QuadSoup, rings: readonly number[][], side: number): void {
  for (const ring of rings)
    ring.forEach((v, k) => {
      const [at, to] = [placeOf(soup, v), placeOf(soup, ring[side % ring.length])];
      const place = to.map((x, i) => x + (0.05 + 0.02 * k) * (at[i] - x));
      soup.points.set(FORM.closest(place as unknown as Vec3).point, 3 * v);
    });
}
const folded = ({ points, quads }: QuadSoup): number => {
  const check = new QuadCheck(points, quads, FORMS);
  return Array.from({ length: quads.length / 4 }, (_, q) => 4 * q).filter((q) => check.isFolded(q)).length;
};

describe('rings round thin limbs', () => {
  it('are found all round a torus, in order, and not on a ball', () => {
    const { soup, rings } = thinTorus();
    expect(rings).toHaveLength(RINGS + 1);
    expect([...rings[RINGS]].sort()).toEqual([...rings[0]].sort());
    expect(new Set(rings.flat()).size).toBe(soup.onLine.length);
    for (const ring of rings) {
      const angles = ring.map((v) => Math.atan2(placeOf(soup, v)[2], placeOf(soup, v)[0]));
      for (const a of angles) expect(Math.abs(Math.sin(a - angles[0]))).toBeLessThan(1e-6);
    }
    const ball = quadsOnBall(4);
    expect(tubesOf(ball, new QuadLinks(ball))).toEqual([]);
  });

  it('end at lines', () => {
    const { soup, rings } = thinTorus();
    for (const v of rings[5]) soup.onLine[v] = 0;
    const [tube] = tubesOf(soup, new QuadLinks(soup)).filter((t) => t.rings[0].length === 4);
    // between each two rings are the quads that have points of both
    tube.between.forEach((own, i) => {
      const points = new Set(own.flatMap((q) => [...soup.quads.subarray(q, q + 4)]));
      expect(points).toEqual(new Set([...tube.rings[i], ...tube.rings[i + 1]]));
    });
    for (const ring of tube.rings.slice(1, -1)) expect(ring.some((v) => rings[5].includes(v))).toBe(false);
  });

  it('stay to the bit where nothing is amiss', () => {
    const { soup } = thinTorus();
    const before = soup.points.slice();
    tubesLaid(soup, { surface: FORM, forms: FORMS });
    expect(soup.points).toEqual(before);
  });

  it('that are pinched come back onto the form, evenly round it, and nothing stays folded', () => {
    const { soup, rings } = thinTorus();
    const sound = soup.points.slice();
    const bad = rings.slice(6, 9);
    pinched(soup, bad, 1);
    expect(folded(soup)).toBeGreaterThan(2);
    tubesLaid(soup, { surface: FORM, forms: FORMS });
    expect(folded(soup)).toBe(0);
    const check = new QuadCheck(soup.points, soup.quads);
    for (let q = 0; q < soup.quads.length; q += 4) expect(check.least(q)).toBeGreaterThan(0.8);
    for (const ring of bad)
      for (const v of ring) {
        expect(FORM.closest(placeOf(soup, v)).distance).toBeLessThan(1e-4);
        expect(distance(placeOf(soup, v), [sound[3 * v], sound[3 * v + 1], sound[3 * v + 2]])).toBeLessThan(0.3);
      }
  });

  it('never leave more quads folded, whichever rings are pinched', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 8 }),
        fc.integer({ min: 0, max: RINGS - 10 }),
        fc.nat(3),
        (many, first, side) => {
          const { soup, rings } = thinTorus();
          pinched(soup, rings.slice(first + 1, first + 1 + many), side);
          const before = folded(soup);
          tubesLaid(soup, { surface: FORM, forms: FORMS });
          expect(folded(soup)).toBeLessThanOrEqual(before);
          if (many <= 4) expect(folded(soup)).toBe(0);
        },
      ),
      { numRuns: 40 },
    );
  });
});
