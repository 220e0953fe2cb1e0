import { TopologyError } from '../../errors';
import { fillBorder } from '../../fill';
import type { Vec3 } from '../../math';
import type { PolygonSoup } from '../../mesh';
import { SculptSurface, WalkingForm } from '../../surface';
import { relaxed, relaxedSafely } from '../fit/relax';
import { squarer } from '../fit/squarer';
import type { Onto } from '../form/denseFaces';
import { layAll } from '../layAll';
import { runsNear } from '../lines/drawn';
import type { Ground } from '../lines/ground';
import type { Curve } from '../lines/lines';
import { cornersOf, mendedAround } from '../mend/mendQuads';
import type { LayAllOptions } from '../options';
import { foldedIn, QuadCheck, qualityOf } from '../quads/QuadCheck';
import type { QuadSoup } from '../quads/QuadSoup';
import type { Watch } from '../Stages';
import { loopsIn, peeled } from './peel';
import { nearestLoop, rowInside, zipped } from './zip';

/** How a patch is laid. */
export type PatchAsked = Pick<LayAllOptions, 'evenness' | 'followForm' | 'keepEdges' | 'lines'> & {
  /** quads run along the loops that were there */
  followsLoops: boolean;
};

/** A patch to lay: the border it must have, and the form inside. */
export interface PatchShape {
  /** points of the border loops one after the other, each with the patch on its left */
  border: readonly Vec3[];
  /** points of each loop */
  lengths: readonly number[];
  /** faces beyond each border point; along an open border as many as would go on there */
  outside: readonly number[];
  /** quads */
  wanted: number;
  /** wanted quads in the place of one that is there; 1 where nothing is */
  density: number;
  /** a fine mesh of the form inside */
  triangles: { positions: Float64Array; indices: Uint32Array };
  /** the faces as they were, if there were any */
  soup: PolygonSoup | null;
  onto: Onto | null;
}

/** Quads in a patch. Points 0 … are those of the border, in turn. */
export interface Laying {
  soup: QuadSoup;
  /** corners of a triangle each */
  triangles: number[][];
  /** the least corner */
  least: number;
}

/** Rounds of evening out, without and with care. */
const ROUNDS = [12, 24];
/** Rounds after the border moved a little. */
const SETTLING = 4;
const NONE: ReadonlySet<number> = new Set();
/** So often what is folded is filled anew. */
const MENDS = 2;
/** The border as mending knows it: nothing moves along it. */
const RIM: Curve = { points: new Float64Array(), isBorder: true, isDrawn: false, isMirrored: false };
/** Below this density a row of points comes between the border and the loop that is joined to it. */
const FEWER = 0.9;
/** A way with no worse corner is taken; one with a worse corner than the other is told. */
export const GOOD = 0.2;
const POOR = 0.1;
/** Flatter than this a corner is taken for folded: points are yet rounded. */
export const FLAT = 0.005;
/** A quad whose normal agrees with the form's by less stands upright on it: along a bent border three edges in a row would be a quad that is well shaped but closes nothing. */
const UPRIGHT = 0.15;
/** Fewer than this share of what was asked for is told. */
const SHORT = 0.7;

/** What is to be said of a patch that was laid, in words; `wanted`: how many faces somebody asked for. */
export function patchTold({ soup, triangles, least }: Laying, wanted: number | null): string[] {
  const told = triangles.length > 0 ? [`${triangles.length === 1 ? 'a triangle' : `${triangles.length} triangles`} left, since the border has an odd number of edges`] : []; // prettier-ignore
  if (wanted !== null && triangles.length + soup.quads.length / 4 < SHORT * wanted)
    told.push(`${Math.round(wanted)} were asked for, which this border leaves no room for`);
  if (least < POOR)
    told.push('some corners nearly flat: a patch with a straighter border, or more quads, comes out better');
  return told;
}

/**
 * A patch laid inside a border that stays: quads by `layAll` on a fine mesh of the form, the outermost rings of which give way to a strip that fits the
 * border's own count; small patches are filled by pattern. A border with an odd count takes one triangle. Cost: as `layAll` of a few thousand triangles.
 */
export class Patch {
  private readonly surface: SculptSurface;

  constructor(private readonly shape: PatchShape) {
    const { positions, indices } = shape.triangles;
    this.surface = SculptSurface.build({ positions: Float32Array.from(positions), indices: indices.slice() });
  }

