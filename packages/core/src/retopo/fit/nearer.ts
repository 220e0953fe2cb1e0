import type { Vec3 } from '../../math';
import type { Ground } from '../lines/ground';
import type { Curve } from '../lines/lines';
import { EdgePairs } from '../quads/jumps';
import type { QuadSoup } from '../quads/QuadSoup';
import { awayCost, NEAR } from './awayCost';
import { FollowedPlaces } from './FollowedPlaces';
import { Spans } from './Spans';
import { Squaring } from './squarer';

const ROUNDS = 30;
/** The first step, of the mean length of the edges at a point, the longest, the last, and what it grows and shrinks by. */
const STEP = { first: 0.15, most: 0.3, last: 0.02, grow: 1.5, shrink: 0.5 };
/** So many places of the form are asked about for each quad. */
const EACH = 16;
/** What distance costs against corners that are not square, in quads' lengths squared. */
const AWAY = 0.2;
/** No corner gets worse than this, or than the worst round its point was. */
const SOUND = 0.5;

/** What quads lie on, and where they should be smaller than elsewhere. */
type Lying = Pick<Ground, 'curves' | 'surface'> & Partial<Pick<Ground, 'density'>>;

/**
 * Points moved, one after another, along the form, or along their line, to where the quads round them lie nearest to it: loops go up onto the ridges that they run beside, points onto
 * tips, quads down into what they span. Against that stand corners that come out less square, and edges whose lengths jump, which is mended also where quads are near; what is sound stays so. After the fitting of springs to a form by
 * Hoppe et al. 1993, with points kept on the form. Changes the points; gives those that moved. Cost: a closest point for each of some places a quad, and for points
 * with places or middles of quads far off, or edges that jump, some tens of distances a round.
 */
export function nearer(soup: QuadSoup, ground: Lying, size: number): Set<number> {
  const moved = new Set<number>();
  const nearing = new Nearing(soup, ground, size);
  const step = new Float64Array(soup.onLine.length).fill(STEP.first);
  for (let round = 0; round < ROUNDS; round++) {
    let isDone = true;
    nearing.look();
    for (let v = 0; v < soup.onLine.length; v++) {
      if (soup.onLine[v] === -2 || step[v] < STEP.last || !nearing.isAsked(v)) continue;
      isDone = false;
      const isBetter = nearing.move(v, step[v]);
      if (isBetter) moved.add(v);
      step[v] = isBetter ? Math.min(STEP.most, STEP.grow * step[v]) : STEP.shrink * step[v];
    }
    if (isDone) break;
  }
  return moved;
}

/** Whether a line is an edge of the form that was asked to be kept: towards its points quads run together, however long they are elsewhere. */
const isSharpEdge = ({ isBorder, isDrawn, isRidge }: Curve): boolean => !isBorder && !isDrawn && !isRidge;

/** Costs of points by how far the places round them are off, too. */
class Nearing extends Squaring {
  private readonly places: FollowedPlaces;
  private readonly pairs: EdgePairs;
  private readonly spans: Spans;
  private byQuad: number[][] = [];
  /** round the point that is moved: where the places begin that are off, and what no quad may get worse than */
  private readonly own: number[] = [];
  private least = 0;
  /** where that point began, and how far it has gone since */
  private begun: Vec3 = [0, 0, 0];
  private gone = 0;
  /** how far each of these places was then from each quad round the point, place by place; and for each place from which of them least */
  private readonly awayThen: number[] = [];
  private readonly nearest: number[] = [];
  /** quad number → 1 where a point of it moved since the places were looked at */
  private readonly hasMoved: Uint8Array;
  /** point → 1 where no edge jumps, and nothing near it has moved since */
  private readonly isEven: Uint8Array;

  constructor(
    soup: QuadSoup,
    { curves, surface, density }: Lying,
    private readonly size: number,
  ) {
    super(soup, curves, surface);
    this.pairs = new EdgePairs(soup, Boolean(density) || curves.some(isSharpEdge));
    this.places = new FollowedPlaces(soup, this.around, surface, size, EACH);
    this.spans = new Spans(soup, this.around, surface, size);
    this.hasMoved = new Uint8Array(soup.quads.length / 4);
    this.isEven = new Uint8Array(soup.onLine.length);
  }

