import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runOperator, weld } from '../ops';
import { EMPTY_SELECTION, meshFromSoup, soupFromMesh, soupOf, type PolygonSoup } from '../mesh';
import { ballSoup, CUBE_SOUP, gridMesh } from '../testing';
import { inspectSoup, measureFace, type Finding, type FindingKind } from '.';

const kinds = (soup: PolygonSoup): FindingKind[] =>
  inspectSoup(soup)
    .findings.map((f) => f.kind)
    .toSorted();
const find = (soup: PolygonSoup, kind: FindingKind): Finding => {
  const found = inspectSoup(soup).findings.find((f) => f.kind === kind);
  if (!found) throw new Error(`no ${kind}`);
  return found;
};
const cubePoints = Array.from({ length: 8 }, (_, v) => [...CUBE_SOUP.positions.subarray(3 * v, 3 * v + 3)]);
const cubeFaces = Array.from({ length: 6 }, (_, f) => [...CUBE_SOUP.corners.subarray(4 * f, 4 * f + 4)]);

describe('findings', () => {
  it('are none on a cube, and each planted fault is found where it is, and nothing else', () => {
    expect(kinds(CUBE_SOUP)).toEqual([]);
    const flipped = cubeFaces.map((f, i) => (i === 1 ? f.toReversed() : f));
    expect(find(soupOf(cubePoints, flipped), 'winding').elements.edges).toHaveLength(4);
    expect(kinds(soupOf(cubePoints, flipped))).toEqual(['winding']);
    expect(find(soupOf(cubePoints, cubeFaces.map((f) => f.toReversed())), 'inward').elements.faces).toHaveLength(6); // prettier-ignore
    expect(kinds(soupOf(cubePoints, cubeFaces.slice(1)))).toEqual(['open-border']);
    expect(find(soupOf([...cubePoints, [5, 5, 5]], cubeFaces), 'unused-point').elements.vertices).toEqual([8]);
    const fin = soupOf([...cubePoints, [3, 3, 3]], [...cubeFaces, [0, 1, 8]]);
    expect(find(fin, 'non-manifold-edge').elements.edges).toEqual([[1, 0]]);
    expect(kinds(fin)).toEqual(['non-manifold-edge', 'open-border', 'triangle']);
    const twice = soupOf(cubePoints, [...cubeFaces, cubeFaces[0].toReversed()]);
    expect(find(twice, 'repeated-face').elements.faces).toEqual([6]);
    const bow = soupOf([[0, 0, 0], [1, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]], [[0, 1, 2], [0, 3, 4]]); // prettier-ignore
    expect(find(bow, 'non-manifold-point').elements.vertices).toEqual([0]);
    const bent = soupOf([[0, 0, 0], [1, 0, 0], [1, 1, 1], [0, 1, 0]], [[0, 1, 2, 3]]); // prettier-ignore
    expect(kinds(bent)).toEqual(['open-border', 'warped']);
    const dart = soupOf([[0, 0, 0], [4, 0, 0], [1, 1, 0], [0, 4, 0]], [[0, 1, 2, 3]]); // prettier-ignore
    expect(kinds(dart)).toEqual(['folded', 'open-border']);
    const sliver = soupOf([[0, 0, 0], [1, 0, 0], [2, 0, 0], [3, 0, 0]], [[0, 1, 2], [0, 1, 2, 3]]); // prettier-ignore
    expect(find(sliver, 'no-area').elements.faces).toEqual([0, 1]);
    expect(find(soupOf([[0, 0, 0], [20, 0, 0], [20, 1, 0], [0, 1, 0]], [[0, 1, 2, 3]]), 'stretched').elements.faces).toEqual([0]); // prettier-ignore
    expect(kinds(soupOf([[0, 0, 0], [1, 0, 0], [1.5, 1, 0], [0.5, 2, 0], [-0.5, 1, 0]], [[0, 1, 2, 3, 4]]))).toEqual(['n-gon', 'open-border']); // prettier-ignore
    expect(find(ballSoup(6), 'pole').elements.vertices).toContain(0);
    expect(find(soupOf([[0, 0, 0], [1, 0, 0], [0, 1, 0]], [[0, 1, 2, 1]]), 'repeated-corner').severity).toBe('fault'); // prettier-ignore
  });

  it('carry a fix that mends: doubled points weld to a closed cube', () => {
    const loose = soupOf(cubeFaces.flatMap((f) => f.map((v) => cubePoints[v])), cubeFaces.map((_, i) => [0, 1, 2, 3].map((k) => 4 * i + k))); // prettier-ignore
    const { fix, elements } = find(loose, 'doubled-points');
    expect(elements.vertices).toHaveLength(16);
    expect(fix?.operator).toBe('weld');
    const { mesh } = meshFromSoup(loose);
    runOperator(mesh, weld, EMPTY_SELECTION, fix?.params as never);
    expect(kinds(soupFromMesh(mesh))).toEqual([]);
  });

  it('name elements that are there, for any set of polygons', () => {
    const point = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -2, max: 2 })));
    const face = fc.array(fc.nat(7), { minLength: 3, maxLength: 6 });
    fc.assert(
      fc.property(fc.array(point, { minLength: 8, maxLength: 8 }), fc.array(face, { minLength: 1, maxLength: 8 }), (points, faces) => {
        for (const { elements, message } of inspectSoup(soupOf(points, faces)).findings) {
          const { vertices = [], edges = [], faces: fs = [] } = elements;
          expect([...vertices, ...edges.flat()].every((v) => v >= 0 && v < 8)).toBe(true);
          expect(fs.every((f) => f >= 0 && f < faces.length)).toBe(true);
          expect(vertices.length + edges.length + fs.length).toBeGreaterThan(0);
          expect(message).toMatch(/^[A-Z0-9].*\.$/);
        }
      }),
    ); // prettier-ignore
  });
});

describe('measures', () => {
  it('are 1, 0 and even on a flat grid of squares', () => {
    const { measures } = inspectSoup(soupFromMesh(gridMesh(5, 4)));
    expect(measures).toMatchObject({ quadShare: 1, irregularShare: 0, evenness: 0, warp: { most: 0, mean: 0 } });
    expect(measures.cornerQuality?.least).toBeCloseTo(1, 12);
    expect(measures.stretch).toEqual({ most: 1, mean: 1 });
  });
  it('know a rhombus, a bent quad and a rectangle', () => {
    expect(measureFace([[0, 0, 0], [1, 0, 0], [1.5, Math.sqrt(3) / 2, 0], [0.5, Math.sqrt(3) / 2, 0]]).cornerQuality).toBeCloseTo(Math.sqrt(3) / 2, 9); // prettier-ignore
    expect(measureFace([[0, 0, 0], [3, 0, 0], [3, 1, 0], [0, 1, 0]])).toMatchObject({ stretch: 3, area: 3, warp: 0 }); // prettier-ignore
    expect(measureFace([[0, 0, 0.1], [1, 0, -0.1], [1, 1, 0.1], [0, 1, -0.1]]).warp).toBeCloseTo(0.1 / Math.hypot(1, 0.2), 9); // prettier-ignore
    expect(inspectSoup(CUBE_SOUP).measures.irregularShare).toBe(1);
  });
});
