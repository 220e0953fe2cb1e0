import {
  add,
  cross,
  distance,
  dot,
  length,
  lengthsAlong,
  lerp,
  meanPoint,
  nearestOnLine,
  normalize,
  scale,
  sub,
  type Vec3,
} from '../../math';
import type { TriMesh } from '../form/TriMesh';
import type { DrawnLine } from './drawn';
import { alongWay, Sections, type Spot } from './Sections';

/** A ridge begins where the form stands out by more than this over the straight line between both sides half a quad down, in quads, and runs on as long as it does by more than that. */
const STANDS_OUT = 0.22;
const RUNS_ON = 0.15;
/** So many places in a row, half a quad apart, may stand out less. */
const GAP = 4;
/** What leads down to both sides, the sum of two unit vectors, by less than this has no top. */
const FLAT = 0.2;
/** Two quads down on either side the form is at least so many quads away: round a thin limb it comes back. */
const DOWN = 2;
const REACHES = 1.4;
/** What lies nearly as high as the top, as a share of its height, belongs to it: a rim may be flat there. */
const TOP = 0.8;
/** Ridges shorter than so many quads are bumps, … */
const SHORTEST = 8;
/** … if they are no rims of holes, of this many places at least, which stand out towards their middle by more than this on the mean, cosine, … */
const RIM_PLACES = 8;
const INWARD = 0.2;
/** … and such as turn by more than this from place to place are none; cosine. */
const TURN = Math.cos((50 * Math.PI) / 180);
/** Directions that a ridge is looked for in, and how often a place is moved to the top of its section. */
const WAYS = 4;
const CENTRED = 3;
/** Ridges are no nearer to each other than so many quads. */
const APART = 0.7;
/** No ridge has more places. */
const MOST = 4000;

/** A place at the top of a section. */
interface Crest extends Spot {
  /** from the middle between both sides to the top, unit */
  up: Vec3;
  /** by how much it stands out, in quads */
  height: number;
}

/** A ridge with the way it stands out at each place. */
interface Ridge extends DrawnLine {
  ups: readonly Vec3[];
}

interface Seed {
  crest: Crest;
  along: Vec3;
}

/**
 * The ridges of a form that bend over less than a quad of `size`: rims, lips, the edges of fins, where a low-poly is blunt without a loop; and its grooves, which are ridges from inside, and which quads bridge
 * without one. Each is followed from where it stands out most, half a quad at a time, from the
 * top of one section across it to that of the next. Thin limbs have none. Cost: four sections two quads long for each quad that the form takes, longer ones along ridges.
 */
export function ridgesOf(mesh: TriMesh, size: number): DrawnLine[] {
  return new Ridges(mesh, size).all();
}

class Ridges {
  private readonly sections: Sections;
  /** the places of ridges found, by cells */
  private readonly taken = new Map<string, Vec3[]>();

  constructor(
    private readonly mesh: TriMesh,
    private readonly size: number,
  ) {
    this.sections = new Sections(mesh);
  }

  all(): DrawnLine[] {
    const lines: DrawnLine[] = [];
    for (const seed of this.seeds()) {
      if (this.isTaken(seed.crest.at)) continue;
      const line = this.followed(seed);
      for (const p of line.points) this.take(p);
      const long = lengthsAlong(line.points)[line.points.length - 1];
      if (long >= SHORTEST * this.size || this.isRimOfHole(line)) lines.push(line);
    }
    return lines;
  }

  /** The tops of sections that stand out, one for each quad, those that do most first. */
  private seeds(): Seed[] {
    const { mesh, size } = this;
    const seen = new Set<number>();
    const seeds: Seed[] = [];
    for (let v = 0; v < mesh.vertices; v++) {
      if (mesh.out[v] < 0) continue;
      const key = this.sections.point(v).reduce((sum, x) => CELLS * sum + Math.floor(x / size), 0);
      if (seen.has(key)) continue;
      seen.add(key);
      const seed = this.seedIn(Math.floor(mesh.out[v] / 3));
      if (seed) seeds.push(seed);
    }
    return seeds.sort((a, b) => b.crest.height - a.crest.height);
  }

