import type { Vec3 } from '../../math';
import { triangulate } from '../../mesh';
import type { Triangles } from './clean';

/** Puts a point on the form. */
export type Onto = (p: Vec3) => Vec3;

/**
 * Faces as a fine mesh of triangles that lies on a form: each cut into triangles, each of those into k² alike. Points on the border of the
 * faces stay on its edges, and points of the faces where they are. `corners` are the faces' corners over `points`. Cost: the triangles, with `onto` for
 * each point inside.
 */
export function denseFaces(
  points: readonly Vec3[],
  corners: readonly (readonly number[])[],
  wanted: number,
  onto: Onto | null,
): Triangles {
  const triangles = corners.flatMap((face) => {
    const cut = triangulate(face.map((v) => points[v]));
    return Array.from({ length: cut.length / 3 }, (_, t) => [face[cut[3 * t]], face[cut[3 * t + 1]], face[cut[3 * t + 2]]]); // prettier-ignore
  });
  const k = Math.max(1, Math.ceil(Math.sqrt(wanted / triangles.length)));
  const sides = new Map<string, number>();
  for (const t of triangles) for (let i = 0; i < 3; i++) count(sides, sideKey(t[i], t[(i + 1) % 3]));
  const positions: number[] = points.flat();
  const known = new Map<string, number>();
  const put = (key: string | null, p: Vec3, isHeld: boolean): number => {
    const old = key === null ? undefined : known.get(key);
    if (old !== undefined) return old;
    const v = positions.length / 3;
    positions.push(...(isHeld || !onto ? p : onto(p)));
    if (key !== null) known.set(key, v);
    return v;
  };
  /** the point of triangle abc with weights i, j and k − i − j in k parts */
  const at = ([a, b, c]: number[], i: number, j: number): number => {
    const l = k - i - j;
    if (i === k || j === k || l === k) return i === k ? a : j === k ? b : c;
    const p = mix([points[a], points[b], points[c]], [i / k, j / k, l / k]);
    const side =
      l === 0 ? ([a, b, j] as const) : i === 0 ? ([b, c, l] as const) : j === 0 ? ([c, a, i] as const) : null;
    if (!side) return put(null, p, false);
    const [u, v, n] = side;
    return put(`${sideKey(u, v)} ${u < v ? n : k - n}`, p, sides.get(sideKey(u, v)) === 1);
  };
  const indices: number[] = [];
  for (const t of triangles) {
    const row = Array.from({ length: k + 1 }, (_, i) => Array.from({ length: k + 1 - i }, (__, j) => at(t, i, j)));
    for (let i = 0; i < k; i++)
      for (let j = 0; j < k - i; j++) {
        indices.push(row[i + 1][j], row[i][j + 1], row[i][j]);
        if (j < k - i - 1) indices.push(row[i + 1][j], row[i + 1][j + 1], row[i][j + 1]);
      }
  }
  return { positions, indices };
}

const sideKey = (u: number, v: number): string => (u < v ? `${u} ${v}` : `${v} ${u}`);
const count = (counts: Map<string, number>, key: string): void => void counts.set(key, (counts.get(key) ?? 0) + 1);
const mix = (p: readonly Vec3[], w: readonly number[]): Vec3 =>
  [0, 1, 2].map((x) => p[0][x] * w[0] + p[1][x] * w[1] + p[2][x] * w[2]) as unknown as Vec3;
