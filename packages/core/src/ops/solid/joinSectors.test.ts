import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, seededRng, type Vec3 } from '../../math';
import { addFace, addVertex, borderLoops, checkInvariants, components, EMPTY_SELECTION, encodeMesh, PolyMesh } from '../../mesh'; // prettier-ignore
import { joinSectors, keepSector, ontoSeam, runOperator, seamOf, turnedOn, type Sectors } from '..';

/** A sector of a flat disc round y: rows from the inner radius out, columns over the angle; the inner radius 0 gives a hub of triangles. */
function sector(count: number, rows: number, columns: number, inner: number, off: () => number): PolyMesh {
  const mesh = new PolyMesh();
  const at = (r: number, c: number): Vec3 => {
    const a = (2 * Math.PI * c) / columns / count;
    const radius = inner + r;
    return [radius * Math.cos(a) + off(), 0.1 * radius + off(), -radius * Math.sin(a) + off()];
  };
  const hub = inner === 0 ? addVertex(mesh, [off(), 0, off()]) : -1;
  const first = inner === 0 ? 1 : 0;
  const ids = Array.from({ length: rows + 1 }, (_, r) => Array.from({ length: columns + 1 }, (_, c) => (r < first ? hub : addVertex(mesh, at(r, c))))); // prettier-ignore
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const corners = [ids[r][c], ids[r + 1][c], ids[r + 1][c + 1], ids[r][c + 1]];
      addFace(mesh, [...new Set(corners)]);
    }
  return mesh;
}
const none = (): number => 0;

describe('sectors round an axis', () => {
  it('become one whole: points counted, nothing open at the seam, the same from every sector, over seeded sectors that nearly meet; undone to the last bit', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const [count, rows, columns] = [2, 1, 1].map((least) => least + Math.floor(rng() * 5));
        const inner = rng() < 0.4 ? 0 : 1 + rng();
        // a ring of two faces would have two edges between the same points
        if (count * columns < 3) return;
        const mesh = sector(count, rows, columns, inner, () => 0.004 * (rng() - 0.5));
        const own = mesh.faceCount;
        const before = encodeMesh(mesh);
        const { report, delta } = runOperator(mesh, joinSectors, EMPTY_SELECTION, { count, axis: 'y', within: 0.03 });
        expect(checkInvariants(mesh)).toEqual([]);
        expect(mesh.faceCount).toBe(count * own);
        const rings = inner === 0 ? rows : rows + 1;
        expect(mesh.vertexCount).toBe(count * columns * rings + (inner === 0 ? 1 : 0));
        expect(report.counts).toMatchObject({ pairs: rings, hub: inner === 0 ? 1 : 0, open: 0, apart: 0 });
        expect(components(mesh)).toHaveLength(1);
        expect(borderLoops(mesh)).toHaveLength(inner === 0 ? 1 : 2);
        const sectors: Sectors = { axis: 'y', about: [0, 0, 0], count };
        const all = [...mesh.vertices()].map((v) => mesh.point(v));
        for (const p of all) expect(Math.min(...all.map((q) => distance(turnedOn(sectors, p, 1), q)))).toBeLessThan(1e-9); // prettier-ignore
        mesh.apply(delta, 'backward');
        expect(encodeMesh(mesh)).toEqual(before);
      }),
      { numRuns: 80 },
    );
  });

  it('tell what nearly meets and what stays open, and are refused where nothing meets', () => {
    const mesh = sector(6, 3, 2, 1, none);
    const sectors: Sectors = { axis: 'y', about: [0, 0, 0], count: 6 };
    // the third point of one side is moved off: the two edges there stay open, and those of its partner
    const [, v] = seamOf(mesh, sectors, 0.01).pairs.map(([from]) => from);
    mesh.setPoint(v, [mesh.point(v)[0] + 0.03, mesh.point(v)[1], mesh.point(v)[2]]);
    expect(seamOf(mesh, sectors, 0.01).apart).toHaveLength(2);
    const { report } = runOperator(mesh, joinSectors, EMPTY_SELECTION, { count: 6, within: 0.01 });
    expect(report.counts).toMatchObject({ pairs: 3, open: 6 * 4, apart: 2 });
    expect(report.sentence).toMatch(/edges open at it; 2 points near it without a partner$/);
    const lone = sector(6, 2, 2, 1, none);
    const before = encodeMesh(lone);
    expect(() => runOperator(lone, joinSectors, EMPTY_SELECTION, { count: 5, within: 0.01 })).toThrow(/a turn by 72° round y/); // prettier-ignore
    expect(() => runOperator(lone, joinSectors, EMPTY_SELECTION, { count: 6 }, { plane: { axis: 'x', offset: 0 }, form: null })).toThrow(/Symmetry is on/); // prettier-ignore
    expect(encodeMesh(lone)).toEqual(before);
  });

  it('can be kept one of a whole, and copied over all others again', () => {
    for (const [count, inner] of [
      [5, 1],
      [3, 0],
      [2, 1],
    ] as const) {
      // prettier-ignore
      const mesh = sector(count, 3, 4, inner, none);
      const own = mesh.faceCount;
      runOperator(mesh, joinSectors, EMPTY_SELECTION, { count, within: 0.01 });
      const [faces, points] = [mesh.faceCount, mesh.vertexCount];
      // begun in the middle of a column: a ragged side, which is as ragged on the other
      const { report } = runOperator(mesh, keepSector, EMPTY_SELECTION, { count, from: 45 / count });
      expect(report.counts).toEqual({ kept: own, gone: faces - own });
      expect(runOperator(mesh, joinSectors, EMPTY_SELECTION, { count, within: 0.01 }).report.counts.open).toBe(0);
      expect([mesh.faceCount, mesh.vertexCount]).toEqual([faces, points]);
      expect(checkInvariants(mesh)).toEqual([]);
    }
    const lone = sector(6, 2, 2, 1, none);
    expect(() => runOperator(lone, keepSector, EMPTY_SELECTION, { count: 2, from: 200 })).toThrow(/^(All|No) faces lie in this one sector/); // prettier-ignore
  });

  it('draw points near the seam exactly onto the image of the other side, and those by the axis onto it', () => {
    const mesh = sector(6, 2, 2, 1, none);
    const sectors: Sectors = { axis: 'y', about: [0, 0, 0], count: 6 };
    const [[from, onto]] = seamOf(mesh, sectors, 0.01).pairs;
    const beside = ([x, y, z]: Vec3): Vec3 => [x + 0.02, y, z - 0.01];
    expect(ontoSeam(mesh, sectors, beside(mesh.point(onto)), 0.05)).toEqual(turnedOn(sectors, mesh.point(from), 1));
    expect(ontoSeam(mesh, sectors, beside(turnedOn(sectors, mesh.point(onto), -1)), 0.05)).toEqual(turnedOn(sectors, mesh.point(onto), -1)); // prettier-ignore
    expect(ontoSeam(mesh, sectors, [0.01, 4, 0.02], 0.05)).toEqual([0, 4, 0]);
    expect(ontoSeam(mesh, sectors, [5, 5, 5], 0.05)).toBeNull();
  });
});
