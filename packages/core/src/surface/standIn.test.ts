import { describe, expect, it } from 'vitest';
import { ballSoup } from '../testing';
import { makeStandIn, sculptFromSoup, SculptSurface } from '.';

describe('a stand-in', () => {
  it('has fewer triangles, lies where the sculpt lies, and shades as it does', async () => {
    const full = sculptFromSoup(ballSoup(60, 4));
    for (let i = 0; i < full.positions.length; i += 3) {
      const bump = 1 + 0.03 * Math.sin(5 * full.positions[i]) * Math.sin(4 * full.positions[i + 1]);
      for (let k = 0; k < 3; k++) full.positions[i + k] *= bump;
    }
    const before = full.indices.slice();
    const drawn = await makeStandIn(full, 3000);
    expect(full.indices).toEqual(before);
    expect(drawn.indices.length).toBeLessThanOrEqual(9000);
    expect(drawn.indices.length).toBeGreaterThan(8000);
    expect(drawn.indices.every((v) => v < drawn.positions.length / 3)).toBe(true);
    const surface = SculptSurface.build(full);
    expect(drawn.bound).toBeLessThan(0.02 * surface.diagonal);
    for (let v = 0; v < drawn.positions.length; v += 3) {
      const point = [...drawn.positions.subarray(v, v + 3)] as [number, number, number];
      // its points are points of the sculpt, with the sculpt's own normals
      const hit = surface.closest(point);
      expect(hit.distance).toBeLessThan(1e-5);
      const n = drawn.normals.subarray(v, v + 3);
      expect(Math.hypot(...n)).toBeCloseTo(1, 5);
      expect(n[0] * point[0] + n[1] * point[1] + n[2] * point[2]).toBeGreaterThan(0);
    }
  });
});
