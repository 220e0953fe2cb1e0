import { FLAT, type LessFlat } from './lessFlat';
import { valueAt, type Ring } from './rings';
import type { Along, RoomRound } from './RoomRound';
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
      const steps = this.stepsFrom(walk, missed).filter(({ along }) => this.room.allows(thin, along));
      const taken = this.best(steps, at, flat, least);
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
    const look = (along: Along): void => {
      const closes = this.closedBy(along, missed);
      const gain = SPIRALS * closes - walk.changeOf(along);
      if (closes > 0 && gain > GAIN) steps.push({ along, closes, gain });
    };
    for (const [ring, off] of missed.entries()) {
      if (off === 0) continue;
      const by = this.by[ring];
      for (let i = 0; i < by.length; i++)
        for (const way of [1, -1]) {
          const left = -off - way * by[i];
          if (left === 0) look([{ vector: i, way }]);
          for (let j = 0; j < i; j++)
            for (const other of [1, -1]) if (other * by[j] === left) look([{ vector: i, way }, { vector: j, way: other }]); // prettier-ignore
        }
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
    places: Float64Array,
    flat: number,
    least: Float64Array,
  ): (Step & { places: Float64Array; flat: number }) | null {
    for (const step of steps.slice(0, LOOKED)) {
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
