import { TopologyError } from '../../errors';
import { nextHalf, type TriMesh } from '../form/TriMesh';
import type { QuadSoup } from '../quads/QuadSoup';
import { turned, valueOf } from './gauss';
import type { GridMap } from './grid';
import type { Seams } from './seams';

/** A cell of one triangle: its part within half a step of a whole place. */
interface Piece {
  triangle: number;
  i: number;
  j: number;
}

/** A map with more cells than this, or none that can be counted, ran away where it was solved. */
const MOST = 4e6;

/**
 * The quads of a grid map by its dual: every place of halves that a triangle covers is a quad, and every connected piece of the surface
 * that rounds to one whole place is a vertex. Nothing is traced, so all faces are quads whatever the map does; each place of halves lies in just
 * one triangle, since places are exact and ties go to one side. Throws NO_WAY for a map that ran away. Cost: the triangles and the quads.
 */
export function extracted(mesh: TriMesh, seams: Seams, map: GridMap, corners: Uint8Array): QuadSoup {
  return new Extraction(mesh, seams, map, corners).run();
}

class Extraction {
  private readonly pieces: Piece[] = [];
  private readonly parent: number[] = [];
  private readonly known = new Map<number, Map<number, number>>();
  private readonly lineOf: number[] = [];
  /** pieces that corners of lines lie in: which, and how far from their whole place */
  private readonly ofCorners: { piece: number; corner: number; away: number }[] = [];
  private readonly p: Float64Array;
  private readonly steps = new Map<number, [number, number]>();
  /** lines with faces on one side only */
  private readonly borders = new Set<number>();

