import { cross, distance, dot, length, sub, WayQueue, type Vec3 } from '../../math';
import type { SculptSurface } from '../SculptSurface';

/** Whether a vertex is in a set. */
type IsIn = (v: number) => boolean;

/** Triangles measured for the mean of all. */
const SAMPLES = 1000;

/** A sculpt's vertices as what regions are made of: each question answers with vertices. */
export class RegionGround {
  constructor(readonly surface: SculptSurface) {}

  get count(): number {
    return this.surface.positions.length / 3;
  }

  at(v: number): Vec3 {
    const { positions: p } = this.surface;
    return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  }
  normalAt(v: number): Vec3 {
    const { normals: n } = this.surface;
    return [n[3 * v], n[3 * v + 1], n[3 * v + 2]];
  }

  /** Mean length of a triangle's side, file units, by some of them all over. */
  get side(): number {
    const { triangleCount } = this.surface;
    const step = Math.ceil(triangleCount / SAMPLES);
    let [sum, n] = [0, 0];
    for (let t = 0; t < triangleCount; t += step, n++) {
      const [a, b] = this.cornersOf(t);
      sum += distance(this.at(a), this.at(b));
    }
    return n > 0 ? sum / n : 0;
  }

  /** Calls `visit` for the vertices that share a triangle with v; those of an inner side come twice. */
  private round(v: number, visit: (w: number) => void): void {
    const { starts, around } = this.surface.around;
    const { indices } = this.surface;
    for (let i = starts[v]; i < starts[v + 1]; i++)
      for (let k = 0; k < 3; k++) {
        const w = indices[3 * around[i] + k];
        if (w !== v) visit(w);
      }
  }

  /** Everything that hangs together with `first` by vertices that `goesOn` takes, from one to the next. Cost: those. */
  private flood(first: readonly number[], goesOn: (v: number, from: number) => boolean): number[] {
    const seen = new Set(first);
    const found = [...seen];
    for (const from of found)
      this.round(from, (v) => {
        if (seen.has(v) || !goesOn(v, from)) return;
        seen.add(v);
        found.push(v);
      });
    return found;
  }

  private cornersOf(triangle: number): number[] {
    return [...this.surface.indices.subarray(3 * triangle, 3 * triangle + 3)];
  }

  /**
   * What a brush takes: the vertices no further than `radius` from a point of a triangle, that hang together with it there and turn towards
   * the eye; at least the nearest corner, so that a brush smaller than a triangle still paints. Cost: those.
   */
  brushed(triangle: number, point: Vec3, radius: number, eye: Vec3): number[] {
    const near: IsIn = (v) => distance(this.at(v), point) <= radius;
    const corners = this.cornersOf(triangle);
    const far = (v: number): number => distance(this.at(v), point);
    const first = corners.filter(near);
    if (first.length === 0) return [corners.reduce((best, v) => (far(v) < far(best) ? v : best))];
    const isTurnedAway: IsIn = (v) => dot(this.normalAt(v), sub(eye, this.at(v))) <= 0;
    return this.flood(first, (v) => near(v) && !isTurnedAway(v));
  }

  /**
   * Fill by angle: from a triangle on, as long as the normal turns by less than `degrees`, against where it began or against the vertex before. Cost:
   * what is found.
   */
  facingLike(triangle: number, degrees: number, against: 'start' | 'neighbour'): number[] {
    const least = Math.cos((degrees * Math.PI) / 180);
    const first = this.cornersOf(triangle);
    const start = this.surface.triangleNormal(triangle);
    return this.flood(first, (v, from) => dot(this.normalAt(v), against === 'start' ? start : this.normalAt(from)) >= least); // prettier-ignore
  }

  /** Everything that hangs together with a triangle. Cost: that. */
  part(triangle: number): number[] {
    return this.flood(this.cornersOf(triangle), () => true);
  }

