import { describe, expect, it } from 'vitest';
import { distance, dot, normalize, scale, seededRng, sub, type Vec3 } from '../math';
import { ballSoup, foldedSheet } from '../testing';
import { decodeSculpt, encodeSculpt } from './canonical';
import { SculptSurface, type SurfaceHit } from './SculptSurface';
import { sculptFromSoup } from './sculptFromSoup';
import { rayOnPlane, snapPoint, snapRay, type ViewPoint } from './snap';
import { measureSymmetry, measureTurns } from './symmetry';

const ball = SculptSurface.build(sculptFromSoup(ballSoup(40)));
const sheet = SculptSurface.build(sculptFromSoup(foldedSheet()));

/** First crossing of the segment from eye to p with any triangle, by Möller and Trumbore, no BVH: the judge. */
function firstCrossing({ positions: q, indices }: SculptSurface, eye: Vec3, p: Vec3): number {
  const d = sub(p, eye);
  let first = Infinity;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k): Vec3 => [
      q[3 * indices[t + k]],
      q[3 * indices[t + k] + 1],
      q[3 * indices[t + k] + 2],
    ]);
    const u = sub(b, a), v = sub(c, a); // prettier-ignore
    const h: Vec3 = [d[1] * v[2] - d[2] * v[1], d[2] * v[0] - d[0] * v[2], d[0] * v[1] - d[1] * v[0]];
    const det = dot(u, h);
    if (Math.abs(det) < 1e-14) continue;
    const s = sub(eye, a);
    const x = dot(s, h) / det;
    const g: Vec3 = [s[1] * u[2] - s[2] * u[1], s[2] * u[0] - s[0] * u[2], s[0] * u[1] - s[1] * u[0]];
    const y = dot(d, g) / det;
    const time = dot(v, g) / det;
    if (x >= 0 && y >= 0 && x + y <= 1 && time > 0) first = Math.min(first, time);
  }
  return first;
}

describe('snapping on a folded sheet', () => {
  it('gives 1,000 points of which none is hidden, faces away or lies off the surface', () => {
    const rng = seededRng(3);
    let snapped = 0;
    for (let i = 0; snapped < 1000 && i < 3000; i++) {
      const view: ViewPoint = { eye: [rng() * 24 - 12, rng() * 24 - 12, rng() * 24 - 12] };
      const aim: Vec3 = [rng() * 5 - 2.5, rng() * 10 - 5, rng() * 6 - 3];
      const hit: SurfaceHit | null =
        i % 2 === 0
          ? snapRay(sheet, view, sub(aim, view.eye), { reach: 0.15, through: false })
          : snapPoint(sheet, view, aim, { reach: 0.15, through: false });
      if (!hit) continue;
      snapped++;
      expect(sheet.closest(hit.point).distance).toBeLessThan(1e-5);
      expect(dot(hit.normal, normalize(sub(view.eye, hit.point)))).toBeGreaterThan(0);
      expect(firstCrossing(sheet, view.eye, hit.point) * distance(view.eye, hit.point)).toBeGreaterThan(
        distance(view.eye, hit.point) - 1e-3,
      );
    }
    expect(snapped).toBe(1000);
  });

  it('reaches facing layers behind when asked to see through', () => {
    const rng = seededRng(5);
    let hidden = 0;
    for (let i = 0; i < 200; i++) {
      const view: ViewPoint = { eye: [rng() * 24 - 12, rng() * 24 - 12, rng() * 24 - 12] };
      const hit = snapPoint(sheet, view, [rng() * 4 - 2, rng() * 8 - 4, rng() * 5 - 2.5], {
        reach: 0.05,
        through: true,
      });
      if (!hit) continue;
      expect(dot(hit.normal, sub(view.eye, hit.point))).toBeGreaterThan(0);
      if (firstCrossing(sheet, view.eye, hit.point) < 0.999) hidden++;
    }
    expect(hidden).toBeGreaterThan(10);
  });
});

