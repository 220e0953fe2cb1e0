import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { isOnPlane, ontoPlane, planeDistance, type MirrorPlane } from '../../math';
import { releasedTest, type PolyMesh } from '../../mesh';
import { operator, plural } from '../operator';
import { proposedLength } from '../params';
import { meanLength, only } from '../picked';

/** Of the mean edge: an open point nearer to the midline than this was meant to be on it. */
const NEAR = 0.3;

/** Open points beside the midline that leave a gap there: near to it, not on it. Cost: the points. */
export function besideMidline(
  mesh: PolyMesh,
  plane: MirrorPlane,
  within = NEAR * meanLength(mesh, mesh.edges()),
): number[] {
  const isReleased = releasedTest(mesh);
  return [...mesh.vertices()].filter((v) => {
    const p = mesh.point(v);
    return (
      !isOnPlane(p, plane) && Math.abs(planeDistance(p, plane)) <= within && mesh.isBorderVertex(v) && !isReleased([v])
    );
  });
}

/** Brings open points that lie beside the midline exactly onto it. Refuses (NOTHING_PICKED) when there are none, or no symmetry. */
export const toMidline = operator({
  name: 'to-midline',
  title: 'Bring onto the midline',
  params: z.object({ within: proposedLength('Points within', 'Empty: a third of an edge') }),
  run(mesh, _selection, { within }, ground) {
    const { plane } = ground;
    if (!plane) throw new TopologyError('NOTHING_PICKED', 'Symmetry is off, so there is no midline.');
    const vertices = besideMidline(mesh, plane, within ?? undefined);
    if (vertices.length === 0) throw new TopologyError('NOTHING_PICKED', 'No open point lies beside the midline.');
    for (const v of vertices) {
      let p = ontoPlane(mesh.point(v), plane);
      for (let i = 0; ground.form && i < 3; i++) p = ontoPlane(ground.form.closest(p, v).point, plane);
      mesh.setPoint(v, p);
    }
    return { selection: only({ vertices }), report: { sentence: `${plural(vertices.length, 'point')} brought onto the midline`, counts: { vertices: vertices.length } } }; // prettier-ignore
  },
});
