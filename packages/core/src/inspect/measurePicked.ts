import { distance, dot, normalize, sub, type Vec3 } from '../math';
import { chainsOf, type PolyMesh, type Selection } from '../mesh';

/** What a tape and a protractor say of two picked things. Lengths in file units, angles in degrees. */
export type PickedMeasure =
  | { kind: 'points'; length: number }
  | { kind: 'one'; length: number }
  | { kind: 'two'; lengths: [number, number]; ratio: number; angle: number };

/** Two points: how far apart. One run of edges: how long. Two runs: both, their ratio, and the angle between. Null otherwise. */
export function measurePicked(mesh: PolyMesh, { vertices, edges }: Selection): PickedMeasure | null {
  const points = vertices.filter((v) => mesh.hasVertex(v));
  if (edges.length === 0)
    return points.length === 2
      ? { kind: 'points', length: distance(mesh.point(points[0]), mesh.point(points[1])) }
      : null;
  const runs = chainsOf(mesh, edges.filter((e) => mesh.hasEdge(e))); // prettier-ignore
  const lengthOf = (halves: readonly number[]): number =>
    halves.reduce((sum, h) => sum + distance(mesh.point(mesh.origin(h)), mesh.point(mesh.target(h))), 0);
  if (runs.length === 1) return { kind: 'one', length: lengthOf(runs[0].halves) };
  if (runs.length !== 2) return null;
  const [a, b] = runs.map((r) => lengthOf(r.halves));
  const [u, v] = runs.map(({ halves }): Vec3 => normalize(sub(mesh.point(mesh.target(halves[halves.length - 1])), mesh.point(mesh.origin(halves[0]))))); // prettier-ignore
  const angle = (Math.acos(Math.min(1, Math.abs(dot(u, v)))) * 180) / Math.PI;
  return { kind: 'two', lengths: [a, b], ratio: Math.max(a, b) / Math.min(a, b), angle };
}