describe('the sculpt as a surface', () => {
  it('measures signed distance: outside positive, inside negative', () => {
    for (const r of [0.5, 0.9, 1.2, 3]) expect(ball.signedDistance([0, 0, r])).toBeCloseTo(r - 1, 2);
    expect(ball.signedDistance([0.3, 0.2, -0.1])).toBeLessThan(-0.5);
  });
  it('survives transfer and the canonical bytes, and refuses damaged ones', () => {
    const data = structuredClone(ball.toData());
    expect(SculptSurface.fromData(data).closest([0, 0, 2]).distance).toBeCloseTo(1, 2);
    const bytes = encodeSculpt(ball);
    expect(decodeSculpt(bytes)).toEqual({ positions: ball.positions, indices: ball.indices });
    expect(() => decodeSculpt(bytes.slice(0, 100))).toThrow(/length/);
    const wrong = bytes.slice();
    wrong.fill(255, bytes.length - 4);
    expect(() => decodeSculpt(wrong)).toThrow(/not there/);
  });
  it('proposes the plane that a shape is symmetric across', () => {
    const soup = ballSoup(24);
    for (let i = 0; i < soup.positions.length; i += 3) {
      soup.positions[i] += 0.5;
      soup.positions[i + 1] *= 1 + 0.4 * soup.positions[i + 2];
      soup.positions[i + 1] += 0.3 * soup.positions[i + 1] ** 2;
      soup.positions[i + 2] += 0.3 * soup.positions[i + 2] ** 2;
    }
    const [best, second] = measureSymmetry(SculptSurface.build(sculptFromSoup(soup)), seededRng(1));
    expect(best.axis).toBe('x');
    expect(best.offset).toBeCloseTo(0.5, 2);
    expect(best.error).toBeLessThan(0.005);
    expect(second.error).toBeGreaterThan(3 * best.error);
    expect([best.sides, second.sides]).toEqual(['alike', 'unlike']);
  });
  it('tells that sides are alike but for a tip that one of them has', () => {
    // a thorn beside the plane: hardly any of the rms
    const soup = ballSoup(60);
    const thorn = normalize([0.6, 0.8, 0]);
    for (let i = 0; i < soup.positions.length; i += 3) {
      const p: Vec3 = [soup.positions[i], soup.positions[i + 1], soup.positions[i + 2]];
      const out = 1 + 20 * Math.max(0, dot(p, thorn) - 0.985);
      soup.positions.set(scale(p, out), i);
    }
    const planes = measureSymmetry(SculptSurface.build(sculptFromSoup(soup)), seededRng(1));
    const [x, z] = (['x', 'z'] as const).map((axis) => planes.find((plane) => plane.axis === axis));
    expect(z?.sides).toBe('alike');
    expect(x?.sides).toBe('nearly');
    expect(x?.error).toBeLessThan(0.01);
    expect(x?.farthest).toBeGreaterThan(0.02);
  });
  it('tells into how many sectors a form falls, and that it falls into none', () => {
    const flower = (petals: number, lean: number): SculptSurface => {
      const soup = ballSoup(30);
      for (let i = 0; i < soup.positions.length; i += 3) {
        const [x, y, z] = soup.positions.slice(i, i + 3);
        const r = 1 + 0.25 * Math.cos(petals * Math.atan2(z, x)) * Math.hypot(x, z);
        soup.positions.set([x * r + lean * y * y, 0.5 * y + 0.1 * y * y, z * r], i);
      }
      return SculptSurface.build(sculptFromSoup(soup));
    };
    for (const petals of [3, 5, 6])
      expect(measureTurns(flower(petals, 0), seededRng(1))).toMatchObject({ axis: 'y', count: petals });
    expect(measureTurns(flower(5, 0.3), seededRng(1))).toBeNull();
  });
  it('lays on a work plane only where the view meets it', () => {
    const plane = { point: [0, 0, 1] as Vec3, normal: [0, 0, 1] as Vec3 };
    expect(rayOnPlane({ eye: [0, 0, 5] }, [0, 0.5, -1], plane)).toEqual([0, 2, 1]);
    expect(rayOnPlane({ eye: [0, 0, 5] }, [0, 0.5, 1], plane)).toBeNull();
    expect(rayOnPlane({ eye: [0, 0, 5] }, [1, 0, 0], plane)).toBeNull();
  });
});
