import type { Vec3 } from '../../math';

/** Cells of the search are so many mean edges wide. */
const CELL = 1.5;
/** A tetrahedron whose volume is less than this share of that of its edges at one corner, squared, is flat: on a flat side of a form volumes are what rounding leaves. */
const FLAT = 1e-18;

/** Triangles by the cells of a grid that their boxes touch, to be asked which of them edges run through. Cost of making: linear for triangles of about one size. */
export class TriangleCells {
  private readonly size: number;
  private readonly cells = new Map<number, number[]>();
  private readonly seen: Int32Array;
  private asked = 0;
  /** the volume that a flat tetrahedron is taken to have */
  private readonly flat: number;

  /** Points xyz, and three corners for each triangle. What only touches runs through, too, if that is `enough`: a point that lies in a triangle's plane is above it then, whichever way it is told. */
  constructor(
    private readonly p: ArrayLike<number>,
    private readonly corners: ArrayLike<number>,
    enough: 'through' | 'touching' = 'through',
  ) {
    this.flat = enough === 'touching' ? Number.MIN_VALUE : 0;
    let sum = 0;
    for (let h = 0; h < corners.length; h++) {
      const [u, v] = [corners[h], corners[h % 3 === 2 ? h - 2 : h + 1]];
      sum += Math.hypot(p[3 * u] - p[3 * v], p[3 * u + 1] - p[3 * v + 1], p[3 * u + 2] - p[3 * v + 2]);
    }
    this.size = (CELL * sum) / Math.max(1, corners.length) || 1;
    this.seen = new Int32Array(corners.length / 3).fill(-1);
    for (let t = 0; t < this.seen.length; t++)
      this.each(corners[3 * t], corners[3 * t + 1], corners[3 * t + 2], (key) => {
        const own = this.cells.get(key);
        if (own) own.push(t);
        else this.cells.set(key, [t]);
      });
  }

  /** Tells the triangles that the edge from u to v runs through, with no point in common. Cost: the triangles in the cells that its box touches. */
  through(u: number, v: number, tell: (t: number) => void): void {
    const { p, corners, cells, seen } = this;
    const now = this.asked++;
    this.each(u, v, v, (key) => {
      for (const t of cells.get(key) ?? []) {
        if (seen[t] === now) continue;
        seen[t] = now;
        const [a, b, c] = [corners[3 * t], corners[3 * t + 1], corners[3 * t + 2]];
        if (runsThrough(p, u, v, a, b, c, this.flat)) tell(t);
      }
    });
  }

  /** The cells that the box round three points touches. */
  private each(a: number, b: number, c: number, take: (key: number) => void): void {
    const { p, size } = this;
    const first = (k: number): number => Math.floor(Math.min(p[3 * a + k], p[3 * b + k], p[3 * c + k]) / size);
    const last = (k: number): number => Math.floor(Math.max(p[3 * a + k], p[3 * b + k], p[3 * c + k]) / size);
    const [y0, y1, z0, z1] = [first(1), last(1), first(2), last(2)];
    for (let x = first(0), x1 = last(0); x <= x1; x++)
      for (let y = y0; y <= y1; y++)
        for (let z = z0; z <= z1; z++) take(((x * 73856093) ^ (y * 19349663) ^ (z * 83492791)) | 0);
  }
}

/**
 * Whether the edge from u to v runs through triangle abc, with no point in common. A flat tetrahedron has the volume `flat`: at 0 what only touches does not run through.
 */
export function runsThrough(
  p: ArrayLike<number>,
  u: number,
  v: number,
  a: number,
  b: number,
  c: number,
  flat = 0,
): boolean {
  if (a === u || b === u || c === u || a === v || b === v || c === v || isApart(p, u, v, a, b, c)) return false;
  const above = side(p, a, b, c, u) || flat;
  const below = side(p, a, b, c, v) || flat;
  if (!(above > 0 ? below < 0 : above < 0 && below > 0)) return false;
  const [x, y, z] = [side(p, u, v, a, b) || flat, side(p, u, v, b, c) || flat, side(p, u, v, c, a) || flat];
  return (x > 0 && y > 0 && z > 0) || (x < 0 && y < 0 && z < 0);
}

/** Whether a segment and a triangle have boxes that do not meet: most are told apart by that. */
function isApart(p: ArrayLike<number>, u: number, v: number, a: number, b: number, c: number): boolean {
  for (let k = 0; k < 3; k++) {
    const s = p[3 * u + k], t = p[3 * v + k], x = p[3 * a + k], y = p[3 * b + k], z = p[3 * c + k]; // prettier-ignore
    const most = s > t ? s : t, least = s > t ? t : s; // prettier-ignore
    if ((x > most && y > most && z > most) || (x < least && y < least && z < least)) return true;
  }
  return false;
}

/** Where the line through two points meets the plane of a triangle that it is known to run through. */
export function meetingPlace(p: ArrayLike<number>, [u, v]: readonly [number, number], [a, b, c]: Int32Array): Vec3 {
  const above = side(p, a, b, c, u);
  const share = above / (above - side(p, a, b, c, v));
  const at = (k: number): number => p[3 * u + k] + share * (p[3 * v + k] - p[3 * u + k]);
  return [at(0), at(1), at(2)];
}

/** Six times the volume of a tetrahedron, signed; 0 where it is flat. */
function side(p: ArrayLike<number>, a: number, b: number, c: number, d: number): number {
  const [i, j, k, l] = [3 * a, 3 * b, 3 * c, 3 * d];
  const x1 = p[j] - p[i], y1 = p[j + 1] - p[i + 1], z1 = p[j + 2] - p[i + 2]; // prettier-ignore
  const x2 = p[k] - p[i], y2 = p[k + 1] - p[i + 1], z2 = p[k + 2] - p[i + 2]; // prettier-ignore
  const x3 = p[l] - p[i], y3 = p[l + 1] - p[i + 1], z3 = p[l + 2] - p[i + 2]; // prettier-ignore
  const volume = x1 * (y2 * z3 - z2 * y3) - y1 * (x2 * z3 - z2 * x3) + z1 * (x2 * y3 - y2 * x3);
  const most = (x1 * x1 + y1 * y1 + z1 * z1) * (x2 * x2 + y2 * y2 + z2 * z2) * (x3 * x3 + y3 * y3 + z3 * z3);
  return volume * volume > FLAT * most ? volume : 0;
}
