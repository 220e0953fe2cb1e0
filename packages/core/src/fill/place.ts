import { meanPoint, type Vec3 } from '../math';
import type { Patch } from './Patch';

/** Brings a point onto what points stick to; `key` names the point. */
export type Onto = (p: Vec3, key: number) => Vec3;

const HARMONIC_ROUNDS = 120,
  OVER = 1.6;
const SQUARE_ROUNDS = 70;
const MEND_ROUNDS = 40;
/** Where a quad is folded worse than this after so many rounds, hardly one patch on a form in a hundred comes out well, and two in three of those that do not are told by it; in free space many recover. */
const HOPELESS = { rounds: 16, least: -0.5 };

/** Points of a patch, and the least corner quality of its quads; given up, they are as they were when that was seen. */
export interface Placed {
  points: Vec3[];
  least: number;
  isGivenUp: boolean;
}

/**
 * Places the points inside a patch, its border staying where it is: first each in the middle of its neighbours (Tutte 1963, over-relaxed),
 * then so that every quad comes near to a rectangle of its own (shape matching after Bouaziz et al. 2012), brought onto the
 * surface between; last the worst corners are opened one point at a time. What is hopeless may be given up early, where others are tried too.
 * Cost: rounds times quads.
 */
export function placePatch(patch: Patch, at: readonly Vec3[], onto: Onto | null, mayGiveUp = false): Placed {
  const placing = new Placing(patch, at, onto);
  const placed = (isGivenUp: boolean): Placed => ({
    points: Array.from({ length: patch.count }, (_, v) => placing.point(v)),
    least: placing.least(),
    isGivenUp,
  });
  placing.spread();
  placing.settle();
  for (let round = 0; round < SQUARE_ROUNDS; round++) {
    if (mayGiveUp && round === HOPELESS.rounds && placing.least() < HOPELESS.least) return placed(true);
    placing.square();
    if (round % 8 === 7) placing.settle();
  }
  for (let round = 0; round < MEND_ROUNDS; round++) if (!placing.mend()) break;
  placing.settle();
  return placed(false);
}

/** For each point a run of numbers: those of point v stand from `from[v]` to `from[v + 1]`. */
interface Runs {
  from: Int32Array;
  of: Int32Array;
}
function runsOf(lists: readonly (readonly number[])[]): Runs {
  const from = new Int32Array(lists.length + 1);
  lists.forEach((list, v) => (from[v + 1] = from[v] + list.length));
  return { from, of: Int32Array.from(lists.flat()) };
}

/** A quad whose least corner falls below this is held where it was, unless it was no better before. */
const LEAST = 0.2;
/** Corners at or above this are left as they are. */
const GOOD = 0.45;

/** The points of a patch while they are placed: flat lists, since every round goes over all of them. */
class Placing {
  private readonly border: number;
  private readonly count: number;
  private readonly quads: Int32Array;
  private readonly x: Float64Array;
  private readonly before: Float64Array;
  private readonly sums: Float64Array;
  /** corners of the quads as they are, where that is known, and as they are found */
  private was: Float64Array;
  private found: Float64Array;
  private isKnown = false;
  private readonly next: Runs;
  private readonly around: Runs;

  constructor(
    { border, count, quads }: Patch,
    at: readonly Vec3[],
    private readonly onto: Onto | null,
  ) {
    this.border = border;
    this.count = count;
    this.quads = Int32Array.from(quads.flat());
    this.x = new Float64Array(3 * count);
    const centre = meanPoint(at);
    for (let v = 0; v < count; v++) this.x.set(v < border ? at[v] : centre, 3 * v);
    this.before = new Float64Array(3 * count);
    this.sums = new Float64Array(3 * count);
    this.was = new Float64Array(quads.length);
    this.found = new Float64Array(quads.length);
    const next = Array.from({ length: count }, () => new Set<number>());
    const around: number[][] = Array.from({ length: count }, () => []);
    quads.forEach((quad, q) =>
      quad.forEach((u, k) => {
        next[u].add(quad[(k + 1) % 4]);
        next[quad[(k + 1) % 4]].add(u);
        around[u].push(q);
      }),
    );
    this.next = runsOf(next.map((set) => [...set]));
    this.around = runsOf(around);
  }

