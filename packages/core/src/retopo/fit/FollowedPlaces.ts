import { dot, squaredToTriangle, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';

/** A place further away than so many quads' lengths belongs to what has no quads. */
const FAR = 4;
/** Quads walked over to the nearest, at most. */
const STEPS = 3;

/**
 * Places of a form, each with the quad that is nearest to it, for quads whose points move little by little. Quads are cut along their first diagonal. Places whose nearest quad
 * faces away, or is far off, are left out. Cost: a BVH of the quads and a closest point for each place.
 */
export class FollowedPlaces {
  /** f64[3·n], the form's units */
  readonly at: Float64Array;
  /** 4·q, or −1 */
  private readonly quad: Int32Array;
  /** squared */
  private readonly away: Float64Array;
  /** f64[4·n] a ball round each quad, its middle and radius: what lies outside of it is no nearer to the quad than to the ball */
  private readonly balls: Float64Array;

  /** At most `each` places for a quad; `around` tells the quads round a point as 4·q. */
  constructor(
    private readonly soup: QuadSoup,
    private readonly around: readonly number[][],
    { positions, normals }: SculptSurface,
    size: number,
    each: number,
  ) {
    const { quads } = soup;
    const n = positions.length / 3;
    const count = Math.floor(Math.min(n, (each * quads.length) / 4));
    this.at = new Float64Array(3 * count);
    this.quad = new Int32Array(count).fill(-1);
    this.away = new Float64Array(count);
    this.balls = new Float64Array(quads.length);
    const low = surfaceOfQuads(soup);
    const quadOf = quadsByTriangle(soup);
    for (let s = 0; s < count; s++) {
      const i = 3 * Math.floor((s * n) / count);
      const p: Vec3 = [positions[i], positions[i + 1], positions[i + 2]];
      this.at.set(p, 3 * s);
      const hit = low.closest(p);
      const [a, b] = low.indices.subarray(3 * hit.triangle);
      if (hit.distance > FAR * size || dot(hit.normal, [normals[i], normals[i + 1], normals[i + 2]]) < 0) continue;
      this.quad[s] = quadOf(a, b);
      this.away[s] = hit.distance ** 2;
    }
  }

  /** Quad number → where the places begin in `at` that are nearest to it, and further off than `near`. Cost: one pass. */
  beyond(near: number): number[][] {
    const found: number[][] = [];
    for (let s = 0; s < this.quad.length; s++)
      if (this.quad[s] >= 0 && this.away[s] > near * near) (found[this.quad[s] / 4] ??= []).push(3 * s);
    return found;
  }

  /** Squared distance of the place that begins at `i` to quad q / 4. */
  squaredTo(i: number, q: number): number {
    const { points: p, quads } = this.soup;
    const a = 3 * quads[q], c = 3 * quads[q + 2]; // prettier-ignore
    const first = squaredToTriangle(this.at, i, p, a, 3 * quads[q + 1], c);
    const second = squaredToTriangle(this.at, i, p, a, c, 3 * quads[q + 3]);
    return first < second ? first : second;
  }

  /** After points of some quads moved: the places of those find their nearest quads anew, over neighbours. Cost: some ten quads a place. */
  follow(hasMoved: Uint8Array): void {
    this.findBalls();
    for (let s = 0; s < this.quad.length; s++) {
      if (this.quad[s] < 0 || hasMoved[this.quad[s] / 4] === 0) continue;
      this.away[s] = this.squaredTo(3 * s, this.quad[s]);
      for (let step = 0; step < STEPS && this.stepOn(s); step++);
    }
  }

  /** To a nearer quad that shares a corner; false where there is none. */
  private stepOn(s: number): boolean {
    const from = this.quad[s];
    for (let k = 0; k < 4; k++)
      for (const q of this.around[this.soup.quads[from + k]]) {
        if (q === from || this.isBeyond(s, q)) continue;
        const away = this.squaredTo(3 * s, q);
        if (away < this.away[s]) [this.away[s], this.quad[s]] = [away, q];
      }
    return this.quad[s] !== from;
  }

  private findBalls(): void {
    const { points: p, quads } = this.soup;
    const { balls } = this;
    for (let q = 0; q < quads.length; q += 4) {
      for (let k = 0; k < 3; k++) balls[q + k] = (p[3 * quads[q] + k] + p[3 * quads[q + 1] + k] + p[3 * quads[q + 2] + k] + p[3 * quads[q + 3] + k]) / 4; // prettier-ignore
      let most = 0;
      for (let c = 0; c < 4; c++) most = Math.max(most, this.squaredFromMiddle(q, p, 3 * quads[q + c]));
      balls[q + 3] = Math.sqrt(most);
    }
  }
  private squaredFromMiddle(q: number, p: Float64Array, i: number): number {
    const { balls } = this;
    return (p[i] - balls[q]) ** 2 + (p[i + 1] - balls[q + 1]) ** 2 + (p[i + 2] - balls[q + 2]) ** 2;
  }
  /** Whether a quad's ball is further off than the nearest quad that is known of a place. */
  private isBeyond(s: number, q: number): boolean {
    const reach = this.balls[q + 3] + Math.sqrt(this.away[s]);
    return this.squaredFromMiddle(q, this.at, 3 * s) > reach * reach;
  }
}

/** The quad, as 4·q, that a triangle of `surfaceOfQuads` is half of, by the triangle's first two points. */
export function quadsByTriangle({ quads, onLine }: QuadSoup): (a: number, b: number) => number {
  const byEdge = new Map<number, number>();
  const key = (a: number, b: number): number => a * onLine.length + b;
  for (let q = 0; q < quads.length; q += 4) for (const k of [1, 2]) byEdge.set(key(quads[q], quads[q + k]), q);
  return (a, b) => byEdge.get(key(a, b)) ?? -1;
}
