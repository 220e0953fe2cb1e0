import fc from 'fast-check';
import { expect, test } from 'vitest';
import { quadsOnBall } from '../../testing';
import { cornerOf, eulerOf, QuadLinks } from './QuadLinks';
import type { QuadSoup } from './QuadSoup';

const soupOf = (quads: readonly number[], count: number): QuadSoup => ({
  points: new Float64Array(3 * count),
  quads: Int32Array.from(quads),
  onLine: new Int32Array(count).fill(-1),
});

/** Quads over a few points in any state: edges with several faces, points twice in one, points with none. */
const wild = fc
  .integer({ min: 1, max: 12 })
  .chain((count) =>
    fc
      .array(fc.tuple(...[0, 1, 2, 3].map(() => fc.nat(count - 1))), { maxLength: 14 })
      .map((quads) => soupOf(quads.flat(), count)),
  );

test('who borders on whom is as a search through all of the quads finds it, in their order', () => {
  fc.assert(
    fc.property(wild, (soup) => {
      const { quads, onLine } = soup;
      const links = new QuadLinks(soup);
      const all = [...quads.keys()];
      const ends = (h: number): [number, number] => [quads[h], cornerOf(quads, h, 1)];
      const from = (u: number, v: number): number[] => all.filter((h) => ends(h)[0] === u && ends(h)[1] === v);
      for (const v of onLine.keys()) {
        const own = all.filter((h) => quads[h] === v).map((h) => h >> 2);
        expect([links.at(v), links.countAt(v)]).toEqual([own, own.length]);
      }
      for (const h of all) {
        const [u, v] = ends(h);
        const [there, back] = [from(u, v), from(v, u)];
        expect(links.sharing(h)).toEqual(there);
        expect([links.between(u, v), links.isCrowded(h)]).toEqual([there.length, there.length > 1]);
        expect([links.first(u, v), links.twin(h), links.isOpen(h)]).toEqual([
          there[0],
          back[0] ?? -1,
          back.length === 0,
        ]);
      }
      // an edge for each pair of points, two where four faces meet there
      const pairs = new Set(
        all.map((h) =>
          ends(h)
            .sort((a, b) => a - b)
            .join(),
        ),
      );
      const edges = [...pairs].reduce((sum, pair) => sum + Math.ceil(all.filter((h) => ends(h).sort((a, b) => a - b).join() === pair).length / 2), 0); // prettier-ignore
      expect(eulerOf(soup)).toBe(new Set(quads).size - edges + quads.length / 4);
    }),
  );
});

test('on a ball the quads at every point go round it; where some are taken away they do not, and two that touch are two fans', () => {
  const ball = quadsOnBall(3);
  expect(eulerOf(ball)).toBe(2);
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(53), { minLength: 0, maxLength: 53 }), (gone) => {
      const kept = [...Array(54).keys()].filter((q) => !gone.includes(q));
      const soup = soupOf(
        kept.flatMap((q) => [...ball.quads.subarray(4 * q, 4 * q + 4)]),
        ball.onLine.length,
      );
      const [whole, links] = [new QuadLinks(ball), new QuadLinks(soup)];
      for (const v of ball.onLine.keys()) {
        // corners of the quads at a point that are there, in a ring: a fan begins behind each that is not
        const ring = around(whole, ball.quads, v).map((q) => kept.includes(q));
        const starts = ring.filter((is, i) => is && !ring[(i + ring.length - 1) % ring.length]).length;
        const isClosed = ring.every((is) => is);
        expect(links.fansAt(v)).toEqual({ fans: isClosed ? 1 : starts, isClosed });
      }
    }),
  );
});

/** Quads at a point of a closed form, in the order in which they go round it. */
function around(links: QuadLinks, quads: Int32Array, v: number): number[] {
  const found: number[] = [];
  for (let q = links.at(v)[0]; !found.includes(q);) {
    found.push(q);
    const h = [0, 1, 2, 3].map((k) => 4 * q + k).find((at) => quads[at] === v) as number;
    q = links.twin(h) >> 2;
  }
  return found;
}
