import * as z from 'zod/mini';
import { meanPoint } from '../../math';
import { meanOf, Rebuild } from '../../mesh';
import { newPlace } from '../ground';
import { operator, plural } from '../operator';
import { only, pickedFaces } from '../picked';

/** Puts a point in the middle of each picked face and fans it out into triangles. */
export const poke = operator({
  name: 'poke',
  title: 'Poke',
  params: z.object({}),
  run(mesh, selection, _params, ground) {
    const faces = pickedFaces(mesh, selection, 'Pick the faces to poke.');
    const outlines = faces.map((f) => ({ f, corners: mesh.faceVertices(f) }));
    const rebuild = new Rebuild(mesh, faces);
    for (const { f, corners } of outlines) {
      const at = newPlace(mesh, meanPoint(corners.map((v) => mesh.point(v))), corners, ground);
      const middle = rebuild.vertex(at, meanOf(corners));
      corners.forEach((v, i) => rebuild.face([v, corners[(i + 1) % corners.length], middle], f));
    }
    const made = rebuild.finish();
    return {
      selection: only({ faces: made }),
      report: { sentence: `${plural(faces.length, 'face')} poked into ${plural(made.length, 'triangle')}`, counts: { faces: faces.length, triangles: made.length } }, // prettier-ignore
    };
  },
});
