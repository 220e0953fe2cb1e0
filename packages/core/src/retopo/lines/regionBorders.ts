import type { Vec3 } from '../../math';
import type { Triangles } from '../form/clean';
import type { DrawnLine } from './drawn';

/**
 * The lines between triangles of different regions, each from where it meets another, or the form's border, to the next. `regionOf` tells each triangle's. Points must be
 * welded. Cost: linear.
 */
export function regionBorders({ positions, indices }: Triangles, regionOf: ArrayLike<number>): DrawnLine[] {
  const next = neighboursAcross(indices, regionOf);
  const ends = new Set([...next].filter(([, own]) => own.length !== 2).map(([v]) => v));
  const lines: DrawnLine[] = [];
  const place = (v: number): Vec3 => [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
  const walk = (first: number, second: number): void => {
    const way = [first];
    let [before, at] = [first, second];
    take(next, before, at);
    for (;;) {
      way.push(at);
      if (at === first || ends.has(at)) break;
      [before, at] = [at, (next.get(at) as number[])[0]];
      take(next, before, at);
    }
    const closed = way.length > 3 && way[way.length - 1] === first;
    lines.push({ points: (closed ? way.slice(0, -1) : way).map(place), closed, isJagged: true });
  };
  for (const v of ends) for (const own = next.get(v) as number[]; own.length > 0;) walk(v, own[0]);
  for (const [v, own] of next) if (own.length > 0) walk(v, own[0]);
  return lines;
}

/** The borders between regions of a low-poly's faces, as lines over its triangles: meant as they are, whatever steps they make. Cost: linear. */
export const pieceBorders = (
  triangles: Triangles & { faceOf: ArrayLike<number> },
  regionOfFace: ArrayLike<number>,
): DrawnLine[] =>
  regionBorders(
    triangles,
    Int32Array.from(triangles.faceOf, (f) => regionOfFace[f]),
  ).map((line) => ({ ...line, isJagged: false }));

/** Point → the points that an edge between two regions joins it to. */
function neighboursAcross(indices: ArrayLike<number>, regionOf: ArrayLike<number>): Map<number, number[]> {
  const first = new Map<number, number>();
  const next = new Map<number, number[]>();
  const n = indices.length;
  const join = (u: number, v: number): void => void (next.get(u)?.push(v) ?? next.set(u, [v]));
  for (let h = 0; h < n; h++) {
    const [u, v] = [indices[h], indices[h % 3 === 2 ? h - 2 : h + 1]];
    const key = Math.min(u, v) * 67108864 + Math.max(u, v);
    const other = first.get(key);
    if (other === undefined) first.set(key, h);
    else if (regionOf[Math.floor(h / 3)] !== regionOf[Math.floor(other / 3)]) {
      join(u, v);
      join(v, u);
    }
  }
  return next;
}

function take(next: Map<number, number[]>, u: number, v: number): void {
  for (const [a, b] of [
    [u, v],
    [v, u],
  ] as const) {
    // prettier-ignore
    const own = next.get(a) as number[];
    own.splice(own.indexOf(b), 1);
  }
}
