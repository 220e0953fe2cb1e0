import { describe, expect, it } from 'vitest';
import { makeUp, soupInfo } from '@half-loop/core/inspect';
import { checkInvariants, components, triangleStarts, type PolyMesh } from '@half-loop/core/mesh';
import { SculptSurface, type TriangleData } from '@half-loop/core/surface';
import { followRecipe } from '@half-loop/core/ops';
import { enclosedVolume } from '@half-loop/core/testing';
import { blenny, blennyGuides, blennyRings, crab, crabRings, kelp, kelpTube, mailCapsule, whelk } from '.';

const info = ({ positions, indices }: TriangleData): ReturnType<typeof soupInfo> =>
  soupInfo({
    positions: Float64Array.from(positions),
    faceStarts: triangleStarts(indices.length / 3),
    corners: indices,
  });

describe('the Blenny bust', () => {
  const sculpt = blenny(0.3);
  it('is one closed piece, the same on every run, and mirrors across x = 0', () => {
    expect(blenny(0.3).positions).toEqual(sculpt.positions);
    expect(info(sculpt)).toMatchObject({ components: 1, borderEdges: 0 });
    const { min, max } = info(sculpt);
    expect(min[0] + max[0]).toBeCloseTo(0, 1);
    expect(max[1] - min[1]).toBeGreaterThan(12);
  });
  it('has guides round the eye and the mouth that lie on it; the mouth’s ends on the midline', () => {
    const surface = SculptSurface.build(sculpt);
    const [eye, mouth] = blennyGuides(surface);
    for (const p of [...eye.points, ...mouth.points]) expect(surface.closest(p).distance).toBeLessThan(0.2);
    expect([eye.closed, mouth.closed]).toEqual([true, false]);
    expect([mouth.points[0][0], mouth.points[mouth.points.length - 1][0]]).toEqual([0, 0]);
  });
  it('has eye and mouth rings in quads that lie on it and meet the midline', () => {
    const surface = SculptSurface.build(sculpt);
    const mesh = blennyRings(surface);
    expect(checkInvariants(mesh)).toEqual([]);
    const counts = makeUp(mesh, { axis: 'x', offset: 0 });
    expect(counts).toMatchObject({ faces: 2 * (28 + 27), triangles: 0, ngons: 0 });
    for (const v of mesh.vertices()) expect(surface.closest(mesh.point(v)).distance).toBeLessThan(0.15);
    const middle = [...mesh.vertices()].filter((v) => mesh.point(v)[0] === 0);
    expect(middle).toHaveLength(8);
  });
});

describe('the Whelk horn', () => {
  it('is one closed piece without a handle, about as tall as a hand', () => {
    const sculpt = whelk(0.12);
    expect(info(sculpt)).toMatchObject({ components: 1, borderEdges: 0, nonManifoldEdges: 0, genus: 0 });
    const { min, max } = info(sculpt);
    expect(max[1] - min[1]).toBeGreaterThan(10);
  });
});

describe('the Crab pincer', () => {
  it('is one closed piece, complete in quads that lie on it, with a pole of five at each corner of the web', () => {
    const sculpt = crab(0.25);
    expect(info(sculpt)).toMatchObject({ components: 1, borderEdges: 0 });
    const surface = SculptSurface.build(sculpt);
    const mesh = crabRings(surface);
    expect(checkInvariants(mesh)).toEqual([]);
    const counts = makeUp(mesh, null);
    expect(counts).toMatchObject({ quads: counts.faces, openEdges: 0, poles: { three: 12, five: 4, sixPlus: 0 } });
    expect(counts.vertices - counts.edges + counts.faces).toBe(2);
    for (const v of mesh.vertices()) expect(surface.closest(mesh.point(v)).distance).toBeLessThan(0.01);
  });
});

describe('the Kelp tendril', () => {
  it('is one closed piece with a finished tube of quads round its stem', () => {
    const sculpt = kelp(0.45);
    expect(info(sculpt)).toMatchObject({ components: 1, borderEdges: 0 });
    const mesh = kelpTube(SculptSurface.build(sculpt));
    expect(checkInvariants(mesh)).toEqual([]);
    const counts = makeUp(mesh, null);
    expect(counts).toMatchObject({ triangles: 0, ngons: 0, openEdges: 0 });
    expect(counts.faces).toBeGreaterThan(300);
    expect(enclosedVolume(mesh)).toBeGreaterThan(50);
  });
});

describe('the Mail capsule', () => {
  it('is built by operators alone: closed, all quads, with its studs as parts of their own, creased where it is sharp', () => {
    const pieces = mailCapsule();
    const [mesh, studs] = pieces.map((p) => followRecipe(p, null, pieces).mesh);
    for (const made of [mesh, studs]) expect(checkInvariants(made)).toEqual([]);
    expect(makeUp(studs, null)).toMatchObject({ faces: 24 * 10, quads: 24 * 10, openEdges: 0 });
    expect(components(studs)).toHaveLength(24);
    // each stud of the rims stands half sunk into the wall, as its original does
    for (const v of studs.vertices()) expect(Math.hypot(studs.point(v)[0], studs.point(v)[2])).toBeLessThan(4.3);
    const counts = makeUp(mesh, null);
    expect(counts).toMatchObject({ quads: counts.faces, openEdges: 0, poles: { sixPlus: 0 } });
    expect(components(mesh)).toHaveLength(1);
    const creased = (made: PolyMesh): number[] =>
      [...made.edges()].filter((e) => (made.findChannel('edge', 'crease')?.get(e) ?? 0) > 0);
    expect(creased(mesh).length + creased(studs).length).toBeGreaterThan(100);
  });
});
