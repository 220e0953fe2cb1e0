import { dissected, type MirrorPlane } from '../../math';
import type { CrossField } from '../field/field';
import { isOnCut } from '../form/onCut';
import { nextHalf, type TriMesh } from '../form/TriMesh';
import type { RidgeChain } from '../lines/ridgeChains';
import { closingNumbers, rowsAsOne, tiedNumbers } from './closedRings';
import { GridSystem } from './GridSystem';
import { LessFlat } from './lessFlat';
import { lineTies } from './lineTies';
import { MoreRings } from './moreRings';
import { polePairs } from './polePairs';
import { RidgeRows } from './RidgeRows';
import { ringsOf } from './rings';
import { roomFor } from './room';
import { RoomRound } from './RoomRound';
import { placesOf, type Seams } from './seams';
import { ON_RIDGE, squaresOf, type OnLine, type Squares } from './squares';
import { weightsOf } from './weights';
import { bestNumbers, WholeNumbers } from './wholeNumbers';

/** The quads' grid laid over a part: one place per wedge. */
export interface GridMap {
  /** f64[2·wedges] */
  places: Float64Array;
  /** values of the free Gaussian whole numbers, re and im */
  whole: Int32Array;
  /** triangles that the map turns over or flattens */
  flipped: number;
  /** area in the grid: about how many quads there will be */
  area: number;
}

/** Weight of a line that must lie on a line of the grid, over that of an edge. */
const LINE = 100;
/**
 * What a length costs that is not as wanted, over what a way costs that is not: where both cannot be had, quads get longer or shorter by and by rather than askew. For the whole numbers, which tell how many quads
 * there are, both count alike: a ball is as many quads wide as high.
 */
const LENGTHS = 0.45;
/** Triangles should have so much of the area that is wanted. */
const LEAST = 0.3;
/** With more whole numbers than this it takes minutes to hold rings closed: forms of so many handles have next to nothing between them. */
const MOST_FOR_RINGS = 800;
/** Rounds of stiffening where the map turns over. */
const STIFFER = 6;

/**
 * The map to the plane whose axes follow the crosses best, poles on whole places and lines on whole lines (Bommes et al. 2009, with their anisotropic norm): all
 * lengths for one size are wanted at once, so that one factoring serves every size. Cost of making: factoring twice as many unknowns as vertices, twice, and as
 * many solves as there are whole numbers; of a solve for a size: one pass over the factors and the whole numbers' cube.
 */
export class Grid {
  /** vertex → its unknown, −1 at poles */
  private readonly unknown: Int32Array;
  /** triangle → how stiff it is */
  private readonly stiff: Float64Array;
  /** triangle → how much smaller its quads were made to give it room */
  private readonly shrunk: Float64Array;
  /** per half-edge its wanted step in the grid for size 1, and the weight of each axis of it */
  private readonly wish: Float64Array;
  private readonly weight: Float64Array;
  private readonly squares: Squares;
  /** of each square */
  private readonly weights: Float64Array;
  private readonly wishes: Float64Array;
  /** how many whole numbers there are: rounding them costs their cube */
  readonly numbers: number;
  private readonly system: GridSystem;
  private readonly rightForWhole: () => Float64Array;
  private readonly whole: WholeNumbers;
  private readonly room: RoomRound;
  private readonly flat: LessFlat;
  private readonly ridges: RidgeRows;
  private readonly rings: MoreRings;
  /** which of the squares is the first of a ridge, and for what size their rows were chosen */
  private readonly firstOnRidge: number;
  private rowsAt = 1;