  /** Null where the patch is too narrow, or its border too uneven, for quads of that size. */
  laid(asked: PatchAsked, watch: Watch, flowed: QuadSoup | null = null): Laying | null {
    const quads = flowed ?? this.flowed(asked, watch);
    const ways = [(): Laying | null => this.filled()];
    // every ring that gives way takes quads of the wanted size along
    for (const rings of quads ? [3, 2, 1] : []) {
      ways.unshift(() => this.joined(quads as QuadSoup, rings, this.shape.density >= FEWER));
      ways.unshift(() => this.joined(quads as QuadSoup, rings, this.shape.density < FEWER));
    }
    let best: Laying | null = null;
    for (const way of ways) {
      if (best && best.least >= GOOD) break;
      const made = way();
      if (made && (!best || made.least > best.least)) best = made;
    }
    return best && best.least > FLAT ? best : null;
  }

  /** Quads over the patch with a border of their own; null where there is no way. */
  flowed({ evenness, followForm, keepEdges, lines, followsLoops }: PatchAsked, watch: Watch): QuadSoup | null {
    const near = Math.sqrt(this.surface.area() / this.shape.wanted) / 2;
    const own = lines.flatMap((line) => runsNear(line, (p) => this.surface.closest(p).distance < near));
    const options: LayAllOptions = { faces: Math.max(6, Math.round(this.shape.wanted)), evenness, followForm, keepEdges, lines: own, plane: null, dropDust: false, density: null, loops: followsLoops ? this.shape.soup : null, smoothing: 0 }; // prettier-ignore
    try {
      return layAll(this.shape.triangles, options, watch).soup;
    } catch (error) {
      if (error instanceof TopologyError) return null;
      throw error;
    }
  }

  /** The quads without their outermost rings, joined to the border by strips, with a row of points between if asked; null where nothing sound is left of them. */
  private joined(quads: QuadSoup, rings: number, hasRow: boolean): Laying | null {
    // a whole closed part: nothing holds points but their quads
    if (this.shape.lengths.length === 0) return this.evened({ ...quads, onLine: quads.onLine.map(() => -1) }, []);
    const core = peeled(quads, rings);
    if (!core) return null;
    const inner = loopsIn(core).map((loop) => loop.map((v) => v + this.shape.border.length));
    if (inner.length !== this.shape.lengths.length) return null;
    const points = [...this.shape.border];
    const shift = points.length;
    for (let v = 0; v < core.onLine.length; v++) points.push([core.points[3 * v], core.points[3 * v + 1], core.points[3 * v + 2]]); // prettier-ignore
    const made = [...core.quads].map((v) => v + shift);
    const triangles: number[][] = [];
    const strip = (outer: readonly number[], own: readonly number[], outside: readonly number[]): void => {
      const normals = outer.map((v) => this.surface.closest(points[v]).normal);
      const [from, to] = [outer, own].map((loop) => loop.map((v) => points[v]));
      for (const face of zipped(from, to, { outside, normals })) {
        const corners = face.map((c) => (c >= 0 ? outer[c] : own[-1 - c]));
        if (face.length === 4) made.push(...corners);
        else triangles.push(corners);
      }
    };
    let first = 0;
    for (const length of this.shape.lengths) {
      let outer = Array.from({ length }, (_, i) => first + i);
      let outside = this.shape.outside.slice(first, first + length);
      const own = nearestLoop(outer, inner, points);
      inner.splice(inner.indexOf(own), 1);
      if (hasRow) {
        // the border's points cannot give way where it takes two edges to one: those of a row between can
        const row = rowInside(outer, own, outside, points);
        strip(outer, row, outside);
        outside = row.map(() => 2);
        outer = row;
      }
      strip(outer, own, outside);
      first += length;
    }
    const onLine = Int32Array.from(points, (_, v) => (v < shift ? -2 : -1));
    return this.evened({ points: Float64Array.from(points.flat()), quads: Int32Array.from(made), onLine }, triangles);
  }

  /** The patch closed by pattern, when it has one border. */
  private filled(): Laying | null {
    if (this.shape.lengths.length !== 1 || this.shape.border.length % 2 === 1) return null;
    const [way] = fillBorder(this.shape.border, cornersOf(this.shape.outside), this.shape.onto, 1);
    if (!way) return null;
    const points = Float64Array.from(way.points.flat());
    const onLine = Int32Array.from(way.points, (_, v) => (v < this.shape.border.length ? -2 : -1));
    return this.evened({ points, quads: Int32Array.from(way.quads.flat()), onLine }, []);
  }

