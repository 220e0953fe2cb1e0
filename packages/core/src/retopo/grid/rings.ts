import { distance } from '../../math';
import type { CrossField } from '../field/field';
import { Tracer, type Place } from '../field/tracer';
import { areaOf } from '../form/sizes';
import type { TriMesh } from '../form/TriMesh';
import { accumulate, rowsOf, turned, type GaussSum } from './gauss';
import type { Seams } from './seams';

/** A way round part of the form along crosses: what the grid steps on by on the way, over the whole numbers. */
export interface Ring {
  /** factors of the whole numbers: how many quads it is round, and by how many rows it misses its start */
  round: Int32Array;
  missed: Int32Array;
  /** about so many quads lie in the band that such ways run through */
  quads: number;
}

/** From about so many triangles lines are followed. */
const STARTS = 250;
/** A ring is no longer than so many times the square root of all quads; no line is followed through more triangles. */
const LONGEST = 2;
const MOST_STEPS = 3000;
/** Further off its start than this share of its length, a line is no ring. */
const OFF = 0.3;
/** A line is no ring before so many quads: what is thinner is no limb that quads could go round. */
const FEWEST = 1.2;

/**
 * The ways round a form's limbs, handles and openings: lines along the crosses that come back beside where they began. All that run between the same poles are one; those of the widest
 * band come first. `wanted` is the edge length of quads at each triangle, `numbers` how many whole numbers there are. Cost: the triangles that a few hundred lines run through.
 */
export function ringsOf(mesh: TriMesh, field: CrossField, seams: Seams, wanted: Float64Array, numbers: number): Ring[] {
  if (numbers === 0) return [];
  let quads = 0;
  for (let t = 0; t < mesh.triangles; t++) quads += areaOf(mesh, t) / wanted[t] ** 2;
  const follower = new Follower(mesh, field, seams, wanted, LONGEST * Math.sqrt(quads));
  const found = new Map<string, Ring>();
  const step = Math.max(1, Math.floor(mesh.triangles / STARTS));
  for (let t = 0; t < mesh.triangles; t += step)
    for (const quarter of [0, 1]) {
      const way = follower.from(t, quarter);
      if (!way) continue;
      const ring = alongAndAcross(way.step, way.axis, numbers);
      if (ring.round.every((x) => x === 0)) continue;
      const key = ring.missed.join(' ');
      const known = found.get(key) ?? { ...ring, quads: 0 };
      // each start stands for the triangles up to the next
      known.quads += (step * areaOf(mesh, t)) / wanted[t] ** 2;
      found.set(key, known);
    }
  return [...found.values()].sort((a, b) => b.quads - a.quads);
}

/** What factors of whole numbers come to. */
export function valueAt(factors: Int32Array, numbers: Int32Array | Float64Array): number {
  let sum = 0;
  for (let i = 0; i < factors.length; i++) sum += factors[i] * numbers[i];
  return sum;
}

/** A sum's part along an axis and that across it, as factors of the whole numbers; signs such that the same way gives the same. */
function alongAndAcross(step: GaussSum, axis: number, numbers: number): Pick<Ring, 'round' | 'missed'> {
  const { re, im } = rowsOf(step, numbers);
  const signed = (row: Int32Array): Int32Array => ((row.find((x) => x !== 0) ?? 1) < 0 ? row.map((x) => -x) : row);
  return (axis & 1) === 0 ? { round: signed(re), missed: signed(im) } : { round: signed(im), missed: signed(re) };
}

/** A place beside a start: how far, by which half-edges, and how a line from the start would look along there. */
interface Beside {
  away: number;
  halves: number[];
  axis: number;
}

class Follower {
  private readonly tracer: Tracer;

  constructor(
    private readonly mesh: TriMesh,
    field: CrossField,
    private readonly seams: Seams,
    private readonly wanted: Float64Array,
    private readonly longest: number,
  ) {
    this.tracer = new Tracer(mesh, field);
  }

  /** From a triangle on until it comes back: which axis it runs along there, and the step of the whole way; null where it does not. */
  from(t: number, quarter: number): { step: GaussSum; axis: number } | null {
    const start = this.tracer.startIn(t, quarter);
    const axis = this.axisOf(start);
    const beside = new Map<number, Beside>();
    let far = 0;
    let place = start;
    const halves: number[] = [];
    let widest = 0;
    for (let i = 0; i < MOST_STEPS && far < this.longest; i++) {
      const next = this.onward(place, halves);
      if (!next) return null;
      far += distance(place.point, next.point) / this.wanted[next.triangle];
      place = next;
      if (far < FEWEST) continue;
      // the further a line has come, the further beside its start it may end
      if (OFF * far > widest) {
        widest = 2 * OFF * far;
        this.lookBeside(start, widest, beside);
      }
      const there = beside.get(next.triangle);
      if (!there || there.away > OFF * far || there.axis !== this.axisOf(next)) continue;
      const back = there.halves.map((h) => this.mesh.twin[h]).reverse();
      return { step: this.stepOver([...halves, ...back]), axis };
    }
    return null;
  }

  /** Triangles beside a start, up to so many quads away. */
  private lookBeside(start: Place, widest: number, beside: Map<number, Beside>): void {
    beside.set(start.triangle, { away: 0, halves: [], axis: this.axisOf(start) });
    for (const side of [1, -1]) {
      const halves: number[] = [];
      let place = this.tracer.turned(start, side);
      for (let away = 0, i = 0; away < widest && i < MOST_STEPS; i++) {
        const next = this.onward(place, halves);
        if (!next) break;
        away += distance(place.point, next.point) / this.wanted[next.triangle];
        place = next;
        if (!beside.has(next.triangle))
          beside.set(next.triangle, { away, halves: halves.slice(), axis: (this.axisOf(next) - side) & 3 });
      }
    }
  }

  /** Into the next triangle, and by which half-edge; null at borders, at poles, and where the grid takes the turn for another one. */
  private onward(place: Place, halves: number[]): Place | null {
    const next = this.tracer.step(place);
    if (!next || next.triangle < 0) return null;
    const half = this.mesh.twin[next.by];
    if (((this.axisOf(place) - this.seams.quarter[half]) & 3) !== this.axisOf(next)) return null;
    halves.push(half);
    return next;
  }

  /** Which of the grid's ways it looks along: quarters from the first. */
  private axisOf({ triangle, angle }: Place): number {
    return Math.round((2 * (angle - this.seams.angle[triangle])) / Math.PI) & 3;
  }

  private stepOver(halves: readonly number[]): GaussSum {
    let step: GaussSum = new Map();
    for (const h of halves) {
      const quarter = this.seams.quarter[h];
      const across = this.seams.across.get(h);
      if (quarter === 0 && !across) continue;
      const next: GaussSum = new Map();
      accumulate(next, step, turned([1, 0], -quarter));
      if (across) accumulate(next, across, [1, 0]);
      step = next;
    }
    return step;
  }
}
