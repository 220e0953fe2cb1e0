import type { Vec3 } from '../math';

/** A side as one number, whichever way it runs; points are fewer than 2²⁶. */
export const sideKey = (u: number, v: number): number => (u < v ? u * 67108864 + v : v * 67108864 + u);

/** The two ends of a side. */
export const endsOf = (key: number): [number, number] => [Math.floor(key / 67108864), key % 67108864];

/** What is known of an edge that must stay: the line it is a piece of. */
export type Line = number;

type Three = [number, number, number];

/** Triangles beside an edge that collapses are not turned further than this; cosine. */
const TURNED = 0.3;
/** Triangles made by turning an edge look less than 60° away from the two they replace; cosine. */
const ALONG = 0.5;

/**
 * Triangles that are split, collapsed and turned one edge at a time: what a remesher works on. Points and triangles keep their numbers; those
 * that are gone are marked. Some edges are pieces of lines, which stay edges. Every change costs the triangles round it.
 */
export class TriangleMesh {
  readonly points: Vec3[];
  /** three points of each triangle; −1 in the first place of one that is gone */
  readonly corners: number[] = [];
  /** what each triangle is a piece of */
  readonly from: number[] = [];
  /** the triangles round each point: some six, so that an array is searched sooner than a set */
  readonly around: number[][];
  private readonly lineOf = new Map<number, Line>();
  /** how many pieces of lines end in each point: most are asked about none */
  private readonly lineEnds: number[];

  constructor(points: readonly Vec3[]) {
    this.points = [...points];
    this.around = points.map(() => []);
    this.lineEnds = points.map(() => 0);
  }

  add(a: number, b: number, c: number, from: number): number {
    const t = this.from.push(from) - 1;
    this.corners.push(a, b, c);
    this.around[a].push(t);
    this.around[b].push(t);
    this.around[c].push(t);
    return t;
  }
  /** Takes a triangle away. */
  drop(t: number): void {
    for (let k = 0; k < 3; k++) takeOut(this.around[this.corners[3 * t + k]], t);
    this.corners[3 * t] = -1;
  }
  isAlive(t: number): boolean {
    return this.corners[3 * t] >= 0;
  }
  triangle(t: number): Three {
    return [this.corners[3 * t], this.corners[3 * t + 1], this.corners[3 * t + 2]];
  }
  *triangles(): Generator<number> {
    for (let t = 0; t < this.from.length; t++) if (this.isAlive(t)) yield t;
  }

  /** Every edge once, two ends after each other. Cost: the triangles round each point. */
  edges(): number[] {
    const found: number[] = [];
    for (let t = 0; t < this.from.length; t++) {
      if (!this.isAlive(t)) continue;
      for (let k = 0; k < 3; k++) {
        const u = this.corners[3 * t + k],
          v = this.corners[3 * t + ((k + 1) % 3)];
        if (this.firstWith(u, v) === t) found.push(u, v);
      }
    }
    return found;
  }
  /** The lowest triangle that has both points; −1 for none. */
  private firstWith(u: number, v: number): number {
    let first = -1;
    for (const t of this.around[u]) if ((first < 0 || t < first) && this.has(t, v)) first = t;
    return first;
  }
  private has(t: number, v: number): boolean {
    const { corners } = this;
    return corners[3 * t] === v || corners[3 * t + 1] === v || corners[3 * t + 2] === v;
  }

