import type { Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import type { QuadSoup } from '../quads/QuadSoup';
import type { Watch } from '../Stages';
import { FLAT, GOOD, Patch, renamed, type Laying, type PatchAsked, type PatchShape } from './patch';
import { loopsIn } from './peel';
import { beyond, edgesOf, type SheetBorder } from './sheetBorder';

/** Quads with the border that they have by themselves, its edges evened as far as they bear it. */
export interface FreeSheet {
  /** before that */
  flowed: QuadSoup;
  laying: Laying;
  loops: Vec3[][];
  /** how long each edge of the border is */
  steps: number[];
}

/** A region to lay quads in, whatever its border. */
export type Inside = Omit<PatchShape, 'border' | 'lengths' | 'outside'>;

/** A patch within loops. */
export const patchWithin = (shape: Inside, loops: readonly Vec3[][], form: SculptSurface): Patch =>
  new Patch({
    ...shape,
    border: loops.flat(),
    lengths: loops.map((loop) => loop.length),
    outside: loops.flatMap((loop) => loop.map((_, i) => beyond(loop, i, form))),
  });

/** A border all of whose edges are this near to the wanted length is taken; logarithm. */
const NEAR_ENOUGH = 0.08;
/** So many times quads are laid, some more or some fewer, for such a border. */
const TRIES = 5;
/** Where no number of them gives one of the wanted length, so many times as many as the last. */
const OTHERWISE = 0.88;

/**
 * Quads with a border of their own, laid some more or some fewer until its edges are of about the wanted length: the number of border edges follows from theirs. The
 * best of all that was tried; null where nothing can be laid. Cost: a few times `layAll` of the region's triangles.
 */
export function bestFree(
  shape: Inside,
  borders: readonly SheetBorder[],
  form: SculptSurface,
  edge: number,
  asked: PatchAsked,
  watch: Watch,
): FreeSheet | null {
  let best: FreeSheet | null = null;
  const off = ({ steps, laying }: FreeSheet): number => (laying.least < GOOD ? 10 : 0) + Math.max(...steps.map((s) => Math.abs(Math.log(s / edge)))); // prettier-ignore
  const known: Tried[] = [];
  for (let i = 0; i < TRIES; i++) {
    const stage = (name: string, done: number): void => watch.stage?.(name, (i + done) / TRIES);
    const more = nextTry(known);
    const tried: Inside = { ...shape, wanted: shape.wanted * more };
    const flowed = patchWithin(tried, [], form).flowed(asked, { ...watch, stage });
    if (!flowed) break;
    const made = { flowed, ...laidFreely(flowed, tried, borders, form) };
    if (!best || off(made) < off(best)) best = made;
    if (off(best) < NEAR_ENOUGH) break;
    known.push({ more, long: made.steps.reduce((sum, s) => sum + s, 0) / made.steps.length / edge });
  }
  return best;
}

/** So many times as many quads as wanted gave edges so many times as long. */
interface Tried {
  more: number;
  long: number;
}

/** How many quads to try next: between what gave too long edges and what gave too short ones, as soon as both are known. */
function nextTry(known: readonly Tried[]): number {
  const last = known.at(-1);
  if (!last) return 1;
  const long = known.filter((t) => t.long > 1).sort((a, b) => a.long - b.long)[0] as Tried | undefined;
  const short = known.filter((t) => t.long < 1).sort((a, b) => b.long - a.long)[0] as Tried | undefined;
  const next = long && short && long.more < short.more ? Math.sqrt(long.more * short.more) : last.more * last.long ** 2;
  return known.some(({ more }) => Math.abs(Math.log(more / next)) < 0.01) ? last.more * OTHERWISE : next;
}

/**
 * Quads with the border that they have by themselves, its points moved along the region's border until their edges are even, as far as the quads bear it; where
 * they have other borders than the region, as they are.
 */
function laidFreely(
  quads: QuadSoup,
  shape: Inside,
  borders: readonly SheetBorder[],
  form: SculptSurface,
): Omit<FreeSheet, 'flowed'> {
  const rims = loopsIn(quads);
  const at = (v: number): Vec3 => [quads.points[3 * v], quads.points[3 * v + 1], quads.points[3 * v + 2]];
  const soup = borderFirst(quads, rims);
  // what runs along the mirror plane lies on it to the last bit, moved or not
  const loops = rims.map((rim) => rim.map((v) => borders[0]?.settled(at(v)) ?? at(v)));
  loops.flat().forEach((p, v) => soup.points.set(p, 3 * v));
  const patch = patchWithin(shape, loops, form);
  if (rims.length !== borders.length) {
    return { laying: { soup, triangles: [], least: patch.least(soup) }, loops, steps: loops.flatMap(edgesOf) };
  }
  const left = [...borders];
  const own = loops.map((loop) => left.splice(nearestIndex(left.map((b) => b.distanceFrom(loop))), 1)[0]);
  return new Evening(patch, own, soup, loops).done();
}

/** Rounds of evening out a border: all points towards even steps, then each between its neighbours. */
const ROUNDS = [16, 96];
/** So much of the way to even a point goes at once. */
const SHARE = 0.5;
/** A point that goes no further than this share of the way stands still. */
const STILL = 0.02;
/** Steps this near to each other, greatest over least, are even. */
const EVEN = 1.02;
/** A round that takes less than this off greatest over least changes nothing any more. */
const GAIN = 2e-4;

/** A border that is evened out, round after round. */
class Evening {
  private places: number[][];
  private least: number;
  /** of border points, by their number: how much of the way to even they go at once */
  private readonly share: Float64Array;

  constructor(
    private readonly patch: Patch,
    private readonly own: readonly SheetBorder[],
    private soup: QuadSoup,
    private loops: Vec3[][],
  ) {
    this.places = loops.map((loop, i) => own[i].placesOf(loop));
    this.least = patch.least(soup);
    this.share = new Float64Array(loops.flat().length).fill(SHARE);
  }

  done(): Omit<FreeSheet, 'flowed'> {
    // together they get there in a few rounds where the quads bear it …
    for (let round = 0; round < ROUNDS[0] && this.unevenness() > EVEN; round++)
      if (this.tried(this.places.map((s, i) => this.own[i].evener(s, SHARE))) !== null) break;
    // … else where one cannot go on, the others still can
    let before = Infinity;
    for (let round = 0; round < ROUNDS[1] && this.unevenness() > EVEN; round++) {
      const worse = this.tried(this.betweenNeighbours());
      if (worse) {
        if (!this.holdBack(worse)) break;
        continue;
      }
      const now = this.unevenness();
      if (before - now < GAIN * now) break;
      before = now;
    }
    return { laying: { soup: this.soup, triangles: [], least: this.least }, loops: this.loops, steps: this.steps() };
  }

  private steps(): number[] {
    return this.loops.flatMap(edgesOf);
  }

  private unevenness(): number {
    const steps = this.steps();
    return Math.max(...steps) / Math.max(Math.min(...steps), Number.MIN_VALUE);
  }

  private betweenNeighbours(): number[][] {
    let first = 0;
    return this.places.map((s, i) => {
      first += s.length;
      return this.own[i].smoother(s, this.share.subarray(first - s.length, first));
    });
  }

  /** Moves points to places; where a corner would get worse by it, and too poor, nothing moves, and how the quads would lie is told, else null. */
  private tried(places: number[][]): QuadSoup | null {
    const loops = places.map((s, i) => this.own[i].pointsAt(s));
    const moved = { ...this.soup, points: this.soup.points.slice() };
    loops.flat().forEach((p, v) => moved.points.set(p, 3 * v));
    const least = this.patch.settled(moved);
    if (least <= FLAT || least < Math.min(GOOD, this.least)) return moved;
    [this.places, this.loops, this.soup, this.least] = [places, loops, moved, least];
    return null;
  }

  /** Border points near corners that got too poor go less far from now on; tells whether there are such, and one still moves. */
  private holdBack(moved: QuadSoup): boolean {
    const poor = new Set(this.patch.poorer(moved, Math.min(GOOD, this.least)));
    const near = new Set([...poor].flatMap((q) => [...moved.quads.subarray(q, q + 4)]));
    const held = new Set<number>();
    for (let q = 0; q < moved.quads.length; q += 4) {
      const corners = moved.quads.subarray(q, q + 4);
      if (corners.some((v) => near.has(v))) for (const v of corners) if (v < this.share.length) held.add(v);
    }
    for (const v of held) this.share[v] = this.share[v] < STILL ? 0 : this.share[v] / 2;
    return held.size > 0 && this.share.some((share) => share > 0);
  }
}

/** The same quads with the points of their borders first, which stay. */
function borderFirst(quads: QuadSoup, rims: readonly number[][]): QuadSoup {
  const order = rims.flat();
  const first = new Set(order);
  for (let v = 0; v < quads.onLine.length; v++) if (!first.has(v)) order.push(v);
  const { points, quads: corners } = renamed(quads, order);
  return { points, quads: corners, onLine: Int32Array.from(order, (_, v) => (v < first.size ? -2 : -1)) };
}

/** The place of the least of some numbers. */
export const nearestIndex = (far: readonly number[]): number => far.indexOf(Math.min(...far));
