import { describe, expect, it } from 'vitest';
import type { Vec3 } from '@half-loop/core/math';
import { PLAIN_ROW, rowPlaces } from './rowShape';

/** A ring of points about (5, 0, 1) in a plane of even height, whose borders are drawn out upwards and outwards. */
const ring = Array.from({ length: 8 }, (_, i) => {
  const a = (i * Math.PI) / 4;
  const from: Vec3 = [5 + 2 * Math.cos(a), 2 * Math.sin(a), 1];
  return { from, outward: [Math.cos(a), Math.sin(a), 0] as Vec3 };
});
const near = (p: Vec3, q: Vec3): void => p.forEach((x, k) => expect(x).toBeCloseTo(q[k], 9));

describe('a row drawn out of a border', () => {
  it('lies a length out along its spokes', () => {
    rowPlaces(ring, 1, PLAIN_ROW, null).forEach((p, i) => near(p, [5 + 1.5 * (ring[i].from[0] - 5), 1.5 * ring[i].from[1], 1])); // prettier-ignore
  });
  it('points to the centre where its spokes would not, either way round', () => {
    const bent = ring.map(({ from, outward: [x, y] }) => ({ from, outward: [0.8 * x - 0.6 * y, 0.6 * x + 0.8 * y, 0] as Vec3 })); // prettier-ignore
    rowPlaces(bent, 1, { ...PLAIN_ROW, spokes: 'centre' }, null).forEach((p, i) => near(p, rowPlaces(ring, 1, PLAIN_ROW, null)[i])); // prettier-ignore
    const inward = ring.map(({ from, outward: [x, y] }) => ({ from, outward: [-x, -y, 0] as Vec3 }));
    rowPlaces(inward, 1, { ...PLAIN_ROW, spokes: 'centre' }, null).forEach((p, i) => near(p, [5 + 0.5 * (ring[i].from[0] - 5), 0.5 * ring[i].from[1], 1])); // prettier-ignore
  });
  it('is scaled and turned about the centre, across the border only', () => {
    const upward = ring.map(({ from }) => ({ from, outward: [0, 0, 1] as Vec3 }));
    const half = rowPlaces(upward, 3, { ...PLAIN_ROW, scale: 50, turn: 90 }, null);
    half.forEach((p, i) => near(p, [5 - 0.5 * ring[i].from[1], 0.5 * (ring[i].from[0] - 5), 4]));
  });
  it('has its centre on the plane, and no turn, where the border goes on in the mirrored half', () => {
    const own = ring.filter(({ from }) => from[1] >= -1e-9);
    const places = rowPlaces(own, 1, { spokes: 'centre', scale: 100, turn: 45 }, { axis: 'y', offset: 0 });
    // the centre of the half's points, brought onto the plane: all places on the stored side still
    for (const p of places) expect(p[1]).toBeGreaterThan(-1e-9);
  });
});
