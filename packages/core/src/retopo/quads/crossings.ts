import type { MirrorPlane } from '../../math';
import { mirrored } from './mirrored';
import type { QuadSoup } from './QuadSoup';

/** Cells of the search are so many mean edges wide. */
const CELL = 1.5;
/** A tetrahedron whose volume is less than this share of that of its edges at one corner, squared, is flat: on a flat side of a form volumes are what rounding leaves. */
const FLAT = 1e-18;

/**
 * Quads that run through others: those with an edge, or the diagonal that they are cut along, that crosses a triangle of another with no point in common. Neighbours are left out:
 * what folds over at an edge is told by its facing. Cost: linear for quads of about one size, by a grid of cells.
 */
export function crossingQuads({ points: p, quads }: Pick<QuadSoup, 'points' | 'quads'>): number[] {
  const cells = new Cells(p, quads);
  const found = new Set<number>();
  for (let q = 0; q < quads.length; q += 4)
    for (let k = 0; k < 5; k++) {
      const [u, v] = k < 4 ? [quads[q + k], quads[q + ((k + 1) & 3)]] : [quads[q], quads[q + 2]];
      cells.near(u, v, (t) => {
        const [a, b, c] = cornersOf(quads, t);
        if (a === u || b === u || c === u || a === v || b === v || c === v) return;
        if (crosses(p, u, v, a, b, c)) found.add(q / 4).add(t >> 1);
      });
    }
  return [...found];
}

/** Quads of a half that run through others, or through those of its image in the plane; all that do where there is no plane. */
export function crossingInAll(soup: QuadSoup, plane: MirrorPlane | null): number[] {
  if (!plane) return crossingQuads(soup);
  const half = soup.quads.length / 4;
  return [...new Set(crossingQuads(mirrored(soup, plane)).map((q) => q % half))];
}

/** Triangle t of the quads: two each, along the first diagonal. */
function cornersOf(quads: Int32Array, t: number): [number, number, number] {
  const q = 4 * (t >> 1);
  return t % 2 === 0 ? [quads[q], quads[q + 1], quads[q + 2]] : [quads[q], quads[q + 2], quads[q + 3]];
}

/** Triangles by the cells of a grid that their boxes touch. */
class Cells {
  private readonly size: number;
  private readonly cells = new Map<number, number[]>();
  private readonly seen: Int32Array;
  private asked = 0;

  constructor(
    private readonly p: Float64Array,
    quads: Int32Array,
  ) {
    let sum = 0;
    for (let h = 0; h < quads.length; h++) {
      const [u, v] = [quads[h], quads[(h & ~3) + ((h + 1) & 3)]];
      sum += Math.hypot(p[3 * u] - p[3 * v], p[3 * u + 1] - p[3 * v + 1], p[3 * u + 2] - p[3 * v + 2]);
    }
    this.size = (CELL * sum) / Math.max(1, quads.length) || 1;
    this.seen = new Int32Array(quads.length / 2).fill(-1);
    for (let t = 0; t < quads.length / 2; t++)
      this.each(cornersOf(quads, t), (key) => {
        const own = this.cells.get(key);
        if (own) own.push(t);
        else this.cells.set(key, [t]);
      });
  }

  /** Every triangle in the cells that a segment's box touches, once. */
  near(u: number, v: number, take: (t: number) => void): void {
    const now = this.asked++;
    this.each([u, v], (key) => {
      for (const t of this.cells.get(key) ?? []) {
        if (this.seen[t] === now) continue;
        this.seen[t] = now;
        take(t);
      }
    });
  }

  private each(corners: readonly number[], take: (key: number) => void): void {
    const { p, size } = this;
    const range = [0, 1, 2].map((k) => {
      const at = corners.map((v) => p[3 * v + k]);
      return [Math.floor(Math.min(...at) / size), Math.floor(Math.max(...at) / size)];
    });
    for (let x = range[0][0]; x <= range[0][1]; x++)
      for (let y = range[1][0]; y <= range[1][1]; y++)
        for (let z = range[2][0]; z <= range[2][1]; z++) take(((x * 73856093) ^ (y * 19349663) ^ (z * 83492791)) | 0);
  }
}

/** Whether segment uv goes through triangle abc, properly. */
function crosses(p: Float64Array, u: number, v: number, a: number, b: number, c: number): boolean {
  const above = side(p, a, b, c, u);
  const below = side(p, a, b, c, v);
  if (!(above * below < 0)) return false;
  const [x, y, z] = [side(p, u, v, a, b), side(p, u, v, b, c), side(p, u, v, c, a)];
  return (x > 0 && y > 0 && z > 0) || (x < 0 && y < 0 && z < 0);
}

/** Six times the volume of a tetrahedron, signed; 0 where it is flat. */
function side(p: Float64Array, a: number, b: number, c: number, d: number): number {
  const [i, j, k, l] = [3 * a, 3 * b, 3 * c, 3 * d];
  const x1 = p[j] - p[i], y1 = p[j + 1] - p[i + 1], z1 = p[j + 2] - p[i + 2]; // prettier-ignore
  const x2 = p[k] - p[i], y2 = p[k + 1] - p[i + 1], z2 = p[k + 2] - p[i + 2]; // prettier-ignore
  const x3 = p[l] - p[i], y3 = p[l + 1] - p[i + 1], z3 = p[l + 2] - p[i + 2]; // prettier-ignore
  const volume = x1 * (y2 * z3 - z2 * y3) - y1 * (x2 * z3 - z2 * x3) + z1 * (x2 * y3 - y2 * x3);
  const most = (x1 * x1 + y1 * y1 + z1 * z1) * (x2 * x2 + y2 * y2 + z2 * z2) * (x3 * x3 + y3 * y3 + z3 * z3);
  return volume * volume > FLAT * most ? volume : 0;
}
