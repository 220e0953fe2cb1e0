import { cross, dot, length, lerp, normalize, sub, type Vec3 } from '../math';

/** A side as one number, whichever way it runs; points are fewer than 2²⁶. */
export const sideKey = (u: number, v: number): number => (u < v ? u * 67108864 + v : v * 67108864 + u);

/** The two ends of a side. */
export const endsOf = (key: number): [number, number] => [Math.floor(key / 67108864), key % 67108864];

/** What is known of an edge that must stay: the line it is a piece of. */
export type Line = number;

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
  readonly around: Set<number>[];
  readonly lines = new Map<number, Line>();

  constructor(points: readonly Vec3[]) {
    this.points = [...points];
    this.around = points.map(() => new Set());
  }

  add(a: number, b: number, c: number, from: number): number {
    const t = this.from.length;
    this.corners.push(a, b, c);
    this.from.push(from);
    for (const v of [a, b, c]) this.around[v].add(t);
    return t;
  }
  private remove(t: number): void {
    for (let k = 0; k < 3; k++) this.around[this.corners[3 * t + k]].delete(t);
    this.corners[3 * t] = -1;
  }
  isAlive(t: number): boolean {
    return this.corners[3 * t] >= 0;
  }
  triangle(t: number): [number, number, number] {
    return [this.corners[3 * t], this.corners[3 * t + 1], this.corners[3 * t + 2]];
  }
  *triangles(): Generator<number> {
    for (let t = 0; t < this.from.length; t++) if (this.isAlive(t)) yield t;
  }

  /** Every edge once, its ends in no order. */
  edges(): [number, number][] {
    const seen = new Set<number>();
    const found: [number, number][] = [];
    for (const t of this.triangles())
      for (let k = 0; k < 3; k++) {
        const [u, v] = [this.corners[3 * t + k], this.corners[3 * t + ((k + 1) % 3)]];
        const key = sideKey(u, v);
        if (!seen.has(key)) found.push([u, v]);
        seen.add(key);
      }
    return found;
  }

  isLine(u: number, v: number): boolean {
    return this.lines.has(sideKey(u, v));
  }
  /** The points that lines lead to from a point. */
  lineNeighbours(v: number): number[] {
    return this.neighbours(v).filter((w) => this.isLine(v, w));
  }
  neighbours(v: number): number[] {
    const found = new Set<number>();
    for (const t of this.around[v]) for (const w of this.triangle(t)) if (w !== v) found.add(w);
    return [...found];
  }
  sharedBy(u: number, v: number): number[] {
    return [...this.around[u]].filter((t) => this.around[v].has(t));
  }
  hasEdge(u: number, v: number): boolean {
    for (const t of this.around[u]) if (this.around[v].has(t)) return true;
    return false;
  }
  far(u: number, v: number): number {
    return length(sub(this.points[u], this.points[v]));
  }
  normal(t: number): Vec3 {
    return this.normalOf(...this.triangle(t));
  }
  private normalOf(a: number, b: number, c: number): Vec3 {
    const p = this.points[a];
    return cross(sub(this.points[b], p), sub(this.points[c], p));
  }

  /** Puts a point in the middle of an edge; returns it. */
  split(u: number, v: number): number {
    const m = this.points.push(lerp(this.points[u], this.points[v], 0.5)) - 1;
    this.around.push(new Set());
    const line = this.lines.get(sideKey(u, v));
    for (const t of this.sharedBy(u, v)) {
      const from = this.from[t];
      const own = this.triangle(t);
      this.remove(t);
      this.add(...(own.map((w) => (w === v ? m : w)) as [number, number, number]), from);
      this.add(...(own.map((w) => (w === u ? m : w)) as [number, number, number]), from);
    }
    if (line !== undefined) {
      this.lines.delete(sideKey(u, v));
      this.lines.set(sideKey(u, m), line);
      this.lines.set(sideKey(m, v), line);
    }
    return m;
  }

  /**
   * Draws u into v, which goes to `at`. False, and nothing changed, where that would fold a triangle, join what lies apart, or make an edge
   * longer than `longest`.
   */
  collapse(u: number, v: number, at: Vec3, longest: number): boolean {
    const shared = this.sharedBy(u, v);
    const both = new Set(this.neighbours(v));
    if (this.neighbours(u).filter((w) => both.has(w)).length !== shared.length) return false;
    const gone = new Set(shared);
    const kept = [...this.around[u], ...this.around[v]].filter((t) => !gone.has(t));
    if (kept.length === 0) return false;
    for (const t of kept) {
      const own = this.triangle(t);
      const places = own.map((w) => (w === u || w === v ? at : this.points[w]));
      if (places.some((p, k) => length(sub(p, places[(k + 1) % 3])) > longest)) return false;
      const before = this.normal(t);
      const after = cross(sub(places[1], places[0]), sub(places[2], places[0]));
      if (dot(before, after) <= 0.3 * length(before) * length(after) || length(after) < 1e-30) return false;
    }
    for (const w of this.neighbours(u)) {
      const line = this.lines.get(sideKey(u, w));
      if (line === undefined) continue;
      this.lines.delete(sideKey(u, w));
      if (w !== v) this.lines.set(sideKey(v, w), line);
    }
    for (const t of shared) this.remove(t);
    for (const t of [...this.around[u]]) {
      const own = this.triangle(t).map((w) => (w === u ? v : w)) as [number, number, number];
      const from = this.from[t];
      this.remove(t);
      this.add(...own, from);
    }
    this.points[v] = at;
    return true;
  }

  /** Turns the edge u–v to join the two points opposite. False, and nothing changed, where it is a line or a triangle would fold. */
  turn(u: number, v: number): boolean {
    const shared = this.sharedBy(u, v);
    if (shared.length !== 2 || this.isLine(u, v)) return false;
    // the first triangle runs u → v
    const [first, second] = this.follows(shared[0], u, v) ? shared : [shared[1], shared[0]];
    if (!this.follows(first, u, v) || !this.follows(second, v, u)) return false;
    const [a, b] = [this.opposite(first, u, v), this.opposite(second, u, v)];
    if (a === b || this.hasEdge(a, b)) return false;
    const mean = normalize(addUp(normalize(this.normal(first)), normalize(this.normal(second))));
    const made: [number, number, number][] = [[u, b, a], [b, v, a]]; // prettier-ignore
    if (made.some((t) => dot(normalize(this.normalOf(...t)), mean) < 0.5)) return false;
    const [fa, fb] = [this.from[first], this.from[second]];
    this.remove(first);
    this.remove(second);
    this.add(...made[0], fa);
    this.add(...made[1], fb);
    return true;
  }
  opposite(t: number, u: number, v: number): number {
    return this.triangle(t).find((w) => w !== u && w !== v) as number;
  }
  private follows(t: number, u: number, v: number): boolean {
    const own = this.triangle(t);
    return own[(own.indexOf(u) + 1) % 3] === v;
  }
}

const addUp = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
