import { add, distance, meanPoint, scale, sub, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { crossingQuads } from './crossings';
import type { QuadSoup } from './QuadSoup';
import { meetingPlace, TriangleCells } from './TriangleCells';

/** Where a form runs through itself is looked up in cells so many quads' lengths wide, and so far round their middles. */
const CELL = 0.5;
const ROUND = 1.25;
/** A form runs through itself along so many quads' lengths at least: a crumple of its triangles does not. */
const LONG = 0.5;

/**
 * Where a form runs through itself: a horn that is stuck into a head, a fold of cloth that goes through another. There quads may run through each other, too; to part them would take them off the form. Looked
 * for only where it is asked, as hardly any quads cross.
 */
export class FormCrossings {
  private readonly known = new Map<string, boolean>();
  private made: SculptSurface | null = null;

  /** `size` is how long quads are; `surface` is asked for once, if ever. */
  constructor(
    private readonly surface: () => SculptSurface,
    private readonly size: number,
  ) {}

  /** Of some quads that run through others, those that do so where the form does not. Cost: for each place that is asked for the first time the triangles of the form round it. */
  without({ points: p, quads }: Pick<QuadSoup, 'points' | 'quads'>, crossing: readonly number[]): number[] {
    return crossing.filter((q) => {
      const corners = [...quads.subarray(4 * q, 4 * q + 4)];
      return !this.isAt(meanPoint(corners.map((v): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]])));
    });
  }

  /** Quads that run through others where the form does not. Cost: as `crossingQuads` and `without`. */
  besides = (soup: QuadSoup): number[] => this.without(soup, crossingQuads(soup));

  /** Whether the form runs through itself about a place. */
  private isAt(place: Vec3): boolean {
    const wide = CELL * this.size;
    const cell: Vec3 = [Math.round(place[0] / wide), Math.round(place[1] / wide), Math.round(place[2] / wide)];
    const key = cell.join(' ');
    const known = this.known.get(key);
    if (known !== undefined) return known;
    const found = this.runsThrough(scale(cell, wide));
    this.known.set(key, found);
    return found;
  }

  private runsThrough(middle: Vec3): boolean {
    const surface = (this.made ??= this.surface());
    const far = ROUND * this.size;
    const own = surface.trianglesIn({ min: sub(middle, [far, far, far]), max: add(middle, [far, far, far]) });
    const corners = new Int32Array(3 * own.length);
    own.forEach((t, i) => corners.set(surface.indices.subarray(3 * t, 3 * t + 3), 3 * i));
    return lengthThrough(surface.positions, corners, LONG * this.size) >= LONG * this.size;
  }
}

/** How long the lines are along which triangles run through each other, file units; no further than `enough`. Cost: linear for triangles of about one size. */
function lengthThrough(p: ArrayLike<number>, corners: Int32Array, enough: number): number {
  const cells = new TriangleCells(p, corners, 'touching');
  // two triangles that run through each other do so between two places, each where an edge of one meets the other
  const begun = new Map<number, Vec3>();
  const count = corners.length / 3;
  let sum = 0;
  for (let h = 0; h < corners.length && sum < enough; h++) {
    const own = Math.floor(h / 3);
    const edge = [corners[h], corners[h % 3 === 2 ? h - 2 : h + 1]] as const;
    cells.through(...edge, (t) => {
      const pair = Math.min(own, t) * count + Math.max(own, t);
      const place = meetingPlace(p, edge, corners.subarray(3 * t, 3 * t + 3));
      const other = begun.get(pair);
      if (other) sum += distance(other, place);
      else begun.set(pair, place);
    });
  }
  return sum;
}
