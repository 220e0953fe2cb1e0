import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, meanPoint, seededRng, type Vec3 } from '../../math';
import { checkInvariants, EMPTY_SELECTION, PolyMesh } from '../../mesh';
import { OPERATORS, parseParams, runOperator, type Operator } from '..';
import { BARE_GROUND } from '../ground';
import { EvenPatches, type PlaceOnFace } from './EvenPatches';

const evenOut = OPERATORS.get('even-out') as Operator;
const asked = (params: object) => parseParams(evenOut, params) as Parameters<EvenPatches['at']>[1];
function shape(name: string, params: object): PolyMesh {
  const mesh = new PolyMesh();
  runOperator(mesh, OPERATORS.get(name) as Operator, EMPTY_SELECTION, params as never);
  return mesh;
}
const placeOn = (mesh: PolyMesh, face: number): PlaceOnFace => ({
  face,
  point: meanPoint(mesh.faceVertices(face).map((v) => mesh.point(v))),
});
const pointsOf = (mesh: PolyMesh): Vec3[] => [...mesh.vertices()].map((v) => mesh.point(v));
const meanSide = (mesh: PolyMesh): number => {
  const sides = [...mesh.edges()].map((e) => distance(mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))));
  return sides.reduce((a, b) => a + b) / sides.length;
};

describe('a patch of what Even out would make', () => {
  it('is sound, round its place, on the form, of the length asked for, over seeded places and lengths', () => {
    const box = shape('box', { width: 10, height: 10, depth: 10, columns: 20, floors: 20, rows: 20 });
    const patches = new EvenPatches(box, EMPTY_SELECTION, BARE_GROUND);
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const faces = [...box.faces()];
        const near = placeOn(box, faces[Math.floor(rng() * faces.length)]);
        const params = asked({ into: rng() < 0.5 ? 'quads' : 'triangles', length: 0.15 + 0.6 * rng() });
        const patch = patches.at(near, params) as PolyMesh;
        expect(checkInvariants(patch)).toEqual([]);
        expect(new Set([...patch.faces()].map((f) => patch.faceHalves(f).length))).toEqual(new Set([params.into === 'quads' ? 4 : 3])); // prettier-ignore
        expect(patch.faceCount).toBeLessThan(900);
        for (const p of pointsOf(patch)) expect(Math.max(...p.map((x, k) => Math.abs(x - (k === 1 ? 5 : 0))))).toBeCloseTo(5, 6); // prettier-ignore
        const reach = (params.length as number) * Math.sqrt(240 / Math.PI);
        expect(pointsOf(patch).every((p) => distance(p, near.point) <= reach * 1.01)).toBe(true);
        expect(meanSide(patch) / (params.length as number)).toBeGreaterThan(0.65);
        expect(meanSide(patch) / (params.length as number)).toBeLessThan(1.35);
      }),
      { numRuns: 25 },
    );
  });

  it('is all of a small part, keeps its corners, and tells about how many faces the whole has', () => {
    const box = shape('box', { width: 2, height: 2, depth: 2, columns: 3, floors: 3, rows: 3 });
    const patches = new EvenPatches(box, EMPTY_SELECTION, BARE_GROUND);
    const patch = patches.at(placeOn(box, 0), asked({ length: 0.5 })) as PolyMesh;
    expect(patch.vertexCount - patch.edgeCount + patch.faceCount).toBe(2);
    const isCorner = (p: Vec3): boolean => p.every((x, k) => Math.abs(Math.abs(x - (k === 1 ? 1 : 0)) - 1) < 1e-9);
    expect(pointsOf(patch).filter(isCorner)).toHaveLength(8);
    expect(patches.count(asked({ length: 0.5 }))).toBe(96);
    expect(patches.count(asked({ length: 0.5, into: 'triangles' }))).toBe(222);
    // a length that lies inside one face is cut out of it
    const fine = patches.at(placeOn(box, 0), asked({ length: 0.01 })) as PolyMesh;
    expect(fine.faceCount).toBeGreaterThan(150);
    expect(checkInvariants(fine)).toEqual([]);
  });

  it('is not there for a part that is not asked for', () => {
    const mesh = shape('box', {});
    runOperator(mesh, OPERATORS.get('cylinder') as Operator, EMPTY_SELECTION, { at: [9, 0, 0] } as never);
    const [first, last] = [[...mesh.faces()][0], [...mesh.faces()].at(-1) as number];
    const patches = new EvenPatches(mesh, { ...EMPTY_SELECTION, faces: [first] }, BARE_GROUND);
    expect(patches.at(placeOn(mesh, last), asked({ length: 0.1 }))).toBeNull();
    expect(patches.at(placeOn(mesh, first), asked({ length: 0.1 }))).not.toBeNull();
  });
});
