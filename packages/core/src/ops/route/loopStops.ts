import { edgeLoop, NONE, type PolyMesh } from '../../mesh';
import { onMidline, type Ground } from '../ground';

/** Where a loop ends inside the mesh, and why it does not go on. */
export interface LoopStop {
  vertex: number;
  /** the half-edge that arrives there */
  half: number;
  why: 'pole' | 'triangle' | 'n-gon';
  /** edges at the pole, or sides of the face in the way */
  count: number;
}

/** Both ends of the loop through an edge that lie inside the mesh; none where it closes, or meets a border or the midline. */
export function loopStops(mesh: PolyMesh, e: number, ground: Ground): LoopStop[] {
  if (mesh.isBorderEdge(e) || mesh.isLooseEdge(e)) return [];
  const { halves, closed } = edgeLoop(mesh, 2 * e);
  if (closed) return [];
  const ends = [halves[halves.length - 1], halves[0] ^ 1];
  return ends.flatMap((half): LoopStop[] => {
    const vertex = mesh.target(half);
    if (mesh.isBorderVertex(vertex) || onMidline(mesh, vertex, ground)) return [];
    const valence = mesh.valence(vertex);
    if (valence !== 4) return [{ vertex, half, why: 'pole', count: valence }];
    const odd = mesh.vertexHalves(vertex).map((h) => mesh.face(h)).find((f) => f !== NONE && mesh.faceHalves(f).length !== 4); // prettier-ignore
    const count = odd === undefined ? 4 : mesh.faceHalves(odd).length;
    return [{ vertex, half, why: count === 3 ? 'triangle' : 'n-gon', count }];
  });
}

/** A stop in words: where a person would look. */
export const stopWords = ({ why, count }: LoopStop): string =>
  why === 'pole' ? `stops at a pole of ${count} edges` : why === 'triangle' ? 'stops at a triangle' : `stops at a face of ${count} sides`; // prettier-ignore
