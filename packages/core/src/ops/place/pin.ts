import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { PIN, PIN_CHANNEL } from '../../mesh';
import { operator, plural } from '../operator';
import { choice } from '../params';
import { verticesOf } from '../picked';

const SAID = { lock: 'locked where they are', release: 'released from the form', free: 'free again' };
const VALUES = { lock: PIN.locked, release: PIN.released, free: PIN.free };

/**
 * Locks picked points, which then stay where they are whatever moves others; releases them, so that evening out, bringing back and measuring leave them; or
 * makes them free again; counts of what needs a look leave released ones too. Refuses (NOTHING_PICKED) without any. Cost: the points.
 */
export const pin = operator({
  name: 'pin',
  title: 'Lock or release points',
  params: z.object({
    becomes: choice('Picked points are', [['lock', 'locked'], ['release', 'released'], ['free', 'free']], 'lock'), // prettier-ignore
  }),
  run(mesh, selection, { becomes }) {
    const vertices = [...verticesOf(mesh, selection)];
    if (vertices.length === 0)
      throw new TopologyError('NOTHING_PICKED', 'Pick the points to lock or release, or edges or faces with them.');
    const column = mesh.channel(PIN_CHANNEL);
    for (const v of vertices) column.set(v, VALUES[becomes as keyof typeof VALUES]);
    return {
      selection,
      report: { sentence: `${plural(vertices.length, 'point')} ${SAID[becomes as keyof typeof SAID]}`, counts: { vertices: vertices.length } }, // prettier-ignore
    };
  },
});
