import { TopologyError } from '../errors';
import { fillBorder } from '../fill';
import { distance, meanPoint, type Vec3 } from '../math';
import { loopsRound, NONE, type PolygonSoup, type PolyMesh } from '../mesh';
import { SculptSurface, WalkingForm } from '../surface';
import { runsNear } from './drawn';
import { denseFaces, type Onto } from './denseFaces';
import type { QuadSoup } from './extract';
import { layAll } from './layAll';
import type { Ground } from './ground';
import type { Curve } from './lines';
import { cornersOf, foldedIn, mendedAround } from './mendQuads';
import type { LayAllOptions } from './options';
import { loopsIn, peeled } from './peel';
import { relaxed, relaxedSafely } from './relax';
import type { Watch } from './Stages';
import { qualityOf } from './verify';
import { nearestLoop, rowInside, zipped } from './zip';

/** How picked faces are laid anew. */
export type RelayAsked = Pick<LayAllOptions, 'evenness' | 'followForm' | 'keepEdges' | 'lines'> & {
  /** quads run along the loops that were there */
  followsLoops: boolean;
  /** quads in the place of one */
  density: number;
};

/** What takes the place of picked faces. */
export interface Relaid {
  /** points that are new */
  points: Vec3[];
  /** corners of the faces: a vertex of the mesh, or −1 − k for the k-th of `points` */
  faces: number[][];
  /** the picked face nearest to each face, and to each point */
  faceLike: number[];
  pointLike: number[];
  /** what could not be as asked, in words */
  told: string[];
}

/** The working mesh has at least so many triangles, and so many for each quad that is wanted. */
const LEAST_TRIANGLES = 3000;
const FOR_A_QUAD = 12;
/** Rounds of evening out, without and with care. */
const ROUNDS = [12, 24];
/** So often what is folded is filled anew. */
const MENDS = 2;
/** The border as mending knows it: nothing moves along it. */
const RIM: Curve = { points: new Float64Array(), isBorder: true, isDrawn: false };
/** Below this density a row of points comes between the border and the loop that is joined to it. */
const FEWER = 0.9;
/** A way with no worse corner is taken; one with a worse corner than the other is told. */
const GOOD = 0.2;
const POOR = 0.1;
/** Flatter than this a corner is taken for folded: points are yet rounded. */
const FLAT = 0.005;
/** Fewer than this share of what was asked for is told. */
const SHORT = 0.7;

/**
 * Lays the picked faces anew inside their border, whose edges and points all stay: quads by `layAll` on a fine mesh of the faces on the form, the outermost ring of which gives way
 * to a strip that fits the border's own count; small patches are filled by pattern. A border with an odd count takes one triangle, which is told. Throws NO_WAY for faces that
 * are too narrow for quads of that size. Cost: as `layAll` of a few thousand triangles for each patch.
 */
export function relaid(
  mesh: PolyMesh,
  picked: readonly number[],
  asked: RelayAsked,
  onto: Onto | null,
  watch: Watch = {},
): Relaid {
  const out: Relaid = { points: [], faces: [], faceLike: [], pointLike: [], told: [] };
  const patches = patchesOf(mesh, picked);
  patches.forEach((faces, i) => {
    const patch = new RelayPatch(mesh, faces, asked.density, onto);
    const stage = (name: string, done: number): void => watch.stage?.(name, (i + done) / patches.length);
    const made = patch.laid(asked, { ...watch, stage });
    const shift = out.points.length;
    out.points.push(...made.points);
    out.faces.push(...made.faces.map((face) => face.map((v) => (v < 0 ? v - shift : v))));
    out.faceLike.push(...made.faceLike);
    out.pointLike.push(...made.pointLike);
    out.told.push(...made.told);
  });
  return out;
}

/** Picked faces in sets that hang together by edges. */
function patchesOf(mesh: PolyMesh, picked: readonly number[]): number[][] {
  const left = new Set(picked);
  const found: number[][] = [];
  for (const first of left) {
    left.delete(first);
    const queue = [first];
    for (const f of queue)
      for (const h of mesh.faceHalves(f)) {
        const g = mesh.face(h ^ 1);
        if (g !== NONE && left.delete(g)) queue.push(g);
      }
    found.push(queue);
  }
  return found;
}

interface Laying {
  soup: QuadSoup;
  /** corners of a triangle each */
  triangles: number[][];
  least: number;
}

/** One patch: its border, what it is laid on, and the ways to lay it. Points 0 … of a laying are those of the border loops, in turn. */
class RelayPatch {
  /** vertices of the mesh */
  private readonly loops: number[][];
  private readonly border: Vec3[];
  /** faces beyond each border point; along an open border as many as would go on there */
  private readonly outside: number[];
  private readonly wanted: number;
  private readonly surface: SculptSurface;
  /** the faces as they were */
  private readonly soup: PolygonSoup;
  private readonly input: { positions: Float64Array; indices: Uint32Array };

