import { boxOf, distance, nearestOnLine, type Vec3 } from '../math';
import type { Section } from './isoLines';

/** Cells along the longest side of the lines' box. */
const CELLS = 48;

/** Lines on a form that edges keep to, such as the borders of its regions, found from points near them by a grid of cells. */
export class FormLines {
  /** cell → segments, as the line and the place in it */
  private readonly cells = new Map<number, [number, number][]>();
  private readonly low: Vec3;
  private readonly size: number;

  /** Cost: the lines' points. */
  constructor(readonly lines: readonly Section[]) {
    const box = boxOf(lines.flatMap(({ points }) => points.flat()));
    this.low = box.min;
    this.size = Math.max(...box.max.map((x, k) => x - box.min[k]), Number.MIN_VALUE) / CELLS;
    lines.forEach((line, l) =>
      line.points.forEach((p, i) => {
        const q = line.points[(i + 1) % line.points.length];
        if (i + 1 < line.points.length || line.closed) for (const key of this.cellsOf(p, q, 0)) this.put(key, [l, i]);
      }),
    );
  }

  /** The nearest point of all lines no further away than `within`; null where there is none. Cost: the segments of the cells near by. */
  nearest(p: Vec3, within: number): Vec3 | null {
    let best: Vec3 | null = null;
    let least = within;
    for (const key of this.cellsOf(p, p, within))
      for (const [l, i] of this.cells.get(key) ?? []) {
        const { points } = this.lines[l];
        const { point } = nearestOnLine(p, [points[i], points[(i + 1) % points.length]]);
        const away = distance(p, point);
        if (away <= least) [best, least] = [point, away];
      }
    return best;
  }

  private put(key: number, segment: [number, number]): void {
    const own = this.cells.get(key);
    if (own) own.push(segment);
    else this.cells.set(key, [segment]);
  }
  /** The cells that a box round two points reaches; none beyond the lines' own box. */
  private *cellsOf(p: Vec3, q: Vec3, by: number): Generator<number> {
    const cell = (x: number, k: number): number => Math.floor((x - this.low[k]) / this.size);
    const from = p.map((x, k) => Math.max(0, cell(Math.min(x, q[k]) - by, k)));
    const to = p.map((x, k) => Math.min(CELLS, cell(Math.max(x, q[k]) + by, k)));
    for (let i = from[0]; i <= to[0]; i++)
      for (let j = from[1]; j <= to[1]; j++)
        for (let k = from[2]; k <= to[2]; k++) yield i + (CELLS + 1) * (j + (CELLS + 1) * k);
  }
}
