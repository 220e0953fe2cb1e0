import { describe, expect, it } from 'vitest';
import { add, distance, dot, placementOf, scale, seededRng, toPlaced, type Vec3 } from '@half-loop/core/math';
import { ViewCamera } from './ViewCamera';
import { VIEW_SIDES } from './ViewState';

function camera(): ViewCamera {
  const c = new ViewCamera();
  Object.assign(c, { width: 800, height: 600 });
  c.frame({ min: [-2, 0, -3], max: [2, 5, 3] });
  return c;
}

describe('the view', () => {
  it('projects what it shoots through a pixel back to that pixel', () => {
    const rng = seededRng(1);
    for (let i = 0; i < 200; i++) {
      const c = camera();
      c.orbit(rng() * 900 - 450, rng() * 400 - 200);
      const [x, y] = [rng() * 800, rng() * 600];
      const p = add(c.eye, scale(c.direction(x, y), 1 + rng() * 20));
      const seen = c.project(p);
      expect(seen.x).toBeCloseTo(x, 6);
      expect(seen.y).toBeCloseTo(y, 6);
    }
  });

  it('projects many points of file space as it projects each of them where it is placed', () => {
    const placement = placementOf('+z', '-y', { min: [0, 0, -2], max: [1, 1, 3] }, true);
    const c = camera();
    c.orbit(130, 40);
    const points: Vec3[] = [[1, 2, 3], [-2, 0.5, 1], [0, -1, 4]]; // prettier-ignore
    const { eye, directions } = c.frameIn(placement);
    const seen = c.projectAll(points.flat(), eye, directions);
    points.forEach((p, i) => {
      const { x, y, along } = c.project(toPlaced(p, placement));
      [x, y, along].forEach((value, k) => expect(seen[3 * i + k]).toBeCloseTo(value, 2));
    });
  });

  it('frames a box so that all its corners are seen', () => {
    const c = camera();
    for (const side of VIEW_SIDES) {
      c.look(side);
      expect(c.side).toBe(side);
      for (let k = 0; k < 8; k++) {
        const { x, y, along } = c.project([k & 1 ? 2 : -2, k & 2 ? 5 : 0, k & 4 ? 3 : -3]);
        expect(along).toBeGreaterThan(0);
        expect(x > 0 && x < 800 && y > 0 && y < 600).toBe(true);
      }
    }
  });

  it('goes to a part of the whole, and turns only where its outside is not seen', () => {
    const rng = seededRng(2);
    for (let i = 0; i < 200; i++) {
      const c = camera();
      c.orbit(rng() * 900 - 450, rng() * 400 - 200);
      const before = c.backward;
      const at: Vec3 = [rng() * 4 - 2, rng() * 5, rng() * 6 - 3];
      const outside: Vec3 = [rng() - 0.5, rng() - 0.5, rng() - 0.5];
      c.goTo({ min: at, max: at }, outside);
      expect(c.project(at).x).toBeCloseTo(400, 6);
      expect(c.project(at).y).toBeCloseTo(300, 6);
      const wasSeen = dot(outside, before) > 0.4 * Math.hypot(...outside);
      if (wasSeen) expect(c.backward).toEqual(before);
      expect(dot(outside, c.backward)).toBeGreaterThan(0.3 * Math.hypot(...outside));
    }
  });

  it('zooms with what lies under the pointer staying there, and never through its target', () => {
    const c = camera();
    const p: Vec3 = add(c.target, add(scale(c.right, 1.1), scale(c.up, -0.7)));
    const before = c.project(p);
    c.zoom(0.5, before.x, before.y);
    expect(c.project(p).x).toBeCloseTo(before.x, 6);
    expect(c.project(p).y).toBeCloseTo(before.y, 6);
    for (let i = 0; i < 60; i++) c.zoom(0.5, 400, 300);
    expect(c.distance).toBeGreaterThan(0);
    expect(c.near).toBeGreaterThan(0);
    expect(c.near).toBeLessThan(c.distance);
  });

  it('pans with the pointer: a point in the target’s plane follows it exactly', () => {
    const c = camera();
    const p = c.target;
    c.pan(37, -21);
    expect(c.project(p).x).toBeCloseTo(437, 6);
    expect(c.project(p).y).toBeCloseTo(279, 6);
  });

  it('turns without rolling, at one distance, and stops at the poles', () => {
    const c = camera();
    const d = c.distance;
    for (let i = 0; i < 50; i++) {
      c.orbit(13, 17);
      expect(distance(c.eye, c.target)).toBeCloseTo(d, 9);
      expect(c.right[1]).toBe(0);
      expect(dot(c.right, c.up)).toBeCloseTo(0, 9);
    }
    expect(c.up[1]).toBeGreaterThan(0);
    expect(c.side).toBe('top');
    c.orbit(0, -30);
    expect(c.side).toBeNull();
  });
});
