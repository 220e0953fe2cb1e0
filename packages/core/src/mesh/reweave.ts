import { addEdge, addFace, removeFaceOnly, removeLooseEdge } from './build';
import { NONE, type PolyMesh } from './PolyMesh';
import { markTrace } from './trace';

/** An outline without corners that repeat the one before, or run out to a corner and straight back. */
function withoutSpikes<C extends { vertex: number }>(corners: readonly C[]): C[] {
  let left = [...corners];
  for (let again = true; again && left.length > 2;) {
    const n = left.length;
    const i = left.findIndex(
      (c, k) => c.vertex === left[(k + 1) % n].vertex || left[(k + n - 1) % n].vertex === left[(k + 1) % n].vertex,
    );
    again = i >= 0;
    if (!again) break;
    const isTwin = left[i].vertex === left[(i + 1) % n].vertex;
    left = left.filter((_, k) => k !== i && (isTwin || k !== (i + 1) % n));
  }
  return left;
}

/** Attribute values of one element, column by column, to be written back to its successor. */
type Kept = number[][];

function keep(mesh: PolyMesh, domain: 'face' | 'edge' | 'corner', row: number): Kept {
  return mesh.channelColumns(domain).map((c) => [...c.data.subarray(row * c.stride, (row + 1) * c.stride)]);
}

function putBack(mesh: PolyMesh, domain: 'face' | 'edge' | 'corner', row: number, kept: Kept): void {
  // a channel made meanwhile has no old values
  mesh.channelColumns(domain).forEach((c, i) => kept[i]?.forEach((value, k) => c.set(row, value, k)));
}

/**
 * Replaces vertices by others in everything round them: the one mechanism behind welding. Faces that lose
 * corners keep the rest; those left with fewer than three go, and are returned. Face, edge and corner attributes are
 * carried; the replaced vertices are freed. Throws what `addFace` throws, changes left behind for the
 * transaction to roll back. Cost: the faces round the replaced vertices.
 */
export function reweave(mesh: PolyMesh, replacement: ReadonlyMap<number, number>): { lostFaces: number[] } {
  const resolve = (v: number): number => {
    let w = v;
    while (replacement.has(w)) w = replacement.get(w) as number;
    return w;
  };
  const faces = new Set<number>();
  const edges = new Set<number>();
  for (const v of replacement.keys()) {
    for (const f of mesh.vertexFaces(v)) faces.add(f);
    for (const h of mesh.vertexHalves(v)) edges.add(h >> 1);
  }
  const wovenFaces = [...faces].map((f) => ({
    id: f,
    kept: keep(mesh, 'face', f),
    corners: mesh.faceHalves(f).map((h) => ({ vertex: resolve(mesh.origin(h)), kept: keep(mesh, 'corner', h) })),
  }));
  const wovenEdges = [...edges].map((e) => {
    const ends = [resolve(mesh.origin(2 * e)), resolve(mesh.origin(2 * e + 1))] as const;
    const there = mesh.findHalf(ends[0], ends[1]);
    // where two edges become one, the one that stays keeps its own values
    const yields = there !== NONE && !edges.has(there >> 1);
    return { ends, yields, loose: mesh.isLooseEdge(e), kept: keep(mesh, 'edge', e) };
  });

  for (const { id } of wovenFaces) removeFaceOnly(mesh, id);
  for (const e of edges) if (mesh.isLooseEdge(e)) removeLooseEdge(mesh, e);

  const lostFaces: number[] = [];
  for (const { id, corners, kept } of wovenFaces.reverse()) {
    const left = withoutSpikes(corners);
    if (new Set(left.map((c) => c.vertex)).size < 3) {
      lostFaces.push(id);
      continue;
    }
    const f = addFace(
      mesh,
      left.map((c) => c.vertex),
    );
    putBack(mesh, 'face', f, kept);
    markTrace(mesh, f, corners.length);
    mesh.faceHalves(f).forEach((h, i) => putBack(mesh, 'corner', h, left[i].kept));
  }
  for (const { ends, yields, loose, kept } of wovenEdges) {
    if (ends[0] === ends[1]) continue;
    const h = loose ? addEdge(mesh, ends[0], ends[1]) : mesh.findHalf(ends[0], ends[1]);
    if (h !== NONE && !yields) putBack(mesh, 'edge', h >> 1, kept);
  }
  for (const v of replacement.keys()) mesh.freeVertex(v);
  return { lostFaces };
}