  /**
   * `spread` is the wanted size at each triangle over the mean size, `sizes` one more at each vertex, by which the field was measured. Whole numbers are such that rings round limbs close, which
   * is told by their number at `size`, if there is one; never on forms of very many handles. Of the border in the mirror `plane` they need not be exact.
   */
  constructor(
    private readonly mesh: TriMesh,
    field: CrossField,
    private readonly seams: Seams,
    spread: Float64Array,
    sizes: Float64Array | null,
    size: number | null,
    ridges: readonly RidgeChain[],
    plane: MirrorPlane | null = null,
  ) {
    this.ridges = new RidgeRows(mesh, field, seams, ridges);
    const n = mesh.vertices;
    this.unknown = new Int32Array(n).fill(-1);
    for (const v of seams.vertex) if (v >= 0) this.unknown[v] = 0;
    const own: number[] = [];
    for (let v = 0; v < n; v++) if (this.unknown[v] === 0) this.unknown[v] = own.push(v) - 1;
    this.stiff = new Float64Array(mesh.triangles).fill(1);
    this.shrunk = new Float64Array(mesh.triangles).fill(1);
    this.wish = new Float64Array(6 * mesh.triangles);
    this.readEdges(field, spread, sizes);
    this.weight = weightsOf(this.wish, LENGTHS);
    const { lines, count } = this.readLines(field);
    this.squares = squaresOf(mesh, seams, this.unknown, lines, this.ridges.places);
    this.firstOnRidge = this.squares.count - this.ridges.places.length;
    this.numbers = 2 * seams.free + count;
    const places = new Float64Array(3 * own.length);
    own.forEach((v, i) => places.set(mesh.points.subarray(3 * v, 3 * v + 3), 3 * i));
    const by = dissected(places, own.length, (i) => mesh.ring(own[i]).map((v) => this.unknown[v]).filter((k) => k >= 0)); // prettier-ignore
    const order = new Int32Array(2 * own.length);
    by.forEach((i, k) => {
      order[2 * k] = 2 * i;
      order[2 * k + 1] = 2 * i + 1;
    });
    this.weights = new Float64Array(this.squares.count);
    this.wishes = new Float64Array(this.squares.count);
    const system = (weights: Float64Array): GridSystem =>
      new GridSystem(this.squares, 2 * own.length, this.numbers, order, weights, this.wishes);
    this.readSquares();
    this.system = system(this.weights);
    const { s, right, answers } = system(this.weightsBy(weightsOf(this.wish, 1))).forWhole();
    this.rightForWhole = right;
    const r = right();
    const each = this.numbers <= MOST_FOR_RINGS ? size : null;
    const wanted = each ? spread.map((by) => by * each) : null;
    const rings = wanted ? ringsOf(mesh, field, seams, wanted, this.numbers) : [];
    const pairs = wanted ? polePairs(mesh, seams, wanted, this.numbers) : [];
    const tied = tiedNumbers(this.numbers, lineTies(seams, this.unknown, lines.filter(({ wedge }) => !this.isInPlane(wedge, plane)))); // prettier-ignore
    // only rings ask for it, and it costs the numbers' cube
    const best = each ? bestNumbers(s, r).map((x) => x / each) : new Float64Array(this.numbers);
    const within = closingNumbers(tied, rings, best);
    this.whole = new WholeNumbers(this.numbers, s, r, within.length < this.numbers ? rowsAsOne(within) : null);
    this.room = new RoomRound(this.whole, rings, pairs, best);
    this.flat = new LessFlat(seams, this.unknown, this.whole, answers, this.room);
    this.rings = new MoreRings(this.whole, this.flat, rings, this.room);
  }

  /** Whether a wedge is one of the border in the mirror plane: there the form goes on, and half a quad either way is soon mended. */
  private isInPlane(wedge: number, plane: MirrorPlane | null): boolean {
    const { mesh, seams } = this;
    const v = seams.vertex[wedge];
    return v >= 0 && plane !== null && mesh.isBorder(v) && isOnCut(mesh, v, plane);
  }

  /** Each square's wish and weight as they are now. */
  private readSquares(): void {
    const { squares, weights, wishes, weight, wish } = this;
    weights.set(this.weightsBy(weight));
    for (let k = 0; k < squares.count; k++) {
      const half = squares.half[k];
      wishes[k] = half >= 0 ? wish[2 * half + squares.axis[k]] : half === ON_RIDGE ? this.ridges.row[k - this.firstOnRidge] * this.rowsAt : 0; // prettier-ignore
    }
  }

