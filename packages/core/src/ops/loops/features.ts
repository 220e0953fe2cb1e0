import { dot, normalize, sub } from '../../math';
import { NONE, type PolyMesh } from '../../mesh';
import { isSeam, onMidline, type Ground } from '../ground';

/** What a vertex may do when points are evened out: move on the surface, along a line, or not at all. */
export type Freedom = { kind: 'free' } | { kind: 'line'; along: [number, number] } | { kind: 'corner' };

/** A line that turns more than this at a point has a corner there; cosine of 50°. */
const CORNER = Math.cos((50 * Math.PI) / 180);

/** Whether an edge is a line that points slide along: an open border, hard, creased, or between two regions. */
export function isFeatureEdge(mesh: PolyMesh, e: number, ground: Ground): boolean {
  const [f, g] = [mesh.face(2 * e), mesh.face(2 * e + 1)];
  if (f === NONE || g === NONE) return !isSeam(mesh, 2 * e, ground);
  if (mesh.findChannel('edge', 'hard')?.get(e)) return true;
  const region = mesh.findChannel('face', 'region');
  return region !== undefined && region.get(f) !== region.get(g);
}

/** The freedom of a vertex. Cost: its valence. */
export function freedomOf(mesh: PolyMesh, v: number, ground: Ground): Freedom {
  const lines = mesh.vertexHalves(v).filter((h) => isFeatureEdge(mesh, h >> 1, ground));
  if (lines.length === 0) return { kind: 'free' };
  // a line that crosses the midline goes on in the mirrored half; one that ends in the open has a corner there
  if (lines.length !== 2 || onMidline(mesh, v, ground)) return { kind: 'corner' };
  const p = mesh.point(v);
  const [a, b] = lines.map((h) => mesh.target(h));
  const turn = dot(normalize(sub(p, mesh.point(a))), normalize(sub(mesh.point(b), p)));
  return turn < CORNER ? { kind: 'corner' } : { kind: 'line', along: [a, b] };
}
