import { describe, expect, it } from 'vitest';
import { sculptFromSoup, SculptSurface } from '../surface';
import { ballSoup, wildShape } from '../testing';
import { cleaned } from './form/clean';
import { closeHoles } from './form/holes';
import { partsOf } from './form/surgery';
import type { TriMesh } from './form/TriMesh';
import { topologyOf } from './quads/verify';
import { evenTriangles, reduce } from './working';

const alive = (mesh: TriMesh): number => Array.from({ length: mesh.triangles }, (_, t) => Number(mesh.isAlive(t))).reduce((a, b) => a + b, 0); // prettier-ignore

describe('the working mesh', () => {
  // marched shapes are full of needles and of edges shorter than a thousandth of the rest
  it.each([0, 3, 5, 10])('of wild shape %i is even, without fans of needles, and its topology is kept', (seed) => {
    const [mesh] = cleaned(wildShape(seed)).parts;
    const surface = SculptSurface.build({
      positions: Float32Array.from(mesh.points),
      indices: Uint32Array.from(mesh.from),
    });
    const topology = topologyOf(mesh);
    const length = 0.07;
    const none = new Uint8Array(mesh.vertices);
    reduce(mesh, none, 0.5 * length, null);
    evenTriangles(mesh, none, [], surface, new Float64Array(mesh.vertices).fill(length), null);
    expect(topologyOf(mesh)).toEqual(topology);
    const valences = Array.from({ length: mesh.vertices }, (_, v) => (mesh.out[v] < 0 ? 0 : mesh.ring(v).length));
    expect(Math.max(...valences)).toBeLessThanOrEqual(12);
    // even triangles of that edge would be so many
    const even = surface.area() / ((Math.sqrt(3) / 4) * length ** 2);
    expect(alive(mesh)).toBeLessThan(1.8 * even);
  });
});

describe('the working mesh of a lens', () => {
  /** The area of triangles seen from above. */
  const seen = ({ points: p, from, triangles }: TriMesh, isThere: (t: number) => boolean): number => {
    let sum = 0;
    for (let t = 0; t < triangles; t++) {
      if (!isThere(t)) continue;
      const [a, b, c] = [0, 1, 2].map((k) => 3 * from[3 * t + k]);
      sum += Math.abs((p[b] - p[a]) * (p[c + 2] - p[a + 2]) - (p[b + 2] - p[a + 2]) * (p[c] - p[a])) / 4;
    }
    return sum;
  };

  it.each([0.02, 0.05, 0.1])('of %f of its width in thickness reaches its rim all round', (thick) => {
    const { positions, indices } = sculptFromSoup(ballSoup(80));
    for (let i = 1; i < positions.length; i += 3) positions[i] *= thick;
    const surface = SculptSurface.build({ positions, indices });
    const [mesh] = cleaned({ positions, indices }).parts;
    const length = 0.1;
    const none = new Uint8Array(mesh.vertices);
    const before = seen(mesh, () => true);
    reduce(mesh, none, 0.5 * length, null);
    const reduced = seen(mesh, (t) => mesh.isAlive(t));
    evenTriangles(mesh, none, [], surface, new Float64Array(mesh.vertices).fill(length), null);
    const even = seen(mesh, (t) => mesh.isAlive(t));
    expect(reduced).toBeGreaterThan(0.99 * before);
    expect(even).toBeGreaterThan(0.98 * before);
  });
});

describe('holes', () => {
  /** A ball without the triangles round two of its points. */
  function holed(): TriMesh {
    const { positions, indices } = sculptFromSoup(ballSoup(24));
    const kept: number[] = [];
    for (let i = 0; i < indices.length; i += 3) {
      const own = [indices[i], indices[i + 1], indices[i + 2]];
      if (!own.includes(0) && !own.includes(300)) kept.push(...own);
    }
    return cleaned({ positions, indices: kept }).parts[0];
  }

  it('with short rims are closed, the topology says so', () => {
    const mesh = holed();
    expect(topologyOf(mesh)).toMatchObject({ euler: 0, borders: 2 });
    const { closed, corners } = closeHoles(mesh, new Uint8Array(mesh.vertices).fill(1), 10, () => false);
    expect(closed).toBe(2);
    expect(topologyOf(mesh)).toMatchObject({ euler: 2, borders: 0 });
    expect(corners.length).toBe(mesh.vertices);
    expect(partsOf(mesh).length).toBe(1);
  });

  it('stay where they are long, or kept by name', () => {
    const mesh = holed();
    expect(closeHoles(mesh, new Uint8Array(mesh.vertices), 1e-3, () => false).closed).toBe(0);
    expect(closeHoles(mesh, new Uint8Array(mesh.vertices), 10, () => true).closed).toBe(0);
    expect(topologyOf(mesh).borders).toBe(2);
  });
});
