import { cross, distance, dot, lerp, normalize, ontoPlane, planeDistance, stepsAlong, sub, type MirrorPlane, type Vec3 } from '../../math'; // prettier-ignore
import type { SculptSurface } from '../../surface';

/** A border turns here, from so many degrees on: one quad's corner, or three quads' in a corner inwards. */
const CORNER = 50;
/** Nearer to the plane than this share of an edge lies on it. */
const ON_PLANE = 0.1;
/** The fewest edges that a border can have. */
const LEAST_EDGES = 4;

interface BorderAsked {
  edge: number;
  plane: MirrorPlane | null;
}

/** Whether a point of a border runs along the plane. */
export const onPlane =
  ({ edge, plane }: BorderAsked) =>
  (p: Vec3): boolean =>
    plane !== null && Math.abs(planeDistance(p, plane)) < ON_PLANE * edge;

/** A closed border curve in runs between corners: where it meets the mirror plane, and leaves it. */
export class SheetBorder {
  /** each from its first point to the next one's */
  private readonly runs: Vec3[][];
  /** length up to each point of the curve */
  private readonly along: number[] = [];
  private readonly total: number;

  constructor(
    readonly curve: readonly Vec3[],
    private readonly asked: BorderAsked,
    private readonly form: SculptSurface,
  ) {
    const isOn = curve.map(onPlane(asked));
    const n = curve.length;
    let length = 0;
    curve.forEach((p, i) => {
      this.along.push(length);
      length += distance(p, curve[(i + 1) % n]);
    });
    this.total = length;
    // a run along the plane begins and ends with points on it
    const starts = isOn.flatMap((on, i) => {
      const before = (i + n - 1) % n;
      return on === isOn[before] ? [] : [on ? i : before];
    });
    this.runs = (starts.length > 0 ? starts : [0]).map((from, k, all) =>
      between(curve, from, all[(k + 1) % all.length]),
    );
  }

  /** An even number of edges of the wanted length, with a point at each corner. */
  even(): Vec3[] {
    const lengths = this.runs.map(lengthOf);
    const { edge } = this.asked;
    const counts = lengths.map((l) => Math.max(1, Math.round(l / edge)));
    const long = lengths.indexOf(Math.max(...lengths));
    const sum = counts.reduce((a, c) => a + c, 0);
    // an even number, as near to the length as that can be
    if (sum % 2 === 1) counts[long] += counts[long] > 1 && lengths[long] / counts[long] < edge ? -1 : 1;
    counts[long] += Math.max(0, LEAST_EDGES - counts.reduce((a, c) => a + c, 0));
    return this.stepped(this.runs, counts);
  }

  /** Where along it the points of a loop lie, by length from its first point; each further than the one before, round and round. */
  placesOf(loop: readonly Vec3[]): number[] {
    const { along, total } = this;
    const places = loop.map((p) => along[nearestTo(this.curve, p)]);
    for (let i = 1; i < places.length; i++) while (places[i] < places[i - 1] - total / 2) places[i] += total;
    return places;
  }

  /** Places moved a share of the way to even steps, as near as those come to where they are; those at corners go to them and stay. */
  evener(places: readonly number[], share: number): number[] {
    const n = places.length;
    const { total } = this;
    const held = this.heldPlaces(places);
    const corners = [...held.keys()].sort((a, b) => a - b);
    if (corners.length === 0) {
      const mean = places.reduce((sum, s, i) => sum + s - (i * total) / n, 0) / n;
      return places.map((s, i) => s + share * (mean + (i * total) / n - s));
    }
    const even = [...places];
    corners.forEach((c, k) => {
      const next = corners[(k + 1) % corners.length];
      const count = next > c ? next - c : next + n - c;
      const from = held.get(c) as number;
      const to = (held.get(next) as number) + (next > c ? 0 : total);
      for (let i = 0; i < count; i++) {
        const at = (c + i) % n;
        const wanted = from + ((to - from) * i) / count - (c + i >= n ? total : 0);
        even[at] = i === 0 ? from : places[at] + share * (wanted - places[at]);
      }
    });
    return even;
  }

