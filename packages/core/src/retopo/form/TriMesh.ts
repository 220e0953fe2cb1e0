import { TopologyError } from '../../errors';

/** No half-edge on the other side, no line. */
const NONE = -1;

/** No vertex of a sound surface has more edges than this. */
const MOST_AROUND = 100_000;

const lostOrder = (): TopologyError => new TopologyError('NO_WAY', 'The working surface lost its order at a point; mend the surface, or ask for another count.'); // prettier-ignore

export const nextHalf = (h: number): number => (h % 3 === 2 ? h - 2 : h + 1);
export const prevHalf = (h: number): number => (h % 3 === 0 ? h + 2 : h - 1);

/**
 * Oriented manifold triangles in flat arrays, for reducing and remeshing hundreds of thousands of them: half-edge 3t + k leaves corner k of
 * triangle t. Edges may belong to numbered lines, which both their half-edges carry. Points and triangles keep their numbers; those that are gone
 * are marked, and `compact` drops them. Every change costs the triangles round it.
 */
export class TriMesh {
  /** half-edge → the vertex it leaves; −1 in the first place of a triangle that is gone */
  from: Int32Array;
  /** half-edge → the one on the other side, −1 on a border */
  twin: Int32Array;
  /** half-edge → its line, −1 for none */
  line: Int32Array;
  /** vertex → a half-edge that leaves it, on a border the first counter-clockwise; −1 for a vertex that is gone */
  out: Int32Array;
  /** f64[3·V] xyz, file units */
  points: Float64Array;
  /** f64[3·V] the way that the form faces at each vertex, unit; zero until `faceForm` */
  facing: Float64Array;
  triangles: number;
  vertices: number;

  /** Takes over `points`, and `twin` where two edges may join the same points; `corners` must be manifold and wound alike. Cost: linear. */
  constructor(points: Float64Array, corners: ArrayLike<number>, twin?: Int32Array) {
    this.points = points;
    this.vertices = points.length / 3;
    this.facing = new Float64Array(points.length);
    this.triangles = corners.length / 3;
    this.from = Int32Array.from(corners);
    this.twin = twin ?? new Int32Array(corners.length).fill(NONE);
    this.line = new Int32Array(corners.length).fill(NONE);
    this.out = new Int32Array(this.vertices).fill(NONE);
    if (!twin) this.pair();
    for (let h = 0; h < this.from.length; h++) {
      const v = this.from[h];
      if (this.out[v] === NONE || this.twin[h] === NONE) this.out[v] = h;
    }
  }

  /** The same triangles again, on no lines. All must be alive. Cost: linear. */
  copied(): TriMesh {
    const halves = 3 * this.triangles;
    return new TriMesh(this.points.slice(0, 3 * this.vertices), this.from.subarray(0, halves), this.twin.slice(0, halves)); // prettier-ignore
  }

  private pair(): void {
    const { from, twin } = this;
    // half-edges by the vertex they leave, then each looks for one that arrives
    const first = new Int32Array(this.vertices).fill(NONE);
    const other = new Int32Array(from.length);
    for (let h = 0; h < from.length; h++) {
      other[h] = first[from[h]];
      first[from[h]] = h;
    }
    for (let h = 0; h < from.length; h++) {
      if (twin[h] !== NONE) continue;
      const u = from[h];
      for (let g = first[from[nextHalf(h)]]; g !== NONE; g = other[g])
        if (from[nextHalf(g)] === u && twin[g] === NONE) {
          twin[h] = g;
          twin[g] = h;
          break;
        }
    }
  }

