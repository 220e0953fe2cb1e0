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
      const map = new DepthMap(mesh, seenFrom(mesh), 400, 400);
      for (const v of mesh.vertices()) {
        const z = mesh.point(v)[2];
        if (z > 0.3) expect(map.isSeen(v)).toBe(true);
        if (z < -0.3 && Math.hypot(mesh.point(v)[0], mesh.point(v)[1]) < 0.9) expect(map.isSeen(v)).toBe(false);
      }
    }
  });
});
