import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cross, distance, length, sub, type Vec3 } from '../math';
import { seededRng } from '../testing';
import { sideKey, TriangleMesh } from './TriangleMesh';
import { keepWithinBall } from './withinBall';
import type { KeptLine } from './isotropic';

/** A sheet of n × n cells of size 1, two triangles each. */
function sheet(n: number): TriangleMesh {
  const points: Vec3[] = [];
  for (let y = 0; y <= n; y++) for (let x = 0; x <= n; x++) points.push([x, y, 0]);
  const mesh = new TriangleMesh(points);
  for (let y = 0; y < n; y++)
    for (let x = 0; x < n; x++) {
      const a = y * (n + 1) + x;
      mesh.add(a, a + 1, a + n + 2, y * n + x);
      mesh.add(a, a + n + 2, a + n + 1, y * n + x);
    }
  return mesh;
}
const sidesOf = (mesh: TriangleMesh): Set<number> => {
  const keys = new Set<number>();
  for (const t of mesh.triangles()) {
    const own = mesh.triangle(t);
    own.forEach((u, k) => keys.add(sideKey(u, own[(k + 1) % 3])));
  }
  return keys;
};
const areaOf = (mesh: TriangleMesh): number =>
  [...mesh.triangles()].reduce((sum, t) => {
    const [a, b, c] = mesh.triangle(t).map((v) => mesh.points[v]);
    return sum + length(cross(sub(b, a), sub(c, a))) / 2;
  }, 0);
const points = (mesh: TriangleMesh): number[] => mesh.points.flatMap((_, v) => (mesh.around[v].length > 0 ? [v] : []));

describe('triangles that are changed one edge at a time', () => {
  it('stay a sheet of the same area, with their line, whatever is split, collapsed and turned', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const mesh = sheet(5);
        // a line straight across, and the rim, which is a line of its own
        for (let x = 0; x < 5; x++) mesh.setLine(12 + x, 13 + x, 0);
        const corners = [0, 5, 30, 35];
        for (let i = 0; i < 60; i++) {
          const edges = mesh.edges();
          const at = 2 * Math.floor((rng() * edges.length) / 2);
          const [u, v] = [edges[at], edges[at + 1]];
          const way = rng();
          if (way < 0.4) mesh.split(u, v);
          else if (way < 0.7) mesh.turn(u, v);
          else if (mesh.line(u, v) === undefined && !mesh.isRim(u) && mesh.lineNeighbours(u).length === 0)
            mesh.collapse(u, v, mesh.points[v], 4);
        }
        expect(areaOf(mesh)).toBeCloseTo(25, 9);
        const [own, sides, faces] = [points(mesh), sidesOf(mesh), [...mesh.triangles()].length];
        expect(own.length - sides.size + faces).toBe(1);
        expect(mesh.edges().length).toBe(2 * sides.size);
        for (const key of mesh.lines.keys()) expect(sides.has(key)).toBe(true);
        const along = [...mesh.lines.keys()].reduce((sum, key) => sum + mesh.far(Math.floor(key / 2 ** 26), key % 2 ** 26), 0); // prettier-ignore
        expect(along).toBeCloseTo(5, 9);
        expect(corners.every((v) => mesh.around[v].length > 0)).toBe(true);
        // each triangle is known to its points, and to no other
        for (const v of own) for (const t of mesh.around[v]) expect(mesh.triangle(t)).toContain(v);
        for (const t of mesh.triangles()) for (const v of mesh.triangle(t)) expect(mesh.around[v]).toContain(t);
      }),
      { numRuns: 60 },
    );
  });

  it('refuses to fold a triangle, and to join what lies apart', () => {
    const mesh = sheet(2);
    expect(mesh.wouldFold(4, [1.2, 1.1, 0])).toBe(false);
    expect(mesh.wouldFold(4, [2.5, 1, 0])).toBe(true);
    // across the sheet, from rim to rim, in one step: the two sides would meet in a point
    expect(mesh.collapse(1, 4, [1, 0, 0], 0.5)).toBe(false);
    expect(areaOf(mesh)).toBe(4);
  });
});

describe('a ball cut out of triangles', () => {
  it('leaves what is inside it, of the area that it has there, and its rim as a line, over seeded places', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const mesh = sheet(6);
        const radius = 0.2 + 1.6 * rng();
        const centre: Vec3 = [2 + 2 * rng(), 2 + 2 * rng(), 0];
        const lines: KeptLine[] = [];
        keepWithinBall(mesh, lines, centre, radius);
        const rim = points(mesh).filter((v) => mesh.isRim(v));
        expect(points(mesh).every((v) => distance(mesh.points[v], centre) < radius * 1.002)).toBe(true);
        expect(rim.every((v) => Math.abs(distance(mesh.points[v], centre) / radius - 1) < 0.002)).toBe(true);
        expect(lines).toHaveLength(1);
        expect(lines[0].closed).toBe(true);
        expect(lines[0].points).toHaveLength(rim.length);
        // the round less what its chords leave out
        const chords = lines[0].points.reduce((sum, p, i) => {
          const q = lines[0].points[(i + 1) % rim.length];
          return sum + length(cross(sub(p, centre), sub(q, centre))) / 2;
        }, 0);
        expect(areaOf(mesh)).toBeCloseTo(chords, 6);
        expect(areaOf(mesh) / (Math.PI * radius ** 2)).toBeGreaterThan(0.6);
      }),
      { numRuns: 60 },
    );
  });

  it('leaves all of what lies inside, and lines where they were', () => {
    const mesh = sheet(3);
    mesh.setLine(5, 6, 0);
    const lines: KeptLine[] = [{ points: [mesh.points[5], mesh.points[6]], closed: false }];
    keepWithinBall(mesh, lines, [1.5, 1.5, 0], 9);
    expect([[...mesh.triangles()].length, lines.length]).toEqual([18, 1]);
    keepWithinBall(mesh, lines, [1, 1, 0], 0.5);
    const along = [...mesh.lines].filter(([, line]) => line === 0).map(([key]) => [Math.floor(key / 2 ** 26), key % 2 ** 26]); // prettier-ignore
    const reach = along.flat().filter((v) => mesh.around[v].length > 0).map((v) => mesh.points[v][0]); // prettier-ignore
    expect(Math.min(...reach)).toBe(1);
    expect(Math.max(...reach)).toBeCloseTo(1.5, 9);
  });
});
