import * as z from 'zod/mini';
import { TopologyError } from '../errors';
import { AXES, isOnPlane, mirrored } from '../math';
import { addEdge, addFace, addVertex, removeLooseEdge, EMPTY_SELECTION, NONE, type PolyMesh } from '../mesh';
import { operator, plural } from './operator';

/**
 * Makes the mirrored half real: each face gets a partner across the plane, wound the other way, sharing
 * the vertices that lie exactly on it. Attributes go along. Refuses (OFF_MIDLINE) a mesh with an edge on the
 * plane that has faces on both sides already. Mirrored points are exact: 2·offset − x.
 */
export const makeReal = operator({
  name: 'make-real',
  title: 'Make the mirrored half real',
  params: z.object({ axis: z.enum(AXES), offset: z.number() }),
  run(mesh, _selection, plane) {
    const partner = new Map<number, number>();
    const faces = [...mesh.faces()];
    const isHeld = (v: number): boolean => isOnPlane(mesh.point(v), plane) && mesh.vertexFaces(v).length > 0;
    const loose = [...mesh.edges()].filter((e) => mesh.isLooseEdge(e)).map((e) => ({ e, ends: [mesh.origin(2 * e), mesh.target(2 * e)] as const })); // prettier-ignore
    // an edge without faces at a face's point of the midline would stand where both halves join: it comes back if there is room
    const standing = loose.filter(({ ends }) => ends.some(isHeld));
    for (const { e } of standing) removeLooseEdge(mesh, e);
    for (const v of [...mesh.vertices()]) {
      const p = mesh.point(v);
      partner.set(v, isOnPlane(p, plane) ? v : copyVertex(mesh, v, mirrored(p, plane)));
    }
    for (const f of faces) {
      const vertices = mesh.faceVertices(f);
      const image = vertices.map((v) => partner.get(v) as number).reverse();
      if (image.every((v, i) => v === [...vertices].reverse()[i])) continue;
      const full = image.findIndex((v, i) => {
        const h = mesh.findHalf(v, image[(i + 1) % image.length]);
        return h !== NONE && mesh.face(h) !== NONE;
      });
      if (full >= 0)
        throw new TopologyError(
          'OFF_MIDLINE',
          'An edge on the midline has faces on both sides; the mirrored half would be a third.',
          {
            vertices: [image[full], image[(full + 1) % image.length]],
          },
        );
      const g = addFace(mesh, image);
      for (const c of mesh.channelColumns('face')) c.copyRow(f, g);
      copyCorners(mesh, f, g, partner);
    }
    let leftOut = 0;
    for (const { e, ends } of loose) {
      const image = ends.map((v) => partner.get(v) as number);
      if (!standing.some((s) => s.e === e)) addEdge(mesh, image[0], image[1]);
      else if (ends.some((v) => isFull(mesh, v))) leftOut++;
      else for (const [u, v] of [ends, image]) addEdge(mesh, u, v);
    }
    const without = leftOut > 0 ? `, ${plural(leftOut, 'loose edge')} left out where both halves join` : '';
    return {
      selection: EMPTY_SELECTION,
      report: { sentence: `${plural(faces.length, 'face')} mirrored for real${without}`, counts: { faces: faces.length, leftOut } }, // prettier-ignore
    };
  },
});

function copyVertex(mesh: PolyMesh, v: number, p: readonly [number, number, number]): number {
  const w = addVertex(mesh, p);
  for (const c of mesh.channelColumns('vertex')) c.copyRow(v, w);
  return w;
}

/** A mirrored face's corners have what those of the face itself have. */
function copyCorners(mesh: PolyMesh, f: number, g: number, partner: ReadonlyMap<number, number>): void {
  const columns = mesh.channelColumns('corner');
  if (columns.length === 0) return;
  const from = new Map(mesh.faceHalves(f).map((h) => [partner.get(mesh.origin(h)), h]));
  for (const h of mesh.faceHalves(g)) for (const c of columns) c.copyRow(from.get(mesh.origin(h)) as number, h);
}

/** Faces all round: no room for a further edge. */
const isFull = (mesh: PolyMesh, v: number): boolean =>
  mesh.vertexFaces(v).length > 0 && mesh.vertexHalves(v).every((h) => mesh.face(h) !== NONE);
