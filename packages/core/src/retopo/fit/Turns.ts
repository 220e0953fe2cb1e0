import { inLine } from '../quads/jumps';
import { QuadLinks, turnedBy } from '../quads/QuadLinks';
import type { QuadSoup } from '../quads/QuadSoup';
import { edgesRound, LEAST_ROUND } from '../quads/slender';

/** Turns one way and back by no more than this, as the product of the angles' sines, cost nothing. */
const FREE = 0.02;
/** What turns by right angles cost against corners that are not square. */
const DEAR = 1;

/**
 * Loops along slender limbs that zigzag where they ran straight before: with so few quads round, each ring comes nearer to the form by turning against the one beside it. How a loop goes with the form is no turn, a bow all
 * one way costs nothing, nor does a zigzag that was there. Elsewhere loops are free: one that goes up onto a ridge gets there point by point. Cost of making: linear.
 */
export class Turns {
  /** the four points at each stretch of a loop that goes on at both of its ends */
  private readonly points: number[] = [];
  /** point → where those begin that it is one of */
  private readonly at: number[][];
  private readonly free: number[];

  /** `normals` are the form's at the points, xyz: what they are later counts. */
  constructor(
    private readonly soup: QuadSoup,
    private readonly normals: Float64Array,
  ) {
    const { quads, onLine } = soup;
    const links = new QuadLinks(soup);
    this.at = Array.from(onLine, () => []);
    for (let h = 0; h < quads.length; h++) {
      const middle = inLine(links, h);
      // the ring that crosses it where that begins
      if (middle < 0 || edgesRound(turnedBy(middle, 3), links) > LEAST_ROUND) continue;
      const last = inLine(links, middle);
      if (last < 0) continue;
      const four = [quads[h], quads[middle], quads[last], quads[turnedBy(last, 1)]];
      // each is met from both of its ends
      if (four[1] > four[2]) continue;
      const start = this.points.push(...four) - 4;
      for (const v of new Set(four)) this.at[v].push(start);
    }
    this.free = Array.from({ length: this.points.length / 4 }, (_, i) => Math.max(FREE, this.zigzag(4 * i)));
  }

  /** What the loops cost that go through a point, or near it. */
  cost(v: number): number {
    let sum = 0;
    for (const start of this.at[v]) sum += Math.max(0, this.zigzag(start) - this.free[start / 4]);
    return DEAR * sum;
  }

  /** By how much a stretch turns one way at one end and back at the other. */
  private zigzag(start: number): number {
    const { points } = this;
    const first = this.aside(points[start], points[start + 1], points[start + 2]);
    return first === 0 ? 0 : -first * this.aside(points[start + 1], points[start + 2], points[start + 3]);
  }

  /** The sine of the angle by which a loop turns aside at v, from a on to b, seen from outside. */
  private aside(a: number, v: number, b: number): number {
    const { points: p } = this.soup;
    const n = this.normals;
    const [dx, dy, dz] = [p[3 * v] - p[3 * a], p[3 * v + 1] - p[3 * a + 1], p[3 * v + 2] - p[3 * a + 2]];
    const [ex, ey, ez] = [p[3 * b] - p[3 * v], p[3 * b + 1] - p[3 * v + 1], p[3 * b + 2] - p[3 * v + 2]];
    const up = (dy * ez - dz * ey) * n[3 * v] + (dz * ex - dx * ez) * n[3 * v + 1] + (dx * ey - dy * ex) * n[3 * v + 2];
    const lengths = Math.sqrt((dx * dx + dy * dy + dz * dz) * (ex * ex + ey * ey + ez * ez));
    return lengths > 0 ? up / lengths : 0;
  }
}
