import { isOnPlane, type MirrorPlane } from '../../math';
import type { TriMesh } from './TriMesh';

/** Whether a vertex lies on the mirror plane, to the last bit. */
export const isOnCut = ({ points: p }: TriMesh, v: number, plane: MirrorPlane): boolean =>
  isOnPlane([p[3 * v], p[3 * v + 1], p[3 * v + 2]], plane);