  constructor(
    private readonly mesh: PolyMesh,
    private readonly faces: readonly number[],
    density: number,
    private readonly onto: Onto | null,
  ) {
    const own = new Set(faces);
    this.loops = loopsRound(mesh, own).map((loop) => loop.map((h) => mesh.origin(h)));
    const vertices = this.loops.flat();
    this.border = vertices.map((v) => mesh.point(v));
    this.outside = vertices.map((v) => {
      const round = mesh.vertexFaces(v);
      const inside = round.filter((f) => own.has(f)).length;
      const isOpen = mesh.vertexHalves(v).some((h) => mesh.isBorderEdge(h >> 1));
      return isOpen ? 4 - Math.min(3, inside) : round.length - inside;
    });
    this.wanted = density * faces.reduce((sum, f) => sum + (mesh.faceHalves(f).length - 2) / 2, 0);
    const at = new Map<number, number>();
    const points: Vec3[] = [];
    const corners = faces.map((f) =>
      mesh.faceVertices(f).map((v) => {
        if (!at.has(v)) at.set(v, points.push(mesh.point(v)) - 1);
        return at.get(v) as number;
      }),
    );
    this.soup = { positions: Float64Array.from(points.flat()), faceStarts: startsOf(corners), corners: Uint32Array.from(corners.flat()) }; // prettier-ignore
    const dense = denseFaces(points, corners, Math.max(LEAST_TRIANGLES, FOR_A_QUAD * this.wanted), onto);
    this.input = { positions: Float64Array.from(dense.positions), indices: Uint32Array.from(dense.indices) };
    this.surface = SculptSurface.build({ positions: Float32Array.from(dense.positions), indices: this.input.indices.slice() }); // prettier-ignore
  }

  laid(asked: RelayAsked, watch: Watch): Relaid {
    const quads = this.flowed(asked, watch);
    const ways = [(): Laying | null => this.filled()];
    // every ring that gives way takes quads of the wanted size along
    for (const rings of quads ? [3, 2, 1] : []) {
      ways.unshift(() => this.joined(quads as QuadSoup, rings, asked.density >= FEWER));
      ways.unshift(() => this.joined(quads as QuadSoup, rings, asked.density < FEWER));
    }
    let best: Laying | null = null;
    for (const way of ways) {
      if (best && best.least >= GOOD) break;
      const made = way();
      if (made && (!best || made.least > best.least)) best = made;
    }
    if (!best || best.least <= FLAT)
      throw new TopologyError('NO_WAY', 'These faces are too narrow, or their border too uneven, to be laid anew at this size: pick a wider patch, or ask for smaller quads.', { vertices: this.loops.flat() }); // prettier-ignore
    return this.asRelaid(best);
  }

  /** Quads over the patch with a border of their own; null where there is no way. */
  private flowed({ evenness, followForm, keepEdges, lines, followsLoops }: RelayAsked, watch: Watch): QuadSoup | null {
    const near = Math.sqrt(this.surface.area() / this.wanted) / 2;
    const own = lines.flatMap((line) => runsNear(line, (p) => this.surface.closest(p).distance < near));
    const options: LayAllOptions = { faces: Math.max(6, Math.round(this.wanted)), evenness, followForm, keepEdges, lines: own, plane: null, dropDust: false, density: null, loops: followsLoops ? this.soup : null, smoothing: 0 }; // prettier-ignore
    try {
      return layAll(this.input, options, watch).soup;
    } catch (error) {
      if (error instanceof TopologyError) return null;
      throw error;
    }
  }

