import { describe, expect, it } from 'vitest';
import { soupInfo } from '@half-loop/core/inspect';
import { triangleStarts } from '@half-loop/core/mesh';
import { cubeLoops, CUBE_EDGES } from './cubeLoops';
import { displace } from './displace';
import { latticeNoise } from './noise';
import { ball, blend, carve, ring } from './sdf';
import { surfaceNets } from './surfaceNets';

const info = ({ positions, indices }: ReturnType<typeof surfaceNets>): ReturnType<typeof soupInfo> =>
  soupInfo({
    positions: Float64Array.from(positions),
    faceStarts: triangleStarts(indices.length / 3),
    corners: indices,
  });
const box = { min: [-3, -3, -3] as const, max: [3, 3, 3] as const };

describe('surface nets', () => {
  it('give a closed ball whose points lie on it, wound outward', () => {
    const net = surfaceNets((x, y, z) => ball(x, y, z, 2), { ...box, cell: 0.2 });
    expect(info(net)).toMatchObject({
      components: 1,
      borderEdges: 0,
      nonManifoldEdges: 0,
      nonManifoldVertices: 0,
      genus: 0,
    });
    let volume = 0;
    const p = net.positions;
    for (let v = 0; v < p.length; v += 3) expect(Math.hypot(p[v], p[v + 1], p[v + 2])).toBeCloseTo(2, 3);
    for (let t = 0; t < net.indices.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => 3 * net.indices[t + k]);
      volume +=
        (p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) -
          p[a + 1] * (p[b] * p[c + 2] - p[b + 2] * p[c]) +
          p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c])) /
        6;
    }
    expect(volume).toBeCloseTo((4 / 3) * Math.PI * 8, 0);
  });
  it('keep the hole of a ring and only the largest piece', () => {
    expect(info(surfaceNets((x, y, z) => ring(x, y, z, 1.8, 0.6), { ...box, cell: 0.2 }))).toMatchObject({
      genus: 1,
      components: 1,
    });
    const two = surfaceNets((x, y, z) => Math.min(ball(x - 1.4, y, z, 1.2), ball(x + 1.8, y, z, 0.5)), {
      ...box,
      cell: 0.2,
    });
    expect(info(two)).toMatchObject({ components: 1 });
    expect(info(two).min[0]).toBeGreaterThan(0);
  });
  it('resolve every way a surface can cross a cube into closed loops', () => {
    for (let inside = 0; inside < 256; inside++) {
      const loops = cubeLoops(inside);
      CUBE_EDGES.forEach(([a, b], e) => expect(loops[e] >= 0).toBe(((inside >> a) & 1) !== ((inside >> b) & 1)));
      const sizes = new Map<number, number>();
      for (const l of loops) if (l >= 0) sizes.set(l, (sizes.get(l) ?? 0) + 1);
      for (const n of sizes.values()) expect(n).toBeGreaterThanOrEqual(3);
      expect(sizes.size).toBeLessThanOrEqual(4);
    }
    expect(new Set(cubeLoops(0b10000001).filter((l) => l >= 0)).size).toBe(2);
  });
});

describe('fields', () => {
  it('blend to less than either and carve to more', () => {
    for (const [a, b] of [
      [0.1, 0.2],
      [-0.3, 0.1],
      [0, 0],
    ]) {
      // prettier-ignore
      expect(blend(a, b, 0.5)).toBeLessThanOrEqual(Math.min(a, b));
      expect(carve(a, b, 0.5)).toBeGreaterThanOrEqual(Math.max(a, -b));
    }
    expect(blend(0, 9, 0.5)).toBe(0);
  });
  it('noise repeats with its seed, stays in its range and joins smoothly', () => {
    const [a, b, c] = [latticeNoise(3), latticeNoise(3), latticeNoise(4)];
    let differs = 0;
    for (let i = 0; i < 500; i++) {
      const [x, y, z] = [i * 0.37, i * 0.11 - 20, i * 0.05];
      expect(a(x, y, z)).toBe(b(x, y, z));
      expect(Math.abs(a(x, y, z))).toBeLessThanOrEqual(1);
      expect(Math.abs(a(x + 1e-4, y, z) - a(x, y, z))).toBeLessThan(1e-3);
      if (Math.abs(a(x, y, z) - c(x, y, z)) > 0.01) differs++;
    }
    expect(differs).toBeGreaterThan(400);
  });
  it('displacement moves points along their normals and leaves the triangles', () => {
    const net = surfaceNets((x, y, z) => ball(x, y, z, 2), { ...box, cell: 0.3 });
    const grown = displace(net, () => 0.25);
    expect(grown.indices).toBe(net.indices);
    for (let v = 0; v < grown.positions.length; v += 3)
      expect(Math.hypot(...grown.positions.subarray(v, v + 3))).toBeCloseTo(2.25, 1);
  });
});
