import { expect, test } from 'vitest';
import { distance, dot, normalize, type Vec3 } from '../../math';
import { SculptSurface, sculptFromSoup } from '../../surface';
import { ballSoup, quadsOnBall } from '../../testing';
import type { Curve } from '../lines/lines';
import { compacted } from '../mend/mendQuads';
import { qualityOf } from '../quads/QuadCheck';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { fitted } from './fit';

const TIP: Vec3 = [0, 1.2, 0];
/** As far out, some quads away. */
const BESIDE: Vec3 = [1.2 * Math.sin(0.7), 1.2 * Math.cos(0.7), 0];

/** A ball with a thorn at a place, or several. */
function thorny(...tips: Vec3[]): SculptSurface {
  const { positions, indices } = sculptFromSoup(ballSoup(60));
  for (let i = 0; i < positions.length; i += 3) {
    const p: Vec3 = [positions[i], positions[i + 1], positions[i + 2]];
    const by = Math.max(...tips.map((tip) => 1 + 0.2 * Math.exp((dot(p, normalize(tip)) - 1) / 0.015)));
    for (let k = 0; k < 3; k++) positions[i + k] *= by;
  }
  return SculptSurface.build({ positions, indices });
}

test('quads are drawn out to a thorn, and of points far from it most stay to the last bit', () => {
  const form = thorny(TIP);
  const soup = quadsOnBall(18);
  const before = soup.points.slice();
  const size = Math.sqrt((4 * Math.PI) / (soup.quads.length / 4));
  const away = (): number => surfaceOfQuads(soup).closest(TIP).distance;
  expect(away()).toBeGreaterThan(0.15);
  const reached = fitted(soup, [], form, Float64Array.from(form.positions), size);
  expect(reached.size).toBeGreaterThan(0);
  expect(away()).toBeLessThan(0.04);
  const { folded, quality } = qualityOf(soup.points, soup.quads);
  expect(folded).toBe(0);
  expect(quality.least).toBeGreaterThan(0.3);
  let [far, still] = [0, 0];
  for (let v = 0; v < before.length / 3; v++) {
    const [was, is] = [before, soup.points].map((p): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    if (was[1] > -0.2) continue;
    // more than a dozen quads away: only corners that are not square yet are moved, by less than half an edge
    far++;
    if (distance(is, was) === 0) still++;
    expect(distance(is, was)).toBeLessThan(0.5 * size);
  }
  expect(still).toBeGreaterThan(0.5 * far);
});

test('what is a tip already stays one while others beside it are reached', () => {
  const soup = quadsOnBall(18);
  const size = Math.sqrt((4 * Math.PI) / (soup.quads.length / 4));
  const [one, both] = [thorny(TIP), thorny(TIP, BESIDE)];
  const tips = fitted(soup, [], one, Float64Array.from(one.positions), size);
  const places = [...tips].map((v) => [...soup.points.subarray(3 * v, 3 * v + 3)]);
  fitted(soup, [], both, Float64Array.from(both.positions), size, tips);
  expect([...tips].map((v) => [...soup.points.subarray(3 * v, 3 * v + 3)])).toEqual(places);
  const low = surfaceOfQuads(soup);
  for (const tip of [TIP, BESIDE]) expect(low.closest(tip).distance).toBeLessThan(0.05);
});

test('what sticks out by less than is asked for is not reached for', () => {
  const soup = quadsOnBall(18);
  const size = Math.sqrt((4 * Math.PI) / (soup.quads.length / 4));
  const form = thorny(TIP);
  const samples = Float64Array.from(form.positions);
  const sticksOut = (1.2 - 1) / size;
  expect(fitted(soup, [], form, samples, size, new Set(), 1.05 * sticksOut).size).toBe(0);
  expect(fitted(soup, [], form, samples, size, new Set(), 0.8 * sticksOut).size).toBeGreaterThan(0);
});

test('where nothing sticks out no point moves', () => {
  const { positions, indices } = sculptFromSoup(ballSoup(60));
  const soup = quadsOnBall(18);
  const before = soup.points.slice();
  const reached = fitted(soup, [], SculptSurface.build({ positions, indices }), Float64Array.from(positions), 0.15);
  expect(reached.size).toBe(0);
  const moved = before.reduce((most, x, i) => Math.max(most, Math.abs(x - soup.points[i])), 0);
  expect(moved).toBeLessThan(0.05);
});

/** Half of the quads on a ball, with the thorny ball's outline in the plane x = 0 as the line that their border lies on. */
function halfBall(isMirrored: boolean): { soup: QuadSoup; curves: Curve[] } {
  const { points, quads } = quadsOnBall(18);
  const middle = (q: number): number => quads.subarray(q, q + 4).reduce((sum, v) => sum + points[3 * v], 0);
  const own = [...quads].filter((_, h) => middle(h & ~3) > 0);
  const onLine = Int32Array.from({ length: points.length / 3 }, (_, v) => (Math.abs(points[3 * v]) < 1e-9 ? 0 : -1));
  const outline = Array.from({ length: 721 }, (_, i) => {
    const [y, z] = [Math.cos((2 * Math.PI * i) / 720), Math.sin((2 * Math.PI * i) / 720)];
    const by = 1 + 0.2 * Math.exp((y - 1) / 0.015);
    return [0, by * y, by * z];
  });
  const curves = [{ points: Float64Array.from(outline.flat()), isBorder: true, isDrawn: false, isMirrored }];
  return { soup: compacted(points, own, onLine), curves };
}

test('a thorn in the mirror plane is reached by a point of the plane, which stays in it', () => {
  const form = thorny(TIP);
  const samples = Float64Array.from(form.positions);
  for (const isMirrored of [true, false]) {
    const { soup, curves } = halfBall(isMirrored);
    const size = Math.sqrt((2 * Math.PI) / (soup.quads.length / 4));
    const reached = [...fitted(soup, curves, form, samples, size)];
    // a border that is no cut through the form has its own end
    expect(reached.some((v) => soup.onLine[v] === 0)).toBe(isMirrored);
    for (const [v, line] of soup.onLine.entries()) if (line === 0) expect(soup.points[3 * v]).toBe(0);
    if (isMirrored) expect(surfaceOfQuads(soup).closest(TIP).distance).toBeLessThan(0.05);
    expect(qualityOf(soup.points, soup.quads).folded).toBe(0);
  }
});

test('what sticks out beyond a gap is reached by the points of its own limb, not by those of another that are nearer', () => {
  const { positions, indices } = sculptFromSoup(ballSoup(60));
  const gap = 0.25;
  const n = positions.length;
  const above = (x: number, i: number): number => (i % 3 === 1 ? x + 2 + gap : x);
  const form = SculptSurface.build({
    positions: Float32Array.from([...positions, ...positions.map(above)]),
    indices: Uint32Array.from([...indices, ...indices.map((v) => v + n / 3)]),
  });
  const own = quadsOnBall(18);
  // the upper ball's quads end short of its lowest place
  const short = own.points.map((x, i) => above(i % 3 === 1 ? Math.max(x, -0.7) : x, i));
  const points = Float64Array.from([...own.points, ...short]);
  const quads = Int32Array.from([...own.quads, ...own.quads.map((v) => v + own.points.length / 3)]);
  const soup: QuadSoup = { points, quads, onLine: new Int32Array(points.length / 3).fill(-1) };
  const size = Math.sqrt((4 * Math.PI) / (own.quads.length / 4));
  const reached = fitted(soup, [], form, Float64Array.from(form.positions), size);
  expect(reached.size).toBeGreaterThan(0);
  for (const v of reached) expect(v).toBeGreaterThanOrEqual(own.points.length / 3);
  for (let v = 0; v < own.points.length; v += 3)
    expect(Math.hypot(...soup.points.subarray(v, v + 3))).toBeLessThan(1.01);
  expect(surfaceOfQuads(soup).closest([0, 1 + gap, 0]).distance).toBeLessThan(0.06);
});
