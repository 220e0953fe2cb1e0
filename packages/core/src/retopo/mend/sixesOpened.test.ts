import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sculptFromSoup, SculptSurface, WalkingForm } from '../../surface';
import { ballSoup, quadsOnBall } from '../../testing';
import type { Ground } from '../lines/ground';
import { cornerOf, edgesOff, eulerOf, QuadLinks } from '../quads/QuadLinks';
import { QuadCheck } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';
import { sixesOpened } from './sixesOpened';

const N = 8;
const surface = SculptSurface.build(sculptFromSoup(ballSoup(60)));
const ground = { curves: [], surface, forms: [new WalkingForm(surface)] } as unknown as Ground;
const none = (): boolean => false;

/** With a quad closed along a diagonal: where its corners have four edges each one has six then, and two have three. */
function withQuadClosed({ points, quads, onLine }: QuadSoup, q: number): QuadSoup {
  const [a, c] = [quads[4 * q], quads[4 * q + 2]];
  const left = quads.filter((_, h) => h >> 2 !== q).map((v) => (v === c ? a : v));
  const to = new Map([...new Set(left)].map((v, i) => [v, i]));
  const was = [...to.keys()];
  return {
    points: Float64Array.from(was.flatMap((v) => [...points.subarray(3 * v, 3 * v + 3)])),
    quads: left.map((v) => to.get(v) as number),
    onLine: Int32Array.from(was, (v) => onLine[v]),
  };
}

const mostEdges = (soup: QuadSoup): number => Math.max(...edgesOff(soup, new QuadLinks(soup)));
const irregular = (soup: QuadSoup): number => edgesOff(soup, new QuadLinks(soup)).filter((x) => x !== 0).length;

test('a star between two points of three edges is opened towards them, and all is as it was', () => {
  const whole = quadsOnBall(N);
  const q = 3 * N + 3;
  const star = withQuadClosed(whole, q);
  expect([mostEdges(star), irregular(star)]).toEqual([2, 8 + 3]);
  const made = sixesOpened(star, ground, none);
  expect(made.quads.length).toBe(whole.quads.length);
  expect([mostEdges(made), irregular(made)]).toEqual([0, 8]);
  const check = new QuadCheck(made.points, made.quads, ground.forms);
  for (let i = 0; i < made.quads.length; i += 4) expect(check.isFolded(i)).toBe(false);
});

test('what is opened has no more than five edges, a quad more each, and the same Euler number; what stays, stays', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(6 * N * N - 1), { minLength: 1, maxLength: 4 }), (some) => {
      let soup: QuadSoup = quadsOnBall(N);
      for (const q of some) {
        const own = soup.quads.subarray(4 * q, 4 * q + 4);
        const off = edgesOff(soup, new QuadLinks(soup));
        if (own.length === 4 && own.every((v) => off[v] === 0)) soup = withQuadClosed(soup, q);
      }
      const before = soup.points.slice();
      const stars = edgesOff(soup, new QuadLinks(soup)).filter((x) => x >= 2).length;
      expect(sixesOpened(soup, ground, () => true)).toBe(soup);
      expect(sixesOpened(soup, ground, none, 0)).toBe(soup);
      expect(sixesOpened(soup, ground, none, 1.5).quads.length - soup.quads.length).toBeLessThanOrEqual(4);
      const made = sixesOpened(soup, ground, none);
      expect(soup.points).toEqual(before);
      const left = edgesOff(made, new QuadLinks(made)).filter((x) => x >= 2).length;
      expect(made.quads.length - soup.quads.length).toBe(4 * (stars - left));
      expect(eulerOf(made)).toBe(2);
      const links = new QuadLinks(made);
      for (let h = 0; h < made.quads.length; h++) {
        expect(links.between(made.quads[h], cornerOf(made.quads, h, 1))).toBe(1);
        expect(links.isOpen(h)).toBe(false);
      }
    }),
    { numRuns: 40 },
  );
});
