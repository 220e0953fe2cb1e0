import { cross, dot, length, normalize, sub, type Vec3 } from '../math';
import { triangulate, type PolyMesh, type Touched } from '../mesh';

export interface FaceHit {
  face: number;
  distance: number;
}
export interface NearHit {
  id: number;
  /** distance beside the ray over distance along it */
  slope: number;
  along: number;
}

/**
 * Finds what of a mesh lies on or near a ray: a hashed grid over the faces, updated face by face. Colliding
 * cells only cost time, since every candidate is tested exactly. An update costs the faces touched; a query the
 * cells along the ray, some 0.2 ms.
 */
export class PickGrid {
  private readonly cells = new Map<number, number[]>();
  private readonly cellsOf = new Map<number, number[]>();
  private min: [number, number, number] = [Infinity, Infinity, Infinity];
  private max: [number, number, number] = [-Infinity, -Infinity, -Infinity];

  /** `cell` in file units: about twice an edge is best. Faces that are not shown are not found, nor what has no others. */
  constructor(
    readonly mesh: PolyMesh,
    readonly cell: number,
    private readonly isShown: (f: number) => boolean = () => true,
  ) {
    for (const f of mesh.faces()) if (isShown(f)) this.insert(f);
  }

  update({ faces }: Touched): void {
    for (const f of faces) {
      this.remove(f);
      if (this.mesh.hasFace(f) && this.isShown(f)) this.insert(f);
    }
  }

  /** The first face along a ray; `direction` is unit. Backs count. */
  raycast(origin: Vec3, direction: Vec3): FaceHit | null {
    let best: FaceHit | null = null;
    const seen = new Set<number>();
    for (const { t, faces } of this.march(origin, direction, 0, Infinity)) {
      if (best && best.distance < t - this.cell) break;
      for (const f of faces) {
        if (seen.has(f)) continue;
        seen.add(f);
        const hit = this.hitFace(f, origin, direction);
        if (hit !== null && (best === null || hit < best.distance)) best = { face: f, distance: hit };
      }
    }
    return best;
  }

  /**
   * The vertex and the edge nearest to a ray by slope, at most `slope` beside it and at most `limit` along it; `span` is the edge's
   * length across the ray, as a slope too, so that a caller can weigh one against the other. Loose edges and
   * isolated vertices, which lie in no cell, are passed in by the caller.
   */
  nearest(
    origin: Vec3,
    direction: Vec3,
    slope: number,
    limit: number,
    loose: { vertices: Iterable<number>; edges: Iterable<number> },
  ): { vertex: NearHit | null; edge: (NearHit & { span: number }) | null } {
    const vertices = new Set(loose.vertices);
    const edges = new Set(loose.edges);
    const seen = new Set<number>();
    for (const { faces } of this.march(origin, direction, slope, limit))
      for (const f of faces) {
        if (seen.has(f)) continue;
        seen.add(f);
        for (const h of this.mesh.faceHalves(f)) {
          vertices.add(this.mesh.origin(h));
          edges.add(h >> 1);
        }
      }
    let vertex: NearHit | null = null,
      edge: (NearHit & { span: number }) | null = null;
    for (const v of vertices) {
      const at = besideRay(origin, direction, this.mesh.point(v));
      if (at.along > 0 && at.along < limit && at.slope < (vertex?.slope ?? slope)) vertex = { id: v, ...at };
    }
    for (const e of edges) {
      const a = this.mesh.point(this.mesh.origin(2 * e)), b = this.mesh.point(this.mesh.target(2 * e)); // prettier-ignore
      const at = segmentBesideRay(origin, direction, a, b);
      if (at.along > 0 && at.along < limit && at.slope < (edge?.slope ?? slope))
        edge = { id: e, ...at, span: length(cross(sub(b, a), direction)) / at.along };
    }
    return { vertex, edge };
  }

  /** The vertex nearest to p within `radius`, those in `except` left out. Cost: the cells in reach. */
  vertexWithin(p: Vec3, radius: number, except: ReadonlySet<number>): number | null {
    let best: number | null = null,
      least = radius;
    const lo = p.map((x) => Math.floor((x - radius) / this.cell)),
      hi = p.map((x) => Math.floor((x + radius) / this.cell));
    for (let i = lo[0]; i <= hi[0]; i++)
      for (let j = lo[1]; j <= hi[1]; j++)
        for (let k = lo[2]; k <= hi[2]; k++)
          for (const f of this.cells.get(hash(i, j, k)) ?? [])
            for (const v of this.mesh.faceVertices(f)) {
              const d = Math.hypot(...sub(this.mesh.point(v), p));
              if (d > least || except.has(v) || (d === least && best !== null)) continue;
              best = v;
              least = d;
            }
    return best;
  }

  private hitFace(f: number, origin: Vec3, direction: Vec3): number | null {
    const points = this.mesh.faceVertices(f).map((v) => this.mesh.point(v));
    const cut = triangulate(points);
    for (let i = 0; i < cut.length; i += 3) {
      const t = hitTriangle(origin, direction, points[cut[i]], points[cut[i + 1]], points[cut[i + 2]]);
      if (t !== null) return t;
    }
    return null;
  }

