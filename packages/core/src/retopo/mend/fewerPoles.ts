import type { Vec3 } from '../../math';
import { WalkingForm } from '../../surface';
import type { Ground } from '../lines/ground';
import { QuadCheck } from '../quads/QuadCheck';
import { cornerOf, edgesOff, halfKey, QuadLinks } from '../quads/QuadLinks';
import { type QuadSoup, surfaceOfQuads } from '../quads/QuadSoup';
import { roundsOf } from '../quads/spirals';
import { compacted, faultsOf, refilled, type Refilled } from './mendQuads';

/** Poles so many edges from each other may go together. */
const FAR = 4;
/** Quads so many rings round the way between them are looked at; up to so many of them go. */
const LOOKED_AT = 5;
const RINGS = [0, 1, 2];
/** A filling has no corner below this, or none worse than what was there. */
const LEAST = 0.25;
/** A place of the form may be so much of an edge off the quads, or as far as it was: tips and limbs have poles because they must. */
const OFF = 0.6;
const WORSE = 1.05;
/** Edges of a filling over those that went, on the mean, at least and at most. */
const SHORTEST = 0.25;
const LONGEST = 3;
/** A pair is worth a filling that leaves so many edges fewer too many or too few. */
const FEWER = 2;
/** Never so many times over. */
const MOST = 400;

/**
 * Takes out the quads between a point with too few edges and one with too many near by, and fills the hole anew, wherever that leaves fewer irregular points and the quads
 * come as near to the form, of which `samples` are places, xyz, as those that went, and no rings round limbs become spirals. `size` is what edges are wanted to be. Nearest pairs first, until none is left. Edges of lines stay. Cost: for each pair, fillings of a hole of some tens
 * of quads; for each that goes, the quads.
 */
export function fewerPoles(start: QuadSoup, ground: Ground, samples: Float64Array, size: number): QuadSoup {
  const form: Form = { ground, places: new Places(samples, size) };
  const tried = new Set<string>();
  let now = linked(start);
  for (let i = 0; i < MOST; i++) {
    const next = oneFewer(now, form, tried);
    if (!next) break;
    now = next;
  }
  const { soup } = now;
  return soup === start ? start : compacted(soup.points, [...soup.quads], soup.onLine);
}

interface Linked {
  soup: QuadSoup;
  links: QuadLinks;
  /** strips that spiral */
  spiral: number;
}

function linked(soup: QuadSoup): Linked {
  const links = new QuadLinks(soup);
  return { soup, links, spiral: roundsOf(soup, links).spiral };
}

function oneFewer({ soup, links, spiral }: Linked, form: Form, tried: Set<string>): Linked | null {
  for (const path of pairsIn(soup, links)) {
    const key = `${path[0]} ${path[path.length - 1]}`;
    if (tried.has(key)) continue;
    tried.add(key);
    const made = new Neighbourhood(soup, links, path, form).withoutPair();
    if (!made) continue;
    const next = linked(made);
    // rings round limbs are worth more than two poles
    if (next.spiral <= spiral) return next;
  }
  return null;
}

/** What quads are laid on, and places of it. */
interface Form {
  ground: Ground;
  places: Places;
}

/** Places in cells as large as quads. */
class Places {
  private readonly cells = new Map<number, Vec3[]>();

  constructor(
    samples: Float64Array,
    private readonly size: number,
  ) {
    for (let i = 0; i < samples.length; i += 3) {
      const key = this.key(this.cell(samples[i]), this.cell(samples[i + 1]), this.cell(samples[i + 2]));
      const own = this.cells.get(key);
      const place: Vec3 = [samples[i], samples[i + 1], samples[i + 2]];
      if (own) own.push(place);
      else this.cells.set(key, [place]);
    }
  }

  /** Those in the cells of some points and in the cells beside. */
  near(points: Float64Array, some: Iterable<number>): Vec3[] {
    const keys = new Set<number>();
    for (const v of some) {
      const [x, y, z] = [0, 1, 2].map((k) => this.cell(points[3 * v + k]));
      for (let a = x - 1; a <= x + 1; a++)
        for (let b = y - 1; b <= y + 1; b++) for (let c = z - 1; c <= z + 1; c++) keys.add(this.key(a, b, c));
    }
    return [...keys].flatMap((key) => this.cells.get(key) ?? []);
  }

