import fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRng, type Vec3 } from '../../math';
import { sculptFromSoup } from '../../surface';
import { ballSoup } from '../../testing';
import { bendsOf } from './bends';
import { TriMesh } from './TriMesh';

/** A sheet of squares in halves, n by n over a unit, put somewhere. */
function sheet(n: number, place: (u: number, v: number) => Vec3): TriMesh {
  const points: number[] = [];
  for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) points.push(...place(i / n, j / n));
  const corners: number[] = [];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [a, b] = [j * (n + 1) + i, (j + 1) * (n + 1) + i];
      corners.push(a, a + 1, b + 1, a, b + 1, b);
    }
  return new TriMesh(Float64Array.from(points), corners);
}
/** The bend in the middle of a sheet. */
const middle = (mesh: TriMesh, n: number, reach: number): number => bendsOf(mesh, reach)[(n / 2) * (n + 1) + n / 2];

test('a ball bends both ways as its radius says, all over', () => {
  const { positions, indices } = sculptFromSoup(ballSoup(60));
  for (const radius of [1, 5]) {
    const bends = bendsOf(
      new TriMesh(
        Float64Array.from(positions, (x) => radius * x),
        indices,
      ),
      0.1 * radius,
    );
    for (const bend of bends) expect(Math.abs(bend * radius - Math.SQRT2)).toBeLessThan(0.05);
  }
});

test('a sheet that is rolled up bends one way, whichever; a flat one does not; a saddle as much as a ball', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.5, max: 3, noNaN: true }), fc.boolean(), (radius, isAcross) => {
      const rolled = sheet(20, (a, b) => {
        const [u, v] = isAcross ? [b, a] : [a, b];
        return [radius * Math.cos(u / radius), radius * Math.sin(u / radius), v];
      });
      expect(Math.abs(middle(rolled, 20, 0.1) * radius - 1)).toBeLessThan(0.05);
    }),
    { numRuns: 20 },
  );
  expect(middle(sheet(20, (u, v) => [u, v, 2 * u - v]), 20, 0.1)).toBeLessThan(1e-9); // prettier-ignore
  // z = xy / r: both curvatures are 1 / r in its middle, of opposite signs
  const saddle = sheet(20, (u, v) => [u - 0.5, v - 0.5, ((u - 0.5) * (v - 0.5)) / 2]);
  expect(Math.abs(middle(saddle, 20, 0.1) * 2 - Math.SQRT2)).toBeLessThan(0.05);
});

test('noise on a flat sheet is little of a bend over several edges', () => {
  const rng = seededRng(3);
  const rough = sheet(40, (u, v) => [u, v, 0.004 * (rng() - 0.5)]);
  const [near, wide] = [0.025, 0.15].map((reach) => middle(rough, 40, reach));
  expect(wide).toBeLessThan(near / 4);
});

test('the angle over an edge that is on a line is no bend', () => {
  const folded = (): TriMesh => sheet(20, (u, v) => [u, v, Math.max(0, u - 0.5)]);
  expect(middle(folded(), 20, 0.1)).toBeGreaterThan(2);
  const kept = folded();
  const isOnFold = (v: number): boolean => Math.abs(kept.points[3 * v] - 0.5) < 1e-9;
  kept.from.forEach((v, h) => isOnFold(v) && isOnFold(kept.to(h)) && kept.setLine(h, 0));
  expect(middle(kept, 20, 0.1)).toBeLessThan(1e-9);
});

test('a lone triangle does not bend; a form much smaller than the reach ends, and bends alike all over', () => {
  const lone = new TriMesh(Float64Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]), [0, 1, 2]);
  expect([...bendsOf(lone, 0.5)]).toEqual([0, 0, 0]);
  const { positions, indices } = sculptFromSoup(ballSoup(12));
  const bends = bendsOf(new TriMesh(Float64Array.from(positions), indices), 1e6);
  expect(Math.max(...bends) / Math.min(...bends)).toBeLessThan(1.2);
});
