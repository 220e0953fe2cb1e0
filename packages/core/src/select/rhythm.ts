import * as z from 'zod/mini';
import { edgeLoop, edgeRing, NONE, type PolyMesh, type Selection } from '../mesh';
import { only, query } from './query';

const Params = z.object({
  take: z._default(z.int().check(z.minimum(1), z.maximum(999)), 1),
  skip: z._default(z.int().check(z.minimum(1), z.maximum(999)), 1),
  offset: z._default(z.int().check(z.minimum(0), z.maximum(998)), 0),
  along: z._default(z.enum(['loop', 'ring', 'strip']), 'loop'),
});
export type RhythmParams = z.infer<typeof Params>;

/** How a rhythm comes out along its walk: what is told before it is accepted. */
export interface RhythmCount {
  /** elements along the walk */
  length: number;
  closed: boolean;
  picked: number;
  /** elements left over at the end, which make no full take and skip; 0: it comes out even */
  remainder: number;
}

/** Take n, skip m along the loop or ring through the picked edge, or along the strip of faces across it. */
export const rhythm = query({
  name: 'rhythm',
  title: 'Rhythm',
  params: Params,
  run(mesh, selection, params) {
    const walk = walkFor(mesh, selection, params.along);
    if (!walk) return selection;
    const { take, skip, offset } = params;
    const picked = walk.ids.filter((_, i) => (i - offset + (take + skip) * walk.ids.length) % (take + skip) < take);
    return only(params.along === 'strip' ? { faces: picked } : { edges: picked });
  },
});

/** The remainder and counts of a rhythm, without picking it; null when nothing is picked that it could run along. */
export function countRhythm(mesh: PolyMesh, selection: Selection, params: RhythmParams): RhythmCount | null {
  const walk = walkFor(mesh, selection, params.along);
  if (!walk) return null;
  const { edges, faces } = rhythm.run(mesh, selection, params, null);
  const n = walk.ids.length;
  return { length: n, closed: walk.closed, picked: edges.length + faces.length, remainder: n % (params.take + params.skip) }; // prettier-ignore
}

/** The walk begins at the first picked edge and goes on from there. */
function walkFor(
  mesh: PolyMesh,
  { edges, faces }: Selection,
  along: RhythmParams['along'],
): { ids: number[]; closed: boolean } | null {
  const start =
    edges[0] ?? (faces[0] !== undefined && mesh.hasFace(faces[0]) ? mesh.faceHalf.data[faces[0]] >> 1 : undefined);
  if (start === undefined || !mesh.hasEdge(start)) return null;
  const walk = along === 'loop' ? edgeLoop(mesh, 2 * start) : edgeRing(mesh, 2 * start);
  const from = walk.closed ? walk.halves.indexOf(2 * start) : 0;
  const halves = [...walk.halves.slice(from), ...walk.halves.slice(0, from)];
  const isQuad = (h: number): boolean => mesh.face(h) !== NONE && mesh.faceHalves(mesh.face(h)).length === 4;
  const ids = along === 'strip' ? halves.filter(isQuad).map((h) => mesh.face(h)) : halves.map((h) => h >> 1);
  return { ids: [...new Set(ids)], closed: walk.closed };
}