  private seedIn(t: number): Seed | null {
    const corners = this.sections.corners(t);
    const x = normalize(sub(corners[1], corners[0]));
    const y = cross(this.sections.normal(t), x);
    const spot = { t, at: meanPoint(corners) };
    const wayAt = (k: number): Vec3 => {
      const [c, s] = [Math.cos((k * Math.PI) / WAYS), Math.sin((k * Math.PI) / WAYS)];
      return [c * x[0] + s * y[0], c * x[1] + s * y[1], c * x[2] + s * y[2]];
    };
    // a ridge bends at least one of two sections square to each other
    const isBent = (along: Vec3): boolean => topOf(this.sections.across(spot, along, this.size), this.size) !== null;
    if (!isBent(wayAt(0)) && !isBent(wayAt(WAYS / 2))) return null;
    let best: Seed | null = null;
    for (let k = 0; k < WAYS; k++) {
      const along = wayAt(k);
      const crest = this.crestNear(spot, along);
      if (crest && crest.height > (best?.crest.height ?? STANDS_OUT)) best = { crest, along };
    }
    return best;
  }

  /** The ridge both ways from a place on it. */
  private followed({ crest, along }: Seed): Ridge {
    const ahead = this.ahead(crest, along);
    if (ahead.closed) return ahead;
    const back = this.ahead(crest, [-along[0], -along[1], -along[2]]);
    // all round, though the first step the other way found nothing
    if (back.closed) return back;
    const bothWays = (there: readonly Vec3[], on: readonly Vec3[]): Vec3[] => [...there.slice(1).reverse(), ...on];
    return { points: bothWays(back.points, ahead.points), ups: bothWays(back.ups, ahead.ups), closed: false };
  }

  /** Whether a ridge closes round a hole in a thin wall: no groove round a limb's foot, nor the rim of a cup. */
  private isRimOfHole({ points, ups, closed }: Ridge): boolean {
    if (!closed || points.length < RIM_PLACES) return false;
    const middle = meanPoint(points);
    const inward = points.reduce((sum, p, i) => sum + dot(ups[i], normalize(sub(middle, p))), 0) / points.length;
    return inward > INWARD;
  }

  private ahead(first: Crest, along: Vec3): Ridge {
    const step = this.size / 2;
    const points: Vec3[] = [first.at];
    const ups: Vec3[] = [this.outward(first)];
    let [crest, way, sound] = [first, along, 1];
    while (points.length < MOST && points.length - sound <= GAP) {
      const next = this.nextTo(crest, way);
      if (!next || this.isTaken(next.at)) break;
      const on = normalize(sub(next.at, points[Math.max(0, points.length - 2)]));
      if (points.length > 1 && dot(on, way) < TURN) break;
      const isRound = points.length > 5 && distance(first.at, nearestOnLine(first.at, [crest.at, next.at]).point) < APART * this.size; // prettier-ignore
      if (isRound) return { points, ups, closed: true };
      // it has come back to itself elsewhere
      if (points.slice(0, -4).some((p) => distance(p, next.at) < step)) break;
      points.push(next.at);
      ups.push(this.outward(next));
      [crest, way] = [next, on];
      if (next.height >= RUNS_ON) sound = points.length;
    }
    return { points: points.slice(0, sound), ups: ups.slice(0, sound), closed: false };
  }

  /** The way a crest stands out; of a groove the way the form lies open. */
  private outward({ t, up }: Crest): Vec3 {
    return dot(up, this.sections.normal(t)) < 0 ? scale(up, -1) : up;
  }

