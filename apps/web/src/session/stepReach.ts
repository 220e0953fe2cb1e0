import type { Vec3 } from '@half-loop/core/math';
import { touchedElements, type PolyMesh } from '@half-loop/core/mesh';
import type { Step } from './Step';

/** Where the points are that a step moved, made or joined: those that are there now. Cost: what the step touched. */
export function stepReach(mesh: PolyMesh, step: Step): Vec3[] {
  const own = new Set<number>();
  for (const { delta } of step.meshes ?? []) {
    const changed = delta.columns.filter(({ column }) => column === 'position');
    const { vertices, faces } = touchedElements(mesh, changed.length > 0 ? [] : delta.columns);
    for (const { rows } of changed) for (const v of rows) own.add(v);
    for (const v of vertices) own.add(v);
    for (const f of faces) if (mesh.hasFace(f)) for (const v of mesh.faceVertices(f)) own.add(v);
  }
  return [...own].filter((v) => mesh.hasVertex(v)).map((v) => mesh.point(v));
}
