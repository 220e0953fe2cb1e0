import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import { meanPoint } from '../../math';
import { addFace } from '../../mesh';
import { newPlace } from '../ground';
import { operator, plural } from '../operator';
import { choice } from '../params';
import { only, pickedEdges } from '../picked';
import { carryFrom } from './carry';
import { fill } from './fill';
import { openingAt } from './openings';

const FILL = fill.params.parse({});

/**
 * Caps the opening that a picked edge belongs to: with quads, as Fill does; with one face of as many sides; or with a fan of triangles round a
 * point in its middle, on the form. Refuses (OFF_MIDLINE) half an opening for all but quads. Cost: the border.
 */
export const cap = operator({
  name: 'cap',
  title: 'Cap',
  params: z.object({
    how: choice('With', [['quads', 'quads'], ['ngon', 'one face'], ['fan', 'a fan of triangles']], 'quads'), // prettier-ignore
  }),
  run(mesh, selection, { how }, ground) {
    if (how === 'quads') return fill.run(mesh, selection, FILL, ground);
    const { vertices, halves, half } = openingAt(mesh, pickedEdges(mesh, selection, 'Pick an edge of the opening.')[0], ground); // prettier-ignore
    if (half)
      throw new TopologyError('OFF_MIDLINE', 'The mirrored half has the rest of this opening: cap it with quads, or make the mirror real first.', { vertices }); // prettier-ignore
    const carry = carryFrom(mesh, halves.map((h) => h ^ 1)); // prettier-ignore
    const faces =
      how === 'ngon'
        ? [carry.face(addFace(mesh, vertices))]
        : fan(vertices, carry.vertex(newPlace(mesh, meanPoint(vertices.map((v) => mesh.point(v))), vertices, ground))).map((corners) => carry.face(addFace(mesh, corners))); // prettier-ignore
    return {
      selection: only({ faces }),
      report: { sentence: `Capped with ${how === 'ngon' ? `one face of ${vertices.length} sides` : plural(faces.length, 'triangle')}`, counts: { faces: faces.length, sides: vertices.length } }, // prettier-ignore
    };
  },
});

const fan = (border: readonly number[], middle: number): number[][] =>
  border.map((v, i) => [v, border[(i + 1) % border.length], middle]);
