import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { soupFromMesh, type PolyMesh } from '../../mesh';
import { ballMesh, quadsOnHalfBall, torusMesh } from '../../testing';
import { mirrored } from '../quads/mirrored';
import { edgesOff, eulerOf, QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import {
  drawnOut,
  outlineOffPlane,
  outlineOf,
  polesOfDrawing,
  rectangle,
  rectanglesWith,
  sidesOf,
  type Outline,
  type Patch,
} from './patches';

function soupOf(mesh: PolyMesh): QuadSoup {
  const { positions, corners } = soupFromMesh(mesh);
  return { points: Float64Array.from(positions), quads: Int32Array.from(corners), onLine: new Int32Array(positions.length / 3).fill(-1) }; // prettier-ignore
}
const TORUS = soupOf(torusMesh(20, 8));
const BALL = soupOf(ballMesh(5));
const PLANE = { axis: 'x', offset: 0 } as const;

/** With all points of the plane on one line, number 0, which is there exactly. */
function inPlane({ points, quads, onLine }: QuadSoup): QuadSoup {
  const placed = points.map((x, i) => (i % 3 === 0 && onLine[i / 3] === 0 ? 0 : i % 3 === 0 && x === 0 ? 1 : x));
  return { points: placed, quads, onLine };
}

/** The half of a ball on one side of the plane, its border on line 0. */
const HALF = quadsOnHalfBall(6, 0);
const offLines = ({ points, quads, onLine }: QuadSoup): QuadSoup => ({ points, quads, onLine: onLine.map(() => -1) });

const offIn = (soup: QuadSoup): number =>
  edgesOff(soup, new QuadLinks(soup)).reduce((sum, off) => sum + Math.abs(off), 0);

/** A patch drawn out by some rings, its points anywhere: counts do not depend on places. */
function drawn(soup: QuadSoup, patch: Patch, rings: number, outline = closedOutline(soup, patch)): QuadSoup {
  const m = outline.points.length;
  return drawnOut(soup, patch, Array.from({ length: rings }, (_, i) => new Float64Array(3 * m).fill(i)), new Map(), outline); // prettier-ignore
}

const closedOutline = (soup: QuadSoup, patch: Patch): Outline => outlineOffPlane(new QuadLinks(soup), patch, () => false) as Outline; // prettier-ignore

describe('patches of quads', () => {
  it('on a torus are there in every place of a rectangle that a quad can have', () => {
    const links = new QuadLinks(TORUS);
    for (const [columns, rows] of [
      [1, 1],
      [2, 1],
      [3, 2],
      [2, 2],
    ] as const) {
      // prettier-ignore
      const patches = rectanglesWith(links, 17, columns, rows);
      expect(patches).toHaveLength(columns * rows * (columns === rows ? 1 : 2));
      for (const patch of patches) {
        expect(patch.halves.some((h) => h >> 2 === 17)).toBe(true);
        expect(new Set(patch.halves.map((h) => h >> 2)).size).toBe(columns * rows);
        // the outline goes from point to point, and closes
        const round = outlineOf(patch);
        expect(round).toHaveLength(2 * (columns + rows));
        round.forEach((h, i) => {
          const end = TORUS.quads[(h & ~3) + ((h + 1) & 3)];
          expect(TORUS.quads[round[(i + 1) % round.length]]).toBe(end);
        });
      }
    }
  });

  it('are none where they would meet themselves, or a pole stands inside', () => {
    expect(rectangle(new QuadLinks(TORUS), 0, 20, 8)).toBeNull();
    // round a corner of the ball three quads meet
    const links = new QuadLinks(BALL);
    const v = edgesOff(BALL, links).findIndex((off) => off === -1);
    const [q] = links.at(v);
    const patches = rectanglesWith(links, q, 2, 2);
    expect(patches).toHaveLength(3);
    // the middle of four quads is a corner of the last, the one that all share
    for (const { halves } of patches) expect(BALL.quads[halves[3]]).not.toBe(v);
  });

  it('drawn out leave the surface as closed as it was, with the poles that were told', () => {
    const shape = fc.constantFrom(TORUS, BALL);
    fc.assert(
      fc.property(
        shape,
        fc.nat(),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 1, max: 4 }),
        fc.nat(),
        (soup, at, columns, rows, rings, which) => {
          // prettier-ignore
          const links = new QuadLinks(soup);
          const patches = rectanglesWith(links, at % (soup.quads.length / 4), columns, rows);
          fc.pre(patches.length > 0);
          const patch = patches[which % patches.length];
          const next = drawn(soup, patch, rings);
          const m = 2 * (columns + rows);
          expect(next.quads.length / 4).toBe(soup.quads.length / 4 + m * rings);
          expect(next.onLine.length).toBe(soup.onLine.length + m * rings);
          expect(eulerOf(next)).toBe(eulerOf(soup));
          const after = new QuadLinks(next);
          for (let h = 0; h < next.quads.length; h++) {
            expect(after.isCrowded(h)).toBe(false);
            expect(after.isOpen(h)).toBe(false);
          }
          expect(offIn(next) - offIn(soup)).toBe(polesOfDrawing(links, patch, closedOutline(soup, patch)));
          // drawn out once more it is a cap, and costs none
          expect(polesOfDrawing(after, patch, closedOutline(next, patch))).toBe(0);
        },
      ),
    );
  });

  it('with a side in the mirror plane grow with their image, by the poles that were told', () => {
    const isInPlane = (v: number): boolean => HALF.onLine[v] === 0;
    const links = new QuadLinks(HALF);
    fc.assert(
      fc.property(
        fc.nat(),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 1, max: 3 }),
        fc.nat(),
        (at, columns, rows, rings, which) => {
          const patches = rectanglesWith(links, at % (HALF.quads.length / 4), columns, rows).flatMap((patch) => {
            const outline = outlineOffPlane(links, patch, isInPlane);
            return outline && !outline.closed ? [{ patch, outline }] : [];
          });
          fc.pre(patches.length > 0);
          const { patch, outline } = patches[which % patches.length];
          const sides = sidesOf(outline);
          // as many rows or columns have a side in the plane as it goes round less often
          expect([2 * columns + rows, 2 * rows + columns]).toContain(sides);
          expect([outline.points[0], outline.points[sides]].every(isInPlane)).toBe(true);
          expect(outline.points.slice(1, -1).some(isInPlane)).toBe(false);
          const next = inPlane(drawn(HALF, patch, rings, outline));
          expect(next.quads.length / 4).toBe(HALF.quads.length / 4 + sides * rings);
          const [before, after] = [HALF, next].map((half) => mirrored(half, PLANE));
          expect(eulerOf(after)).toBe(2);
          const joined = new QuadLinks(after);
          for (let h = 0; h < after.quads.length; h++) expect(joined.isOpen(h) || joined.isCrowded(h)).toBe(false);
          expect(offIn(offLines(after)) - offIn(offLines(before))).toBe(polesOfDrawing(links, patch, outline));
        },
      ),
    );
  });
});