  /** Each piece of a line, by its side's key. */
  get lines(): ReadonlyMap<number, Line> {
    return this.lineOf;
  }
  /** The line that an edge is a piece of; undefined for none. */
  line(u: number, v: number): Line | undefined {
    return this.lineEnds[u] > 0 && this.lineEnds[v] > 0 ? this.lineOf.get(sideKey(u, v)) : undefined;
  }
  /** Makes an edge a piece of a line, or of none. */
  setLine(u: number, v: number, line: Line | undefined): void {
    const key = sideKey(u, v);
    const by = (line === undefined ? 0 : 1) - (this.lineOf.has(key) ? 1 : 0);
    this.lineEnds[u] += by;
    this.lineEnds[v] += by;
    if (line === undefined) this.lineOf.delete(key);
    else this.lineOf.set(key, line);
  }
  /** The points that lines lead to from a point. */
  lineNeighbours(v: number): number[] {
    return this.lineEnds[v] === 0 ? [] : this.neighbours(v).filter((w) => this.line(v, w) !== undefined);
  }
  neighbours(v: number): number[] {
    const found: number[] = [];
    for (const t of this.around[v])
      for (let k = 0; k < 3; k++) {
        const w = this.corners[3 * t + k];
        if (w !== v && !found.includes(w)) found.push(w);
      }
    return found;
  }
  sharedBy(u: number, v: number): number[] {
    return this.around[u].filter((t) => this.has(t, v));
  }
  hasEdge(u: number, v: number): boolean {
    return this.around[u].some((t) => this.has(t, v));
  }
  /** Whether a side of a point belongs to one triangle only. Cost: the triangles round it, twice. */
  isRim(v: number): boolean {
    return this.neighbours(v).some((w) => this.sharedBy(v, w).length === 1);
  }
  far(u: number, v: number): number {
    return between(this.points[u], this.points[v]);
  }

  /** Whether a triangle round a point would be turned over, or be left without area, if the point went to `to`. */
  wouldFold(v: number, to: Vec3): boolean {
    const p = this.points[v];
    for (const t of this.around[v]) {
      const k = this.corners[3 * t] === v ? 0 : this.corners[3 * t + 1] === v ? 1 : 2;
      const b = this.points[this.corners[3 * t + ((k + 1) % 3)]],
        c = this.points[this.corners[3 * t + ((k + 2) % 3)]];
      if (alike(p, b, c, to, b, c) <= 0) return true;
    }
    return false;
  }