  point(v: number): Vec3 {
    return [this.x[3 * v], this.x[3 * v + 1], this.x[3 * v + 2]];
  }

  /** Each point in the middle of its neighbours. */
  spread(): void {
    const { x } = this;
    const { from, of } = this.next;
    for (let round = 0; round < HARMONIC_ROUNDS; round++) {
      const share = round < 4 ? 1 : OVER;
      for (let v = this.border; v < this.count; v++) {
        const many = from[v + 1] - from[v];
        for (let i = 0; i < 3; i++) {
          let sum = 0;
          for (let k = from[v]; k < from[v + 1]; k++) sum += x[3 * of[k] + i];
          x[3 * v + i] += share * (sum / many - x[3 * v + i]);
        }
      }
    }
  }

  /** Brings what is inside onto the surface. */
  settle(): void {
    if (!this.onto) return;
    for (let v = this.border; v < this.count; v++) this.x.set(this.onto(this.point(v), v), 3 * v);
    this.isKnown = false;
  }

  /** One round towards rectangles; moves are taken back beside quads that came out worse than they may. */
  square(): void {
    this.before.set(this.x);
    if (!this.isKnown) for (let q = 0; q < this.was.length; q++) this.was[q] = this.corner(q);
    this.isKnown = false;
    this.towardsRectangles();
    this.takeBack();
  }

  private takeBack(): void {
    const { x, before, was, found, quads } = this;
    for (let pass = 0; pass < 4; pass++) {
      const bad: number[] = [];
      for (let q = 0; q < was.length; q++) {
        const is = (found[q] = this.corner(q));
        if (is < LEAST && is < was[q] - 1e-9) bad.push(q);
      }
      if (bad.length === 0) {
        [this.was, this.found, this.isKnown] = [found, was, true];
        return;
      }
      const back = pass === 3 ? 1 : 0.5;
      for (const q of bad)
        for (let k = 0; k < 4; k++) {
          const v = quads[4 * q + k];
          if (v >= this.border) for (let i = 3 * v; i < 3 * v + 3; i++) x[i] += back * (before[i] - x[i]);
        }
    }
  }

  /** Each quad asks its corners to lie as its two middle lines would have them if they were square to each other. */
  private towardsRectangles(): void {
    const { x, quads, sums, around } = this;
    sums.fill(0);
    const u = [0, 0, 0],
      v = [0, 0, 0],
      ahead = [0, 0, 0],
      across = [0, 0, 0];
    for (let at = 0; at < quads.length; at += 4) {
      const [a, b, c, d] = [3 * quads[at], 3 * quads[at + 1], 3 * quads[at + 2], 3 * quads[at + 3]];
      for (let i = 0; i < 3; i++) {
        u[i] = (x[b + i] - x[a + i] + x[c + i] - x[d + i]) / 2;
        v[i] = (x[d + i] - x[a + i] + x[c + i] - x[b + i]) / 2;
      }
      const lu = Math.hypot(u[0], u[1], u[2]),
        lv = Math.hypot(v[0], v[1], v[2]);
      // turned apart evenly until they are square: both lie half a right angle from their middle
      for (let i = 0; i < 3; i++) {
        ahead[i] = u[i] / lu + v[i] / lv;
        across[i] = u[i] / lu - v[i] / lv;
      }
      const la = Math.hypot(ahead[0], ahead[1], ahead[2]),
        lc = Math.hypot(across[0], across[1], across[2]);
      const isSound = lu > 0 && lv > 0 && la > 0 && lc > 0;
      // somewhat towards a square too, so that no row gets thin
      const mean = Math.sqrt(lu * lv);
      const hu = 0.5 * (0.85 * lu + 0.15 * mean) * Math.SQRT1_2,
        hv = 0.5 * (0.85 * lv + 0.15 * mean) * Math.SQRT1_2;
      for (let i = 0; i < 3; i++) {
        const centre = (x[a + i] + x[b + i] + x[c + i] + x[d + i]) / 4;
        const p = isSound ? hu * (ahead[i] / la + across[i] / lc) : u[i] / 2,
          q = isSound ? hv * (ahead[i] / la - across[i] / lc) : v[i] / 2;
        sums[a + i] += centre - p - q;
        sums[b + i] += centre + p - q;
        sums[c + i] += centre + p + q;
        sums[d + i] += centre - p + q;
      }
    }
    for (let w = this.border; w < this.count; w++) {
      const shares = around.from[w + 1] - around.from[w];
      for (let i = 3 * w; i < 3 * w + 3; i++) x[i] = sums[i] / shares;
    }
  }

