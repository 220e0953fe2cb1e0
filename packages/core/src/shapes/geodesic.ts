import { normalize, scale, type Vec3 } from '../math';
import { ShapeBuilder, type Shape } from './Shape';

const T = (1 + Math.sqrt(5)) / 2;
const POINTS: Vec3[] = [[-1, T, 0], [1, T, 0], [-1, -T, 0], [1, -T, 0], [0, -1, T], [0, 1, T], [0, -1, -T], [0, 1, -T], [T, 0, -1], [T, 0, 1], [-T, 0, -1], [-T, 0, 1]]; // prettier-ignore
const FACES = [[0, 11, 5], [0, 5, 1], [0, 1, 7], [0, 7, 10], [0, 10, 11], [1, 5, 9], [5, 11, 4], [11, 10, 2], [10, 7, 6], [7, 1, 8], [3, 9, 4], [3, 4, 2], [3, 2, 6], [3, 6, 8], [3, 8, 9], [4, 9, 5], [2, 4, 11], [6, 2, 10], [8, 6, 7], [9, 8, 1]]; // prettier-ignore

/** A ball of triangles: each of the twenty of an icosahedron divided `parts` times along its sides (Fuller's class I). */
export function geodesicBall(radius: number, parts: number): Shape {
  const shape = new ShapeBuilder();
  const known = new Map<string, number>();
  for (const [a, b, c] of FACES) {
    const at = (i: number, j: number): number => {
      // shares of the three corners name a point alike from every triangle that has it
      const shares = [[a, parts - i - j], [b, i], [c, j]].filter(([, s]) => s > 0).sort((p, q) => p[0] - q[0]); // prettier-ignore
      const key = shares.join(';');
      const old = known.get(key);
      if (old !== undefined) return old;
      const sum = [0, 1, 2].map((k) => shares.reduce((s, [v, share]) => s + POINTS[v][k] * share, 0));
      const p = scale(normalize(sum as unknown as Vec3), radius);
      const v = shape.point([p[0], p[1] + radius, p[2]]);
      known.set(key, v);
      return v;
    };
    for (let i = 0; i < parts; i++)
      for (let j = 0; i + j < parts; j++) {
        shape.faces.push([at(i, j), at(i + 1, j), at(i, j + 1)]);
        if (i + j + 1 < parts) shape.faces.push([at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
      }
  }
  return shape;
}