  isAlive(t: number): boolean {
    return this.from[3 * t] !== NONE;
  }
  to(h: number): number {
    return this.from[nextHalf(h)];
  }
  isBorder(v: number): boolean {
    return this.twin[this.out[v]] === NONE;
  }
  /** Half-edges that leave v, counter-clockwise; on a border the last edge, which only arrives, is missing. */
  fan(v: number): number[] {
    const found: number[] = [];
    const first = this.out[v];
    let h = first;
    do {
      found.push(h);
      h = this.twin[prevHalf(h)];
      // a fan that never closes would be a fault of ours; no input may hang the work
      if (found.length > MOST_AROUND) throw lostOrder();
    } while (h !== NONE && h !== first);
    return found;
  }
  /** The vertices round v, counter-clockwise; into `found`, where one is given. */
  ring(v: number, found: number[] = []): number[] {
    const { from, twin } = this;
    found.length = 0;
    const first = this.out[v];
    for (let h = first; ;) {
      found.push(from[nextHalf(h)]);
      const into = prevHalf(h);
      h = twin[into];
      if (h === first) return found;
      if (h === NONE) {
        found.push(from[into]);
        return found;
      }
      if (found.length > MOST_AROUND) throw lostOrder();
    }
  }
  /** Whether an edge at v, not counting one that only arrives at a border, is on a line. Cost: those up to the first. */
  isOnLine(v: number): boolean {
    const first = this.out[v];
    let h = first;
    do {
      if (this.line[h] >= 0) return true;
      h = this.twin[prevHalf(h)];
    } while (h !== NONE && h !== first);
    return false;
  }
  squaredLength(h: number): number {
    const { points: p } = this;
    const a = 3 * this.from[h],
      b = 3 * this.to(h);
    return (p[a] - p[b]) ** 2 + (p[a + 1] - p[b + 1]) ** 2 + (p[a + 2] - p[b + 2]) ** 2;
  }

  setLine(h: number, line: number): void {
    this.line[h] = line;
    if (this.twin[h] !== NONE) this.line[this.twin[h]] = line;
  }

  /** Makes `start`, which leaves v, or the border half-edge of its fan, the one that v is entered by. */
  settleOut(v: number, start: number): void {
    let h = start;
    for (;;) {
      const g = this.twin[h];
      if (g === NONE) break;
      const before = nextHalf(g);
      if (before === start) break;
      h = before;
    }
    this.out[v] = h;
  }

  /** Whether the edge can be turned to join the two points opposite: inside, on no line, and they are not joined yet. */
  mayTurn(h: number): boolean {
    const g = this.twin[h];
    if (g === NONE || this.line[h] !== NONE) return false;
    const a = this.from[prevHalf(h)],
      b = this.from[prevHalf(g)];
    return a !== b && !this.ring(a).includes(b);
  }

  /** Turns the edge of h: triangles (u, v, a) and (v, u, b) become (u, b, a) and (b, v, a). */
  turn(h: number): void {
    const { from, twin, line } = this;
    const g = twin[h];
    const [h1, h2, g1, g2] = [nextHalf(h), prevHalf(h), nextHalf(g), prevHalf(g)];
    const [u, v, a, b] = [from[h], from[g], from[h2], from[g2]];
    const outer = [h1, h2, g1, g2].map((x) => ({ twin: twin[x], line: line[x] }));
    // h: b → a in the first triangle (b a u), g: a → b in the second (a b v)
    const put = (x: number, start: number, o: { twin: number; line: number }): void => {
      from[x] = start;
      twin[x] = o.twin;
      line[x] = o.line;
      if (o.twin !== NONE) twin[o.twin] = x;
    };
    from[h] = b;
    from[g] = a;
    put(h1, a, outer[1]);
    put(h2, u, outer[2]);
    put(g1, b, outer[3]);
    put(g2, v, outer[0]);
    this.settleOut(u, h2);
    this.settleOut(v, g2);
    this.settleOut(a, h1);
    this.settleOut(b, g1);
  }

