import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../../math';
import { sculptFromSoup, SculptSurface, WalkingForm } from '../../surface';
import { ballSoup } from '../../testing';
import { relaxedSafely } from '../fit/relax';
import type { Ground } from '../lines/ground';
import { foldedIn } from '../quads/QuadCheck';
import { edgesOff, QuadLinks } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { roundsOf } from '../quads/spirals';
import { fewerPoles } from './fewerPoles';
import { faultsOf } from './mendQuads';

const LONG = 4;
const BALL = SculptSurface.build(sculptFromSoup(ballSoup(60)));
/** Four times as long as it is wide. */
const LIMB = SculptSurface.build({ ...BALL, positions: BALL.positions.map((x, i) => (i % 3 === 0 ? LONG : 1) * x) });
const FORM = new WalkingForm(BALL);
const GROUND: Ground = { surface: BALL, curves: [], forms: [FORM, FORM], density: null };
const PLACES = Float64Array.from(BALL.positions);

/** A cube's quads on the ball: eight points with three edges, and no other irregular one. */
const cube = (n: number): QuadSoup => box(n, n, BALL);

/** Quads on the ball or the limb as on a box of n × n × m. */
function box(n: number, m: number, form: SculptSurface): QuadSoup {
  const sides = [m, n, n];
  const points: number[] = [];
  const quads: number[] = [];
  const at = new Map<string, number>();
  const point = (own: number[]): number => {
    const key = own.map((x) => x.toFixed(6)).join();
    let v = at.get(key);
    if (v === undefined)
      at.set(
        key,
        (v = points.push(...form.closest([own[0] * (form === LIMB ? LONG : 1), own[1], own[2]]).point) / 3 - 1),
      );
    return v;
  };
  for (let axis = 0; axis < 3; axis++)
    for (const side of [-1, 1])
      for (let i = 0; i < sides[(axis + 1) % 3]; i++)
        for (let j = 0; j < sides[(axis + 2) % 3]; j++) {
          const corner = (a: number, b: number): number => {
            const own = [0, 0, 0];
            own[axis] = side;
            own[(axis + 1) % 3] = (2 * a) / sides[(axis + 1) % 3] - 1;
            own[(axis + 2) % 3] = (2 * b) / sides[(axis + 2) % 3] - 1;
            return point(own);
          };
          const four = [corner(i, j), corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)];
          quads.push(...(side > 0 ? four : four.reverse()));
        }
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: new Int32Array(points.length / 3).fill(-1) }; // prettier-ignore
}

/** Turns an edge between two quads by one corner: four points become irregular. */
function withTurnedEdge(soup: QuadSoup, h: number, form = BALL): QuadSoup {
  const g = new QuadLinks(soup).twin(h);
  const quads = soup.quads.slice();
  const corner = (x: number, by: number): number => soup.quads[(x & ~3) + (((x & 3) + by) & 3)];
  // the six points round both, from the end of the edge on
  const round = [corner(h, 1), corner(h, 2), corner(h, 3), corner(h, 0), corner(g, 2), corner(g, 3)];
  quads.set([round[1], round[2], round[3], round[4]], h & ~3);
  quads.set([round[4], round[5], round[0], round[1]], g & ~3);
  const turned = { ...soup, points: soup.points.slice(), quads };
  relaxedSafely(turned, [], form, 6);
  return turned;
}

const irregular = (soup: QuadSoup): number => edgesOff(soup, new QuadLinks(soup)).filter((off) => off !== 0).length;
const euler = ({ onLine, quads }: QuadSoup): number => onLine.length - quads.length / 4;

describe('fewer poles', () => {
  const start = cube(8);

  it('leaves a cube its eight corners, and is what it was', () => {
    expect(irregular(start)).toBe(8);
    expect(fewerPoles(start, GROUND, PLACES, 0.25)).toBe(start);
  });

  it('takes away what turned edges bring, wherever they are, and keeps the surface whole', () => {
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: 1, max: 3 }), (seed, many) => {
        const rng = seededRng(seed);
        let soup = start;
        for (let i = 0; i < many; i++) soup = withTurnedEdge(soup, Math.floor(rng() * soup.quads.length));
        if (foldedIn(soup, [FORM]).length > 0 || faultsOf(soup, []).length > 0) return;
        const had = irregular(soup);
        const fewer = fewerPoles(soup, GROUND, PLACES, 0.25);
        expect(faultsOf(fewer, [])).toEqual([]);
        expect(foldedIn(fewer, [FORM])).toEqual([]);
        // as many points as quads, and two more: closed, and still a ball
        expect(euler(fewer)).toBe(2);
        expect(irregular(fewer)).toBeLessThanOrEqual(had);
        if (many === 1 && had > 8) expect(irregular(fewer)).toBeLessThan(had);
      }),
      { numRuns: 25 },
    );
  });

  it('makes no spirals of rings round a limb', () => {
    const forms: Ground['forms'] = [new WalkingForm(LIMB), new WalkingForm(LIMB)];
    const ground = { ...GROUND, surface: LIMB, forms };
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: 2, max: 6 }), (seed, many) => {
        const rng = seededRng(seed);
        let soup = box(2, 14, LIMB);
        for (let i = 0; i < many; i++) soup = withTurnedEdge(soup, Math.floor(rng() * soup.quads.length), LIMB);
        if (foldedIn(soup, forms).length > 0 || faultsOf(soup, []).length > 0) return;
        const fewer = fewerPoles(soup, ground, Float64Array.from(LIMB.positions), 0.6);
        expect(roundsOf(fewer).spiral).toBeLessThanOrEqual(roundsOf(soup).spiral);
      }),
      { numRuns: 60 },
    );
  });
});