  /** Points inside moved to where their quads are squarest, with care where that would fold some; what stays folded is taken out and filled anew. */
  private evened(soup: QuadSoup, triangles: number[][]): Laying {
    const forms = [new WalkingForm(this.surface)];
    const before = soup.points.slice();
    relaxed(soup, [], this.surface, ROUNDS[0]);
    if (qualityOf(soup.points, soup.quads, forms, UPRIGHT).folded > 0) soup.points.set(before);
    let now = soup;
    for (let round = 0; ; round++) {
      relaxedSafely(now, [], this.surface, ROUNDS[1]);
      squarer(now, [], this.surface, NONE);
      this.putOnForm(now);
      const { quality, folded } = qualityOf(now.points, now.quads, forms, UPRIGHT);
      const laying = { soup: now, triangles, least: folded > 0 ? -folded : quality.least };
      const again = folded > 0 && triangles.length === 0 && round < MENDS ? this.mended(now, forms, 1 + round) : null;
      if (!again) return laying;
      now = again;
    }
  }

  /** Points inside moved with care to where their quads are squarest, after those of the border moved; tells the least corner, below zero where something is folded. */
  settled(soup: QuadSoup): number {
    relaxedSafely(soup, [], this.surface, SETTLING);
    squarer(soup, [], this.surface, NONE, SETTLING);
    this.putOnForm(soup);
    return this.least(soup);
  }

  /** The least corner; below zero where something is folded. */
  least({ points, quads }: QuadSoup): number {
    const { quality, folded } = qualityOf(points, quads, [new WalkingForm(this.surface)], UPRIGHT);
    return folded > 0 ? -folded : quality.least;
  }

  /** Quads, as 4·q, with a corner below `than`, or folded. */
  poorer({ points, quads }: QuadSoup, than: number): number[] {
    const check = new QuadCheck(points, quads, [new WalkingForm(this.surface)], UPRIGHT);
    const found: number[] = [];
    for (let q = 0; q < quads.length; q += 4) if (check.least(q) < than || check.isFolded(q)) found.push(q);
    return found;
  }

  /** Points inside onto the form itself, which the working surface has only so closely. */
  private putOnForm({ points, onLine }: QuadSoup): void {
    const { onto } = this.shape;
    if (!onto) return;
    for (let v = 0; v < onLine.length; v++)
      if (onLine[v] !== -2) points.set(onto([points[3 * v], points[3 * v + 1], points[3 * v + 2]]), 3 * v);
  }

  /** With what is folded taken out, and some round it, and filled by pattern; null where there is no way. */
  private mended(soup: QuadSoup, forms: readonly WalkingForm[], rings: number): QuadSoup | null {
    const ground: Ground = { surface: this.surface, curves: [RIM], forms: [forms[0], forms[0]], density: null };
    const made = mendedAround(soup, foldedIn(soup, forms, UPRIGHT), ground, rings);
    return made && borderFirst(made, this.shape.border);
  }
}

/** Named anew so that the points of the border come first, in turn; null where one is not there any more. */
function borderFirst({ points, quads, onLine }: QuadSoup, border: readonly Vec3[]): QuadSoup | null {
  const at = new Map<string, number>();
  for (let v = 0; v < onLine.length; v++) if (onLine[v] === -2) at.set(points.subarray(3 * v, 3 * v + 3).join(), v);
  const order = border.map((p) => at.get(p.join()) ?? -1);
  if (order.includes(-1) || new Set(order).size < order.length) return null;
  const first = new Set(order);
  for (let v = 0; v < onLine.length; v++) if (!first.has(v)) order.push(v);
  return renamed({ points, quads, onLine }, order);
}

/** The same quads with their points in another order. */
export function renamed({ points, quads, onLine }: QuadSoup, order: readonly number[]): QuadSoup {
  const name = new Int32Array(order.length);
  order.forEach((v, i) => (name[v] = i));
  return {
    points: Float64Array.from(order.flatMap((v) => [...points.subarray(3 * v, 3 * v + 3)])),
    quads: quads.map((v) => name[v]),
    onLine: Int32Array.from(order, (v) => onLine[v]),
  };
}

/** Where each face's corners begin, and where the last ones end. */
export function startsOf(faces: readonly (readonly number[])[]): Uint32Array {
  const starts = new Uint32Array(faces.length + 1);
  faces.forEach((face, i) => (starts[i + 1] = starts[i] + face.length));
  return starts;
}