  /** Puts a vertex in the middle of the edge of h; returns it. */
  split(h: number): number {
    this.makeRoom();
    const { twin, line, points } = this;
    const m = this.vertices++;
    const a = 3 * this.from[h],
      b = 3 * this.to(h);
    for (let k = 0; k < 3; k++) {
      points[3 * m + k] = (points[a + k] + points[b + k]) / 2;
      this.facing[3 * m + k] = (this.facing[a + k] + this.facing[b + k]) / 2;
    }
    const g = twin[h];
    const kind = line[h];
    const far = this.halve(h, m);
    if (g === NONE) {
      twin[far] = NONE;
      this.settleSplit(h, far);
      return m;
    }
    const near = this.halve(g, m);
    // h: u → m pairs with near: m → u, and far: m → v with g: v → m
    twin[h] = near;
    twin[near] = h;
    twin[far] = g;
    twin[g] = far;
    line[near] = line[far] = kind;
    this.settleSplit(h, far);
    return m;
  }

  /** Once both sides of a split edge are paired: before that, its ends' fans run into the middle's. */
  private settleSplit(h: number, far: number): void {
    this.settleOut(this.from[h], h);
    this.settleOut(this.from[far], far);
    this.settleOut(this.to(far), nextHalf(far));
  }

  /** Cuts the triangle of h by a line from m on h to the corner opposite; returns the half-edge m → old end of h. */
  private halve(h: number, m: number): number {
    const { from, twin, line } = this;
    const [h1, h2] = [nextHalf(h), prevHalf(h)];
    const v = from[h1],
      w = from[h2];
    const t = 3 * this.triangles++;
    from[t] = m;
    from[t + 1] = v;
    from[t + 2] = w;
    line[t] = line[h];
    twin[t + 1] = twin[h1];
    line[t + 1] = line[h1];
    if (twin[h1] !== NONE) twin[twin[h1]] = t + 1;
    line[t + 2] = NONE;
    from[h1] = m;
    line[h1] = NONE;
    twin[h1] = t + 2;
    twin[t + 2] = h1;
    twin[t] = NONE;
    this.settleOut(w, h2);
    return t;
  }

  /** Makes room for one more split, or for two triangles and three vertices. */
  makeRoom(): void {
    const grown = <T extends Int32Array | Float64Array>(old: T, need: number): T => {
      if (need <= old.length) return old;
      const made = new (old.constructor as new (n: number) => T)(Math.max(need, 2 * old.length));
      made.set(old as never);
      return made;
    };
    const halves = 3 * this.triangles + 9;
    this.from = grown(this.from, halves);
    this.twin = grown(this.twin, halves);
    this.line = grown(this.line, halves);
    this.points = grown(this.points, 3 * this.vertices + 12);
    this.facing = grown(this.facing, this.points.length);
    this.out = grown(this.out, this.vertices + 4);
  }

  /** A copy without what is gone, or of the triangles that `keep` names, and what each of its vertices was. Cost: linear. */
  compact(keep: (t: number) => boolean = () => true): { mesh: TriMesh; was: Int32Array } {
    const to = new Int32Array(this.vertices).fill(NONE);
    const was: number[] = [];
    const corners: number[] = [];
    const lines: number[] = [];
    const moved = new Int32Array(3 * this.triangles).fill(NONE);
    for (let h = 0; h < 3 * this.triangles; h++) {
      const v = this.from[h];
      if (!this.isAlive(Math.floor(h / 3)) || !keep(Math.floor(h / 3))) continue;
      if (to[v] === NONE) to[v] = was.push(v) - 1;
      moved[h] = corners.length;
      corners.push(to[v]);
      lines.push(this.line[h]);
    }
    const points = new Float64Array(3 * was.length);
    was.forEach((v, i) => points.set(this.points.subarray(3 * v, 3 * v + 3), 3 * i));
    const twin = new Int32Array(corners.length).fill(NONE);
    for (let h = 0; h < moved.length; h++) if (moved[h] !== NONE && this.twin[h] !== NONE) twin[moved[h]] = moved[this.twin[h]]; // prettier-ignore
    const mesh = new TriMesh(points, corners, twin);
    mesh.line.set(lines);
    was.forEach((v, i) => mesh.facing.set(this.facing.subarray(3 * v, 3 * v + 3), 3 * i));
    return { mesh, was: Int32Array.from(was) };
  }
}
