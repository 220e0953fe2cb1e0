import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { addScaled, distance } from '../../math';
import { isReleased } from '../../mesh';
import { settledPlace } from '../ground';
import { operator, plural } from '../operator';
import { proposedLength } from '../params';
import { verticesOf } from '../picked';

/**
 * Brings points back onto the form, picked ones or all, or lifts them off it by a distance along its normals. Midline points stay on the
 * midline, released points where they are. Refuses (NO_WAY) without a form. Says how far the farthest went. Cost: a closest-point query a point.
 */
export const bringBack = operator({
  name: 'bring-back',
  title: 'Bring back onto the form',
  params: z.object({ lift: proposedLength('Lifted by', 'Off the form; empty: on it') }),
  run(mesh, selection, { lift }, ground) {
    const { form } = ground;
    if (!form) throw new TopologyError('NO_WAY', 'Points are held on nothing; choose what they are held on, under Hold the form.'); // prettier-ignore
    const picked = verticesOf(mesh, selection);
    const vertices = (picked.size > 0 ? [...picked] : [...mesh.vertices()]).filter((v) => !isReleased(mesh, v));
    let most = 0;
    for (const v of vertices) {
      const from = mesh.point(v);
      const { point, normal } = form.closest(from, v);
      const to = lift ? addScaled(point, normal, lift) : point;
      mesh.setPoint(v, settledPlace(from, to, lift ? { ...ground, form: null } : ground, v));
      most = Math.max(most, distance(from, mesh.point(v)));
    }
    return {
      selection,
      report: { sentence: `${plural(vertices.length, 'point')} brought ${lift ? 'off' : 'onto'} the form, the farthest by ${Number(most.toPrecision(3))}`, counts: { vertices: vertices.length, most } }, // prettier-ignore
    };
  },
});
