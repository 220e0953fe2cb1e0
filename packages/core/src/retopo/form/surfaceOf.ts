import { SculptSurface } from '../../surface';
import type { TriMesh } from './TriMesh';

/** The triangles as a surface, points with the same numbers. */
export const surfaceOf = (mesh: TriMesh): SculptSurface =>
  SculptSurface.build({
    positions: Float32Array.from(mesh.points.subarray(0, 3 * mesh.vertices)),
    indices: Uint32Array.from(mesh.from.subarray(0, 3 * mesh.triangles)),
  });
