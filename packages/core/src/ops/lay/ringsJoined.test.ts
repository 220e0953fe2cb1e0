import { describe, expect, it } from 'vitest';
import { seededRng } from '../../math';
import { borderLoops, checkInvariants, cornerQuality, PolyMesh } from '../../mesh';
import type { Ground } from '..';
import { ball, cylinder, facesOut, groundOn, isQuads, run } from './fixtures';

describe('rings of other counts', () => {
  it('are joined by a band of quads alone where counts differ by an even number, and told where they cannot', () => {
    for (const [first, next] of [
      [12, 8],
      [8, 12],
      [16, 10],
      [6, 12],
    ]) {
      // prettier-ignore
      const mesh = new PolyMesh();
      const ground = groundOn(cylinder);
      run(mesh, 'lay-ring', { count: first, repeat: 2, step: 0.6, at: [1, 2, 0], normal: [0, 1, 0] }, {}, ground);
      const { report } = run(mesh, 'lay-ring', { count: next, repeat: 2, step: 0.6, at: [1, 3.6, 0], normal: [0, 1, 0] }, {}, ground); // prettier-ignore
      expect(report.sentence).toContain(`joined to the ring of ${first} before by a band with poles`);
      expect(checkInvariants(mesh)).toEqual([]);
      expect(isQuads(mesh)).toBe(true);
      expect(facesOut(mesh, (p) => [0, p[1], 0])).toBe(true);
      expect(mesh.vertexCount - mesh.edgeCount + mesh.faceCount).toBe(0);
      expect(borderLoops(mesh).map(({ halves }) => halves.length).sort((a, b) => a - b)).toEqual([first, next].sort((a, b) => a - b)); // prettier-ignore
      for (const v of mesh.vertices()) expect(Math.hypot(mesh.point(v)[0], mesh.point(v)[2])).toBeCloseTo(1, 1);
      for (const f of mesh.faces())
        expect(cornerQuality(mesh.faceVertices(f).map((v) => mesh.point(v)))).toBeGreaterThan(0.2);
    }
    const mesh = new PolyMesh();
    run(mesh, 'lay-ring', { count: 9, at: [1, 2, 0], normal: [0, 1, 0] }, {}, groundOn(cylinder));
    const { report } = run(mesh, 'lay-ring', { count: 8, at: [1, 3, 0], normal: [0, 1, 0] }, {}, groundOn(cylinder));
    expect(report.sentence).toBe('1 ring of 8 laid, not joined to the ring of 9 before: their counts are odd together');
    // a small opening beside the limb is none of its rings
    const beside = new PolyMesh();
    run(beside, 'ring-opening', { spokes: 6, rings: 1, radius: 0.2, at: [1, 2, 0], facing: [1, 0, 0] }, {}, groundOn(cylinder)); // prettier-ignore
    expect(run(beside, 'lay-ring', { count: 8, at: [1, 3, 0], normal: [0, 1, 0] }, {}, groundOn(cylinder)).report.sentence).toBe('1 ring of 8 laid'); // prettier-ignore
  });
});

describe('laying one of several sectors', () => {
  const sectors = { axis: 'y', about: [0, 0, 0], count: 6 } as const;
  const ground = (): Ground => ({ ...groundOn(ball), sectors: { sectors, within: 0.05 } });
  const joined = (mesh: PolyMesh): ReturnType<typeof run> => run(mesh, 'join-sectors', { count: 6, axis: 'y', within: 1e-6 }); // prettier-ignore

  it('lays of rings round the axis the part of one sector, each end the image of the other, and goes on from it', () => {
    const mesh = new PolyMesh();
    // drawn askew: the ring is square to the axis for all that
    const { report } = run(mesh, 'lay-ring', { count: 24, at: [0.3, -1, 1.9], normal: [0.1, 1, 0.05] }, {}, ground());
    expect(report.sentence).toBe('1 ring of 24 laid, one sector of 6');
    const more = run(mesh, 'lay-ring', { count: 24, repeat: 3, step: 0.4, at: [1.2, -0.6, 1.3], normal: [0, 1, 0] }, {}, ground()); // prettier-ignore
    expect(more.report.sentence).toBe('3 rings of 24 laid, one sector of 6, 12 quads, joined to the ring before');
    // below the first one too, the other way along the axis
    run(mesh, 'lay-ring', { count: 24, at: [1.2, -1.4, 1.3], normal: [0, 1, 0] }, {}, ground());
    expect(mesh.faceCount).toBe(16);
    expect(isQuads(mesh)).toBe(true);
    expect(facesOut(mesh, () => [0, 0, 0])).toBe(true);
    const { report: whole } = joined(mesh);
    expect([whole.counts.pairs, whole.counts.open, whole.counts.moved]).toEqual([5, 0, 0]);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(borderLoops(mesh).map(({ halves }) => halves.length)).toEqual([24, 24]);
  });

  it('brings the ends of a row from seam to seam onto each other, wherever it is drawn', () => {
    const rng = seededRng(4);
    for (let i = 0; i < 12; i++) {
      const mesh = new PolyMesh();
      const from = rng() * 6;
      const stroke = Array.from({ length: 30 }, (_, k): [number, number, number] => {
        // a sixth of the way round, more or less
        const a = from + (Math.PI / 3) * (k / 29) * (0.97 + 0.06 * (i / 11));
        return [1.9 * Math.cos(a), 0.2, 1.9 * Math.sin(a)];
      });
      const { report } = run(mesh, 'lay-row', { across: 2, along: 5, width: 0.8, stroke }, {}, ground());
      expect(report.sentence).toMatch(/, \d+ points? on the seam$/);
      const { report: whole } = joined(mesh);
      expect([whole.counts.pairs, whole.counts.open, whole.counts.moved]).toEqual([3, 0, 0]);
      expect(borderLoops(mesh).map(({ halves }) => halves.length)).toEqual([30, 30]);
    }
  });
});