  /** The top of the section half a quad further on; null where the form, or what stands out of it, ends before. */
  private nextTo(crest: Crest, along: Vec3): Crest | null {
    const way = this.sections.walk(crest, cross(along, crest.up), along, this.size / 2);
    const next = this.crestNear(way[way.length - 1], along);
    return next && distance(next.at, crest.at) > this.size / 6 ? next : null;
  }

  /** The top of the section square to `along` within a quad of a place; null where there is none. One that no loop would lie on has no height: before the way is known a section may be askew. */
  private crestNear(spot: Spot, along: Vec3): Crest | null {
    const { size, sections } = this;
    let top: Spot | null = spot;
    for (let i = 0; i < CENTRED && top; i++) top = topOf(sections.across(top, along, size), size);
    if (!top) return null;
    const { left, right } = sections.across(top, along, DOWN * size);
    const [a, b] = [alongWay(left, size / 2), alongWay(right, size / 2)];
    const [c, d] = [alongWay(left, DOWN * size), alongWay(right, DOWN * size)];
    if (!a || !b || !c || !d) return null;
    const comesBack = Math.min(distance(top.at, c), distance(top.at, d)) < REACHES * size;
    const up = normalize(sub(top.at, lerp(a, b, 0.5)));
    return { ...top, up, height: comesBack ? 0 : distance(top.at, nearestOnLine(top.at, [a, b]).point) / size };
  }

  private cell(p: Vec3): [number, number, number] {
    const by = APART * this.size;
    return [Math.floor(p[0] / by), Math.floor(p[1] / by), Math.floor(p[2] / by)];
  }
  private isTaken(p: Vec3): boolean {
    const [i, j, k] = this.cell(p);
    for (let x = i - 1; x <= i + 1; x++)
      for (let y = j - 1; y <= j + 1; y++)
        for (let z = k - 1; z <= k + 1; z++)
          if (this.taken.get(`${x} ${y} ${z}`)?.some((q) => distance(p, q) < APART * this.size)) return true;
    return false;
  }
  private take(p: Vec3): void {
    const key = this.cell(p).join(' ');
    const own = this.taken.get(key);
    if (own) own.push(p);
    else this.taken.set(key, [p]);
  }
}

/** More cells along an axis than a form has; three fit into a number. */
const CELLS = 1 << 17;

/** The middle of what is highest in a section that goes a quad to either side: away from where both its arms lead. Null where they do not lead down, or end before. */
function topOf({ left, right }: { left: Spot[]; right: Spot[] }, size: number): Spot | null {
  const arms = [left, right].map((way) => ({ from: alongWay(way, size / 2), to: alongWay(way, size) }));
  const downs: Vec3[] = [];
  const ends: Vec3[] = [];
  for (const { from, to } of arms) {
    if (!from || !to) return null;
    downs.push(normalize(sub(to, from)));
    ends.push(from);
  }
  const down = add(downs[0], downs[1]);
  if (length(down) < FLAT) return null;
  const up = normalize(scale(down, -1));
  // each place with the triangle that the way goes through before it
  const way = [...left.reverse(), ...right.slice(1).map(({ at }, i) => ({ at, t: right[i].t }))];
  const base = dot(lerp(ends[0], ends[1], 0.5), up);
  const heights = way.map(({ at }) => dot(at, up) - base);
  const most = Math.max(...heights);
  const along = lengthsAlong(way.map(({ at }) => at));
  let [sum, all] = [0, 0];
  for (let i = 1; i < way.length - 1; i++) {
    const weight = Math.max(0, heights[i] - TOP * most) * (along[i + 1] - along[i - 1]);
    sum += weight * along[i];
    all += weight;
  }
  if (!(all > 0)) return null;
  const middle = sum / all;
  const i = Math.max(1, along.findIndex((x) => x >= middle)); // prettier-ignore
  const step = along[i] - along[i - 1];
  return { t: way[i].t, at: lerp(way[i - 1].at, way[i].at, step > 0 ? (middle - along[i - 1]) / step : 0) };
}