  /**
   * The vertices outside a set that lie no further from it than `furthest`, measured along edges; what to take away when a set shrinks are those outside its
   * complement. Cost: the set once, and what is found.
   */
  grown(isIn: IsIn, furthest: number): number[] {
    const ways = new Map<number, number>();
    const queue = new WayQueue();
    const offer = (v: number, way: number): void => {
      if (isIn(v) || way > furthest || way >= (ways.get(v) ?? Infinity)) return;
      ways.set(v, way);
      queue.push(v, way);
    };
    for (let v = 0; v < this.count; v++) if (isIn(v)) this.round(v, (w) => offer(w, distance(this.at(v), this.at(w))));
    for (let next = queue.pop(); next; next = queue.pop()) {
      const { v, way } = next;
      if (way > (ways.get(v) ?? 0)) continue;
      this.round(v, (w) => offer(w, way + distance(this.at(v), this.at(w))));
    }
    return [...ways.keys()];
  }

  /**
   * Takes holes and islands of less than an area out of a value: each set of vertices on one side of zero that hangs together, but for the greatest on each side, is put on the other side
   * where its triangles' share of the surface is less. Cost: the surface once.
   */
  tidy(value: Float32Array, leastArea: number): void {
    const seen = new Uint8Array(this.count);
    const sets: { own: number[]; area: number; isUp: boolean }[] = [];
    for (let first = 0; first < value.length; first++) {
      if (seen[first]) continue;
      const isUp = value[first] >= 0;
      const own = [first];
      seen[first] = 1;
      let area = 0;
      for (const v of own) {
        area += this.areaRound(v);
        this.round(v, (w) => {
          if (seen[w] || value[w] >= 0 !== isUp) return;
          seen[w] = 1;
          own.push(w);
        });
      }
      sets.push({ own, area, isUp });
    }
    const greatest = (side: boolean): number => Math.max(...sets.map((s) => (s.isUp === side ? s.area : 0)));
    const [most, mostBelow] = [greatest(true), greatest(false)];
    for (const { own, area, isUp } of sets)
      if (area < leastArea && area < (isUp ? most : mostBelow))
        for (const v of own) value[v] = -value[v] || -Number.MIN_VALUE;
  }

  /** A third of the triangles that meet at a vertex, square file units. */
  private areaRound(v: number): number {
    const { starts, around } = this.surface.around;
    let sum = 0;
    for (let i = starts[v]; i < starts[v + 1]; i++) {
      const [a, b, c] = this.cornersOf(around[i]).map((w) => this.at(w));
      sum += length(cross(sub(b, a), sub(c, a))) / 6;
    }
    return sum;
  }

  /** The vertices that share a triangle with one of another value. Cost: the triangles. */
  private rimOf(value: Float32Array): number[] {
    const { indices } = this.surface;
    const rim = new Set<number>();
    for (let i = 0; i < indices.length; i += 3) {
      const a = value[indices[i]];
      if (a === value[indices[i + 1]] && a === value[indices[i + 2]]) continue;
      for (let k = 0; k < 3; k++) rim.add(indices[i + k]);
    }
    return [...rim];
  }

  /**
   * A value a vertex that is above zero in a set and below it outside, evened out near the border between, so that where it is zero is a smooth
   * line; beyond `rounds` sides from the border it stays at ±1. Cost: the set once, and the rounds times the band.
   */
  softened(isIn: IsIn, rounds: number): Float32Array {
    let value = Float32Array.from({ length: this.count }, (_, v) => (isIn(v) ? 1 : -1));
    const rim = this.rimOf(value);
    const band = new Set(rim);
    for (let ring = 0, edge = rim; ring < rounds; ring++) {
      const next: number[] = [];
      for (const v of edge)
        this.round(v, (w) => {
          if (!band.has(w)) next.push(w);
          band.add(w);
        });
      edge = next;
    }
    for (let i = 0; i < rounds; i++) {
      const after = value.slice();
      for (const v of band) {
        let [sum, n] = [value[v], 1];
        this.round(v, (w) => {
          sum += value[w];
          n++;
        });
        after[v] = sum / n;
      }
      value = after;
    }
    return value;
  }
}
