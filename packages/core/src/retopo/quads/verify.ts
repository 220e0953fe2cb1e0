import type { WalkingForm } from '../../surface';
import type { TriMesh } from '../form/TriMesh';
import { qualityOf } from './QuadCheck';
import type { QuadSoup } from './QuadSoup';

/** What a surface is, whatever its shape. */
export interface Topology {
  euler: number;
  borders: number;
  parts: number;
}

export interface Verdict {
  /** no reason: the quads are sound */
  reasons: string[];
  /** handles of the form that are closed in the quads; sound but for these where it is the only reason */
  handlesLost: number;
  folded: number;
  irregular: number;
  interior: number;
  /** least, 5th percentile and mean of the quads' corner quality */
  quality: { least: number; low: number; mean: number };
}

export function topologyOf(mesh: TriMesh): Topology {
  let edges = 0,
    borderEdges = 0,
    alive = 0;
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (!mesh.isAlive(Math.floor(h / 3))) continue;
    alive++;
    if (mesh.twin[h] < 0) borderEdges++;
    if (mesh.twin[h] < h) edges++;
  }
  let vertices = 0;
  const next = new Map<number, number>();
  for (let v = 0; v < mesh.vertices; v++) if (mesh.out[v] >= 0) vertices++;
  for (let h = 0; h < 3 * mesh.triangles && next.size < borderEdges; h++)
    if (mesh.isAlive(Math.floor(h / 3)) && mesh.twin[h] < 0) next.set(mesh.from[h], mesh.to(h));
  return { euler: vertices - edges + alive / 3, borders: loopsOf(next), parts: 1 };
}

function loopsOf(next: Map<number, number>): number {
  let loops = 0;
  const seen = new Set<number>();
  for (const first of next.keys()) {
    if (seen.has(first)) continue;
    loops++;
    for (let v: number | undefined = first; v !== undefined && !seen.has(v); v = next.get(v)) seen.add(v);
  }
  return loops;
}

/**
 * Checks quads for what is promised: manifold edges and points, one winding, the Euler number and borders of what they were made from, in one piece, none without area
 * or folded against every one of `forms` (the sculpt is crinkled finer than quads are, the working mesh is short of its tips). Cost: linear, with a closest point per
 * corner and form.
 */
export function verified({ points, quads }: QuadSoup, wanted: Topology, forms: readonly WalkingForm[]): Verdict {
  const reasons: string[] = [];
  const n = points.length / 3;
  const halves = new Map<number, number>();
  const key = (u: number, v: number): number => u * n + v;
  for (let q = 0; q < quads.length; q += 4) {
    if (new Set(quads.subarray(q, q + 4)).size < 4) reasons.push('a quad uses one point twice');
    for (let k = 0; k < 4; k++) {
      const at = key(quads[q + k], quads[q + ((k + 1) % 4)]);
      if (halves.has(at)) reasons.push('an edge has two faces on one side');
      halves.set(at, q + k);
    }
  }
  if (quads.length === 0) reasons.push('there is no quad');
  if (reasons.length > 0) return { reasons: [...new Set(reasons)], handlesLost: 0, folded: 0, irregular: 0, interior: 0, quality: { least: 0, low: 0, mean: 0 } }; // prettier-ignore
  const { valence, onBorder, edges, fans, next } = countRound(quads, n, halves, key);
  if (fans !== n) reasons.push('a point joins several fans of faces');
  const euler = n - edges + quads.length / 4;
  if (euler !== wanted.euler) reasons.push(`the Euler number is ${euler} in place of ${wanted.euler}`);
  const borders = loopsOf(next);
  if (borders !== wanted.borders) reasons.push(`${borders} borders in place of ${wanted.borders}`);
  if (partsOf(quads, n) !== wanted.parts) reasons.push('it fell apart');
  let irregular = 0,
    interior = 0;
  for (let v = 0; v < n; v++) {
    if (onBorder[v]) continue;
    interior++;
    if (valence[v] !== 4) irregular++;
    if (valence[v] < 3) reasons.push('a point has two edges only');
  }
  const { quality, folded } = qualityOf(points, quads, forms);
  if (folded > 0) reasons.push(`${folded} quads are folded`);
  const handlesLost = reasons.length === 1 && euler > wanted.euler ? (euler - wanted.euler) / 2 : 0;
  return { reasons: [...new Set(reasons)], handlesLost, folded, irregular, interior, quality };
}

function countRound(
  quads: Int32Array,
  n: number,
  halves: ReadonlyMap<number, number>,
  key: (u: number, v: number) => number,
): { valence: Int32Array; onBorder: Uint8Array; edges: number; fans: number; next: Map<number, number> } {
  const valence = new Int32Array(n);
  const onBorder = new Uint8Array(n);
  const next = new Map<number, number>();
  let edges = 0;
  const corner = (h: number, by: number): number => quads[(h & ~3) + (((h & 3) + by) & 3)];
  for (let h = 0; h < quads.length; h++) {
    const [u, v] = [corner(h, 0), corner(h, 1)];
    const isOpen = !halves.has(key(v, u));
    if (isOpen || u < v) {
      edges++;
      valence[u]++;
      valence[v]++;
    }
    if (!isOpen) continue;
    onBorder[u] = onBorder[v] = 1;
    next.set(u, v);
  }
  // fans: go round each corner that was not met yet
  const seen = new Uint8Array(quads.length);
  let fans = 0;
  for (let first = 0; first < quads.length; first++) {
    if (seen[first]) continue;
    fans++;
    for (const back of [false, true])
      for (let h: number | undefined = first, i = 0; h !== undefined && (i === 0 || seen[h] === 0); i++) {
        seen[h] = 1;
        // across the edge that arrives, or the one that leaves
        const across: number | undefined = back
          ? halves.get(key(corner(h, 1), corner(h, 0)))
          : halves.get(key(corner(h, 0), corner(h, 3)));
        h = across === undefined ? undefined : back ? (across & ~3) + ((across + 1) & 3) : across;
      }
  }
  return { valence, onBorder, edges, fans, next };
}

function partsOf(quads: Int32Array, n: number): number {
  const parent = Int32Array.from({ length: n }, (_, v) => v);
  const root = (x: number): number => {
    let r = x;
    while (parent[r] !== r) r = parent[r] = parent[parent[r]];
    return r;
  };
  for (let q = 0; q < quads.length; q++) parent[root(quads[q])] = root(quads[(q & ~3) + ((q + 1) & 3)]);
  const used = new Set<number>();
  for (const v of quads) used.add(root(v));
  return used.size;
}
