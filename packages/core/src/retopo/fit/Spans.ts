import type { Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { cornerOf } from '../quads/QuadLinks';
import { middleOf, type QuadSoup } from '../quads/QuadSoup';
import { awayCost, NEAR } from './awayCost';

/** A quad whose middle is further off the form than this share of a quad's length spans something. */
const SPANS = 0.2;
/** What a middle costs against corners that are not square. */
const DEAR = 0.06;
/** How far the middles of an edge and of a quad go with one of their points. */
const WITH_EDGE = 1 / 2;
const WITH_QUAD = 1 / 4;

/**
 * Quads that span a groove, a hollow or the corner where a horn begins, or cut through a bump: their points lie on the form, and the places of the form there are near to other quads, so that only the quads'
 * own middles, and those of their edges, tell it. Cost of making: a distance to the form for each quad, most of them short.
 */
export class Spans {
  /** quad number → 1 where it spans something */
  private readonly isFar: Uint8Array;
  private readonly near: number;
  /** whether a quad round the point that is moved does; how far off the middles there were, quad and edge in turn: those that are near at most so much */
  private isAsked = false;
  private readonly then: number[] = [];

  /** `around` tells the quads round a point as 4·q; `size` is a quad's length. */
  constructor(
    private readonly soup: QuadSoup,
    private readonly around: readonly number[][],
    private readonly form: SculptSurface,
    private readonly size: number,
  ) {
    this.near = NEAR * size;
    this.isFar = new Uint8Array(soup.quads.length / 4);
    for (let q = 0; q < this.isFar.length; q++) this.lookAt(q);
  }

  /** After points of some quads moved. Cost: a distance for each of these. */
  look(hasMoved: Uint8Array): void {
    for (let q = 0; q < this.isFar.length; q++) if (hasMoved[q] === 1) this.lookAt(q);
  }
  private lookAt(q: number): void {
    const far = SPANS * this.size;
    this.isFar[q] = this.form.distanceBeyond(middleOf(this.soup, 4 * q), far) > far ? 1 : 0;
  }

  /** Whether a quad at a point spans something. */
  isAny(v: number): boolean {
    return this.around[v].some((q) => this.isFar[q / 4] === 1);
  }

  /** From here on `cost` is asked about this point. */
  begin(v: number): void {
    this.isAsked = this.isAny(v);
    this.then.length = 0;
    if (!this.isAsked) return;
    for (const q of this.around[v]) {
      this.then.push(this.form.distanceBeyond(middleOf(this.soup, q), this.near));
      this.then.push(this.form.distanceBeyond(this.middleOfEdge(q, v), this.near));
    }
  }

  /** What the middles round that point cost now that it has `gone` so far; what comes to `most` may be told as anything from that on. No middle is further off than it was by more than it has gone: most need no look. */
  cost(v: number, gone: number, most: number): number {
    if (!this.isAsked) return 0;
    let sum = 0;
    for (const [i, q] of this.around[v].entries()) {
      if (this.then[2 * i] + WITH_QUAD * gone > this.near) sum += this.costAt(middleOf(this.soup, q));
      if (this.then[2 * i + 1] + WITH_EDGE * gone > this.near) sum += this.costAt(this.middleOfEdge(q, v));
      if (sum >= most) break;
    }
    return sum;
  }
  private costAt(middle: Vec3): number {
    const away = this.form.distanceBeyond(middle, this.near) / this.size;
    return DEAR * awayCost(away * away);
  }

  /** Of the edge from a point to the next one round quad q / 4. */
  private middleOfEdge(q: number, v: number): Vec3 {
    const { points: p, quads } = this.soup;
    let k = 0;
    while (quads[q + k] !== v) k++;
    const [u, w] = [3 * v, 3 * cornerOf(quads, q + k, 1)];
    return [(p[u] + p[w]) / 2, (p[u + 1] + p[w + 1]) / 2, (p[u + 2] + p[w + 2]) / 2];
  }
}
