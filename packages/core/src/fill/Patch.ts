/** A side of a patch as the numbers of its points, both ends included. */
export type Side = readonly number[];

export const lengthOf = (side: Side): number => side.length - 1;
export const lengthsOf = (sides: readonly Side[]): number[] => sides.map(lengthOf);
const backwards = (side: Side): number[] => [...side].reverse();

/**
 * Quads inside a closed border, without places: points are numbers, those of the border first and in order. Sides run round the patch, its
 * inside on their left, each ending where the next begins.
 */
export class Patch {
  readonly quads: [number, number, number, number][] = [];
  /** a point inside, and what it lies between: where it is put first */
  count: number;

  constructor(readonly border: number) {
    this.count = border;
  }

  point(): number {
    return this.count++;
  }

  /** A chain of new points between two that are there, so many edges long. */
  chain(from: number, to: number, edges: number): number[] {
    return [from, ...Array.from({ length: edges - 1 }, () => this.point()), to];
  }

  /** Fills four sides, opposite ones of equal length, with a grid. */
  grid(sides: readonly [Side, Side, Side, Side]): void {
    const [low, right] = sides;
    const high = backwards(sides[2]),
      left = backwards(sides[3]);
    const [n, m] = [lengthOf(low), lengthOf(right)];
    let below: Side = low;
    for (let j = 1; j <= m; j++) {
      const row = j === m ? high : [left[j], ...Array.from({ length: n - 1 }, () => this.point()), right[j]];
      for (let i = 0; i < n; i++) this.quads.push([below[i], below[i + 1], row[i + 1], row[i]]);
      below = row;
    }
  }

  /** Fills any number of sides round one point: a grid at each corner. The spokes say how far each side's own point lies from it. */
  star(sides: readonly Side[], spokes: readonly number[]): void {
    const n = sides.length;
    const centre = this.point();
    const at = (i: number): number => ((i % n) + n) % n;
    // side i is met by its spoke as far from its start as the spoke before it is long
    const feet = sides.map((_, i) => spokes[at(i - 1)]);
    const lines = sides.map((side, i) => this.chain(side[feet[i]], centre, spokes[i]));
    for (let i = 0; i < n; i++) {
      const before = at(i - 1);
      this.grid([
        sides[i].slice(0, feet[i] + 1),
        lines[i],
        backwards(lines[before]),
        sides[before].slice(feet[before]),
      ]);
    }
  }
}

/**
 * The lengths of a star's spokes for sides of some lengths: each side is as long as the spokes beside its own. Null where there are none.
 * `into`, as long as the sides, takes them in place of a new list: a search asks thousands of times.
 */
export function spokesFor(
  lengths: readonly number[],
  into: number[] = new Array<number>(lengths.length),
): number[] | null {
  const n = lengths.length;
  // sides join every second spoke: one odd ring, or two where n is even
  const [rings, around] = n % 2 === 1 ? [1, n] : [2, n / 2];
  if (around % 2 === 0) return null;
  for (let first = 0; first < rings; first++) {
    let sum = 0;
    for (let k = 0; k < around; k++) sum += (k % 2 === 0 ? 1 : -1) * lengths[(first + 2 * k + 1) % n];
    if (sum % 2 !== 0) return null;
    let spoke = sum / 2;
    for (let k = 0; k < around; k++) {
      if (spoke < 1) return null;
      into[(first + 2 * k) % n] = spoke;
      spoke = lengths[(first + 2 * k + 1) % n] - spoke;
    }
  }
  return into;
}

/** A way to fill a border with quads. */
export interface Plan {
  /** points inside with other than four edges, and corners of the border that two faces share */
  irregular: number;
  /** corners of the border among those: a pole inside is liked better */
  shared?: number;
  /** what it is, in the order in which ways are offered */
  words: string;
  build(patch: Patch): void;
  /** the same with its poles further along, −1 … 1; absent where they cannot move */
  slid?(share: number): Plan;
}
