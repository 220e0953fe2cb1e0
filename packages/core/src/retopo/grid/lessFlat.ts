import type { RoomRound } from './RoomRound';
import { placesOf, type Seams } from './seams';
import type { WholeNumbers } from './wholeNumbers';

/** What a quad's area that is missing from the map costs, over what it costs to stretch quads. */
export const FLAT = 5;
/** All steps are looked at so often; those that pay are looked at again after each that was taken. */
const PASSES = 4;
/** Less is no gain. */
const GAIN = 1e-3;

interface Step {
  /** vector of the basis, and way along it */
  vector: number;
  way: number;
  gain: number;
}

/**
 * Other whole numbers near by under which less of a map is flat or turned over: the best ones for the lengths alone put poles onto each other where a limb or a rim is
 * narrow. Places move in proportion with the numbers, so that a step is judged without solving for it: by what it costs in stretch and brings in area. None leaves too few quads round a limb.
 */
export class LessFlat {
  private readonly known: Float32Array[] = [];
  private readonly all: Int32Array;

  /** `answers` is how the reals move with each whole number, f32[k·reals]; `unknown` is of each vertex, −1 at poles. */
  constructor(
    private readonly seams: Seams,
    private readonly unknown: Int32Array,
    private readonly whole: WholeNumbers,
    private readonly answers: Float32Array,
    private readonly room: RoomRound,
  ) {
    this.all = Int32Array.from({ length: seams.wedge.length / 3 }, (_, t) => t);
  }

  /** How many quads' area triangles lack of what they should have at `least`. Cost: the triangles. */
  flatness(places: Float64Array, least: Float64Array): number {
    return this.lacking(places, least, this.all, null, 0);
  }

  /** Whole numbers from `z`, with the map's places, on; at `scale` of the lengths. Cost: 2·k times the flat triangles, and a pass over all for each step that may pay. */
  from(z: Int32Array, places: Float64Array, scale: number, least: Float64Array): Int32Array {
    const walk = this.whole.walkFrom(z, scale);
    const [now, at] = [z.slice(), places.slice()];
    let flat = this.flatness(at, least);
    let flatOnes = this.flatOnes(at, least);
    const thin = this.room.at(z);
    const gainOf = (vector: number, way: number): number => {
      const change = walk.change(vector, way);
      // not even all of it would be worth that
      if (change > FLAT * flat || !this.room.allows(thin, [{ vector, way }])) return 0;
      const by = this.movedBy(vector);
      const gain = (of: Int32Array): number => FLAT * (flat - this.lacking(at, least, of, by, way)) - change;
      // no more than what it brings where it is flat now
      return gain(flatOnes) > GAIN ? gain(this.all) : 0;
    };
    for (let pass = 0; pass < PASSES; pass++) {
      const steps: Step[] = [];
      for (let vector = 0; vector < this.whole.vectors; vector++)
        for (const way of [1, -1]) {
          const gain = gainOf(vector, way);
          if (gain > GAIN) steps.push({ vector, way, gain });
        }
      steps.sort((a, b) => b.gain - a.gain);
      for (const { vector, way } of steps) {
        if (gainOf(vector, way) <= GAIN) continue;
        walk.step(vector, way);
        this.room.count(thin, [{ vector, way }]);
        const [own, by] = [this.whole.vector(vector), this.movedBy(vector)];
        for (let j = 0; j < now.length; j++) now[j] += way * own[j];
        for (let i = 0; i < at.length; i++) at[i] += way * by[i];
        flat = this.flatness(at, least);
        flatOnes = this.flatOnes(at, least);
      }
      if (steps.length === 0) break;
    }
    return now;
  }

  private flatOnes(places: Float64Array, least: Float64Array): Int32Array {
    return this.all.filter((t) => this.shortOf(places, least, t, null, 0) > 0);
  }

  /** Of some triangles, with the places moved along one vector. */
  private lacking(p: Float64Array, least: Float64Array, of: Int32Array, by: Float32Array | null, way: number): number {
    let sum = 0;
    for (let i = 0; i < of.length; i++) sum += this.shortOf(p, least, of[i], by, way);
    return sum;
  }

  private shortOf(p: Float64Array, least: Float64Array, t: number, by: Float32Array | null, way: number): number {
    const { wedge } = this.seams;
    const a = 2 * wedge[3 * t], b = 2 * wedge[3 * t + 1], c = 2 * wedge[3 * t + 2]; // prettier-ignore
    let ux = p[b] - p[a], uy = p[b + 1] - p[a + 1], vx = p[c] - p[a], vy = p[c + 1] - p[a + 1]; // prettier-ignore
    if (by) {
      ux += way * (by[b] - by[a]);
      uy += way * (by[b + 1] - by[a + 1]);
      vx += way * (by[c] - by[a]);
      vy += way * (by[c + 1] - by[a + 1]);
    }
    return Math.max(0, least[t] - (ux * vy - uy * vx) / 2);
  }

  /** How the places move with one step along a vector of the basis. Cost: the numbers in it times the places, once. */
  movedBy(vector: number): Float32Array {
    const found = this.known[vector];
    if (found) return found;
    const { seams, unknown, answers, whole } = this;
    const z = whole.vector(vector);
    const reals = answers.length / whole.k;
    const x = new Float64Array(reals);
    for (let j = 0; j < z.length; j++)
      if (z[j] !== 0) for (let i = 0; i < reals; i++) x[i] += z[j] * answers[j * reals + i];
    return (this.known[vector] = Float32Array.from(placesOf(seams, unknown, x, z)));
  }
}
