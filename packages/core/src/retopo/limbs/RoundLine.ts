import { add, cross, distance, dot, lengthsAlong, lerp, meanPoint, stepsAlong, sub, type Vec3 } from '../../math';

/** So many turns of a ring by a share of an edge are tried. */
const TURNS = 8;
/** So many points tell where a line's middle is. */
const MIDDLE = 24;

/** A closed line round a limb, for rings of points on it at even steps. */
export class RoundLine {
  private readonly points: readonly Vec3[];
  /** how far along each point is, and the start once more */
  private readonly along: readonly number[];
  readonly length: number;

  /** Wound as `like` is. */
  constructor(points: readonly Vec3[], like: readonly Vec3[]) {
    const run = dot(windingOf(like), windingOf(points)) < 0 ? [...points].reverse() : [...points];
    run.push(run[0]);
    this.points = run;
    this.along = lengthsAlong(run);
    this.length = this.along[run.length - 1];
  }

  /** So many points at even steps from a share of the way round. Cost: the line. */
  places(count: number, from: number): Vec3[] {
    const { points, along, length } = this;
    return Array.from({ length: count }, (_, i) => {
      const share = from + i / count;
      const s = (share - Math.floor(share)) * length;
      let k = 0;
      while (k < points.length - 2 && along[k + 1] < s) k++;
      const span = along[k + 1] - along[k];
      return lerp(points[k], points[k + 1], span > 0 ? (s - along[k]) / span : 0);
    });
  }

  get middle(): Vec3 {
    return meanPoint(this.places(MIDDLE, 0));
  }

  /** From which share of the way round a ring's points, moved here, come nearest to as many on the line. Cost: the ring's points, squared. */
  shareLike(ring: readonly Vec3[]): number {
    const n = ring.length;
    const places = this.places(n * TURNS, 0);
    const to = sub(meanPoint(places), meanPoint(ring));
    let [best, least] = [0, Infinity];
    for (let shift = 0; shift < places.length; shift++) {
      let sum = 0;
      for (const [k, p] of ring.entries())
        sum += distance(add(p, to), places[(shift + k * TURNS) % places.length]) ** 2;
      if (sum < least) [best, least] = [shift, sum];
    }
    return best / places.length;
  }
}

/** So many points at even steps along an open line, its ends among them, from the end that is nearer to where others begin. Cost: the line. */
export function placesAlong(line: readonly Vec3[], like: readonly Vec3[]): Vec3[] {
  const last = like[like.length - 1];
  const isBack = distance(line[0], like[0]) + distance(line[line.length - 1], last) > distance(line[0], last) + distance(line[line.length - 1], like[0]); // prettier-ignore
  const run = isBack ? [...line].reverse() : line;
  return [...stepsAlong(run, like.length - 1), run[run.length - 1]];
}

/** Twice the area that a closed line goes round, as a vector. */
function windingOf(points: readonly Vec3[]): Vec3 {
  const middle = meanPoint(points);
  return points.reduce((sum: Vec3, p, i) => add(sum, cross(sub(p, middle), sub(points[(i + 1) % points.length], middle))), [0, 0, 0]); // prettier-ignore
}
