import { HalfLoopError, TopologyError } from '../errors';
import { axisIndex } from '../math';
import { SculptSurface, WalkingForm } from '../surface';
import { extracted, type QuadSoup } from './extract';
import { crossField } from './field';
import { fitted } from './fit';
import { Grid, type GridMap } from './grid';
import { markLines, type Curve } from './lines';
import { faultsOf, foldedIn, mendedAround, withoutSplinters } from './mendQuads';
import type { LayAllOptions } from './options';
import { pairedQuads } from './paired';
import { simplifyPoles } from './poles';
import { relaxed, relaxedSafely } from './relax';
import { seamsOf } from './seams';
import { areaOf, spreadOf, workingLengths } from './sizes';
import type { Stages } from './Stages';
import { partsOf } from './surgery';
import type { TriMesh } from './TriMesh';
import { topologyOf, verified, type Topology, type Verdict } from './verify';
import { closeTiny, evenTriangles, reduce } from './working';

/** Fewer working triangles lose the form, more cost time. */
const WORKING = { each: 3, least: 4000, most: 16000 };
/** Handles that less than this many quads' lengths run round are closed. */
const TINY = 0.6;
/** What comes off at a closed neck is dropped below this share of the area. */
const CRUMB = 0.02;
/** Tries of a part, each with fewer poles than the one before. */
const TRIES = [
  { near: 2.5, follow: 1 },
  { near: 4, follow: 0.3 },
];

/** Area of the triangles that are there, square file units. */
export const areaIn = (mesh: TriMesh): number => {
  let sum = 0;
  for (let t = 0; t < mesh.triangles; t++) if (mesh.isAlive(t)) sum += areaOf(mesh, t);
  return sum;
};

/** Quads over one connected surface. */
export interface Piece {
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
export class Part {
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
    const all = partsOf(mesh);
    const parts = all.filter(({ mesh: m }, i) => i === 0 || areaIn(m) > CRUMB * area);
    const crumbs = all.length - parts.length;
    if (crumbs > 0) this.mended.push(`${crumbs} crumbs behind closed necks dropped`);
    this.ready = parts.map(({ mesh: m, was }) => this.prepared(m, Uint8Array.from(was, (v) => corners[v]), (target * areaIn(m)) / area)); // prettier-ignore
    for (const piece of this.ready) piece.made = this.tryGrid(piece);
  }

  get isSound(): boolean {
    return this.ready.every(({ made }) => made?.verdict.reasons.length === 0);
  }
  get isClosed(): boolean {
    const plane = this.options.plane;
    const k = plane ? axisIndex(plane.axis) : 0;
    return this.curves.every(
      ({ points }) => plane !== null && points.every((x, i) => i % 3 !== k || x === plane.offset),
    );
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
      const better =
        second.verdict.reasons.length <= first.verdict.reasons.length &&
        second.verdict.handlesLost === first.verdict.handlesLost &&
        second.verdict.quality.least > Math.min(0.1, first.verdict.quality.least);
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
      const soup = pairedQuads(
        mesh,
        Uint8Array.from(was, (v) => kept[v]),
      );
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
