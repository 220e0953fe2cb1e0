import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import type { Vec3 } from '../../math';
import { Rebuild } from '../../mesh';
import { nearness } from '../solid/solidFaces';
import { operator, plural } from '../operator';
import { Point, VertexId } from '../params';
import { only, pickedFaces } from '../picked';

const Params = z.object({
  points: z.array(Point),
  /** corners: a vertex on the border of the picked faces, or −1 − k for the k-th point */
  faces: z.array(z.array(z.int())),
  /** the picked face that each face takes after, and each point */
  faceLike: z.array(VertexId),
  pointLike: z.array(VertexId),
  /** what laying them had to say */
  told: z._default(z.array(z.string()), []),
});

/**
 * Puts faces in place of the picked ones, whose border stays as it is. Attributes come from the face that each takes after. Refuses (NO_WAY) what takes after faces that
 * are not picked, and whatever `addFace` refuses. Cost: the faces.
 */
export const relay = operator({
  name: 'relay',
  title: 'Re-lay',
  params: Params,
  run(mesh, selection, { points, faces, faceLike, pointLike, told }) {
    const picked = pickedFaces(mesh, selection, 'Pick the faces that shall be laid anew.');
    const corners = new Map(picked.map((f) => [f, mesh.faceVertices(f)]));
    if ([...faceLike, ...pointLike].some((f) => !corners.has(f)))
      throw new TopologyError('NO_WAY', 'The faces have changed since they were laid anew; pick them and lay them again.', { faces: picked }); // prettier-ignore
    // where they are, before they go
    const places = new Map([...corners].map(([f, own]) => [f, own.map((v) => mesh.point(v))]));
    const rebuild = new Rebuild(mesh, picked);
    const made = points.map((p, i) => {
      const f = pointLike[i];
      return rebuild.vertex(p, { vertices: corners.get(f) as number[], weights: nearness(p, places.get(f) as Vec3[]) });
    });
    faces.forEach((face, i) => rebuild.face(face.map((v) => (v < 0 ? made[-1 - v] : v)), faceLike[i])); // prettier-ignore
    const laid = rebuild.finish();
    return {
      selection: only({ faces: laid }),
      report: {
        sentence: [`${plural(laid.length, 'face')} in place of ${picked.length}`, ...told].join('; '),
        counts: { faces: laid.length, before: picked.length, quads: laid.filter((f) => mesh.faceHalves(f).length === 4).length }, // prettier-ignore
      },
    };
  },
});
