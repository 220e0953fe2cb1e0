import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { AXES, isOnPlane, ontoPlane, planeDistance, type MirrorPlane } from '../../math';
import { deletePicked } from '../deletePicked';
import { makeReal } from '../makeReal';
import { operator, plural } from '../operator';
import { choice, proposedLength } from '../params';
import { meanLength, only } from '../picked';

/**
 * Copies one half over the other: faces wholly or mostly on the other side go, points at the plane are brought onto it, and the half that is
 * kept is mirrored. Says how far the halves were apart. Refuses (NOTHING_PICKED) an empty half. Cost: the mesh.
 */
export const mirrorOver = operator({
  name: 'mirror-over',
  title: 'Copy one half over the other',
  params: z.object({
    axis: choice('Across', [['x', 'x'], ['y', 'y'], ['z', 'z']], 'x'), // prettier-ignore
    at: proposedLength('Plane at', 'Empty: at zero'),
    keep: choice('Kept is', [['plus', 'the side where it grows'], ['minus', 'the side where it falls']], 'plus'), // prettier-ignore
  }),
  run(mesh, _selection, { axis, at, keep }, ground) {
    if (ground.plane)
      throw new TopologyError('NO_WAY', 'Symmetry is on, so only one half is there; make the mirror real first.');
    const plane: MirrorPlane = { axis: AXES[AXES.indexOf(axis as 'x')], offset: at ?? 0 };
    const side = keep === 'plus' ? 1 : -1;
    const near = 0.25 * meanLength(mesh, mesh.edges());
    const middle = (f: number): number => mesh.faceVertices(f).reduce((s, v) => s + planeDistance(mesh.point(v), plane), 0) * side; // prettier-ignore
    const gone = [...mesh.faces()].filter((f) => middle(f) <= 0);
    if (gone.length === mesh.faceCount)
      throw new TopologyError('NOTHING_PICKED', 'There are no faces on the side that shall be kept.');
    if (gone.length > 0) deletePicked.run(mesh, only({ faces: gone }), deletePicked.params.parse({}), ground);
    let moved = 0;
    for (const v of mesh.vertices()) {
      const d = planeDistance(mesh.point(v), plane) * side;
      if (isOnPlane(mesh.point(v), plane) || d > near || (d > 0 && !mesh.isBorderVertex(v))) continue;
      mesh.setPoint(v, ontoPlane(mesh.point(v), plane));
      moved++;
    }
    const { report } = makeReal.run(mesh, only({}), plane, { plane: null, form: null });
    return {
      selection: only({}),
      report: { sentence: `${plural(gone.length, 'face')} of the other half replaced, ${plural(moved, 'point')} brought onto the plane; ${report.sentence}`, counts: { gone: gone.length, moved } }, // prettier-ignore
    };
  },
});
