import { HalfLoopError, TopologyError } from '../errors';
import { axisIndex, cross, isOnPlane, length, planeDistance, sub, type MirrorPlane, type Vec3 } from '../math';
import { SculptSurface, WalkingForm } from '../surface';
import { cleaned, type Triangles } from './clean';
import { extracted, type QuadSoup } from './extract';
import { crossField } from './field';
import { fitted } from './fit';
import { Grid, type GridMap } from './grid';
import { halfOf } from './halve';
import { markLines, type Curve } from './lines';
import { faultsOf, foldedIn, mendedAround, withoutSplinters } from './mendQuads';
import { pairedQuads } from './paired';
import { simplifyPoles } from './poles';
import { relaxed, relaxedSafely } from './relax';
import { seamsOf } from './seams';
import { shellOf } from './shell';
import { areaOf, spreadOf, workingLengths } from './sizes';
import { Stages, type Stage } from './Stages';
import type { TriMesh } from './TriMesh';
import { qualityOf, topologyOf, verified, type Topology, type Verdict } from './verify';
import { closeTiny, evenTriangles, reduce } from './working';

export interface LayAllOptions {
  /** wanted quads, of the whole when there is a plane */
  faces: number;
  /** 0: even sizes, 1: sizes by thickness */
  evenness: number;
  /** 0: the smoothest flow, 1: along the form's bends */
  followForm: number;
  /** edges sharper than this, in degrees, are kept; null: none but borders */
  keepEdges: number | null;
  /** only the half on the positive side is laid, up to the plane exactly */
  plane: MirrorPlane | null;
}

export interface LaidAll {
  /** the quads; with a plane those of one half */
  soup: QuadSoup;
  /** what was repaired or closed, in words */
  mended: string[];
  stages: Stage[];
  /** which way each part was made */
  routes: { route: 'grid' | 'shell' | 'paired'; irregular: number; interior: number }[];
}

/** Fewer working triangles lose the form, more cost time. */
const WORKING = { each: 3, least: 4000, most: 16000 };
/** Handles that less than this many quads' lengths run round are closed. */
const TINY = 0.6;
/** A part gets at least so many quads. */
const LEAST = 12;
/** Tries of a part, each with fewer poles than the one before. */
const TRIES = [
  { near: 2.5, follow: 1 },
  { near: 4, follow: 0.3 },
];
/** Cells of the outer shell over the quads' size. */
const SHELL_CELL = 0.5;

/**
 * Automatic retopology: quads over triangles, about as many as asked for, along the form, its sharp edges and borders. Each part by a whole-number
 * grid over a cross field (Bommes et al. 2009; Knöppel et al. 2013), faults mended, every result verified. What does not pass is laid over the form's outer
 * shell, if it is closed; else by paired triangles. Deterministic. `onStage` is told before each stage and may throw to stop. Throws BAD_INPUT for nothing to
 * lay on, NO_WAY where even the last way does not pass. Cost: linear in the triangles up to the working mesh, then by the count: some seconds for thousands of quads.
 */
export function layAll(input: Triangles, options: LayAllOptions, onStage: (name: string, done: number) => void = () => undefined): LaidAll {
  const stages = new Stages(onStage);
  stages.share = [0, 0.5];
  const direct = new Attempt(input, options, stages);
  if (direct.isSound) return direct.result(stages.finish());
  stages.share = [0.5, 0.4];
  if (direct.isClosed) {
    const over = overShell(input, options, stages);
    if (over) return over;
  }
  stages.share = [0.9, 0.1];
  direct.pairRest();
  return direct.result(stages.finish());
}

/** All parts of an input by the grid; those that did not pass may then be paired. */
class Attempt {
  private readonly parts: Part[];
  private readonly mended: string[];

  constructor(input: Triangles, options: LayAllOptions, stages: Stages) {
    const [from, size] = stages.share;
    stages.begin('Clean', 0);
    const { parts, mended } = cleaned(options.plane ? halfOf(input, options.plane) : input);
    this.mended = mended;
    const total = parts.reduce((sum, part) => sum + areaIn(part), 0);
    const wanted = options.faces / (options.plane ? 2 : 1);
    this.parts = parts.map((mesh, i) => {
      stages.share = [from + (size * i) / parts.length, size / parts.length];
      return new Part(mesh, Math.max(LEAST, (wanted * areaIn(mesh)) / total), options, stages);
    });
  }

