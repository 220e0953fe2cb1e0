import { PIN, PIN_CHANNEL } from './pinChannel';
import type { PolyMesh } from './PolyMesh';

const pinOf = (mesh: PolyMesh, v: number): number => mesh.findChannel('vertex', PIN_CHANNEL.name)?.data[v] ?? PIN.free;

/** Whether a vertex stays where it is, whatever moves it. */
export const isLocked = (mesh: PolyMesh, v: number): boolean => pinOf(mesh, v) === PIN.locked;
/** Whether a vertex is where the artist wants it: it is not evened out, not brought back, and not measured. */
export const isReleased = (mesh: PolyMesh, v: number): boolean => pinOf(mesh, v) === PIN.released;

/** Whether the artist released all of some vertices; asked once a mesh, told of many. */
export function releasedTest(mesh: PolyMesh): (vertices: readonly number[]) => boolean {
  const pins = mesh.findChannel('vertex', PIN_CHANNEL.name)?.data;
  return (vertices) => pins !== undefined && vertices.every((v) => pins[v] === PIN.released);
}

/** The vertices that are locked or released. Cost: the vertices, where any ever were. */
export function pinnedVertices(mesh: PolyMesh): { locked: number[]; released: number[] } {
  if (!mesh.findChannel('vertex', PIN_CHANNEL.name)) return { locked: [], released: [] };
  const all = [...mesh.vertices()];
  return { locked: all.filter((v) => isLocked(mesh, v)), released: all.filter((v) => isReleased(mesh, v)) };
}