  /** The quads without their outermost rings, joined to the border by strips, with a row of points between if asked; null where nothing sound is left of them. */
  private joined(quads: QuadSoup, rings: number, hasRow: boolean): Laying | null {
    // a whole closed part: nothing holds points but their quads
    if (this.loops.length === 0) return this.evened({ ...quads, onLine: quads.onLine.map(() => -1) }, []);
    const core = peeled(quads, rings);
    if (!core) return null;
    const inner = loopsIn(core).map((loop) => loop.map((v) => v + this.border.length));
    if (inner.length !== this.loops.length) return null;
    const points = [...this.border];
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
    for (const { length } of this.loops) {
      let outer = Array.from({ length }, (_, i) => first + i);
      let outside = this.outside.slice(first, first + length);
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
    if (this.loops.length !== 1 || this.border.length % 2 === 1) return null;
    const [way] = fillBorder(this.border, cornersOf(this.outside), this.onto, 1);
    if (!way) return null;
    const points = Float64Array.from(way.points.flat());
    const onLine = Int32Array.from(way.points, (_, v) => (v < this.border.length ? -2 : -1));
    return this.evened({ points, quads: Int32Array.from(way.quads.flat()), onLine }, []);
  }

  /** Points inside moved to where their quads are squarest, with care where that would fold some; what stays folded is taken out and filled anew. */
  private evened(soup: QuadSoup, triangles: number[][]): Laying {
    const forms = [new WalkingForm(this.surface)];
    const before = soup.points.slice();
    relaxed(soup, [], this.surface, ROUNDS[0]);
    if (qualityOf(soup.points, soup.quads, forms).folded > 0) soup.points.set(before);
    let now = soup;
    for (let round = 0; ; round++) {
      relaxedSafely(now, [], this.surface, ROUNDS[1]);
      this.putOnForm(now);
      const { quality, folded } = qualityOf(now.points, now.quads, forms);
      const laying = { soup: now, triangles, least: folded > 0 ? -folded : quality.least };
      const again = folded > 0 && triangles.length === 0 && round < MENDS ? this.mended(now, forms, 1 + round) : null;
      if (!again) return laying;
      now = again;
    }
  }

  /** Points inside onto the form itself, which the working surface has only so closely. */
  private putOnForm({ points, onLine }: QuadSoup): void {
    const { onto } = this;
    if (!onto) return;
    for (let v = 0; v < onLine.length; v++)
      if (onLine[v] !== -2) points.set(onto([points[3 * v], points[3 * v + 1], points[3 * v + 2]]), 3 * v);
  }

  /** With what is folded taken out, and some round it, and filled by pattern; null where there is no way. */
  private mended(soup: QuadSoup, forms: readonly WalkingForm[], rings: number): QuadSoup | null {
    const ground: Ground = { surface: this.surface, curves: [RIM], forms: [forms[0], forms[0]], density: null };
    const made = mendedAround(soup, foldedIn(soup, forms), ground, rings);
    return made && borderFirst(made, this.border);
  }

  private asRelaid({ soup, triangles, least }: Laying): Relaid {
    const { points: p, quads } = soup;
    const rim = this.loops.flat();
    const points: Vec3[] = [];
    for (let v = rim.length; v < soup.onLine.length; v++) points.push([p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
    const named = (v: number): number => (v < rim.length ? rim[v] : -1 - (v - rim.length));
    const faces = [...triangles.map((t) => t.map(named))];
    for (let q = 0; q < quads.length; q += 4) faces.push([...quads.subarray(q, q + 4)].map(named));
    const told = triangles.length > 0 ? [`${triangles.length === 1 ? 'a triangle' : `${triangles.length} triangles`} left, since the border has an odd number of edges`] : []; // prettier-ignore
    const wanted = Math.round(this.wanted);
    if (faces.length < SHORT * wanted) told.push(`${wanted} were asked for, which this border leaves no room for`);
    if (least < POOR)
      told.push('some corners nearly flat: a patch with a straighter border, or more quads, comes out better');
    const near = nearestFace(this.mesh, this.faces);
    const place = (v: number): Vec3 => (v < 0 ? points[-1 - v] : this.mesh.point(v));
    return { points, faces, told, pointLike: points.map(near), faceLike: faces.map((face) => near(meanPoint(face.map(place)))) }; // prettier-ignore
  }
}

function startsOf(faces: readonly (readonly number[])[]): Uint32Array {
  const starts = new Uint32Array(faces.length + 1);
  faces.forEach((face, i) => (starts[i + 1] = starts[i] + face.length));
  return starts;
}

/** The face whose middle lies nearest to a place. */
function nearestFace(mesh: PolyMesh, faces: readonly number[]): (p: Vec3) => number {
  const middles = faces.map((f) => meanPoint(mesh.faceVertices(f).map((v) => mesh.point(v))));
  return (p) => faces[middles.reduce((best, m, i) => (distance(m, p) < distance(middles[best], p) ? i : best), 0)];
}

/** Named anew so that the points of the border come first, in turn; null where one is not there any more. */
function borderFirst({ points, quads, onLine }: QuadSoup, border: readonly Vec3[]): QuadSoup | null {
  const at = new Map<string, number>();
  for (let v = 0; v < onLine.length; v++) if (onLine[v] === -2) at.set(points.subarray(3 * v, 3 * v + 3).join(), v);
  const order = border.map((p) => at.get(p.join()) ?? -1);
  if (order.includes(-1) || new Set(order).size < order.length) return null;
  const first = new Set(order);
  for (let v = 0; v < onLine.length; v++) if (!first.has(v)) order.push(v);
  const name = new Int32Array(order.length);
  order.forEach((v, i) => (name[v] = i));
  return {
    points: Float64Array.from(order.flatMap((v) => [...points.subarray(3 * v, 3 * v + 3)])),
    quads: quads.map((v) => name[v]),
    onLine: Int32Array.from(order, (v) => onLine[v]),
  };
}