  /** Finds the places that are off now. */
  look(): void {
    this.places.follow(this.hasMoved);
    this.spans.look(this.hasMoved);
    this.hasMoved.fill(0);
    this.byQuad = this.places.beyond(NEAR * this.size);
  }

  /** Whether anything round a point is off, or the length of an edge there jumps. */
  isAsked(v: number): boolean {
    if (this.isEven[v] === 0) this.isEven[v] = this.pairs.isAny(v) ? 0 : 1;
    return this.isEven[v] === 0 || this.spans.isAny(v) || this.around[v].some((q) => this.byQuad[q / 4] !== undefined);
  }

  override move(v: number, step: number): boolean {
    this.begin(v);
    const isBetter = super.move(v, step);
    if (isBetter) this.tellMoved(v);
    return isBetter;
  }

  private begin(v: number): void {
    const around = this.around[v];
    const { points: p } = this.soup;
    this.own.length = 0;
    this.least = SOUND;
    for (const q of around) {
      for (const i of this.byQuad[q / 4] ?? []) this.own.push(i);
      this.least = Math.min(this.least, this.soundnessOf(q));
    }
    this.begun = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    this.spans.begin(v);
    this.measureFrom(around);
  }
  private measureFrom(around: readonly number[]): void {
    this.awayThen.length = 0;
    this.nearest.length = 0;
    for (const i of this.own) {
      const first = this.awayThen.length;
      let nearest = 0;
      for (const [k, q] of around.entries()) {
        this.awayThen.push(Math.sqrt(this.places.squaredTo(i, q)));
        if (this.awayThen[first + k] < this.awayThen[first + nearest]) nearest = k;
      }
      this.nearest.push(nearest);
    }
  }
  private tellMoved(v: number): void {
    const { quads } = this.soup;
    for (const q of this.around[v]) {
      this.hasMoved[q / 4] = 1;
      // edges in line reach two quads far
      for (let k = 0; k < 4; k++)
        for (const r of this.around[quads[q + k]]) for (let c = 0; c < 4; c++) this.isEven[quads[r + c]] = 0;
    }
  }

  override cost(v: number, most = Infinity): number {
    let sum = 0;
    for (const q of this.around[v]) {
      const sound = this.soundnessOf(q);
      if (sound < this.least) return Infinity;
      sum += (1 - sound) ** 2;
    }
    const { points: p } = this.soup;
    this.gone = Math.hypot(p[3 * v] - this.begun[0], p[3 * v + 1] - this.begun[1], p[3 * v + 2] - this.begun[2]);
    for (let i = 0; i < this.own.length && sum < most; i++) sum += this.placeCost(v, i);
    if (sum < most) sum += this.spans.cost(v, this.gone, most - sum);
    return sum < most ? sum + this.pairs.cost(v) : sum;
  }

  /** Off the form a place would seem near to what sticks out. */
  protected override placesFor(v: number, step: number): Vec3[] {
    const places = super.placesFor(v, step);
    return this.soup.onLine[v] >= 0 ? places : places.map((to) => this.onForm(v, to).point);
  }

  /** Of the i-th place. A quad is nearer to it than it was by no more than its point has gone: most need no look. */
  private placeCost(v: number, i: number): number {
    const around = this.around[v];
    const first = i * around.length;
    const nearest = this.nearest[i];
    if (this.awayThen[first + nearest] + this.gone <= NEAR * this.size) return 0;
    let away = this.places.squaredTo(this.own[i], around[nearest]);
    for (let k = 0; k < around.length; k++) {
      const least = this.awayThen[first + k] - this.gone;
      if (k === nearest || (least > 0 && least * least > away)) continue;
      away = Math.min(away, this.places.squaredTo(this.own[i], around[k]));
    }
    return (AWAY / EACH) * awayCost(away / (this.size * this.size));
  }
}
