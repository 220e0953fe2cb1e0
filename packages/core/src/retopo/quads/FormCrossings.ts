import { add, distance, lerp, meanPoint, scale, sub, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { crossingQuads } from './crossings';
import type { QuadSoup } from './QuadSoup';
import { meetingPlace, TriangleCells } from './TriangleCells';

/** A form is looked through block by block, so many quads' lengths wide. */
const BLOCK = 2;
/** Quads may run through each other where the form does no further from their middle than so many quads' lengths along each axis, */
const NEAR = 1.25;
/** and along so many of them at least: a crumple of its triangles does not. */
const LONG = 0.5;

/** A stretch along which two triangles of a form run through each other. */
interface Stretch {
  middle: Vec3;
  length: number;
}

/**
 * Where a form runs through itself: a horn that is stuck into a head, a fold of cloth that goes through another. There quads may run through each other, too; to part them would take them off the form. Looked
 * for only where it is asked, as hardly any quads cross.
 */
export class FormCrossings {
  private readonly blocks = new Map<string, readonly Stretch[]>();
  private made: SculptSurface | null = null;

  /** `size` is how long quads are; `surface` is asked for once, if ever. */
  constructor(
    private readonly surface: () => SculptSurface,
    private readonly size: number,
  ) {}

  /** Of some quads that run through others, those that do so where the form does not. Cost: the triangles of each block of the form that is asked about for the first time. */
  elsewhere({ points: p, quads }: Pick<QuadSoup, 'points' | 'quads'>, crossing: readonly number[]): number[] {
    return crossing.filter((q) => {
      const corners = [...quads.subarray(4 * q, 4 * q + 4)];
      return !this.isAt(meanPoint(corners.map((v): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]])));
    });
  }

  /** Quads that run through others where the form does not. Cost: as `crossingQuads` and `elsewhere`. */
  crossingElsewhere = (soup: QuadSoup): number[] => this.elsewhere(soup, crossingQuads(soup));

  /** Whether the form runs through itself about a place. */
  private isAt(place: Vec3): boolean {
    const far = NEAR * this.size;
    const [from, to] = [-far, far].map((by) => this.blockOf(add(place, [by, by, by])));
    let sum = 0;
    for (let x = from[0]; x <= to[0]; x++)
      for (let y = from[1]; y <= to[1]; y++)
        for (let z = from[2]; z <= to[2]; z++)
          for (const { middle, length } of this.stretchesIn([x, y, z]))
            if (sub(middle, place).every((by) => Math.abs(by) <= far)) sum += length;
    return sum >= LONG * this.size;
  }

  private blockOf(place: Vec3): Vec3 {
    const wide = BLOCK * this.size;
    return [Math.floor(place[0] / wide), Math.floor(place[1] / wide), Math.floor(place[2] / wide)];
  }

  private stretchesIn(block: Vec3): readonly Stretch[] {
    const key = block.join(' ');
    const known = this.blocks.get(key);
    if (known) return known;
    const surface = (this.made ??= this.surface());
    const wide = BLOCK * this.size;
    const min = scale(block, wide);
    const own = surface.trianglesIn({ min, max: add(min, [wide, wide, wide]) });
    const corners = new Int32Array(3 * own.length);
    own.forEach((t, i) => corners.set(surface.indices.subarray(3 * t, 3 * t + 3), 3 * i));
    // what reaches into several blocks is told of in one
    const found = stretchesThrough(surface.positions, corners).filter(({ middle }) => this.blockOf(middle).every((x, k) => x === block[k])); // prettier-ignore
    this.blocks.set(key, found);
    return found;
  }
}

/** Along what some triangles run through each other. Cost: linear for triangles of about one size. */
function stretchesThrough(p: ArrayLike<number>, corners: Int32Array): Stretch[] {
  const cells = new TriangleCells(p, corners, 'touching');
  // two triangles that run through each other do so between two places, each where an edge of one meets the other
  const begun = new Map<number, Vec3>();
  const found: Stretch[] = [];
  const count = corners.length / 3;
  for (let h = 0; h < corners.length; h++) {
    const own = Math.floor(h / 3);
    const edge = [corners[h], corners[h % 3 === 2 ? h - 2 : h + 1]] as const;
    cells.through(...edge, (t) => {
      const pair = Math.min(own, t) * count + Math.max(own, t);
      const place = meetingPlace(p, edge, corners.subarray(3 * t, 3 * t + 3));
      const other = begun.get(pair);
      if (other) found.push({ middle: lerp(other, place, 0.5), length: distance(other, place) });
      else begun.set(pair, place);
    });
  }
  return found;
}
