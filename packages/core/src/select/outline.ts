import type { PolyMesh, Selection } from '../mesh';
import { only } from './query';
import type { Kind } from './whole';

/** What a box or lasso takes. */
export interface OutlineOptions {
  kind: Kind;
  /** only what lies inside with all its points; else all that it touches */
  wholly: boolean;
  /** whether a vertex counts; null: all do, through the model */
  isSeen: ((vertex: number) => boolean) | null;
}

/**
 * What lies inside a closed outline on the screen. `pixels` holds f32[2·vertexRows] where each vertex is seen, NaN
 * behind the eye; `outline` is f32[2·n]. A box is an outline of four points. Linear; each vertex is tried once
 * against the outline's box, then its sides.
 */
export function insideOutline(
  mesh: PolyMesh,
  pixels: Float32Array,
  outline: Float32Array,
  { kind, wholly, isSeen }: OutlineOptions,
): Selection {
  const within = new Outline(outline);
  const inside = new Uint8Array(mesh.vertexRows);
  for (let v = 0; v < mesh.vertexRows; v++)
    if (within.holds(pixels[2 * v], pixels[2 * v + 1]) && mesh.hasVertex(v) && (!isSeen || isSeen(v))) inside[v] = 1;
  if (kind === 'vertices') return only({ vertices: listOf(inside) });
  const enough = (n: number, of: number): boolean => (wholly ? n === of : n > 0);
  if (kind === 'edges') {
    const edges: number[] = [];
    for (let e = 0; e < mesh.edgeRows; e++) {
      if (!mesh.hasEdge(e)) continue;
      const [u, v] = [mesh.origin(2 * e), mesh.target(2 * e)];
      const crosses = !wholly && !isSeen && within.crosses(pixels, u, v);
      if (enough(inside[u] + inside[v], 2) || crosses) edges.push(e);
    }
    return only({ edges });
  }
  const faces: number[] = [];
  for (let f = 0; f < mesh.faceRows; f++) {
    if (!mesh.hasFace(f)) continue;
    let n = 0,
      of = 0;
    const first = mesh.faceHalf.data[f];
    let h = first;
    do {
      n += inside[mesh.halfOrigin.data[h]];
      of++;
      h = mesh.halfNext.data[h];
    } while (h !== first);
    if (enough(n, of)) faces.push(f);
  }
  return only({ faces });
}

function listOf(flags: Uint8Array): number[] {
  const ids: number[] = [];
  flags.forEach((flag, id) => flag === 1 && ids.push(id));
  return ids;
}

/** Rows of the outline's height that its sides are sorted into. */
const ROWS = 128;

/** A closed outline on the screen, pixels: which places lie inside it. */
export class Outline {
  private readonly min = [Infinity, Infinity];
  private readonly max = [-Infinity, -Infinity];
  /** the sides that reach into each row, by the number of their first point */
  private readonly rows: number[][] = Array.from({ length: ROWS }, () => []);

  constructor(private readonly points: Float32Array) {
    points.forEach((x, i) => {
      this.min[i % 2] = Math.min(this.min[i % 2], x);
      this.max[i % 2] = Math.max(this.max[i % 2], x);
    });
    for (let i = 0; i < points.length; i += 2) {
      const j = (i + 2) % points.length;
      const [a, b] = [this.row(points[i + 1]), this.row(points[j + 1])];
      for (let r = Math.min(a, b); r <= Math.max(a, b); r++) this.rows[r].push(i);
    }
  }

  private row(y: number): number {
    const height = this.max[1] - this.min[1];
    return height > 0 ? Math.min(ROWS - 1, Math.floor(((y - this.min[1]) / height) * ROWS)) : 0;
  }

  /** Whether a point lies inside, by how often a ray to the right crosses the sides. */
  holds(x: number, y: number): boolean {
    if (!(x >= this.min[0] && x <= this.max[0] && y >= this.min[1] && y <= this.max[1])) return false;
    const p = this.points;
    let odd = false;
    for (const i of this.rows[this.row(y)]) {
      const j = (i + 2) % p.length;
      if (p[i + 1] > y !== p[j + 1] > y && x < ((p[j] - p[i]) * (y - p[i + 1])) / (p[j + 1] - p[i + 1]) + p[i])
        odd = !odd;
    }
    return odd;
  }

  /** Whether the segment between two vertices crosses a side. */
  crosses(pixels: Float32Array, u: number, v: number): boolean {
    const [ax, ay, bx, by] = [pixels[2 * u], pixels[2 * u + 1], pixels[2 * v], pixels[2 * v + 1]];
    if (!(Math.max(ax, bx) >= this.min[0] && Math.min(ax, bx) <= this.max[0])) return false;
    if (!(Math.max(ay, by) >= this.min[1] && Math.min(ay, by) <= this.max[1])) return false;
    const p = this.points;
    const side = (x1: number, y1: number, x2: number, y2: number, x: number, y: number): number => (x2 - x1) * (y - y1) - (y2 - y1) * (x - x1); // prettier-ignore
    for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
      const [cx, cy, dx, dy] = [p[j], p[j + 1], p[i], p[i + 1]];
      if (side(ax, ay, bx, by, cx, cy) > 0 !== side(ax, ay, bx, by, dx, dy) > 0 && side(cx, cy, dx, dy, ax, ay) > 0 !== side(cx, cy, dx, dy, bx, by) > 0) return true; // prettier-ignore
    }
    return false;
  }
}