  get isSound(): boolean {
    return this.parts.every((part) => part.isSound);
  }
  get isClosed(): boolean {
    return this.parts.every((part) => part.isClosed);
  }
  pairRest(): void {
    for (const part of this.parts) part.pairRest();
  }
  result(stages: Stage[]): LaidAll {
    const pieces = this.parts.flatMap((part) => part.pieces);
    const mended = [...this.mended, ...this.parts.flatMap((part) => part.mended)];
    for (const { verdict } of pieces)
      if (verdict.handlesLost > 0) mended.push(`${verdict.handlesLost} handles too small for quads of this size closed`);
    return {
      soup: joined(pieces.map(({ soup }) => soup)),
      mended: summed(mended),
      stages,
      routes: pieces.map(({ route, verdict: { irregular, interior } }) => ({ route, irregular, interior })),
    };
  }
}

/** Lays over the outer shell and brings the quads onto the form. Null where that is not sound either. */
function overShell(input: Triangles, options: LayAllOptions, stages: Stages): LaidAll | null {
  stages.begin('Outer shell', 0);
  const surface = SculptSurface.build({ positions: Float32Array.from(input.positions), indices: Uint32Array.from(input.indices) }); // prettier-ignore
  const size = Math.sqrt(surfaceArea(input) / options.faces);
  const shell = shellOf(surface, SHELL_CELL * size);
  // sharp edges of the form are none of the shell's
  const attempt = new Attempt(shell, { ...options, keepEdges: null }, stages);
  if (!attempt.isSound) return null;
  const laid = attempt.result(stages.finish());
  const offShell = laid.soup.points.slice();
  broughtOnto(laid.soup, surface, 3 * shell.out, options.plane);
  relaxedSafely(laid.soup, [], surface, 6);
  if (qualityOf(laid.soup.points, laid.soup.quads, null).folded > 0) laid.soup.points.set(offShell);
  laid.mended.push(`Laid over the outer shell: walls, gaps and handles finer than ${Number((2 * shell.out).toPrecision(2))} units are closed`); // prettier-ignore
  return { ...laid, routes: laid.routes.map((r) => ({ ...r, route: 'shell' })) };
}

/** Points onto the nearest place of a surface that is no further than `reach`; those on the plane stay on it. */
function broughtOnto({ points, onLine }: QuadSoup, surface: SculptSurface, reach: number, plane: MirrorPlane | null): void {
  for (let v = 0; v < onLine.length; v++) {
    const p: Vec3 = [points[3 * v], points[3 * v + 1], points[3 * v + 2]];
    const { point, distance } = surface.closest(p);
    if (distance > reach) continue;
    const isOn = plane !== null && isOnPlane(p, plane);
    const to = plane && (isOn || planeDistance(point, plane) < 0) ? point.map((x, i) => (i === axisIndex(plane.axis) ? p[i] : x)) : point; // prettier-ignore
    points.set(to, 3 * v);
    // it is on the midline's curve no longer, but must not leave the plane
    if (isOn) onLine[v] = -2;
  }
}

function surfaceArea({ positions: p, indices }: Triangles): number {
  let sum = 0;
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const [a, b, c] = [3 * indices[i], 3 * indices[i + 1], 3 * indices[i + 2]];
    const at = (v: number): Vec3 => [p[v], p[v + 1], p[v + 2]];
    sum += length(cross(sub(at(b), at(a)), sub(at(c), at(a)))) / 2;
  }
  return sum;
}

const areaIn = (mesh: TriMesh): number => {
  let sum = 0;
  for (let t = 0; t < mesh.triangles; t++) if (mesh.isAlive(t)) sum += areaOf(mesh, t);
  return sum;
};

interface Piece {
  soup: QuadSoup;
  verdict: Verdict;
  route: 'grid' | 'paired';
}

/** A connected surface after tiny handles went, ready for quads. */
interface Ready {
  work: TriMesh;
  corners: Uint8Array;
  target: number;
  topology: Topology;
  /** xyz of places that the quads should reach */
  samples: Float64Array;
  /** sound, or sound but for small handles */
  made: Piece | null;
}

/** One connected part of the input on its way to quads. */
class Part {
  readonly mended: string[] = [];
  private readonly size: number;
  private readonly working: number;
  private readonly surface: SculptSurface;
  private readonly form: WalkingForm;
  private readonly curves: readonly Curve[];
  private readonly ready: Ready[];

