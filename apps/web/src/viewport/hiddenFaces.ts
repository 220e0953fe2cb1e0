import type { PolyMesh } from '@half-loop/core/mesh';
import { REGION_CHANNEL } from '@half-loop/core/ops';

/** Whether a face is not shown because its region is not; 0 stands for what is in no region. */
export const isHiddenFace = (mesh: PolyMesh, f: number, hidden: ReadonlySet<number>): boolean =>
  hidden.size > 0 && hidden.has(mesh.findChannel('face', REGION_CHANNEL.name)?.get(f) ?? 0);

/** Whether every face of an edge, or of a vertex, is not shown; what has no face is. */
export const allHidden = (mesh: PolyMesh, faces: readonly number[], hidden: ReadonlySet<number>): boolean =>
  hidden.size > 0 && faces.length > 0 && faces.every((f) => isHiddenFace(mesh, f, hidden));
