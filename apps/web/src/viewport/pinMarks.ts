import { mirrored, type MirrorPlane } from '@half-loop/core/math';
import { pinnedVertices, type PolyMesh } from '@half-loop/core/mesh';
import { MODEL_COLOURS } from './modelColours';
import { RING, type Mark } from './PointSet';

const SQUARE = 4;

/** A square at each locked point, a ring at each released one, and at their mirror images. Cost: the vertices, where any ever were. */
export function pinMarks(mesh: PolyMesh, plane: MirrorPlane | null): Mark[] {
  const { locked, released } = pinnedVertices(mesh);
  const mark = (v: number, shape: Mark['shape'], size: number): Mark[] => {
    const own: Mark = { at: mesh.point(v), colour: MODEL_COLOURS.ink, size, shape };
    return plane ? [own, { ...own, at: mirrored(own.at, plane) }] : [own];
  };
  return [...locked.flatMap((v) => mark(v, SQUARE, 13)), ...released.flatMap((v) => mark(v, RING, 14))];
}