  constructor(
    private readonly mesh: TriMesh,
    private readonly seams: Seams,
    map: GridMap,
    private readonly corners: Uint8Array,
  ) {
    this.p = map.places;
    for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.twin[h] < 0) this.borders.add(mesh.line[h]);
    for (const [h, sum] of seams.across) this.steps.set(h, valueOf(sum, map.whole));
  }

  run(): QuadSoup {
    const { mesh } = this;
    let cells = 0;
    for (let t = 0; t < mesh.triangles; t++) cells += this.cellsOver(t);
    if (!(cells <= MOST)) throw new TopologyError('NO_WAY', 'The map of this surface has no size. Ask for more faces, or mend the surface.'); // prettier-ignore
    const quads: number[] = [];
    for (let t = 0; t < mesh.triangles; t++) this.quadsIn(t, quads);
    for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.twin[h] < 0 || mesh.twin[h] > h) this.joinAlong(h);
    return this.gathered(quads);
  }

  private piece(t: number, i: number, j: number): number {
    let own = this.known.get(t);
    if (!own) this.known.set(t, (own = new Map()));
    const key = i * 67108864 + j;
    const found = own.get(key);
    if (found !== undefined) return found;
    const id = this.pieces.push({ triangle: t, i, j }) - 1;
    this.parent.push(id);
    this.lineOf.push(-1);
    own.set(key, id);
    return id;
  }
  private root(x: number): number {
    while (this.parent[x] !== x) x = this.parent[x] = this.parent[this.parent[x]];
    return x;
  }

  private corner(h: number): [number, number] {
    const w = 2 * this.seams.wedge[h];
    return [this.p[w], this.p[w + 1]];
  }

  /** The area of the rectangle round a triangle in the map. */
  private cellsOver(t: number): number {
    const c = [0, 1, 2].map((k) => this.corner(3 * t + k));
    const [wide, high] = [0, 1].map((k) => Math.max(c[0][k], c[1][k], c[2][k]) - Math.min(c[0][k], c[1][k], c[2][k]));
    return wide * high;
  }

  private quadsIn(t: number, quads: number[]): void {
    const c = [0, 1, 2].map((k) => this.corner(3 * t + k));
    const area = (c[1][0] - c[0][0]) * (c[2][1] - c[0][1]) - (c[1][1] - c[0][1]) * (c[2][0] - c[0][0]);
    if (area === 0) return;
    const lo = [0, 1].map((k) => Math.ceil(Math.min(c[0][k], c[1][k], c[2][k]) - 0.5));
    const hi = [0, 1].map((k) => Math.floor(Math.max(c[0][k], c[1][k], c[2][k]) - 0.5));
    for (let i = lo[0]; i <= hi[0]; i++)
      for (let j = lo[1]; j <= hi[1]; j++) {
        if (!this.holds(t, c, i + 0.5, j + 0.5, Math.sign(area))) continue;
        const four = [this.piece(t, i, j), this.piece(t, i + 1, j), this.piece(t, i + 1, j + 1), this.piece(t, i, j + 1)]; // prettier-ignore
        quads.push(...(area > 0 ? four : four.reverse()));
      }
  }

  /** Whether a place lies in a triangle; on an edge, in the one whose half-edge is the lower. */
  private holds(t: number, c: number[][], x: number, y: number, sign: number): boolean {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [c[k], c[(k + 1) % 3]];
      const side = sign * ((b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]));
      if (side < 0) return false;
      const h = 3 * t + k;
      if (side === 0 && this.mesh.twin[h] >= 0 && this.mesh.twin[h] < h) return false;
    }
    return true;
  }

  /** Cells that an edge runs through are one on both of its sides. */
  private joinAlong(h: number): void {
    const { mesh } = this;
    const t = Math.floor(h / 3);
    const [a, b] = [this.corner(h), this.corner(nextHalf(h))];
    const g = mesh.twin[h];
    const line = mesh.line[h];
    const step = this.steps.get(h);
    for (const [i, j] of cellsAlong(a, b)) {
      const own = this.piece(t, i, j);
      if (line >= 0) this.mark(own, line);
      if (g < 0) continue;
      let [x, y] = [i, j];
      if (step) {
        [x, y] = turned([i, j], -this.seams.quarter[h]);
        x += step[0];
        y += step[1];
      }
      this.unite(own, this.piece(Math.floor(g / 3), x, y));
    }
    if (line < 0) return;
    this.markCorner(mesh.from[h], t, a);
    this.markCorner(mesh.to(h), t, b);
  }

  private markCorner(v: number, t: number, at: readonly [number, number]): void {
    if (this.corners[v] !== 1) return;
    const [i, j] = at.map(Math.round);
    const piece = this.piece(t, i, j);
    this.mark(piece, -2);
    this.ofCorners.push({ piece, corner: v, away: Math.hypot(at[0] - i, at[1] - j) });
  }

  private mark(piece: number, line: number): void {
    const r = this.root(piece);
    if (this.rank(line) >= this.rank(this.lineOf[r])) this.lineOf[r] = line;
  }
  /** Of lines through one cell, corners come first, then borders: what is open must lie on them. */
  private rank(line: number): number {
    return line === -2 ? 3 : line === -1 ? 0 : this.borders.has(line) ? 2 : 1;
  }
  private unite(x: number, y: number): void {
    const [a, b] = [this.root(x), this.root(y)];
    if (a === b) return;
    this.parent[b] = a;
    if (this.rank(this.lineOf[b]) > this.rank(this.lineOf[a])) this.lineOf[a] = this.lineOf[b];
  }

  /** One vertex per united cell, where its whole place lies, or as near to it as its triangles come. */
  private gathered(quads: number[]): QuadSoup {
    const vertex = new Map<number, number>();
    const ids = quads.map((piece) => {
      const r = this.root(piece);
      if (!vertex.has(r)) vertex.set(r, vertex.size);
      return vertex.get(r) as number;
    });
    const points = new Float64Array(3 * vertex.size);
    const near = new Float64Array(vertex.size).fill(Infinity);
    const onLine = new Int32Array(vertex.size).fill(-1);
    for (const [r, v] of vertex) onLine[v] = this.lineOf[r];
    this.pieces.forEach(({ triangle, i, j }, id) => {
      const v = vertex.get(this.root(id));
      if (v === undefined) return;
      const { weights, away } = this.nearest(triangle, i, j);
      if (away >= near[v]) return;
      near[v] = away;
      for (let k = 0; k < 3; k++) {
        points[3 * v + k] = 0;
        for (let c = 0; c < 3; c++) points[3 * v + k] += weights[c] * this.mesh.points[3 * this.mesh.from[3 * triangle + c] + k]; // prettier-ignore
      }
    });
    this.putCorners(points, vertex);
    return { points, quads: Int32Array.from(ids), onLine };
  }

  /** Corners are where they are: a map that folds there may have the same place elsewhere, too. */
  private putCorners(points: Float64Array, vertex: ReadonlyMap<number, number>): void {
    const near = new Map<number, number>();
    for (const { piece, corner, away } of this.ofCorners) {
      const v = vertex.get(this.root(piece));
      if (v === undefined || away >= (near.get(v) ?? Infinity)) continue;
      near.set(v, away);
      points.set(this.mesh.points.subarray(3 * corner, 3 * corner + 3), 3 * v);
    }
  }

  /** The place of a triangle nearest to one of the grid: shares of its corners, and how far off. */
  private nearest(t: number, x: number, y: number): { weights: [number, number, number]; away: number } {
    const c = [0, 1, 2].map((k) => this.corner(3 * t + k));
    const [[ax, ay], [bx, by], [cx, cy]] = c;
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (area !== 0) {
      const w1 = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) / area;
      const w2 = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / area;
      if (w1 >= 0 && w2 >= 0 && w1 + w2 <= 1) return { weights: [1 - w1 - w2, w1, w2], away: area > 0 ? 0 : 1e-6 };
    }
    let found: { weights: [number, number, number]; away: number } = { weights: [1, 0, 0], away: Infinity };
    for (let k = 0; k < 3; k++) {
      const [p, q] = [c[k], c[(k + 1) % 3]];
      const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
      const dd = dx * dx + dy * dy;
      const s = dd > 0 ? Math.min(1, Math.max(0, ((x - p[0]) * dx + (y - p[1]) * dy) / dd)) : 0;
      const away = (p[0] + s * dx - x) ** 2 + (p[1] + s * dy - y) ** 2;
      if (away >= found.away) continue;
      const weights: [number, number, number] = [0, 0, 0];
      weights[k] = 1 - s;
      weights[(k + 1) % 3] = s;
      found = { weights, away };
    }
    return found;
  }
}

/** The whole places whose cells a segment runs through, in order. */
function cellsAlong(a: readonly [number, number], b: readonly [number, number]): [number, number][] {
  const cuts = [0, 1];
  for (const k of [0, 1] as const) {
    const [lo, hi] = a[k] < b[k] ? [a[k], b[k]] : [b[k], a[k]];
    for (let x = Math.ceil(lo - 0.5) + 0.5; x < hi; x++) if (x > lo) cuts.push((x - a[k]) / (b[k] - a[k]));
  }
  cuts.sort((x, y) => x - y);
  const found: [number, number][] = [];
  for (let n = 0; n + 1 < cuts.length; n++) {
    if (cuts[n + 1] - cuts[n] < 1e-12) continue;
    const s = (cuts[n] + cuts[n + 1]) / 2;
    found.push([Math.round(a[0] + s * (b[0] - a[0])), Math.round(a[1] + s * (b[1] - a[1]))]);
  }
  return found;
}