  /** Puts a point in the middle of an edge; returns it. */
  split(u: number, v: number): number {
    const p = this.points[u],
      q = this.points[v];
    const m = this.points.push([(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2]) - 1;
    this.around.push([]);
    this.lineEnds.push(0);
    const line = this.line(u, v);
    for (const t of this.sharedBy(u, v)) {
      const from = this.from[t];
      const own = this.triangle(t);
      this.drop(t);
      this.add(...swapped(own, v, m), from);
      this.add(...swapped(own, u, m), from);
    }
    if (line !== undefined) {
      this.setLine(u, v, undefined);
      this.setLine(u, m, line);
      this.setLine(m, v, line);
    }
    return m;
  }

  /**
   * Draws u into v, which goes to `at`. False, and nothing changed, where that would fold a triangle, join what lies apart, or make an edge
   * longer than `longest`.
   */
  collapse(u: number, v: number, at: Vec3, longest: number): boolean {
    const shared = this.sharedBy(u, v);
    const ends = this.neighbours(u);
    const both = this.neighbours(v);
    if (ends.reduce((n, w) => (both.includes(w) ? n + 1 : n), 0) !== shared.length) return false;
    if (this.around[u].length + this.around[v].length === 2 * shared.length) return false;
    if (!this.mayGo(u, v, at, longest) || !this.mayGo(v, u, at, longest)) return false;
    for (const w of ends) {
      const line = this.line(u, w);
      if (line === undefined) continue;
      this.setLine(u, w, undefined);
      if (w !== v) this.setLine(v, w, line);
    }
    for (const t of shared) this.drop(t);
    for (const t of [...this.around[u]]) {
      const own = swapped(this.triangle(t), u, v);
      const from = this.from[t];
      this.drop(t);
      this.add(...own, from);
    }
    this.points[v] = at;
    return true;
  }
  /** Whether every triangle of u that does not have v stays as it faces, and short enough, with u at `at`. */
  private mayGo(u: number, v: number, at: Vec3, longest: number): boolean {
    const p = this.points[u];
    for (const t of this.around[u]) {
      if (this.has(t, v)) continue;
      const k = this.corners[3 * t] === u ? 0 : this.corners[3 * t + 1] === u ? 1 : 2;
      const b = this.points[this.corners[3 * t + ((k + 1) % 3)]],
        c = this.points[this.corners[3 * t + ((k + 2) % 3)]];
      if (between(at, b) > longest || between(at, c) > longest || between(b, c) > longest) return false;
      const was = areaOf(p, b, c),
        is = areaOf(at, b, c);
      if (alike(p, b, c, at, b, c) <= TURNED * was * is || is < 1e-30) return false;
    }
    return true;
  }

  /** Turns the edge u–v to join the two points opposite. False, and nothing changed, where it is a line or a triangle would fold. */
  turn(u: number, v: number): boolean {
    const shared = this.sharedBy(u, v);
    if (shared.length !== 2 || this.line(u, v) !== undefined) return false;
    // the first triangle runs u → v
    const [first, second] = this.follows(shared[0], u, v) ? shared : [shared[1], shared[0]];
    if (!this.follows(first, u, v) || !this.follows(second, v, u)) return false;
    const [a, b] = [this.opposite(first, u, v), this.opposite(second, u, v)];
    if (a === b || this.hasEdge(a, b)) return false;
    const made: Three[] = [[u, b, a], [b, v, a]]; // prettier-ignore
    if (!this.faceAlong(made, this.triangle(first), this.triangle(second))) return false;
    const [fa, fb] = [this.from[first], this.from[second]];
    this.drop(first);
    this.drop(second);
    this.add(...made[0], fa);
    this.add(...made[1], fb);
    return true;
  }
  private faceAlong(made: readonly Three[], first: Three, second: Three): boolean {
    const [m, n] = [this.normalOf(first), this.normalOf(second)];
    const mean: Vec3 = [m[0] + n[0], m[1] + n[1], m[2] + n[2]];
    const size = Math.hypot(...mean);
    return made.every((three) => {
      const own = this.normalOf(three);
      return own[0] * mean[0] + own[1] * mean[1] + own[2] * mean[2] >= ALONG * size;
    });
  }
  /** Of length 1, or 0 where the triangle has no area. */
  private normalOf([a, b, c]: Three): Vec3 {
    const n = areaVector(this.points[a], this.points[b], this.points[c]);
    const size = Math.hypot(...n) || 1;
    return [n[0] / size, n[1] / size, n[2] / size];
  }
  opposite(t: number, u: number, v: number): number {
    for (let k = 0; k < 3; k++) {
      const w = this.corners[3 * t + k];
      if (w !== u && w !== v) return w;
    }
    return -1;
  }
  private follows(t: number, u: number, v: number): boolean {
    const own = this.triangle(t);
    return own[(own.indexOf(u) + 1) % 3] === v;
  }
}

function takeOut(list: number[], item: number): void {
  const at = list.indexOf(item);
  list[at] = list[list.length - 1];
  list.pop();
}

const swapped = ([a, b, c]: Three, from: number, to: number): Three =>
  a === from ? [to, b, c] : b === from ? [a, to, c] : [a, b, to];

const between = (p: Vec3, q: Vec3): number => {
  const x = p[0] - q[0], y = p[1] - q[1], z = p[2] - q[2]; // prettier-ignore
  return Math.sqrt(x * x + y * y + z * z);
};
const areaVector = (a: Vec3, b: Vec3, c: Vec3): Vec3 => {
  const ux = b[0] - a[0], uy = b[1] - a[1], uz = b[2] - a[2]; // prettier-ignore
  const vx = c[0] - a[0], vy = c[1] - a[1], vz = c[2] - a[2]; // prettier-ignore
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
};
const areaOf = (a: Vec3, b: Vec3, c: Vec3): number => {
  const n = areaVector(a, b, c);
  return Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
};
/** How alike two triangles face: the product of their area vectors. */
const alike = (a: Vec3, b: Vec3, c: Vec3, d: Vec3, e: Vec3, f: Vec3): number => {
  const m = areaVector(a, b, c), n = areaVector(d, e, f); // prettier-ignore
  return m[0] * n[0] + m[1] * n[1] + m[2] * n[2];
};