  /** Places moved each its share of the way to where the edges on both its sides are as long as each other; those at corners go to them and stay. */
  smoother(places: readonly number[], share: ArrayLike<number>): number[] {
    const held = this.heldPlaces(places);
    const edges = edgesOf(this.pointsAt(places));
    return places.map((s, i) => held.get(i) ?? s + (share[i] * (edges[i] - (edges.at(i - 1) as number))) / 2);
  }

  /** The place nearest to each corner, and where that is. */
  private heldPlaces(places: readonly number[]): Map<number, number> {
    const held = new Map<number, number>();
    if (this.runs.length === 1) return held;
    for (const [first] of this.runs) {
      const corner = this.along[this.curve.indexOf(first)];
      const off = (s: number): number => corner - s - this.total * Math.round((corner - s) / this.total);
      const i = places.reduce((best, s, k) => (Math.abs(off(s)) < Math.abs(off(places[best])) ? k : best), 0);
      held.set(i, places[i] + off(places[i]));
    }
    return held;
  }

  /** The points at places along it, on the form, or on the plane where it runs along that. */
  pointsAt(places: readonly number[]): Vec3[] {
    const { along, total, curve } = this;
    return places.map((place) => {
      const s = ((place % total) + total) % total;
      let k = along.findIndex((a) => a > s) - 1;
      if (k < 0) k = curve.length - 1;
      const [from, to] = [curve[k], curve[(k + 1) % curve.length]];
      return this.settled(lerp(from, to, (s - along[k]) / Math.max(distance(from, to), Number.MIN_VALUE)));
    });
  }

  /** How far a loop lies from it, on the whole. */
  distanceFrom(loop: readonly Vec3[]): number {
    return loop.reduce((sum, p) => sum + distance(p, this.curve[nearestTo(this.curve, p)]), 0) / loop.length;
  }

  private stepped(runs: readonly Vec3[][], counts: readonly number[]): Vec3[] {
    return runs.flatMap((run, k) => stepsAlong(run, counts[k])).map((p) => this.settled(p));
  }

  /** A point of a border on the form, or on the plane where it runs along that. */
  settled(p: Vec3): Vec3 {
    const { plane } = this.asked;
    return plane && onPlane(this.asked)(p) ? ontoPlane(p, plane) : this.form.closest(p).point;
  }
}

/** The points of a closed curve from one to another, both taken in; all round where they are the same. */
function between(curve: readonly Vec3[], from: number, to: number): Vec3[] {
  const n = curve.length;
  const count = (to - from + n - 1) % n;
  return Array.from({ length: count + 2 }, (_, i) => curve[(from + i) % n]);
}

const nearestTo = (points: readonly Vec3[], p: Vec3): number =>
  points.reduce((best, q, i) => (distance(q, p) < distance(points[best], p) ? i : best), 0);

/** How long each edge of a loop is. */
export const edgesOf = (loop: readonly Vec3[]): number[] =>
  loop.map((p, i) => distance(p, loop[(i + 1) % loop.length]));

const lengthOf = (run: readonly Vec3[]): number =>
  run.reduce((sum, p, i) => sum + (i > 0 ? distance(run[i - 1], p) : 0), 0);

/** How many faces would go on beyond a border point, by how the border turns there. */
export function beyond(loop: readonly Vec3[], i: number, form: SculptSurface): number {
  const n = loop.length;
  const [a, b, c] = [loop[(i + n - 1) % n], loop[i], loop[(i + 1) % n]];
  const [u, w] = [normalize(sub(b, a)), normalize(sub(c, b))];
  const turn = (Math.acos(Math.min(1, Math.max(-1, dot(u, w)))) * 180) / Math.PI;
  if (turn < CORNER) return 2;
  const normal = form.closest(b).normal;
  return dot(cross(normal, u), w) > 0 ? 3 : 1;
}
