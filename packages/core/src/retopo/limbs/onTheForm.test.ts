import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compareSurfaces } from '../../inspect';
import { distance, normalize, seededRng, type Vec3 } from '../../math';
import { sculptFromSoup, SculptSurface, WalkingForm } from '../../surface';
import { ballSoup, quadsOnBall } from '../../testing';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { verified, type Verdict } from '../quads/verify';
import { onTheForm, type FormTask } from './onTheForm';

const BALL = sculptFromSoup(ballSoup(70));
const N = 10;
const SIZE = Math.sqrt((4 * Math.PI) / (6 * N * N));

/** A ball with a horn some way out of it, `high` and so wide; its tip. */
function horned(way: Vec3, high: number, wide: number): { task: FormTask; tip: Vec3 } {
  const out = (p: Vec3): number => 1 + high * Math.exp(-((distance(p, way) / wide) ** 2));
  const positions = new Float32Array(BALL.positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const p = normalize([BALL.positions[i], BALL.positions[i + 1], BALL.positions[i + 2]]);
    const by = out(p);
    positions.set([by * p[0], by * p[1], by * p[2]], i);
  }
  const samples = Float64Array.from(positions);
  const surface = SculptSurface.build({ positions, indices: BALL.indices.slice() });
  const form = new WalkingForm(surface);
  const ground = { surface, curves: [], forms: [form, form], density: null } as const;
  const topology = { euler: 2, borders: 0, parts: 1 };
  return { task: { ground, samples, size: SIZE, topology }, tip: way.map((x) => (1 + high) * x) as unknown as Vec3 };
}

/** Quads of a ball, put onto the nearest places of a form. */
function quadsOn({ surface }: FormTask['ground']): QuadSoup {
  const soup = quadsOnBall(N);
  for (let i = 0; i < soup.points.length; i += 3) {
    const [x, y, z] = soup.points.subarray(i, i + 3);
    soup.points.set(surface.closest([x, y, z]).point, i);
  }
  return soup;
}

const start = (soup: QuadSoup, { topology, ground }: FormTask): { soup: QuadSoup; verdict: Verdict; tips: Set<string> } => ({ soup, verdict: verified(soup, topology, ground.forms), tips: new Set() }); // prettier-ignore
const number = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const ways = fc.tuple(number(-1, 1), number(-1, 1), number(-1, 1)).filter((p) => Math.hypot(...p) > 0.3).map(normalize); // prettier-ignore

test('quads come out to a horn’s tip and nearer to the form, the same quads, sound, all points on it', () => {
  fc.assert(
    fc.property(ways, number(0.15, 0.4), number(0.15, 0.3), (way, high, wide) => {
      const { task, tip } = horned(way, high, wide);
      const { surface, forms } = task.ground;
      const first = start(quadsOn(task.ground), task);
      // at a corner of the box that the ball's quads come from, a sharp horn folds them before they begin
      fc.pre(first.verdict.reasons.length === 0);
      const { soup, verdict } = onTheForm(first, task);
      expect(soup.quads).toEqual(first.soup.quads);
      expect(verdict.reasons).toEqual([]);
      expect(verified(soup, task.topology, forms)).toEqual(verdict);
      for (let i = 0; i < soup.points.length; i += 3)
        expect(surface.closest([soup.points[i], soup.points[i + 1], soup.points[i + 2]]).distance).toBeLessThan(1e-6);
      const [now, then] = [soup, first.soup].map(surfaceOfQuads);
      const [near, was] = [now, then].map((low) => low.closest(tip).distance);
      expect(near).toBeLessThan(Math.max(0.25 * SIZE, 0.75 * was));
      const [after, before] = [now, then].map((low) => compareSurfaces(low, surface, seededRng(1), 4000).rms);
      expect(after).toBeLessThan(before);
    }),
    { numRuns: 12, endOnFailure: true },
  );
});

test('where nothing is to be gained nothing is made anew', () => {
  const { task } = horned([0, 0, 1], 0, 1);
  const first = start(quadsOn(task.ground), task);
  expect(onTheForm(first, task)).toBe(first);
});
