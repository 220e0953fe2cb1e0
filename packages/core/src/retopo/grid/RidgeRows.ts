import type { CrossField } from '../field/field';
import { nextHalf, type TriMesh } from '../form/TriMesh';
import type { RidgeChain } from '../lines/ridgeChains';
import type { Seams } from './seams';

/** Weight of a place on a ridge that should lie on a row, over that of an edge. */
const HOLDS = 2;
/** To go on along another row costs as much as a quad's length of being a whole quad off. */
const SWITCH = 1;
/** Toward where a ridge ends, or goes on along another row, it holds less and less over so many quads. */
const FADES = 2;

/** A coordinate of the grid that tells which row a place on a ridge lies on. */
export interface OnRidge {
  wedge: number;
  axis: 0 | 1;
}

/** A place on a ridge, one of two for each edge along it: before and after. */
interface Place extends OnRidge {
  /** of the coordinate, so that rows are counted to the ridge's left */
  sign: 1 | -1;
  /** of half its edge, file units */
  length: number;
}

/**
 * Rows of the grid that ridges should lie on. Once the whole numbers of a map are there, the nearest row is chosen for each ridge, all along, and the reals are drawn to it: where poles are, and how many quads, stays as it
 * is.
 */
export class RidgeRows {
  /** coordinates of all ridges' places, one after the other */
  readonly places: readonly OnRidge[];
  /** of each place: the row it should lie on, and how strongly; zero where no row is chosen */
  readonly row: Float64Array;
  readonly weight: Float64Array;
  private readonly ridges: { first: number; own: Place[]; isClosed: boolean }[] = [];

  /** Cost: the ridges' edges. */
  constructor(mesh: TriMesh, field: CrossField, seams: Seams, chains: readonly RidgeChain[]) {
    let first = 0;
    for (const chain of chains) {
      const own = chain.flatMap((h) => placesOn(mesh, field, seams, h));
      const isClosed = mesh.from[chain[0]] === mesh.to(chain[chain.length - 1]);
      this.ridges.push({ first, own, isClosed });
      first += own.length;
    }
    this.places = this.ridges.flatMap(({ own }) => own);
    this.row = new Float64Array(first);
    this.weight = new Float64Array(first);
  }

  get isHeld(): boolean {
    return this.weight.some((w) => w > 0);
  }

  /** No row is chosen any more. */
  letGo(): void {
    this.weight.fill(0);
  }

  /** Chooses the rows that are nearest as wedges are placed in the grid, f64[2·wedges], for quads of a size in file units. Cost: the places times the rows that a ridge crosses. */
  choose(placed: Float64Array, size: number): void {
    for (const ridge of this.ridges) this.chooseFor(ridge, placed, size);
  }

  private chooseFor({ first, own, isClosed }: (typeof this.ridges)[number], placed: Float64Array, size: number): void {
    const at = own.map(({ wedge, axis, sign }) => sign * placed[2 * wedge + axis]);
    // from chart to chart the same place is whole steps on
    const steps = new Float64Array(own.length);
    for (let i = 1; i < own.length; i++) steps[i] = steps[i - 1] + (i % 2 === 0 ? Math.round(at[i] - at[i - 1]) : 0);
    const level = at.map((x, i) => x - steps[i]);
    const lengths = own.map(({ length }) => length / size);
    const rows = nearestRows(level, lengths);
    const last = own.length - 1;
    const isRound = isClosed && rows[0] === rows[last] && Math.abs(level[0] - level[last]) < 0.5;
    const far = toChanges(rows, lengths, isRound);
    rows.forEach((row, i) => {
      this.row[first + i] = own[i].sign * (row + steps[i]);
      this.weight[first + i] = HOLDS * Math.min(1, far[i] / FADES) ** 2;
    });
  }
}

/** Both ends of an edge along a ridge, as its triangle has them. */
function placesOn(mesh: TriMesh, field: CrossField, seams: Seams, h: number): Place[] {
  const left = Math.round((2 * (field.direction[h] - seams.angle[Math.floor(h / 3)])) / Math.PI) + 1;
  const axis = (left & 1) as 0 | 1;
  const sign = (left & 3) < 2 ? 1 : -1;
  const length = Math.sqrt(mesh.squaredLength(h)) / 2;
  return [h, nextHalf(h)].map((g) => ({ wedge: seams.wedge[g], axis, sign, length }));
}

/** The whole number for each level so that all are near, and few change along the way (Viterbi 1967): those off, squared, times their lengths. */
export function nearestRows(level: readonly number[], lengths: readonly number[]): number[] {
  const low = Math.floor(level.reduce((a, b) => Math.min(a, b), Infinity));
  const high = Math.ceil(level.reduce((a, b) => Math.max(a, b), -Infinity));
  const rows = high - low + 1;
  let cost = new Float64Array(rows);
  const before = level.map((x, i) => {
    const best = cost.indexOf(Math.min(...cost));
    const comes = i > 0 ? cost[best] + SWITCH : Infinity;
    const next = new Float64Array(rows);
    const from = cost.map((stays, r) => {
      next[r] = Math.min(stays, comes) + lengths[i] * (x - low - r) ** 2;
      return comes < stays ? best : r;
    });
    cost = next;
    return from;
  });
  const chosen = new Array<number>(level.length);
  let r = cost.indexOf(Math.min(...cost));
  for (let i = level.length - 1; i >= 0; i--) {
    chosen[i] = low + r;
    r = before[i][r];
  }
  return chosen;
}

/** How far each place is from where its row changes, or from the ends of what is not `isRound`. */
function toChanges(rows: readonly number[], lengths: readonly number[], isRound: boolean): Float64Array {
  const far = new Float64Array(rows.length).fill(Infinity);
  const pass = (order: readonly number[]): void => {
    let gone = isRound ? Infinity : 0;
    order.forEach((i, k) => {
      if (k > 0 && rows[i] !== rows[order[k - 1]]) gone = 0;
      gone += lengths[i] / 2;
      far[i] = Math.min(far[i], gone);
      gone += lengths[i] / 2;
    });
  };
  const order = rows.map((_, i) => i);
  pass(order);
  pass(order.reverse());
  return far;
}
