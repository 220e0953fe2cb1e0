import * as z from 'zod/mini';
import type { PolyMesh, Selection } from '../mesh';
import { NoParams, only, query, unique } from './query';

/** Kinds of elements. */
export const KINDS = ['vertices', 'edges', 'faces'] as const;
export type Kind = (typeof KINDS)[number];

export const idsOf = (mesh: PolyMesh, kind: Kind): Iterable<number> =>
  kind === 'vertices' ? mesh.vertices() : kind === 'edges' ? mesh.edges() : mesh.faces();
/** The kind of which something is picked; faces with nothing picked. */
export const pickedKind = (s: Selection): Kind =>
  s.vertices.length > 0 ? 'vertices' : s.edges.length > 0 ? 'edges' : 'faces';

export const all = query({
  name: 'all',
  title: 'Everything',
  params: z.object({ kind: z._default(z.enum(KINDS), 'faces') }),
  run: (mesh, _selection, { kind }) => only({ [kind]: [...idsOf(mesh, kind)] }),
});

export const none = query({ name: 'none', title: 'Nothing', params: NoParams, run: () => only({}) });

/** Of each kind of element that is picked, the others instead; with nothing picked, every face. */
export const invert = query({
  name: 'invert',
  title: 'The other ones',
  params: NoParams,
  run(mesh, selection) {
    const kind = pickedKind(selection);
    const picked = new Set(selection[kind]);
    return only({ [kind]: [...idsOf(mesh, kind)].filter((id) => !picked.has(id)) });
  },
});

/** All faces that hang together with what is picked. */
export const connected = query({
  name: 'connected',
  title: 'All connected',
  params: NoParams,
  run(mesh, selection) {
    const seen = cornersOf(mesh, selection);
    for (const v of seen) for (const h of mesh.vertexHalves(v)) seen.add(mesh.target(h));
    return only({ faces: unique([...seen].flatMap((v) => mesh.vertexFaces(v))) });
  },
});

/** The vertices of all that is picked. */
export function cornersOf(mesh: PolyMesh, s: Selection): Set<number> {
  const found = new Set(s.vertices);
  for (const e of s.edges) for (const h of [2 * e, 2 * e + 1]) found.add(mesh.origin(h));
  for (const f of s.faces) for (const v of mesh.faceVertices(f)) found.add(v);
  return found;
}
