import { expect, test } from 'vitest';
import { distance, dot, nearestOnLine, normalize, sub, type Vec3 } from '../math';
import { sculptFromSoup } from '../surface';
import { ballSoup, CUBE_SOUP } from '../testing';
import { FlowForm } from '.';

const BALL = sculptFromSoup(ballSoup(50, 1));
const form = new FlowForm(BALL, { plane: null, keepEdges: null, loops: null, smoothing: 0 });
const PLAIN = { faces: 400, evenness: 0, followForm: 1, lines: [], followsLoops: false, densities: [] };

test('a ball shows eight poles of three, and loops that lie on it', () => {
  const { poles, loops } = form.flow(PLAIN);
  expect(poles.map((pole) => pole.valence)).toEqual(Array<number>(8).fill(3));
  // both ways of crosses are covered: lines two quads apart
  const length = loops.reduce((sum, loop) => sum + loop.slice(1).reduce((s, p, i) => s + distance(p, loop[i]), 0), 0);
  const apart = 2 * Math.sqrt((4 * Math.PI) / 400);
  expect((length * apart) / (2 * 4 * Math.PI)).toBeGreaterThan(0.6);
  expect((length * apart) / (2 * 4 * Math.PI)).toBeLessThan(1.3);
  for (const loop of loops) for (const p of loop) expect(Math.abs(Math.hypot(...p) - 1)).toBeLessThan(0.03);
  // they run about as far apart as is asked for: more quads, more loops
  expect(form.flow({ ...PLAIN, faces: 1600 }).loops.length).toBeGreaterThan(1.5 * loops.length);
});

test('loops near a guide run along it or across it', () => {
  const ring = Array.from({ length: 60 }, (_, i): Vec3 => {
    const a = (2 * Math.PI * i) / 60;
    const [c, s] = [0.87 * Math.cos(a), 0.87 * Math.sin(a)];
    return [0.5 * 0.6 - 0.8 * c, s, 0.5 * 0.8 + 0.6 * c];
  });
  const askew = (lines: { points: Vec3[]; closed: boolean }[]): number => {
    let [off, n] = [0, 0];
    for (const loop of form.flow({ ...PLAIN, lines }).loops)
      for (let i = 1; i < loop.length; i++) {
        const { point } = nearestOnLine(loop[i], ring, true);
        if (distance(point, loop[i]) > 0.08) continue;
        const k = ring.reduce((best, p, j) => (distance(p, point) < distance(ring[best], point) ? j : best), 0);
        const along = normalize(sub(ring[(k + 1) % 60], ring[(k + 59) % 60]));
        const cosine = Math.min(1, Math.abs(dot(normalize(sub(loop[i], loop[i - 1])), along)));
        const angle = Math.acos(cosine);
        off += Math.min(angle, Math.PI / 2 - angle);
        n++;
      }
    return off / n;
  };
  const [without, guided] = [askew([]), askew([{ points: ring, closed: true }])];
  expect(without).toBeGreaterThan(0.2);
  expect(guided).toBeLessThan(0.12);
});

test('with a plane one half is shown', () => {
  const half = new FlowForm(BALL, { plane: { axis: 'x', offset: 0 }, keepEdges: null, loops: null, smoothing: 0 }).flow(
    PLAIN,
  );
  expect(half.poles.length).toBe(4);
  expect(half.loops.flat().every((p) => p[0] > -1e-6)).toBe(true);
});

test('painted density brings poles to where quads grow', () => {
  const strokes = [{ points: [[0, 1, 0] as Vec3], radius: 0.6, times: 9 }];
  const { poles } = form.flow({ ...PLAIN, faces: 1600, densities: strokes });
  expect(poles.reduce((sum, { valence }) => sum + 4 - valence, 0)).toBe(8);
  // poles of five where quads grow from the patch outwards, all of them there: the even ball has none
  const fives = poles.filter(({ valence }) => valence === 5);
  expect(fives.length).toBeGreaterThan(1);
  for (const { at } of fives) expect(distance(at, [0, 1, 0])).toBeLessThan(0.8);
});

const along = (lines: readonly (readonly Vec3[])[]): number =>
  lines.reduce((sum, line) => sum + line.slice(1).reduce((s, p, i) => s + distance(p, line[i]), 0), 0);

test.each([null, 40, 100])(
  'sharp edges are told, whether they are kept or not: a cube has twelve (kept over: %s)',
  (keepEdges) => {
    const cube = new FlowForm(sculptFromSoup(CUBE_SOUP), { plane: null, keepEdges, loops: null, smoothing: 0 });
    const { sharp } = cube.flow(PLAIN);
    // two long each; none where only sharper ones are asked for
    expect(sharp.length).toBe(keepEdges === 100 ? 0 : 12);
    expect(along(sharp)).toBeCloseTo(keepEdges === 100 ? 0 : 24, 6);
  },
);

test('a round form has neither sharp edges nor ridges', () => {
  const { sharp, ridges } = form.flow(PLAIN);
  expect([sharp, ridges]).toEqual([[], []]);
});
