import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { meanPoint } from '../../math';
import { reweave } from '../../mesh';
import { onMidline, settle } from '../ground';
import { operator, plural } from '../operator';
import { choice, proposedLength } from '../params';
import { meanLength, only, pickedVertices } from '../picked';
import { pairsWithin, weld } from '../weld';

/**
 * Joins everything picked in one point: in the middle, or where the first or the last picked point is. A point on the
 * midline keeps the place there. Refuses what would give an edge three faces.
 */
export const weldPicked = operator({
  name: 'weld-picked',
  title: 'Weld into one',
  params: z.object({
    at: choice('Where', [['middle', 'in the middle'], ['last', 'at the last one picked'], ['first', 'at the first']], 'middle'), // prettier-ignore
  }),
  run(mesh, selection, { at }, ground) {
    const ids = pickedVertices(mesh, selection, 'Pick two points or more to weld.');
    if (ids.length < 2)
      throw new TopologyError('NOTHING_PICKED', 'Pick two points or more to weld.', { vertices: ids });
    const midline = ids.find((v) => onMidline(mesh, v, ground));
    const stay = midline ?? (at === 'last' ? ids[ids.length - 1] : ids[0]);
    const middle = meanPoint(ids.map((v) => mesh.point(v)));
    const { lostFaces } = reweave(mesh, new Map(ids.filter((v) => v !== stay).map((v) => [v, stay])));
    if (!mesh.hasVertex(stay))
      throw new TopologyError('NOTHING_PICKED', 'Nothing would be left of these faces; pick fewer points.', { vertices: ids }); // prettier-ignore
    if (at === 'middle') settle(mesh, stay, middle, ground);
    const lost = lostFaces.length > 0 ? `, ${plural(lostFaces.length, 'face')} closed up` : '';
    return {
      selection: only({ vertices: [stay] }),
      report: { sentence: `${plural(ids.length, 'point')} welded into one${lost}`, counts: { vertices: ids.length, lostFaces: lostFaces.length } }, // prettier-ignore
    };
  },
});

/** A tenth of the mean edge, when no distance is given. */
const PROPOSED = 0.1;

/** Joins all pairs of points, of the whole mesh or of what is picked, that lie within a distance (file units). */
export const weldWithin = operator({
  name: 'weld-within',
  title: 'Weld within',
  params: z.object({ distance: proposedLength('Within') }),
  run(mesh, selection, { distance }, ground) {
    const nothing = selection.vertices.length + selection.edges.length + selection.faces.length === 0;
    const ids = nothing ? undefined : pickedVertices(mesh, selection);
    const within = distance ?? meanLength(mesh, mesh.edges()) * PROPOSED;
    const pairs = pairsWithin(mesh, within, ids);
    if (pairs.length === 0)
      throw new TopologyError('NOTHING_PICKED', 'No two of these points lie that close together.');
    return weld.run(mesh, selection, { pairs }, ground);
  },
});
