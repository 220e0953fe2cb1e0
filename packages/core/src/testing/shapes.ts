import { boxOf, cross, dot, seededRng, type Rng } from '../math';
import { addFace, addVertex, meshFromSoup, PolyMesh, soupFromMesh, soupOf, type PolygonSoup } from '../mesh';

/** A flat grid of quads in the plane z = 0, facing +z. */
export function gridMesh(columns: number, rows: number): PolyMesh {
  const mesh = new PolyMesh();
  for (let j = 0; j <= rows; j++) for (let i = 0; i <= columns; i++) addVertex(mesh, [i, j, 0]);
  const at = (i: number, j: number): number => j * (columns + 1) + i;
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) addFace(mesh, [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
  return mesh;
}

export const CUBE_SOUP: PolygonSoup = soupOf(
  [[-1, -1, -1], [1, -1, -1], [1, 1, -1], [-1, 1, -1], [-1, -1, 1], [1, -1, 1], [1, 1, 1], [-1, 1, 1]],
  [[3, 2, 1, 0], [4, 5, 6, 7], [0, 1, 5, 4], [1, 2, 6, 5], [2, 3, 7, 6], [3, 0, 4, 7]],
); // prettier-ignore
export const cubeMesh = (): PolyMesh => meshFromSoup(CUBE_SOUP).mesh;

/** A ball of triangles, closed; `rings` from pole to pole. */
export function ballSoup(rings: number, radius = 1): PolygonSoup {
  const sides = 2 * rings;
  const points: number[][] = [[0, radius, 0]];
  for (let j = 1; j < rings; j++)
    for (let i = 0; i < sides; i++) {
      const a = (j / rings) * Math.PI,
        b = (i / sides) * 2 * Math.PI;
      points.push([radius * Math.sin(a) * Math.sin(b), radius * Math.cos(a), radius * Math.sin(a) * Math.cos(b)]);
    }
  points.push([0, -radius, 0]);
  const at = (j: number, i: number): number => 1 + (j - 1) * sides + (i % sides);
  const faces: number[][] = [];
  for (let i = 0; i < sides; i++) {
    faces.push([0, at(1, i), at(1, i + 1)]);
    faces.push([points.length - 1, at(rings - 1, i + 1), at(rings - 1, i)]);
    for (let j = 1; j < rings - 1; j++) {
      faces.push([at(j, i), at(j + 1, i), at(j + 1, i + 1)]);
      faces.push([at(j, i), at(j + 1, i + 1), at(j, i + 1)]);
    }
  }
  return soupOf(points, faces);
}

const LIMBS = [[0.1, 1, 0.05], [1, 0.2, 0.3], [-0.8, 0.3, 0.7], [-0.3, -0.5, -1], [0.3, -1, 0.4]].map((way) => way.map((x) => x / Math.hypot(...way))); // prettier-ignore

/** A ball from which five limbs grow askew, each some two of its radii long: rings of quads belong round them. */
export function limbedSoup(rings: number): PolygonSoup {
  const soup = ballSoup(rings);
  const p = soup.positions;
  for (let v = 0; v < p.length; v += 3) {
    let far = 0.8;
    for (const [x, y, z] of LIMBS) far += 2 * Math.exp(-28 * (1 - (x * p[v] + y * p[v + 1] + z * p[v + 2])));
    for (let k = 0; k < 3; k++) p[v + k] *= far;
  }
  return soup;
}

/**
 * A sheet folded on itself like a map, open at its rim: from most sides near layers hide far ones and half of what is
 * seen is backs. For tests of snapping.
 */
export function foldedSheet(folds = 6, perFold = 12, rows = 24): PolygonSoup {
  const points: number[][] = [];
  const columns = folds * perFold;
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i <= columns; i++) {
      const t = (i / columns) * folds * Math.PI;
      points.push([
        2.2 * Math.cos(t) + 0.15 * Math.sin(j),
        0.55 * t - folds * 0.86,
        (j / rows) * 6 - 3 + 0.3 * Math.sin(t * 0.5),
      ]);
    }
  const at = (i: number, j: number): number => j * (columns + 1) + i;
  const faces: number[][] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) faces.push([at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
  return soupOf(points, faces);
}

export const pick = <T>(rng: Rng, list: readonly T[]): T => list[Math.floor(rng() * list.length)];
export { seededRng };

/** An open tube of quads along y, wound outward. */
export function tubeMesh(sides: number, rings: number, radius = 1, height = 1): PolyMesh {
  const mesh = new PolyMesh();
  for (let j = 0; j <= rings; j++)
    for (let i = 0; i < sides; i++) {
      const a = (2 * Math.PI * i) / sides;
      addVertex(mesh, [radius * Math.cos(a), height * j, -radius * Math.sin(a)]);
    }
  const at = (i: number, j: number): number => j * sides + (i % sides);
  for (let j = 0; j < rings; j++)
    for (let i = 0; i < sides; i++) addFace(mesh, [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
  return mesh;
}

/** A closed ring of quads: `around` the hole times `across` the tube. Vertex (i, j) is number i·across + j. */
export function torusMesh(around: number, across: number, radius = 3, tube = 1): PolyMesh {
  const mesh = new PolyMesh();
  for (let i = 0; i < around; i++)
    for (let j = 0; j < across; j++) {
      const a = (2 * Math.PI * i) / around,
        b = (2 * Math.PI * j) / across;
      const r = radius + tube * Math.cos(b);
      addVertex(mesh, [r * Math.cos(a), tube * Math.sin(b), -r * Math.sin(a)]);
    }
  const at = (i: number, j: number): number => (i % around) * across + (j % across);
  for (let i = 0; i < around; i++)
    for (let j = 0; j < across; j++) addFace(mesh, [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
  return mesh;
}

/** A closed ball of quads without triangles: a cube's grid of n × n a side, blown up. Eight poles of three edges. */
export function ballMesh(n: number, radius = 1): PolyMesh {
  const mesh = new PolyMesh();
  const known = new Map<string, number>();
  const at = (p: [number, number, number]): number => {
    const key = p.join();
    const before = known.get(key);
    if (before !== undefined) return before;
    const q = p.map((x) => Math.tan((((2 * x) / n - 1) * Math.PI) / 4)) as [number, number, number];
    const l = Math.hypot(...q);
    const v = addVertex(mesh, [(q[0] * radius) / l, (q[1] * radius) / l, (q[2] * radius) / l]);
    known.set(key, v);
    return v;
  };
  for (let k = 0; k < 3; k++)
    for (const side of [0, n])
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) {
          const corner = (a: number, b: number): [number, number, number] => {
            const p: [number, number, number] = [0, 0, 0];
            p[k] = side;
            p[(k + 1) % 3] = a;
            p[(k + 2) % 3] = b;
            return p;
          };
          const quad = [corner(i, j), corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)];
          addFace(mesh, (side === 0 ? quad.reverse() : quad).map(at));
        }
  return mesh;
}

/** The quads of `ballMesh` as flat arrays, no point of them on a line. */
export function quadsOnBall(n: number, radius = 1): { points: Float64Array; quads: Int32Array; onLine: Int32Array } {
  const { positions, corners } = soupFromMesh(ballMesh(n, radius));
  return { points: Float64Array.from(positions), quads: Int32Array.from(corners), onLine: new Int32Array(positions.length / 3).fill(-1) }; // prettier-ignore
}

/** Those quads of `quadsOnBall`, n even, that lie where x is positive; points in the plane of x = 0 lie there to the last bit, on the line of that number. */
export function quadsOnHalfBall(n: number, line: number): ReturnType<typeof quadsOnBall> {
  const { points, quads } = quadsOnBall(n);
  const rounded = (v: number): number => (Math.abs(points[3 * v]) < 1e-9 ? 0 : points[3 * v]);
  const kept = quads.filter((_, h) => [0, 1, 2, 3].every((k) => rounded(quads[(h & ~3) + k]) >= 0));
  const used = [...new Set(kept)];
  const number = new Map(used.map((v, i) => [v, i]));
  return {
    points: Float64Array.from(used.flatMap((v) => [rounded(v), points[3 * v + 1], points[3 * v + 2]])),
    quads: kept.map((v) => number.get(v) as number),
    onLine: Int32Array.from(used, (v) => (rounded(v) === 0 ? line : -1)),
  };
}

/** The volume that a mesh encloses, above zero when its faces are wound outward. */
export function enclosedVolume(mesh: PolyMesh): number {
  let sum = 0;
  for (const f of mesh.faces()) {
    const [a, ...rest] = mesh.faceVertices(f).map((v) => mesh.point(v));
    for (let i = 0; i + 1 < rest.length; i++) sum += dot(a, cross(rest[i], rest[i + 1])) / 6;
  }
  return sum;
}

/** Forms of triangles, each made two units wide, beside each other along x: so many parts. */
export function sideBySide(...forms: readonly { positions: ArrayLike<number>; indices: ArrayLike<number> }[]): {
  positions: Float32Array;
  indices: Uint32Array;
} {
  const points: number[] = [];
  const corners: number[] = [];
  for (const [k, { positions, indices }] of forms.entries()) {
    const { min, max } = boxOf(positions);
    const first = points.length / 3;
    for (let i = 0; i < positions.length; i++)
      points.push((2 * (positions[i] - min[i % 3])) / (max[0] - min[0]) + (i % 3 === 0 ? 3 * k : 0));
    for (let i = 0; i < indices.length; i++) corners.push(indices[i] + first);
  }
  return { positions: Float32Array.from(points), indices: Uint32Array.from(corners) };
}

/** A prism over an outline that is seen whole from its middle, counter-clockwise, in triangles: caps are fans round the middle. */
export function prismSoup(outline: readonly (readonly [number, number])[], height: number): PolygonSoup {
  const n = outline.length;
  const points = [0, height].flatMap((z) => outline.map(([x, y]) => [x, y, z]));
  const middle = [0, 1].map((k) => outline.reduce((sum, p) => sum + p[k] / n, 0));
  points.push([...middle, 0], [...middle, height]);
  const faces = outline.flatMap((_, i) => {
    const j = (i + 1) % n;
    return [[i, j, j + n], [i, j + n, i + n], [2 * n, j, i], [2 * n + 1, i + n, j + n]]; // prettier-ignore
  });
  return soupOf(points, faces);
}

/** The outline of a gear, its teeth from 3 to 3.7 from the middle, seen from above. */
export const gearOutline = (teeth: number): [number, number][] =>
  Array.from({ length: teeth }, (_, i) => i).flatMap((i) =>
    [[0, 3], [0.35, 3], [0.5, 3.7], [0.85, 3.7]].map(([by, far]): [number, number] => {
      const angle = (2 * Math.PI * (i + by)) / teeth;
      return [far * Math.cos(angle), far * Math.sin(angle)];
    }),
  ); // prettier-ignore

/** The outline of a star of so many points, as far out as 1, its notches at `inner`. */
export const starOutline = (tips: number, inner: number): [number, number][] =>
  Array.from({ length: 2 * tips }, (_, i) => {
    const [far, by] = [i % 2 === 0 ? 1 : inner, (Math.PI * i) / tips];
    return [far * Math.cos(by), far * Math.sin(by)];
  });
