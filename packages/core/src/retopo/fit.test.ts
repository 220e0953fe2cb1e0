import { expect, test } from 'vitest';
import { distance, type Vec3 } from '../math';
import { SculptSurface, sculptFromSoup } from '../surface';
import { ballSoup, quadsOnBall } from '../testing';
import { fitted, surfaceOfQuads } from './fit';
import { qualityOf } from './QuadCheck';

const TIP: Vec3 = [0, 1.2, 0];

/** A ball with one thorn. */
function thorny(): SculptSurface {
  const { positions, indices } = sculptFromSoup(ballSoup(60));
  for (let i = 0; i < positions.length; i += 3) {
    const by = 1 + 0.2 * Math.exp((positions[i + 1] - 1) / 0.015);
    for (let k = 0; k < 3; k++) positions[i + k] *= by;
  }
  return SculptSurface.build({ positions, indices });
}

test('quads are drawn out to a thorn, and of points far from it most stay to the last bit', () => {
  const form = thorny();
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

test('where nothing sticks out no point moves', () => {
  const { positions, indices } = sculptFromSoup(ballSoup(60));
  const soup = quadsOnBall(18);
  const before = soup.points.slice();
  const reached = fitted(soup, [], SculptSurface.build({ positions, indices }), Float64Array.from(positions), 0.15);
  expect(reached.size).toBe(0);
  const moved = before.reduce((most, x, i) => Math.max(most, Math.abs(x - soup.points[i])), 0);
  expect(moved).toBeLessThan(0.05);
});
