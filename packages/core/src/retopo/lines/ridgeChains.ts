import type { TriMesh } from '../form/TriMesh';
import { farEnd, type Curve } from './lines';

/** Half-edges along a ridge in order, all the same way; where it closes, the last ends where the first begins. */
export type RidgeChain = readonly number[];

/**
 * Takes ridges off the lines of a working mesh, and their ends out of its `corners`: quads follow them as far as that costs nothing, lines whatever it costs. Gives their edges. Cost: the triangles.
 */
export function ridgesTaken(mesh: TriMesh, curves: readonly Curve[], corners: Uint8Array): RidgeChain[] {
  const found: number[][] = curves.map(() => []);
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const line = mesh.line[h];
    if (line >= 0 && curves[line].isRidge && mesh.twin[h] > h) found[line].push(h);
  }
  const all = found.flat();
  for (const h of all) mesh.setLine(h, -1);
  for (const h of all)
    for (const v of [mesh.from[h], mesh.to(h)]) if (!mesh.isBorder(v) && !mesh.isOnLine(v)) corners[v] = 0;
  return found.flatMap((halves) => (halves.length > 0 ? [chained(mesh, halves)] : []));
}

/** Half-edges of one line in order. */
function chained(mesh: TriMesh, halves: readonly number[]): RidgeChain {
  const at = new Map<number, number[]>();
  for (const h of halves) for (const v of [mesh.from[h], mesh.to(h)]) at.set(v, [...(at.get(v) ?? []), h]);
  const end = [...at].find(([, own]) => own.length === 1);
  let v = end ? end[0] : mesh.from[halves[0]];
  const chain: number[] = [];
  const left = new Set(halves);
  for (;;) {
    const h = at.get(v)?.find((g) => left.has(g));
    if (h === undefined) return chain;
    left.delete(h);
    chain.push(mesh.from[h] === v ? h : mesh.twin[h]);
    v = farEnd(mesh, h, v);
  }
}
