import { add, cross, dot, lerp, length, normalize, scale, sub, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { FacingForm } from '../form/FacingForm';
import { onCurve, type Curve } from '../lines/lines';
import type { QuadSoup } from '../quads/QuadSoup';
import { ownNormals } from './facing';
import { aroundOf, soundness } from './relax';

const ROUNDS = 12;
/** Directions that a point off the lines is tried in. */
const WAYS = 6;
/** The first step, of the mean length of the edges at a point, and what it shrinks by where none of them is better. */
const STEP = 0.12;
const SHRINK = 0.5;
const SMALLEST = 0.01;
/** Quads all of whose corners are better than this are left as they are. */
const GOOD = 0.95;

/**
 * Points moved, one after another, to where the least corners of the quads round them are best on the whole, the poor ones counting most: those off the lines along the form, those
 * on lines along their curve; corners of lines and `held` ones stay. The quads round a point never get worse by its move, all taken together. Changes the points. Cost: rounds
 * times points that are not square yet, some tens of quads each.
 */
export function squarer(
  soup: QuadSoup,
  curves: readonly Curve[],
  surface: SculptSurface,
  held: ReadonlySet<number>,
  rounds = ROUNDS,
): void {
  const { onLine } = soup;
  const squaring = new Squaring(soup, curves, surface);
  const step = new Float64Array(onLine.length).fill(STEP);
  // and nothing round it has moved since it was
  const isGood = new Uint8Array(onLine.length);
  for (let round = 0; round < rounds; round++)
    for (let v = 0; v < onLine.length; v++) {
      if (isGood[v] === 1 || onLine[v] === -2 || held.has(v) || step[v] < SMALLEST) continue;
      if (squaring.cost(v) < squaring.around[v].length * (1 - GOOD) ** 2) isGood[v] = 1;
      else if (!squaring.move(v, step[v])) step[v] *= SHRINK;
      else for (const q of squaring.around[v]) for (let k = 0; k < 4; k++) isGood[soup.quads[q + k]] = 0;
    }
}

/** Quads whose points are moved one after another, each to the best of some places round it: for the corners of the quads there, or what else `cost` counts. */
export class Squaring {
  /** point → the quads round it, as 4·q */
  readonly around: number[][];
  private readonly normals: Float64Array;
  private readonly form: FacingForm;
  private readonly wanted: [number, number, number] = [0, 0, 0];

  constructor(
    protected readonly soup: QuadSoup,
    private readonly curves: readonly Curve[],
    surface: SculptSurface,
  ) {
    this.around = aroundOf(soup);
    this.normals = ownNormals(soup);
    this.form = new FacingForm(surface);
  }

  /** Moves a point by a step, of the mean length of the edges there, to where its cost is least; false, and where it was, where none is less. */
  move(v: number, step: number): boolean {
    const { points: p } = this.soup;
    const before = this.cost(v);
    const own = p.slice(3 * v, 3 * v + 3);
    let [best, to]: [number, Vec3 | null] = [before, null];
    for (const place of this.placesFor(v, step)) {
      p.set(place, 3 * v);
      const now = this.cost(v, best);
      if (now < best) [best, to] = [now, place];
    }
    p.set(own, 3 * v);
    if (to && this.settle(v, to, before)) return true;
    p.set(own, 3 * v);
    return false;
  }

  /** How far the quads round a point are from square; what comes to `most` may be told as anything from that on. */
  cost(v: number, most = Infinity): number {
    let sum = 0;
    for (const q of this.around[v]) {
      sum += (1 - this.soundnessOf(q)) ** 2;
      if (sum >= most) break;
    }
    return sum;
  }

  /** Of quad q / 4, as the form faces at its corners. */
  protected soundnessOf(q: number): number {
    const { soup, normals, wanted } = this;
    wanted.fill(0);
    for (let k = 0; k < 4; k++) for (let x = 0; x < 3; x++) wanted[x] += normals[3 * soup.quads[q + k] + x];
    return soundness(soup, q, wanted);
  }

  /** The point of the form nearest to a place, on the side that a point faces. */
  protected onForm(v: number, to: Vec3): { point: Vec3; normal: Vec3 } {
    return this.form.closest(to, [this.normals[3 * v], this.normals[3 * v + 1], this.normals[3 * v + 2]], v);
  }

  /** Places a step away: all round in the form's plane, or along the line. */
  protected placesFor(v: number, step: number): Vec3[] {
    const { normals } = this;
    const own = this.at(v);
    const line = this.soup.onLine[v];
    const beside = this.around[v].map((q) => this.next(q, v));
    const by = (step * beside.reduce((sum, w) => sum + length(sub(this.at(w), own)), 0)) / beside.length;
    if (line >= 0) {
      const along = this.around[v].flatMap((q) => [this.next(q, v), this.next(q, v, 3)]);
      const ends = [...new Set(along)].filter((w) => this.soup.onLine[w] === line || this.soup.onLine[w] === -2);
      return ends.map((w) => onCurve(this.curves[line], ...lerp(own, this.at(w), step)));
    }
    const n: Vec3 = [normals[3 * v], normals[3 * v + 1], normals[3 * v + 2]];
    const e = sub(this.at(beside[0]), own);
    const u = normalize(sub(e, scale(n, dot(e, n))));
    const w = cross(n, u);
    return Array.from({ length: WAYS }, (_, k) => {
      const a = (2 * Math.PI * k) / WAYS;
      return add(own, add(scale(u, by * Math.cos(a)), scale(w, by * Math.sin(a))));
    });
  }

  /** A point put at a place, on the form if it is off the lines; false where that is no better than before. */
  private settle(v: number, to: Vec3, before: number): boolean {
    const { points: p, onLine } = this.soup;
    if (onLine[v] >= 0) {
      p.set(to, 3 * v);
      return true;
    }
    const { point, normal } = this.onForm(v, to);
    p.set(point, 3 * v);
    if (this.cost(v, before) >= before) return false;
    this.normals.set(normal, 3 * v);
    return true;
  }

  private at(v: number): Vec3 {
    const { points: p } = this.soup;
    return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  }

  /** The corner so many after v in a quad. */
  private next(q: number, v: number, on = 1): number {
    const corners = this.soup.quads.subarray(q, q + 4);
    return corners[(corners.indexOf(v) + on) & 3];
  }
}
