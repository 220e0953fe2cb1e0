import { describe, expect, it } from 'vitest';
import { ballMesh, cubeMesh } from '../testing';
import type { PolyMesh } from '../mesh';
import { DepthMap } from '.';

/** Looks along −z from far away: pixels are x and y, ten to a unit. */
const seenFrom = (mesh: PolyMesh): Float32Array =>
  new Float32Array([...mesh.vertices()].flatMap((v) => {
    const [x, y, z] = mesh.point(v);
    return [200 + 100 * x, 200 + 100 * y, 50 - z];
  })); // prettier-ignore

describe('depth map', () => {
  it('sees the near side of a ball and of a cube, and nothing of the far one', () => {
    for (const mesh of [ballMesh(8), cubeMesh()]) {
      const map = new DepthMap(400, 400);
      const seen = seenFrom(mesh);
      map.addMesh(mesh, seen);
      const isSeen = (v: number): boolean => map.isSeen(seen[3 * v], seen[3 * v + 1], seen[3 * v + 2], 0.1);
      for (const v of mesh.vertices()) {
        const z = mesh.point(v)[2];
        if (z > 0.3) expect(isSeen(v)).toBe(true);
        if (z < -0.3 && Math.hypot(mesh.point(v)[0], mesh.point(v)[1]) < 0.9) expect(isSeen(v)).toBe(false);
      }
    }
  });

  it('hides what lies behind triangles that are added, by more than the slack', () => {
    const mesh = ballMesh(4);
    const seen = seenFrom(mesh);
    const map = new DepthMap(400, 400);
    map.addMesh(mesh, seen);
    // a curtain over the left half of the screen, one unit before the ball's nearest point
    map.addTriangles(Float32Array.of(0, 0, 48, 200, 0, 48, 200, 400, 48, 0, 400, 48), Uint32Array.of(0, 1, 2, 0, 2, 3));
    const front = [...mesh.vertices()].filter((v) => mesh.point(v)[2] > 0.5);
    for (const v of front) {
      const x = mesh.point(v)[0];
      if (Math.abs(x) < 0.05) continue;
      expect(map.isSeen(seen[3 * v], seen[3 * v + 1], seen[3 * v + 2], 0.1)).toBe(x > 0);
      expect(map.isSeen(seen[3 * v], seen[3 * v + 1], seen[3 * v + 2], 2)).toBe(true);
    }
    expect(front.length).toBeGreaterThan(8);
    expect(map.isSeen(-5, 10, 40, 0.1)).toBe(false);
  });
});