  /** Each square's weight as triangles are stiff now, by that of each axis of half-edges. */
  private weightsBy(weight: Float64Array): Float64Array {
    const { half, axis, count } = this.squares;
    return Float64Array.from(
      { length: count },
      (_, k) =>
      half[k] >= 0 ? weight[2 * half[k] + axis[k]] * this.stiff[Math.floor(half[k] / 3)] : half[k] === ON_RIDGE ? this.ridges.weight[k - this.firstOnRidge] : LINE, // prettier-ignore
    );
  }

  private readEdges(field: CrossField, spread: Float64Array, sizes: Float64Array | null): void {
    const { mesh, seams, wish } = this;
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const t = Math.floor(h / 3);
      const own = sizes ? (sizes[mesh.from[h]] + sizes[mesh.to(h)]) / 2 : 1;
      const l = Math.sqrt(mesh.squaredLength(h)) / spread[t] / own;
      const way = field.direction[h] - seams.angle[t];
      wish[2 * h] = l * Math.cos(way);
      wish[2 * h + 1] = l * Math.sin(way);
    }
  }

  /** Which coordinate of which wedge is held at one whole number along each line. */
  private readLines(field: CrossField): { lines: OnLine[]; count: number } {
    const { mesh, seams } = this;
    const parent = new Map<number, number>();
    const find = (x: number): number => {
      let r = x;
      while (parent.get(r) !== r) r = parent.get(r) as number;
      parent.set(x, r);
      return r;
    };
    const found: { wedge: number; axis: 0 | 1 }[] = [];
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      if (mesh.line[h] < 0 || (mesh.twin[h] >= 0 && mesh.twin[h] < h)) continue;
      const way = Math.round((2 * (field.direction[h] - seams.angle[Math.floor(h / 3)])) / Math.PI);
      const axis = (way & 1) === 0 ? 1 : 0;
      const ends = [seams.wedge[h], seams.wedge[nextHalf(h)]];
      for (const wedge of ends) {
        if (!parent.has(2 * wedge + axis)) parent.set(2 * wedge + axis, 2 * wedge + axis);
        found.push({ wedge, axis });
      }
      parent.set(find(2 * ends[0] + axis), find(2 * ends[1] + axis));
    }
    const number = new Map<number, number>();
    const lines = found.map(({ wedge, axis }) => {
      const root = find(2 * wedge + axis);
      if (!number.has(root)) number.set(root, number.size);
      return { wedge, axis, line: number.get(root) as number };
    });
    return { lines, count: number.size };
  }

  /**
   * Makes quads smaller where a map has collapsed though quads are wanted there: limbs and rims whose poles were rounded onto each other. Gives what takes that back; null where there is
   * nothing of the kind. Cost: the triangles, and one solve.
   */
  makeRoom({ places }: GridMap, size: number): (() => void) | null {
    const { areas } = this.areasOf(places);
    const before = [this.shrunk.slice(), this.wish.slice()];
    const smaller = roomFor(this.mesh, areas, areas.map((_, t) => this.wantedArea(t, size)), this.shrunk); // prettier-ignore
    for (const [t, by] of smaller) {
      this.shrunk[t] *= by;
      for (let i = 6 * t; i < 6 * t + 6; i++) this.wish[i] /= by;
    }
    if (smaller.size === 0) return null;
    this.rewished();
    return () => {
      this.shrunk.set(before[0]);
      this.wish.set(before[1]);
      this.rewished();
    };
  }

  private rewished(): void {
    this.readSquares();
    this.whole.r = this.rightForWhole();
  }

  /** The map for quads of a size, whole numbers rounded one by one, such that enough quads go round every limb. */
  solve(size: number): GridMap {
    return this.mapOf(this.room.from(this.whole.rounded(1 / size), 1 / size), size);
  }

  /** With whole numbers near by under which less of it is flat. */
  lessFlat(map: GridMap, size: number): GridMap {
    return this.mapOf(this.flat.from(map.whole, map.places, 1 / size, this.leastArea(size)), size);
  }

  /** With whole numbers near by under which more rings close, and hardly more of it is flat. */
  moreRings(map: GridMap, size: number): GridMap {
    const whole = this.rings.from(map.whole, map.places, 1 / size, this.leastArea(size));
    return whole.every((z, i) => z === map.whole[i]) ? map : this.mapOf(whole, size);
  }

  /** How many quads' area is missing where the map is flat or turned over. */
  flatness(map: GridMap, size: number): number {
    return this.flat.flatness(map.places, this.leastArea(size));
  }

  private leastArea(size: number): Float64Array {
    return this.shrunk.map((by, t) => LEAST * by * by * this.wantedArea(t, size));
  }

  /** With rows drawn to the ridges that they run beside, the numbers as they are; until it is soft again. Cost: tens of passes over the factors. */
  alongRidges(map: GridMap, size: number): GridMap {
    if (this.ridges.places.length === 0) return map;
    this.ridges.choose(map.places, size);
    this.rowsAt = size;
    this.readSquares();
    this.system.reweighted();
    return this.mapOf(map.whole, size);
  }

  /** As it was before it was stiffened, or drawn to ridges. Cost: factoring, where it was. */
  soften(): void {
    if (this.stiff.every((by) => by === 1) && !this.ridges.isHeld) return;
    this.stiff.fill(1);
    this.ridges.letGo();
    this.readSquares();
    this.system.refactor();
  }

  /** Stiffened where it turns over, the numbers as they are: other maps are to be had once it is soft again. */
  stiffened(start: GridMap, size: number): GridMap {
    let map = start;
    for (let round = 0; round < STIFFER && map.flipped > 0; round++) {
      const { areas } = this.areasOf(map.places);
      for (let t = 0; t < areas.length; t++) {
        const wanted = this.wantedArea(t, size);
        if (areas[t] <= 0) this.stiff[t] *= 4;
        else if (areas[t] < 0.2 * wanted) this.stiff[t] *= 2;
      }
      this.readSquares();
      this.system.reweighted();
      const next = this.mapOf(start.whole, size);
      if (next.flipped <= map.flipped) map = next;
    }
    return map;
  }

  private mapOf(z: Int32Array, size: number): GridMap {
    const x = this.system.realsFor(size, z).slice();
    // places on a fine lattice that misses halves: which triangle holds a point is then exact
    for (let i = 0; i < x.length; i++) x[i] = (2 * Math.round(x[i] * LATTICE) + 1) / (2 * LATTICE);
    const places = placesOf(this.seams, this.unknown, x, z);
    const { areas, flipped } = this.areasOf(places);
    return { places, whole: z, flipped, area: areas.reduce((sum, x1) => sum + x1, 0) };
  }

  private areasOf(places: Float64Array): { areas: Float64Array; flipped: number } {
    const { wedge } = this.seams;
    const areas = new Float64Array(this.mesh.triangles);
    let flipped = 0;
    for (let t = 0; t < areas.length; t++) {
      const [a, b, c] = [2 * wedge[3 * t], 2 * wedge[3 * t + 1], 2 * wedge[3 * t + 2]];
      areas[t] = ((places[b] - places[a]) * (places[c + 1] - places[a + 1]) - (places[b + 1] - places[a + 1]) * (places[c] - places[a])) / 2; // prettier-ignore
      if (areas[t] <= 0) flipped++;
    }
    return { areas, flipped };
  }

  private wantedArea(t: number, size: number): number {
    return Math.abs(this.wish[6 * t] * this.wish[6 * t + 3] - this.wish[6 * t + 1] * this.wish[6 * t + 2]) / (2 * size * size); // prettier-ignore
  }
}

/** Places are multiples of half of one over this, never of a half. */
const LATTICE = 1 << 20;
