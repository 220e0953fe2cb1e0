import { distance, dot, lerp, normalize, sub, type Vec3 } from '../../math';
import { NONE, type Column, type PolyMesh } from '../../mesh';
import { isSeam, onMidline, type Ground } from '../ground';

/** What a vertex may do when points are evened out: move on the surface, along a line, or not at all. */
export type Freedom = { kind: 'free' } | { kind: 'line'; along: [number, number] } | { kind: 'corner' };

/** A line that turns more than this at a point has a corner there; cosine of 50°. */
const CORNER = Math.cos((50 * Math.PI) / 180);
const FREE: Freedom = { kind: 'free' };
/** A point this near to a line of the form, as a share of its shortest edge, lies on it; so does an edge between two such whose middle is. */
const ON_LINE = 0.1,
  MIDDLE_ON_LINE = 0.2;

/** The lines of a mesh that points slide along: open borders, hard edges, the borders between regions, and what lies along the lines of the form. */
export class Features {
  private readonly hard: Column | undefined;
  private readonly region: Column | undefined;
  private readonly onForm = new Map<number, boolean>();

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
    return (region !== undefined && region.data[f] !== region.data[g]) || this.followsForm(e);
  }

  /** For a vertex on a line of the form that goes along it to p, the nearest point of that line; null for others. */
  lineOfForm(v: number, p: Vec3): Vec3 | null {
    const { lines } = this.ground.form ?? {};
    return lines && this.isOnForm(v) ? lines.nearest(p, this.shortestEdge(v)) : null;
  }

  /** Whether an edge runs along a line of the form. */
  private followsForm(e: number): boolean {
    const { mesh } = this;
    const { lines } = this.ground.form ?? {};
    const [u, v] = [mesh.origin(2 * e), mesh.target(2 * e)];
    if (!lines || !this.isOnForm(u) || !this.isOnForm(v)) return false;
    const [p, q] = [mesh.point(u), mesh.point(v)];
    return lines.nearest(lerp(p, q, 0.5), MIDDLE_ON_LINE * distance(p, q)) !== null;
  }

  private isOnForm(v: number): boolean {
    const { mesh, onForm } = this;
    const { lines } = this.ground.form ?? {};
    const known = onForm.get(v);
    if (known !== undefined || !lines) return known ?? false;
    const isOn = lines.nearest(mesh.point(v), ON_LINE * this.shortestEdge(v)) !== null;
    onForm.set(v, isOn);
    return isOn;
  }
  private shortestEdge(v: number): number {
    const { mesh } = this;
    const p = mesh.point(v);
    return Math.min(...mesh.vertexHalves(v).map((h) => distance(p, mesh.point(mesh.target(h)))));
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