  constructor(
    mesh: TriMesh,
    target: number,
    private readonly options: LayAllOptions,
    private readonly stages: Stages,
  ) {
    const area = areaIn(mesh);
    this.size = Math.sqrt(area / target);
    const count = Math.min(WORKING.most, Math.max(WORKING.least, WORKING.each * target));
    this.working = Math.sqrt(area / (0.433 * count));
    stages.begin('Surface', 0.08);
    this.surface = SculptSurface.build({
      positions: Float32Array.from(mesh.points.subarray(0, 3 * mesh.vertices)),
      indices: Uint32Array.from(mesh.from.subarray(0, 3 * mesh.triangles)),
    });
    this.form = new WalkingForm(this.surface);
    stages.begin('Sharp edges', 0.15);
    const { curves, corners } = markLines(mesh, options.keepEdges, Math.max(10 * this.working, 4 * this.size));
    this.curves = curves;
    stages.begin('Working mesh', 0.2);
    reduce(mesh, corners, 0.5 * this.working);
    const closed = closeTiny(mesh, TINY * this.size);
    if (closed > 0) this.mended.push(`${closed} handles or necks thinner than ${TINY} of a quad closed`);
    this.ready = mesh
      .parts()
      .filter(({ mesh: m }) => m.triangles > 4)
      .map(({ mesh: m, was }) => this.prepared(m, Uint8Array.from(was, (v) => corners[v]), (target * areaIn(m)) / area));
    for (const piece of this.ready) piece.made = this.tryGrid(piece);
  }

  get isSound(): boolean {
    return this.ready.every(({ made }) => made?.verdict.reasons.length === 0);
  }
  get isClosed(): boolean {
    const plane = this.options.plane;
    const k = plane ? axisIndex(plane.axis) : 0;
    return this.curves.every(({ points }) => plane !== null && points.every((x, i) => i % 3 !== k || x === plane.offset));
  }
  get pieces(): Piece[] {
    return this.ready.map(({ made }) => made as Piece);
  }
  /** Pairs what has no quads yet; few handles lost are better than pairs. */
  pairRest(): void {
    for (const piece of this.ready) piece.made ??= this.byPairs(piece);
  }

  private prepared(reduced: TriMesh, corners: Uint8Array, target: number): Ready {
    const topology = topologyOf(reduced);
    const samples = reduced.points.slice(0, 3 * reduced.vertices);
    const lengths = workingLengths(reduced, this.surface, this.working);
    const kept = evenTriangles(reduced, corners, this.curves, this.surface, lengths);
    const { mesh: work, was } = reduced.compact();
    return { work, corners: Uint8Array.from(was, (v) => kept[v]), target, topology, samples, made: null };
  }

  private tryGrid(piece: Ready): Piece | null {
    let nearly: Piece | null = null;
    for (const [i, attempt] of TRIES.entries()) {
      if (i > 0) this.stages.begin('Another way', 0.4 + 0.2 * i);
      const made = this.byGrid(piece, attempt);
      if (made?.verdict.reasons.length === 0) return made;
      if (made && made.verdict.handlesLost > 0 && made.verdict.handlesLost < (nearly?.verdict.handlesLost ?? Infinity)) nearly = made; // prettier-ignore
    }
    return nearly;
  }

  private byGrid({ work, corners, target, topology, samples }: Ready, attempt: (typeof TRIES)[number]): Piece | null {
    const { stages, options, size, working, form, curves, surface } = this;
    stages.begin('Flow', 0.35);
    const field = crossField(work, { ratio: size / working, size, followForm: options.followForm * attempt.follow });
    const index = simplifyPoles(work, field, attempt.near * size, size);
    stages.begin('Sizes', 0.45);
    const spread = spreadOf(work, this.surface, size, options.evenness);
    stages.begin('Grid', 0.5);
    try {
      const seams = seamsOf(work, field, index);
      const map = gridFor(new Grid(work, field, seams, spread), target, size);
      stages.begin('Quads', 0.75);
      const raw = extracted(work, seams, map, corners);
      const soup = mended(raw, form);
      if (!soup) return null;
      stages.begin('Relax', 0.8);
      relaxed(soup, curves, surface);
      stages.begin('Verify', 0.9);
      const first = settled(soup, topology, curves, form);
      if (first.verdict.reasons.length > 0 && first.verdict.handlesLost === 0) return { ...first, route: 'grid' };
      stages.begin('Tips', 0.93);
      const reaching = { ...first.soup, points: first.soup.points.slice() };
      fitted(reaching, curves, surface, samples, size);
      const second = settled(reaching, topology, curves, form);
      // drawn out, quads may suffer; then they stay as they were
      const better = second.verdict.reasons.length <= first.verdict.reasons.length && second.verdict.handlesLost === first.verdict.handlesLost && second.verdict.quality.least > Math.min(0.1, first.verdict.quality.least);
      return { ...(better ? second : first), route: 'grid' };
    } catch (error) {
      if (error instanceof HalfLoopError) return null;
      throw error;
    }
  }

