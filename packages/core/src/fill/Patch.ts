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

/** The lengths of a star's spokes for sides of some lengths: each side is as long as the spokes beside its own. Null where there are none. */
export function spokesFor(lengths: readonly number[]): number[] | null {
  const n = lengths.length;
  const spokes = new Array<number>(n).fill(0);
  // sides join every second spoke: one odd ring, or two where n is even
  const rings = n % 2 === 1 ? [0] : [0, 1];
  for (const first of rings) {
    const ring: number[] = [];
    for (let s = first; !ring.includes(s); s = (s + 2) % n) ring.push(s);
    if (ring.length % 2 === 0) return null;
    const sum = ring.reduce((total, s, k) => total + (k % 2 === 0 ? 1 : -1) * lengths[(s + 1) % n], 0);
    if (sum % 2 !== 0) return null;
    spokes[ring[0]] = sum / 2;
    for (let k = 1; k < ring.length; k++) spokes[ring[k]] = lengths[(ring[k - 1] + 1) % n] - spokes[ring[k - 1]];
  }
  return spokes.every((s) => s >= 1) ? spokes : null;
}