  private cell(x: number): number {
    return Math.floor(x / this.size) + WIDE / 2;
  }
  private key(x: number, y: number, z: number): number {
    return (x * WIDE + y) * WIDE + z;
  }
}
/** Cells along an axis, at most: three of them have room in a number. */
const WIDE = 1 << 17;

/** The quads round a way between two poles, by themselves. */
class Neighbourhood {
  /** its quads by their numbers in the whole */
  private readonly quads: number[];
  /** those of its outermost ring, by their own numbers */
  private readonly fringe = new Set<number>();
  /** its points' numbers in the whole */
  private readonly was: number[] = [];
  private readonly soup: QuadSoup;
  /** half-edges that are open here only */
  private readonly fixed = new Set<number>();

  constructor(
    private readonly whole: QuadSoup,
    links: QuadLinks,
    private readonly path: readonly number[],
    private readonly form: Form,
  ) {
    const found = new Set(path.flatMap((v) => [...links.at(v)]));
    for (let ring = 0; ring < LOOKED_AT; ring++) {
      const before = found.size;
      for (const q of [...found])
        for (let k = 0; k < 4; k++) for (const x of links.at(whole.quads[4 * q + k])) found.add(x);
      if (ring === LOOKED_AT - 1) for (let i = before; i < found.size; i++) this.fringe.add(i);
    }
    this.quads = [...found];
    const own = new Map<number, number>();
    const corners = this.quads.flatMap((q) => [...whole.quads.subarray(4 * q, 4 * q + 4)]);
    for (const v of corners) if (!own.has(v)) own.set(v, this.was.push(v) - 1);
    this.soup = {
      points: Float64Array.from(this.was.flatMap((v) => [...whole.points.subarray(3 * v, 3 * v + 3)])),
      quads: Int32Array.from(corners, (v) => own.get(v) as number),
      onLine: Int32Array.from(this.was, (v) => whole.onLine[v]),
    };
    corners.forEach((_, h) => {
      const g = links.twin(4 * this.quads[h >> 2] + (h & 3));
      if (g >= 0 && !found.has(g >> 2)) this.fixed.add(halfKey(this.soup.quads[h], cornerOf(this.soup.quads, h, 1)));
    });
  }

  /** The whole without the pair, points keeping their numbers; null where no filling is better. */
  withoutPair(): QuadSoup | null {
    const ends = new Set(this.path);
    const bad = this.quads.flatMap((q, i) =>
      [0, 1, 2, 3].some((k) => ends.has(this.whole.quads[4 * q + k])) ? [i] : [],
    );
    const before = irregularIn(this.soup);
    // placed on the quads that are there: the form itself would be asked too often
    const there = new WalkingForm(surfaceOfQuads(this.soup));
    const local: Ground = { ...this.form.ground, forms: [there, there] };
    const may = (gone: ReadonlySet<number>): boolean =>
      ![...gone].some((q) => this.fringe.has(q)) && !this.takesLine(gone);
    for (const rings of RINGS) {
      const made = refilled(this.soup, bad, local, rings, { fixed: this.fixed, fewer: FEWER, may });
      if (!made) continue;
      const next: QuadSoup = { points: Float64Array.from(made.points), quads: Int32Array.from(made.quads), onLine: Int32Array.from(made.onLine) }; // prettier-ignore
      if (irregularIn(next) <= before - FEWER && this.isSound(next, made)) return this.putBack(made);
    }
    return null;
  }

  /** Whether an edge between two lines' points would go: the filling might find no chain in its place. */
  private takesLine(gone: ReadonlySet<number>): boolean {
    const { quads, onLine } = this.soup;
    const inside = new Set<number>();
    for (const q of gone)
      for (let h = 4 * q; h < 4 * q + 4; h++) {
        const [u, v] = [quads[h], cornerOf(quads, h, 1)];
        if (onLine[u] === -1 || onLine[v] === -1) continue;
        if (inside.has(halfKey(v, u))) return true;
        inside.add(halfKey(u, v));
      }
    return false;
  }

