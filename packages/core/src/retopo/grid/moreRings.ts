import { FLAT, type LessFlat } from './lessFlat';
import { valueAt, type Ring } from './rings';
import type { Along, RoomRound, Thin } from './RoomRound';
import type { Walk, WholeNumbers } from './wholeNumbers';

/** What each quad of a band that spirals costs, over what it costs to stretch quads. */
const SPIRALS = 0.1;
/** So many quads' area may go flat for a step, and so much more for each quad whose ring it closes; never more than the most. */
const FLATTER = { any: 0.1, each: 0.003, most: 0.5 };
/** No more steps are taken than this; of those that pay most so many are looked at for what they make flat. */
const STEPS = 20;
const LOOKED = 12;
/** Less is no gain. */
const GAIN = 1e-3;

/** Along one vector of the basis or two, each one way. */
interface Step {
  along: Along;
  /** quads whose rings close, less those whose rings open */
  closes: number;
  gain: number;
}

/**
 * Other whole numbers near by under which more rings close: those of longer ways round, which may not be held closed whatever that costs, since they run through half the form. A step goes along one or two vectors
 * of the basis to where a ring closes that does not, and is taken where that costs less in stretch than the ring's quads are worth, makes hardly more of the map flat,
 * and leaves enough quads round every limb.
 */
export class MoreRings {
  /** by how many rows each ring misses its start for a step along each vector */
  private readonly by: Int32Array[];

  constructor(
    private readonly whole: WholeNumbers,
    private readonly flat: LessFlat,
    private readonly rings: readonly Ring[],
    private readonly room: RoomRound,
  ) {
    this.by = rings.map(({ missed }) => Int32Array.from({ length: whole.vectors }, (_, i) => valueAt(missed, whole.vector(i)))); // prettier-ignore
  }

  /** Whole numbers from `z`, with the map's places, on; at `scale` of the lengths. Cost of each step: the rings times the vectors squared, and a pass over the triangles for a few. */
  from(z: Int32Array, places: Float64Array, scale: number, least: Float64Array): Int32Array {
    if (this.rings.length === 0) return z;
    const walk = this.whole.walkFrom(z, scale);
    const now = z.slice();
    const missed = this.rings.map((ring) => valueAt(ring.missed, z));
    const thin = this.room.at(z);
    let at = places;
    let flat = this.flat.flatness(at, least);
    for (let i = 0; i < STEPS; i++) {
      const taken = this.best(this.stepsFrom(walk, missed), thin, at, flat, least);
      if (!taken) break;
      [at, flat] = [taken.places, taken.flat];
      this.room.count(thin, taken.along);
      for (const { vector, way } of taken.along) {
        walk.step(vector, way);
        this.whole.vector(vector).forEach((x, k) => (now[k] += way * x));
        missed.forEach((_, ring) => (missed[ring] += way * this.by[ring][vector]));
      }
    }
    return now;
  }

  /** Steps that close rings and pay, those that do most first. */
  private stepsFrom(walk: Walk, missed: readonly number[]): Step[] {
    const steps: Step[] = [];
    const open = this.rings.reduce((sum, { quads }, ring) => sum + (missed[ring] === 0 ? 0 : quads), 0);
    for (const [ring, off] of missed.entries())
      for (const along of off === 0 ? [] : closing(this.by[ring], off, walk)) {
        const cost = walk.changeOf(along);
        // not even all of them would be worth that
        if (SPIRALS * open - cost <= GAIN) continue;
        const closes = this.closedBy(along, missed);
        const gain = SPIRALS * closes - cost;
        if (closes > 0 && gain > GAIN) steps.push({ along, closes, gain });
      }
    return steps.sort((a, b) => b.gain - a.gain);
  }

  private closedBy(along: Along, missed: readonly number[]): number {
    return this.rings.reduce((sum, { quads }, ring) => {
      const after = along.reduce((off, { vector, way }) => off + way * this.by[ring][vector], missed[ring]);
      return sum + quads * (Number(after === 0) - Number(missed[ring] === 0));
    }, 0);
  }

  /** The first that pays with what goes flat for it, which is no more than may be; and what the map is then. */
  private best(
    steps: readonly Step[],
    thin: Thin,
    places: Float64Array,
    flat: number,
    least: Float64Array,
  ): (Step & { places: Float64Array; flat: number }) | null {
    let looked = 0;
    for (const step of steps) {
      if (looked === LOOKED) break;
      if (!this.room.allows(thin, step.along)) continue;
      looked++;
      const moved = places.slice();
      for (const { vector, way } of step.along) this.flat.movedBy(vector).forEach((x, i) => (moved[i] += way * x));
      const after = this.flat.flatness(moved, least);
      const most = Math.min(FLATTER.most, FLATTER.any + FLATTER.each * step.closes);
      if (after - flat <= most && step.gain - FLAT * (after - flat) > GAIN)
        return { ...step, places: moved, flat: after };
    }
    return null;
  }
}

/**
 * Steps along one vector or two that bring a ring back to its start, which misses it by `off`; `by` is what it misses it by more for a step along each. Where one vector does so alone, another one comes with it only
 * if that makes it cheaper.
 */
function* closing(by: Int32Array, off: number, walk: Walk): Generator<Along> {
  const all = [...by.keys()];
  const [still, moving] = [all.filter((i) => by[i] === 0), all.filter((i) => by[i] !== 0)];
  for (const [n, vector] of moving.entries())
    for (const way of WAYS) {
      const left = -off - way * by[vector];
      if (left === 0) {
        yield [{ vector, way }];
        for (const i of still)
          for (const other of WAYS)
            if (walk.changeAfter(i, other, vector, way) < 0) yield [{ vector, way }, { vector: i, way: other }]; // prettier-ignore
      }
      for (let m = 0; m < n; m++)
        for (const other of WAYS)
          if (other * by[moving[m]] === left) yield [{ vector, way }, { vector: moving[m], way: other }]; // prettier-ignore
    }
}

const WAYS = [1, -1];