  /** The least corner quality of quad q: sine of its sharpest or flattest corner, negative where it is folded. */
  private corner(q: number): number {
    const { x, quads } = this;
    const at = 4 * q;
    const [a, b, c, d] = [3 * quads[at], 3 * quads[at + 1], 3 * quads[at + 2], 3 * quads[at + 3]];
    const px = x[c] - x[a], py = x[c + 1] - x[a + 1], pz = x[c + 2] - x[a + 2]; // prettier-ignore
    const qx = x[d] - x[b], qy = x[d + 1] - x[b + 1], qz = x[d + 2] - x[b + 2]; // prettier-ignore
    let nx = py * qz - pz * qy, ny = pz * qx - px * qz, nz = px * qy - py * qx; // prettier-ignore
    const l = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
    nx /= l;
    ny /= l;
    nz /= l;
    let least = 1;
    for (let k = 0; k < 4; k++) {
      const o = 3 * quads[at + k],
        e = 3 * quads[at + ((k + 1) & 3)],
        f = 3 * quads[at + ((k + 3) & 3)];
      const ex = x[e] - x[o], ey = x[e + 1] - x[o + 1], ez = x[e + 2] - x[o + 2]; // prettier-ignore
      const fx = x[f] - x[o], fy = x[f + 1] - x[o + 1], fz = x[f + 2] - x[o + 2]; // prettier-ignore
      const size = Math.sqrt((ex * ex + ey * ey + ez * ez) * (fx * fx + fy * fy + fz * fz));
      const up = (ey * fz - ez * fy) * nx + (ez * fx - ex * fz) * ny + (ex * fy - ey * fx) * nz;
      least = Math.min(least, size > 0 ? up / size : 0);
    }
    return least;
  }

  /** The least corner quality of all quads. */
  least(): number {
    let least = 1;
    for (let q = 0; q < this.was.length; q++) least = Math.min(least, this.corner(q));
    return least;
  }

  /** The least corner quality of the quads at a point. */
  private worst(v: number): number {
    const { from, of } = this.around;
    let least = 1;
    for (let k = from[v]; k < from[v + 1]; k++) least = Math.min(least, this.corner(of[k]));
    return least;
  }

  /** Moves the points round bad corners to where the worst of their quads is best: a pattern search. False when nothing moved. */
  mend(): boolean {
    let moved = false;
    for (let v = this.border; v < this.count; v++) if (this.worst(v) < GOOD && this.opened(v)) moved = true;
    return moved;
  }

  /** Tries a point in the directions of its neighbours, by two steps, and leaves it at the best place. False where it was. */
  private opened(v: number): boolean {
    const { x, next } = this;
    const own = this.point(v);
    const along: Vec3[] = [];
    let size = 0;
    for (let k = next.from[v]; k < next.from[v + 1]; k++) {
      const w = 3 * next.of[k];
      const d = [x[w] - own[0], x[w + 1] - own[1], x[w + 2] - own[2]];
      const l = Math.hypot(...d);
      size += l;
      if (l > 0) along.push([d[0] / l, d[1] / l, d[2] / l]);
    }
    size /= next.from[v + 1] - next.from[v];
    let now = this.worst(v);
    let best = own;
    for (const by of [0.3 * size, 0.1 * size])
      for (const d of along)
        for (const sign of [by, -by]) {
          const tried: Vec3 = [best[0] + sign * d[0], best[1] + sign * d[1], best[2] + sign * d[2]];
          x.set(tried, 3 * v);
          const then = this.worst(v);
          if (then > now + 1e-6) [now, best] = [then, tried];
        }
    x.set(best, 3 * v);
    return best !== own;
  }
}