  /** Whether what was filled in is as good as what went. */
  private isSound(next: QuadSoup, { gone }: Refilled): boolean {
    const { soup } = this;
    const { ground, places } = this.form;
    if (faultsOf(next, ground.curves, this.fixed).length > 0) return false;
    const fresh = next.quads.subarray(4 * (this.quads.length - gone.size));
    // a small closed part may go whole
    if (fresh.length === 0) return false;
    const then = new QuadCheck(soup.points, soup.quads);
    const least = Math.min(LEAST, ...[...gone].map((q) => then.least(4 * q)));
    const now = new QuadCheck(next.points, fresh, ground.forms);
    for (let q = 0; q < fresh.length; q += 4) if (!(now.least(q) >= least) || now.isFolded(q)) return false;
    const old = Int32Array.from([...gone].flatMap((q) => [...soup.quads.subarray(4 * q, 4 * q + 4)]));
    const lengths = edgeLengths(soup.points, old);
    const mean = lengths.reduce((a, b) => a + b, 0) / lengths.length;
    if (edgeLengths(next.points, fresh).some((l) => l < SHORTEST * mean || l > LONGEST * mean)) return false;
    const [before, after] = [surfaceOfQuads(soup), surfaceOfQuads(next)];
    return places.near(soup.points, old).every((p) => {
      const away = after.distanceBeyond(p, OFF * mean);
      return away <= OFF * mean || away <= WORSE * before.closest(p).distance;
    });
  }

  private putBack(made: Refilled): QuadSoup {
    const { whole, was } = this;
    const n = was.length;
    const base = whole.onLine.length;
    const gone = new Set([...made.gone].map((q) => this.quads[q]));
    const fresh = made.quads.slice(4 * (this.quads.length - gone.size));
    return {
      points: Float64Array.from([...whole.points, ...made.points.slice(3 * n)]),
      quads: Int32Array.from([
        ...whole.quads.filter((_, h) => !gone.has(h >> 2)),
        ...fresh.map((v) => (v < n ? was[v] : base + v - n)),
      ]),
      onLine: Int32Array.from([...whole.onLine, ...made.onLine.slice(n)]),
    };
  }
}

function edgeLengths(p: Float64Array, quads: Int32Array): number[] {
  return Array.from(quads, (u, h) => {
    const v = cornerOf(quads, h, 1);
    return Math.hypot(p[3 * u] - p[3 * v], p[3 * u + 1] - p[3 * v + 1], p[3 * u + 2] - p[3 * v + 2]);
  });
}

const irregularIn = (soup: QuadSoup): number => edgesOff(soup, new QuadLinks(soup)).reduce((sum, x) => sum + Math.abs(x), 0); // prettier-ignore

/** Shortest ways along edges from points with too few to points with too many, shortest first. Cost: a search of a few rings round each. */
function pairsIn(soup: QuadSoup, links: QuadLinks): number[][] {
  const off = edgesOff(soup, links);
  const found: number[][] = [];
  const beside = (v: number): number[] =>
    links.at(v).flatMap((q) => {
      const k = soup.quads.subarray(4 * q, 4 * q + 4).indexOf(v);
      return [soup.quads[4 * q + ((k + 1) & 3)], soup.quads[4 * q + ((k + 3) & 3)]];
    });
  for (let v = 0; v < off.length; v++) {
    if (off[v] >= 0) continue;
    const by = new Map([[v, -1]]);
    let front = [v];
    for (let far = 1; far <= FAR; far++) {
      const next: number[] = [];
      for (const u of front)
        for (const w of beside(u)) {
          if (by.has(w)) continue;
          by.set(w, u);
          next.push(w);
          if (off[w] <= 0) continue;
          const path: number[] = [];
          for (let x = w; x >= 0; x = by.get(x) as number) path.push(x);
          found.push(path);
        }
      front = next;
    }
  }
  return found.sort((a, b) => a.length - b.length);
}
