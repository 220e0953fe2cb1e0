import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { seededRng } from '../math';
import { soupFromMesh, type PolygonSoup } from '../mesh';
import { ballMesh, ballSoup, CUBE_SOUP, gridMesh, torusMesh } from '../testing';
import { subdivide, subdivideOnce, type Cage, type Subdivided } from '.';

const cageFrom = ({ positions, faceStarts, corners }: PolygonSoup, creases: readonly number[] = []): Cage => ({
  positions: Float64Array.from(positions),
  faceStarts,
  corners,
  creases,
});

/** Closed and open ones, of quads and of triangles, their points shaken. */
const CAGES = [CUBE_SOUP, ballSoup(5), soupFromMesh(ballMesh(3)), soupFromMesh(torusMesh(7, 4)), soupFromMesh(gridMesh(4, 3))]; // prettier-ignore
const shaken = fc.record({ which: fc.nat(CAGES.length - 1), seed: fc.integer() }).map(({ which, seed }) => {
  const rng = seededRng(seed);
  const cage = cageFrom(CAGES[which]);
  return { ...cage, positions: cage.positions.map((x) => x + 0.2 * (rng() - 0.5)) };
});

const place = ({ positions: p }: Pick<Subdivided, 'positions'>, v: number): number[] => [...p.subarray(3 * v, 3 * v + 3)]; // prettier-ignore

/** Edges of faces, by their ends. */
function edgesIn(corners: ArrayLike<number>, faceStarts: ArrayLike<number>): Set<string> {
  const edges = new Set<string>();
  for (let f = 0; f + 1 < faceStarts.length; f++)
    for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
      const [u, v] = [corners[c], corners[c + 1 < faceStarts[f + 1] ? c + 1 : faceStarts[f]]];
      edges.add(u < v ? `${u} ${v}` : `${v} ${u}`);
    }
  return edges;
}

/** The edges between two corners of the cube that differ in one coordinate, each with a sharpness. */
function cubeCreases(sharpness: number): number[] {
  const p = CUBE_SOUP.positions;
  const found: number[] = [];
  for (let u = 0; u < 8; u++)
    for (let v = u + 1; v < 8; v++)
      if ([0, 1, 2].filter((k) => p[3 * u + k] !== p[3 * v + k]).length === 1) found.push(u, v, sharpness);
  return found;
}

describe('a cube', () => {
  it('has the points that the rule gives', () => {
    const made = subdivideOnce(cageFrom(CUBE_SOUP));
    for (let v = 0; v < 8; v++)
      place(made, v).forEach((x, k) => expect(x).toBeCloseTo((5 / 9) * CUBE_SOUP.positions[3 * v + k], 12));
    for (let e = 0; e < 12; e++) {
      const sorted = place(made, 8 + e)
        .map(Math.abs)
        .sort();
      [0, 0.75, 0.75].forEach((x, k) => expect(sorted[k]).toBeCloseTo(x, 12));
    }
    for (let f = 0; f < 6; f++)
      expect(
        place(made, 20 + f)
          .map(Math.abs)
          .sort(),
      ).toEqual([0, 0, 1]);
  });

  it('with hard edges stays a cube, at every level', () => {
    const { positions } = subdivide(cageFrom(CUBE_SOUP, cubeCreases(Infinity)), 3);
    let onEdges = 0;
    for (let i = 0; i < positions.length; i += 3) {
      const own = [...positions.subarray(i, i + 3)].map(Math.abs);
      expect(Math.max(...own)).toBe(1);
      if (own.filter((x) => x === 1).length >= 2) onEdges++;
    }
    // twelve edges of nine points, the corners of three each
    expect(onEdges).toBe(12 * 7 + 8);
  });

  it('with edges as sharp as some levels is hard for so many, and round after', () => {
    const once = (cage: Cage): Cage & { creases: number[] } => {
      const { positions, quads, creases } = subdivideOnce(cage);
      return { positions, corners: quads, faceStarts: Uint32Array.from({ length: quads.length / 4 + 1 }, (_, f) => 4 * f), creases }; // prettier-ignore
    };
    const first = once(cageFrom(CUBE_SOUP, cubeCreases(2)));
    expect(first.creases.filter((_, i) => i % 3 === 2)).toEqual(new Array(24).fill(1));
    const second = once(first);
    expect(second.creases).toEqual([]);
    const corner = (cage: Cage): number[] => [...cage.positions.subarray(0, 3)].map(Math.abs);
    expect([corner(first), corner(second)]).toEqual([[1, 1, 1], [1, 1, 1]]); // prettier-ignore
    expect(Math.max(...corner(once(second)))).toBeLessThan(1);
  });
});

