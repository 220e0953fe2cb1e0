import * as z from 'zod/mini';
import { addScaled } from '../../math';
import { vertexNormal, type PolyMesh } from '../../mesh';
import { settledPlace } from '../ground';
import { operator, plural } from '../operator';
import { choice, proposedLength } from '../params';
import { meanLength, only, pickedEdges } from '../picked';
import { bevel } from '../shape/bevel';

const Params = z.object({
  width: proposedLength('Width', 'Of the whole'),
  depth: proposedLength('Depth', 'Negative: a ridge'),
  profile: choice('Across', [['round', 'round'], ['flat', 'flat, with held walls'], ['sharp', 'a sharp line']], 'flat'), // prettier-ignore
});
/** Strips across: the rails between them, from rim to rim, go down by these shares of the depth. */
const PROFILES = { sharp: [0, 1, 0], round: [0, Math.SQRT1_2, 1, Math.SQRT1_2, 0], flat: [0, 1, 1, 1, 0] } as const;

/**
 * A groove, or a ridge, along picked loops: strips of quads in place of each edge, their middle rows sunk. Rows that end inside the mesh
 * run out to a point; those that close or meet a border go on. New faces are in the region on their left.
 */
export const groove = operator({
  name: 'groove',
  title: 'Groove or ridge',
  params: Params,
  run(mesh, selection, { width, depth, profile }, ground) {
    const edges = pickedEdges(mesh, selection, 'Pick the loop along which the groove shall run.');
    const by = width ?? meanLength(mesh, edges) / 2;
    const down = depth ?? by / 2;
    const shares = PROFILES[profile];
    const made = bevel.run(mesh, only({ edges }), { width: by / 2, segments: shares.length - 1 }, ground);
    const rows = rowsFromRim(mesh, made.selection.faces);
    const bare = { ...ground, form: null };
    const moves = [...rows].map(([v, row]) => {
      const share = shares[Math.min(row, shares.length >> 1)];
      return { v, to: addScaled(mesh.point(v), vertexNormal(mesh, v), -down * share) };
    });
    for (const { v, to } of moves) mesh.setPoint(v, settledPlace(mesh.point(v), to, bare));
    return {
      selection: made.selection,
      report: {
        sentence: `${down < 0 ? 'Ridge' : 'Groove'} along ${plural(edges.length, 'edge')}, ${plural(made.selection.faces.length, 'face')} in it, in the region on their left`,
        counts: { faces: made.selection.faces.length, width: by, depth: down },
      },
    };
  },
});

/** Vertices of a strip by how many edges they lie from its rim; those of the rim itself are 0. */
function rowsFromRim(mesh: PolyMesh, faces: readonly number[]): Map<number, number> {
  const strip = new Set(faces);
  const vertices = new Set(faces.flatMap((f) => mesh.faceVertices(f)));
  const rows = new Map<number, number>();
  // an end on a border has its rim only at the strip's two sides
  for (const f of faces)
    for (const h of mesh.faceHalves(f)) {
      const g = mesh.face(h ^ 1);
      if (g >= 0 && !strip.has(g)) for (const v of [mesh.origin(h), mesh.target(h)]) rows.set(v, 0);
    }
  const queue = [...rows.keys()];
  for (const v of queue)
    for (const h of mesh.vertexHalves(v)) {
      const w = mesh.target(h);
      if (rows.has(w) || !vertices.has(w)) continue;
      rows.set(w, (rows.get(v) as number) + 1);
      queue.push(w);
    }
  return rows;
}