  /** Finer than asked for where nothing coarser is sound. */
  private byPairs({ work, corners, target, topology }: Ready): Piece {
    const { curves, form, surface, stages } = this;
    const area = areaIn(work);
    let last: Verdict | null = null;
    for (const finer of [1, 0.6]) {
      stages.begin('Pairing', 0.9);
      // a triangle becomes three quads, a pair of them four: some 2.2 a triangle
      const length = finer * Math.sqrt((2.2 * area) / (0.433 * target));
      const coarse = work.compact().mesh;
      const kept = evenTriangles(coarse, corners, curves, surface, new Float64Array(coarse.vertices).fill(length));
      const { mesh, was } = coarse.compact();
      const soup = pairedQuads(mesh, Uint8Array.from(was, (v) => kept[v]));
      relaxedSafely(soup, curves, surface, 20);
      const piece = settled(soup, topology, curves, form);
      if (piece.verdict.reasons.length === 0) return { ...piece, route: 'paired' };
      last = piece.verdict;
    }
    throw new TopologyError('NO_WAY', `No sound quads were found for a part of this surface: ${last?.reasons.join('; ')}. Ask for more faces, or mend the surface there.`); // prettier-ignore
  }
}

/** The map whose area comes nearest to the count: areas are whole on closed parts, so that not every count can be had. */
function gridFor(grid: Grid, target: number, size: number): GridMap {
  let [best, off, at] = [size, Infinity, size];
  for (let i = 0; i < 7 && off > 0.01; i++) {
    const { area } = grid.solve(at, false);
    const miss = Math.abs(area - target) / target;
    if (miss < off) [best, off] = [at, miss];
    at *= Math.sqrt(Math.min(4, Math.max(0.25, area / target)));
  }
  return grid.solve(best, true);
}

function mended(raw: QuadSoup, form: WalkingForm): QuadSoup | null {
  let soup: QuadSoup | null = raw;
  for (let rings = 1; rings < 4 && soup; rings++) {
    const bad = faultsOf(soup);
    if (bad.length === 0) return withoutSplinters(soup);
    soup = mendedAround(soup, bad, form, rings);
  }
  return soup && faultsOf(soup).length === 0 ? withoutSplinters(soup) : null;
}

/** Mends folds that are left after relaxing, a few times, and checks. */
function settled(
  start: QuadSoup,
  topology: Topology,
  curves: readonly Curve[],
  form: WalkingForm,
): { soup: QuadSoup; verdict: Verdict } {
  let soup = start;
  let verdict = verified(soup, topology, form);
  for (let round = 0; round < 3 && verdict.reasons.length > 0; round++) {
    const next = mendedAround(soup, foldedIn(soup, form), form, 1);
    if (!next) break;
    relaxedSafely(next, curves, form.surface, 12);
    const after = verified(next, topology, form);
    if (after.reasons.length > verdict.reasons.length) break;
    [soup, verdict] = [next, after];
  }
  return { soup, verdict };
}

function joined(soups: readonly QuadSoup[]): QuadSoup {
  const points: number[] = [];
  const quads: number[] = [];
  const onLine: number[] = [];
  for (const soup of soups) {
    const shift = onLine.length;
    for (const x of soup.points) points.push(x);
    for (const v of soup.quads) quads.push(v + shift);
    for (const line of soup.onLine) onLine.push(line);
  }
  return { points: Float64Array.from(points), quads: Int32Array.from(quads), onLine: Int32Array.from(onLine) };
}

/** The same sentence about several parts, once with its numbers added up. */
function summed(lines: readonly string[]): string[] {
  const sums = new Map<string, number>();
  for (const line of lines) {
    const [n, ...words] = line.split(' ');
    const key = words.join(' ');
    sums.set(key, (sums.get(key) ?? 0) + Number(n.replaceAll(',', '')));
  }
  return [...sums].map(([words, n]) => `${n.toLocaleString('en')} ${words}`);
}