test('counts follow from the cage: a quad a corner, a point for each vertex, edge and face, and the same Euler number', () => {
  fc.assert(
    fc.property(shaken, (cage) => {
      const { quads, positions, vertexCount, edges } = subdivideOnce(cage);
      const [v, e, f] = [cage.positions.length / 3, edgesIn(cage.corners, cage.faceStarts).size, cage.faceStarts.length - 1]; // prettier-ignore
      expect(vertexCount).toBe(v);
      expect(edges.length / 2).toBe(e);
      expect(quads.length / 4).toBe(cage.corners.length);
      expect(positions.length / 3).toBe(v + e + f);
      const starts = Array.from({ length: quads.length / 4 + 1 }, (_, q) => 4 * q);
      const finer = edgesIn(quads, starts).size;
      expect(finer).toBe(2 * e + cage.corners.length);
      expect(v + e + f - finer + cage.corners.length).toBe(v - e + f);
    }),
  );
});

test('what is moved, turned or stretched first comes out as if it had been so after', () => {
  fc.assert(
    fc.property(shaken, fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 12, maxLength: 12 }), (cage, m) => {
      const moved = (p: Float64Array): Float64Array =>
        p.map((_, i) => [0, 1, 2].reduce((sum, k) => sum + m[3 * (i % 3) + k] * p[i - (i % 3) + k], m[9 + (i % 3)]));
      const before = subdivideOnce({ ...cage, positions: moved(cage.positions) }).positions;
      const after = moved(subdivideOnce(cage).positions);
      before.forEach((x, i) => expect(x).toBeCloseTo(after[i], 9));
    }),
  ); // prettier-ignore
});

test('flat, old points stay and new ones are in the middles', () => {
  fc.assert(
    fc.property(shaken, (cage) => {
      const made = subdivideOnce(cage, false);
      expect([...made.positions.subarray(0, cage.positions.length)]).toEqual([...cage.positions]);
      for (let e = 0; e < made.edges.length / 2; e++) {
        const [u, v] = [made.edges[2 * e], made.edges[2 * e + 1]].map((w) => place(cage, w));
        place(made, made.vertexCount + e).forEach((x, k) => expect(x).toBeCloseTo((u[k] + v[k]) / 2, 12));
      }
    }),
  );
});

test('a border bends by its own points alone, whatever lies inside', () => {
  const grid = soupFromMesh(gridMesh(4, 4));
  const lifted = cageFrom(grid);
  const isBorder = (v: number): boolean => [0, 1].some((k) => [0, 4].includes(grid.positions[3 * v + k]));
  for (let v = 0; v < lifted.positions.length / 3; v++) if (!isBorder(v)) lifted.positions[3 * v + 2] = 5;
  const [flat, high] = [subdivideOnce(cageFrom(grid)), subdivideOnce(lifted)];
  for (let v = 0; v < flat.vertexCount; v++) if (isBorder(v)) expect(place(high, v)).toEqual(place(flat, v));
  // along a straight side even points stay where they are
  expect(place(flat, 2)).toEqual([2, 0, 0]);
  expect(high.positions.some((z, i) => i % 3 === 2 && z > 3)).toBe(true);
});
