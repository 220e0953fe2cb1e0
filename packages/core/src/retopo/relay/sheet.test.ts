import { describe, expect, it } from 'vitest';
import { TopologyError } from '../../errors';
import { distance, dot, planeDistance, seededRng, type MirrorPlane, type Vec3 } from '../../math';
import { borderLoops, checkInvariants, cornerQuality, faceNormal, meshFromSoup, type PolyMesh } from '../../mesh';
import { RegionGround, sculptFromSoup, SculptSurface } from '../../surface';
import { ballSoup } from '../../testing';
import { sheetOver, type Sheet } from './sheet';

const ball = SculptSurface.build(sculptFromSoup(ballSoup(70)));
const ground = new RegionGround(ball);
const asked = { edge: 0.15, evenness: 0.3, followForm: 1, plane: null, side: null };
const above = (height: number) => (v: number) => ground.at(v)[1] > height;

function meshOf({ soup }: Sheet): PolyMesh {
  const { mesh } = meshFromSoup(soup);
  checkInvariants(mesh);
  return mesh;
}
const pointsOf = (mesh: PolyMesh): Vec3[] => [...mesh.vertices()].map((v) => mesh.point(v));

/** Sheets are laid a dozen times over, which takes a slow machine more than a minute; milliseconds. */
const LONG = 240_000;

describe('a sheet from a region', () => {
  it.each([0.1, 0.2, 0.35])('has one border of even edges of %f, all quads, on the form', (edge) => {
    const sheet = sheetOver(ground, above(0.5), { ...asked, edge });
    const mesh = meshOf(sheet);
    expect(sheet.told).toEqual([]);
    expect([...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4)).toBe(true);
    const loops = borderLoops(mesh);
    expect(loops).toHaveLength(1);
    // one length all round, within a tenth of what was asked
    const mean = (2 * Math.PI * Math.sqrt(0.75)) / loops[0].halves.length;
    expect(Math.abs(mean / edge - 1)).toBeLessThan(0.1);
    expect(sheet.borderEdges[1] / sheet.borderEdges[0]).toBeLessThan(1.08);
    // a disc: V − E + F = 1
    expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(1);
    for (const p of pointsOf(mesh)) expect(ball.closest(p).distance).toBeLessThan(1e-5);
  });
  it('of a belt has two borders, and of two caps two parts', () => {
    const belt = meshOf(sheetOver(ground, (v) => Math.abs(ground.at(v)[1]) < 0.4, asked));
    expect(borderLoops(belt)).toHaveLength(2);
    expect(belt.vertexCount - belt.edgeCount + belt.faceCount).toBe(0);
    const caps = meshOf(sheetOver(ground, (v) => Math.abs(ground.at(v)[1]) > 0.75, asked));
    expect(borderLoops(caps)).toHaveLength(2);
    expect(caps.vertexCount - caps.edgeCount + caps.faceCount).toBe(2);
  });
  it('ends on the mirror plane, with points on it and corners where it meets the border', () => {
    const plane: MirrorPlane = { axis: 'x', offset: 0.05 };
    const sheet = sheetOver(ground, above(0.5), { ...asked, plane });
    const mesh = meshOf(sheet);
    const far = pointsOf(mesh).map((p) => planeDistance(p, plane));
    // the ball is not symmetric about this plane: more of it lies on one side
    expect(Math.max(...far)).toBe(0);
    expect(far.filter((d) => d === 0).length).toBeGreaterThan(8);
    const [rim] = borderLoops(mesh);
    const onPlane = rim.halves.map((h) => mesh.point(mesh.origin(h))).filter((p) => planeDistance(p, plane) === 0);
    expect(onPlane).toHaveLength(far.filter((d) => d === 0).length);
    const highest = (side: number): Vec3 => onPlane.reduce((a, b) => (side * b[2] > side * a[2] ? b : a));
    // both ends of the midline lie where the region's border meets the plane
    for (const side of [-1, 1]) expect(Math.abs(distance(highest(side), [0.05, 0.5, side * Math.sqrt(0.7475)]))).toBeLessThan(0.06); // prettier-ignore
  });
  it(
    'over seeded strokes is manifold, of quads that face outward, with one border a border of the region',
    () => {
      for (let seed = 1; seed <= 8; seed++) {
        const rng = seededRng(seed);
        const painted = new Set<number>();
        let [u, w] = [2 * Math.PI * rng(), 1.2 * rng() - 0.6];
        for (let dab = 0; dab < 7; dab++) {
          const r = Math.sqrt(1 - w * w);
          const on = ball.closest([r * Math.cos(u), w, r * Math.sin(u)]);
          const eye = on.point.map((x) => 9 * x) as unknown as Vec3;
          for (const v of ground.brushed(on.triangle, on.point, 0.28, eye)) painted.add(v);
          u += 0.35 * (rng() - 0.3);
          w = Math.max(-0.85, Math.min(0.85, w + 0.4 * (rng() - 0.5)));
        }
        const edge = 0.1 + 0.06 * rng();
        const sheet = sheetOver(ground, (v) => painted.has(v), { ...asked, edge });
        const mesh = meshOf(sheet);
        // no two edges of the border far apart, and all about as long as asked: a count must be even
        expect(sheet.borderEdges[1] / sheet.borderEdges[0]).toBeLessThan(1.1);
        for (const length of sheet.borderEdges) expect(Math.abs(length / edge - 1)).toBeLessThan(0.13);
        expect([...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4)).toBe(true);
        expect(borderLoops(mesh)).toHaveLength(1);
        expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(1);
        for (const f of mesh.faces()) expect(dot(faceNormal(mesh, f), mesh.point(mesh.faceVertices(f)[0]))).toBeGreaterThan(0); // prettier-ignore
      }
    },
    LONG,
  );
  it(
    'over folds of the form has a border of even edges still, and sound quads',
    () => {
      // deeper than an edge is long, and hardly wider: the border runs up and down over them
      const { positions, ...rest } = sculptFromSoup(ballSoup(70));
      for (let i = 0; i < positions.length; i += 3) {
        const times = 1 + 0.3 * Math.sin(7 * Math.atan2(positions[i + 2], positions[i]) + 2 * positions[i + 1]);
        for (let k = 0; k < 3; k++) positions[i + k] *= times;
      }
      const folds = SculptSurface.build({ positions, ...rest });
      const own = new RegionGround(folds);
      for (const width of [0.3, 0.45]) {
        const isIn = (v: number): boolean => Math.abs(own.at(v)[1]) < width && own.at(v)[0] > 0.1;
        const sheet = sheetOver(own, isIn, { ...asked, edge: 0.24 });
        const mesh = meshOf(sheet);
        expect(sheet.borderEdges[1] / sheet.borderEdges[0]).toBeLessThan(1.2);
        for (const length of sheet.borderEdges) expect(Math.abs(length / 0.24 - 1)).toBeLessThan(0.13);
        expect(sheet.told).toEqual([]);
        expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(1);
        const corners = [...mesh.faces()].map((f) => cornerQuality(mesh.faceVertices(f).map((v) => mesh.point(v))));
        expect(Math.min(...corners)).toBeGreaterThan(0.2);
      }
    },
    LONG,
  );
  it('is refused in words where nothing is painted, or where it is too narrow', () => {
    expect(() => sheetOver(ground, () => false, asked)).toThrow(TopologyError);
    expect(() => sheetOver(ground, () => false, asked)).toThrow(/Nothing is painted/);
  });
});
