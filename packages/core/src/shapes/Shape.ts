import type { Vec3 } from '../math';

/** Points and the faces over them, wound outward: +y is up, what stands on the floor stands on y = 0. File units. */
export interface Shape {
  points: Vec3[];
  faces: number[][];
}

/** What closes a ring. */
export type Ends = 'ngon' | 'fan' | 'quads' | 'open';

/** Lays points and faces; rings run counter-clockwise seen from +y. */
export class ShapeBuilder implements Shape {
  readonly points: Vec3[] = [];
  readonly faces: number[][] = [];

  point(p: Vec3): number {
    return this.points.push(p) - 1;
  }

  /** A ring of n points round the y axis; the first lies at `turn` radians from +z towards +x. */
  ring(n: number, radius: number, y: number, turn = 0): number[] {
    return Array.from({ length: n }, (_, i) => {
      const a = (i / n) * 2 * Math.PI + turn;
      return this.point([radius * Math.sin(a), y, radius * Math.cos(a)]);
    });
  }

  /** Quads between two rows of as many points; the second stands over the first where rings wind outward. */
  join(low: readonly number[], high: readonly number[], closed = true): void {
    const n = low.length;
    for (let i = 0; i < (closed ? n : n - 1); i++) {
      const k = (i + 1) % n;
      this.faces.push([low[i], low[k], high[k], high[i]]);
    }
  }

  /**
   * Closes a ring from above (`up`) or below. Quads need an even count; `place` puts a point of the inside, given as a share of
   * the ring's own points and its distance from the middle (0) to the ring (1), where it belongs.
   */
  cap(ring: readonly number[], ends: Ends, up: boolean, place: (flat: Vec3) => Vec3 = (p) => p): void {
    const add = (face: number[]): void => void this.faces.push(up ? face : [...face].reverse());
    if (ends === 'open') return;
    if (ends === 'ngon') return add([...ring]);
    const middle = this.mean(ring);
    if (ends === 'fan') {
      const tip = this.point(place(middle));
      ring.forEach((v, i) => add([v, ring[(i + 1) % ring.length], tip]));
      return;
    }
    this.quadCap(ring, middle, add, place);
  }

  /** A grid inside the ring: two sides of a edges and two of b, a + b half of the ring, a rim of quads round it where there is room. */
  private quadCap(
    ring: readonly number[],
    middle: Vec3,
    add: (face: number[]) => void,
    place: (flat: Vec3) => Vec3,
  ): void {
    const n = ring.length;
    let rim = [...ring];
    if (n >= 8) {
      const inner = this.squared(ring, middle).map((p) => this.point(place(p)));
      ring.forEach((v, i) => add([v, ring[(i + 1) % n], inner[(i + 1) % n], inner[i]]));
      rim = inner;
    }
    const a = Math.floor(n / 4), b = n / 2 - a; // prettier-ignore
    const at = (i: number): number => rim[((i % n) + n) % n];
    const low = Array.from({ length: a + 1 }, (_, i) => at(i));
    const right = Array.from({ length: b + 1 }, (_, j) => at(a + j));
    const high = Array.from({ length: a + 1 }, (_, i) => at(2 * a + b - i));
    const left = Array.from({ length: b + 1 }, (_, j) => at(n - j));
    const rows: number[][] = [low];
    for (let j = 1; j < b; j++) {
      const inside = Array.from({ length: a - 1 }, (_, k) => this.point(place(this.between([low, right, high, left], k + 1, j)))); // prettier-ignore
      rows.push([left[j], ...inside, right[j]]);
    }
    rows.push(high);
    for (let j = 0; j < b; j++)
      for (let i = 0; i < a; i++) add([rows[j][i], rows[j][i + 1], rows[j + 1][i + 1], rows[j + 1][i]]);
  }

  /** The ring drawn in half-way to the middle and towards a square, so that the grid's corners are no straight angles. */
  private squared(ring: readonly number[], middle: Vec3): Vec3[] {
    const n = ring.length;
    const a = Math.floor(n / 4), b = n / 2 - a; // prettier-ignore
    const corners = [0, a, a + b, 2 * a + b];
    return ring.map((v, i) => {
      const k = corners.filter((c) => c <= i).length - 1;
      const [from, to] = [corners[k], corners[(k + 1) % 4] || n];
      const t = (i - from) / (to - from);
      const [p, q] = [this.points[ring[from]], this.points[ring[to % n]]];
      return [0, 1, 2].map((c) => {
        const chord = p[c] + (q[c] - p[c]) * t;
        const square = this.points[v][c] * 0.45 + chord * 0.55;
        return middle[c] + (square - middle[c]) * 0.62;
      }) as unknown as Vec3;
    });
  }

  /** Coons (1967) between four sides of points. */
  private between([low, right, high, left]: number[][], i: number, j: number): Vec3 {
    const s = i / (low.length - 1), t = j / (left.length - 1); // prettier-ignore
    const p = (v: number): Vec3 => this.points[v];
    return [0, 1, 2].map((c) => {
      const across = p(left[j])[c] * (1 - s) + p(right[j])[c] * s;
      const up = p(low[i])[c] * (1 - t) + p(high[i])[c] * t;
      const corners = (p(low[0])[c] * (1 - s) + p(low[low.length - 1])[c] * s) * (1 - t) + (p(high[0])[c] * (1 - s) + p(high[high.length - 1])[c] * s) * t; // prettier-ignore
      return across + up - corners;
    }) as unknown as Vec3;
  }

  private mean(ring: readonly number[]): Vec3 {
    return [0, 1, 2].map((c) => ring.reduce((s, v) => s + this.points[v][c], 0) / ring.length) as unknown as Vec3;
  }
}
