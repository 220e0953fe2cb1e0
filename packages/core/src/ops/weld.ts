import * as z from 'zod/mini';
import { TopologyError } from '../errors';
import { reweave, type PolyMesh } from '../mesh';
import { operator, plural } from './operator';
import { VertexId } from './params';

/**
 * Joins pairs of vertices: the first of each pair goes, the second stays where it is. Faces that lose
 * corners become smaller, those with fewer than three left go. Refuses (EDGE_FULL, VERTEX_CLOSED) what would
 * put three faces on an edge or break a fan.
 */
export const weld = operator({
  name: 'weld',
  title: 'Weld',
  params: z.object({ pairs: z.array(z.tuple([VertexId, VertexId])).check(z.minLength(1)) }),
  run(mesh, _selection, { pairs }) {
    const replacement = replacementOf(mesh, pairs);
    const { lostFaces } = reweave(mesh, replacement);
    const stay = [...new Set(pairs.map(([, to]) => to))].filter((v) => mesh.hasVertex(v));
    const lost = lostFaces.length > 0 ? `, ${plural(lostFaces.length, 'face')} closed up` : '';
    return {
      selection: { vertices: stay, edges: [], faces: [] },
      report: {
        sentence: `${plural(replacement.size, 'pair')} welded${lost}`,
        counts: { pairs: replacement.size, lostFaces: lostFaces.length },
      },
    };
  },
});

function replacementOf(mesh: PolyMesh, pairs: readonly (readonly [number, number])[]): Map<number, number> {
  const replacement = new Map<number, number>();
  const resolve = (v: number): number => {
    let w = v;
    while (replacement.has(w)) w = replacement.get(w) as number;
    return w;
  };
  for (const [from, to] of pairs) {
    for (const v of [from, to])
      if (!mesh.hasVertex(v))
        throw new TopologyError('NOTHING_PICKED', 'A picked point is no longer there; pick it again.', {
          vertices: [v],
        });
    const [a, b] = [resolve(from), resolve(to)];
    if (a !== b) replacement.set(a, b);
  }
  if (replacement.size === 0)
    throw new TopologyError('NOTHING_PICKED', 'These points are one already.', { vertices: pairs.flat() });
  return replacement;
}

/**
 * The pairs among `vertices` (or all) that lie within `distance` (file units), nearest first, each vertex in one
 * pair at most: what a weld would join. Cost: a grid over the vertices.
 */
export function pairsWithin(mesh: PolyMesh, distance: number, vertices?: Iterable<number>): [number, number][] {
  const cells = new Map<string, number[]>();
  const found: { d: number; pair: [number, number] }[] = [];
  const cellOf = (x: number): number => Math.floor(x / Math.max(distance, 1e-12));
  for (const v of vertices ?? mesh.vertices()) {
    const p = mesh.point(v);
    const [i, j, k] = p.map(cellOf);
    for (let a = -1; a <= 1; a++)
      for (let b = -1; b <= 1; b++)
        for (let c = -1; c <= 1; c++) {
          for (const w of cells.get(`${i + a},${j + b},${k + c}`) ?? []) {
            const q = mesh.point(w);
            const d = Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
            if (d <= distance) found.push({ d, pair: [v, w] });
          }
        }
    const key = `${i},${j},${k}`;
    cells.set(key, [...(cells.get(key) ?? []), v]);
  }
  const used = new Set<number>();
  return found
    .sort((x, y) => x.d - y.d || x.pair[0] - y.pair[0])
    .filter(({ pair }) => !pair.some((v) => used.has(v)) && pair.forEach((v) => used.add(v)) === undefined)
    .map(({ pair }) => pair);
}