  /** Step by step along a ray up to `limit`, the lists of the cells within a cone round it that were not met before. */
  private *march(
    origin: Vec3,
    direction: Vec3,
    slope: number,
    limit: number,
  ): Generator<{ t: number; faces: number[] }> {
    const range = rayInBox(origin, direction, this.min, this.max, slope);
    if (!range) return;
    const met = new Set<number>();
    const end = Math.min(range[1] + this.cell, limit + this.cell);
    for (let t = range[0]; t <= end; t += this.cell * 0.9) {
      const reach = this.cell * 0.5 + slope * t;
      const lo = origin.map((o, k) => Math.floor((o + direction[k] * t - reach) / this.cell));
      const hi = origin.map((o, k) => Math.floor((o + direction[k] * t + reach) / this.cell));
      for (let i = lo[0]; i <= hi[0]; i++)
        for (let j = lo[1]; j <= hi[1]; j++)
          for (let k = lo[2]; k <= hi[2]; k++) {
            const key = hash(i, j, k);
            if (met.has(key)) continue;
            met.add(key);
            const faces = this.cells.get(key);
            if (faces) yield { t, faces };
          }
    }
  }

  private insert(f: number): void {
    const lo = [Infinity, Infinity, Infinity],
      hi = [-Infinity, -Infinity, -Infinity];
    for (const v of this.mesh.faceVertices(f)) {
      const p = this.mesh.point(v);
      for (let k = 0; k < 3; k++) {
        lo[k] = Math.min(lo[k], p[k]);
        hi[k] = Math.max(hi[k], p[k]);
        this.min[k] = Math.min(this.min[k], p[k]);
        this.max[k] = Math.max(this.max[k], p[k]);
      }
    }
    const from = lo.map((x) => Math.floor(x / this.cell)),
      to = hi.map((x) => Math.floor(x / this.cell));
    const keys: number[] = [];
    for (let i = from[0]; i <= to[0]; i++)
      for (let j = from[1]; j <= to[1]; j++)
        for (let k = from[2]; k <= to[2]; k++) {
          const key = hash(i, j, k);
          keys.push(key);
          const list = this.cells.get(key);
          if (list) list.push(f);
          else this.cells.set(key, [f]);
        }
    this.cellsOf.set(f, keys);
  }

  private remove(f: number): void {
    for (const key of this.cellsOf.get(f) ?? []) {
      const list = this.cells.get(key);
      if (!list) continue;
      list.splice(list.indexOf(f), 1);
      if (list.length === 0) this.cells.delete(key);
    }
    this.cellsOf.delete(f);
  }
}

const hash = (i: number, j: number, k: number): number =>
  Math.imul(i, 73856093) ^ Math.imul(j, 19349663) ^ Math.imul(k, 83492791);

function rayInBox(o: Vec3, d: Vec3, min: Vec3, max: Vec3, slope: number): [number, number] | null {
  if (min[0] > max[0]) return null;
  const far = Math.hypot(...[0, 1, 2].map((k) => Math.max(Math.abs(o[k] - min[k]), Math.abs(o[k] - max[k]))));
  const grow = slope * far;
  let t0 = 0,
    t1 = far;
  for (let k = 0; k < 3; k++) {
    const a = (min[k] - grow - o[k]) / d[k],
      b = (max[k] + grow - o[k]) / d[k];
    if (Number.isNaN(a) || Number.isNaN(b)) continue;
    t0 = Math.max(t0, Math.min(a, b));
    t1 = Math.min(t1, Math.max(a, b));
  }
  return t0 <= t1 ? [t0, t1] : null;
}

function hitTriangle(o: Vec3, d: Vec3, a: Vec3, b: Vec3, c: Vec3): number | null {
  const u = sub(b, a),
    v = sub(c, a);
  const px = d[1] * v[2] - d[2] * v[1], py = d[2] * v[0] - d[0] * v[2], pz = d[0] * v[1] - d[1] * v[0]; // prettier-ignore
  const det = u[0] * px + u[1] * py + u[2] * pz;
  if (Math.abs(det) < 1e-20) return null;
  const s = sub(o, a);
  const x = (s[0] * px + s[1] * py + s[2] * pz) / det;
  if (x < 0 || x > 1) return null;
  const q: Vec3 = [s[1] * u[2] - s[2] * u[1], s[2] * u[0] - s[0] * u[2], s[0] * u[1] - s[1] * u[0]];
  const y = dot(d, q) / det;
  if (y < 0 || x + y > 1) return null;
  const t = dot(v, q) / det;
  return t > 0 ? t : null;
}

function besideRay(o: Vec3, d: Vec3, p: Vec3): { slope: number; along: number } {
  const w = sub(p, o);
  const along = dot(w, d);
  return { slope: along > 0 ? Math.sqrt(Math.max(0, dot(w, w) - along * along)) / along : Infinity, along };
}

/** The place of segment a–b nearest to the ray, as slope and distance along. */
function segmentBesideRay(o: Vec3, d: Vec3, a: Vec3, b: Vec3): { slope: number; along: number } {
  const at = (t: number): Vec3 => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
  const t = closestOnSegment(o, d, a, b);
  return besideRay(o, d, at(t));
}

function closestOnSegment(o: Vec3, d: Vec3, a: Vec3, b: Vec3): number {
  const u = sub(b, a),
    w = sub(a, o);
  const uu = dot(u, u),
    ud = dot(u, d),
    uw = dot(u, w),
    dw = dot(d, w);
  const det = uu - ud * ud;
  if (det < 1e-12 * uu) return 0;
  return Math.max(0, Math.min(1, (ud * dw - uw) / det));
}

/** The place of segment a–b nearest to a ray: where a tool grabs an edge. */
export function grabOnEdge(origin: Vec3, direction: Vec3, a: Vec3, b: Vec3): Vec3 {
  const t = fractionOnEdge(origin, direction, a, b);
  return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
}

/** How far along the segment a–b, 0 to 1, its point nearest to a ray lies. */
export const fractionOnEdge = (origin: Vec3, direction: Vec3, a: Vec3, b: Vec3): number =>
  closestOnSegment(origin, normalize(direction), a, b);
