import { dot, normalize, sub } from '../../math';
import { NONE, type Column, type PolyMesh } from '../../mesh';
import { isSeam, onMidline, type Ground } from '../ground';

/** What a vertex may do when points are evened out: move on the surface, along a line, or not at all. */
export type Freedom = { kind: 'free' } | { kind: 'line'; along: [number, number] } | { kind: 'corner' };

/** A line that turns more than this at a point has a corner there; cosine of 50°. */
const CORNER = Math.cos((50 * Math.PI) / 180);
const FREE: Freedom = { kind: 'free' };

/** The lines of a mesh that points slide along: open borders, hard edges, and the borders between regions. */
export class Features {
  private readonly hard: Column | undefined;
  private readonly region: Column | undefined;

  constructor(
    private readonly mesh: PolyMesh,
    private readonly ground: Ground,
  ) {
    this.hard = mesh.findChannel('edge', 'hard');
    this.region = mesh.findChannel('face', 'region');
  }

  isLine(e: number): boolean {
    const { mesh, hard, region } = this;
    const f = mesh.face(2 * e),
      g = mesh.face(2 * e + 1);
    if (f === NONE || g === NONE) return !isSeam(mesh, 2 * e, this.ground);
    if (hard !== undefined && hard.data[e] !== 0) return true;
    return region !== undefined && region.data[f] !== region.data[g];
  }

  /** The freedom of a vertex. Cost: its valence. */
  freedom(v: number): Freedom {
    const { mesh } = this;
    const first = mesh.vertexHalf.data[v];
    if (first === NONE) return FREE;
    const lines: number[] = [];
    let h = first;
    do {
      if (this.isLine(h >> 1)) lines.push(h);
      h = mesh.next(h ^ 1);
    } while (h !== first);
    if (lines.length === 0) return FREE;
    // a line that crosses the midline goes on in the mirrored half; one that ends in the open has a corner there
    if (lines.length !== 2 || onMidline(mesh, v, this.ground)) return { kind: 'corner' };
    const p = mesh.point(v);
    const [a, b] = lines.map((g) => mesh.target(g));
    const turn = dot(normalize(sub(p, mesh.point(a))), normalize(sub(mesh.point(b), p)));
    return turn < CORNER ? { kind: 'corner' } : { kind: 'line', along: [a, b] };
  }
}
