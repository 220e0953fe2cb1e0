import { HalfLoopError, TopologyError } from '../errors';
import { type MirrorPlane } from '../math';
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
import { areaOf, spreadOf, workingLengths } from './sizes';
import { Stages, type Stage } from './Stages';
import type { TriMesh } from './TriMesh';
import { topologyOf, verified, type Topology, type Verdict } from './verify';
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
  routes: { route: 'grid' | 'paired'; irregular: number; interior: number }[];
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
  { near: 3, follow: 0 },
];

/**
 * Automatic retopology: quads over triangles, about as many as asked for, along the form, its sharp edges and borders. Each part by a whole-number
 * grid over a cross field (Bommes et al. 2009; Knöppel et al. 2013), faults mended, every result verified; where it does not pass, by paired triangles, which always keep the
 * topology. Deterministic. `onStage` is told before each stage and may throw to stop. Throws BAD_INPUT for nothing to lay on, NO_WAY where even the last way does not pass.
 * Cost: linear in the triangles up to the working mesh, then by the count: some seconds for thousands of quads.
 */
export function layAll(input: Triangles, options: LayAllOptions, onStage: (name: string, done: number) => void = () => undefined): LaidAll {
  const stages = new Stages(onStage);
  stages.begin('Clean', 0);
  const half = options.plane ? halfOf(input, options.plane) : input;
  const { parts, mended } = cleaned(half);
  const total = parts.reduce((sum, part) => sum + areaIn(part), 0);
  const wanted = options.faces / (options.plane ? 2 : 1);
  const laid: QuadSoup[] = [];
  const routes: LaidAll['routes'] = [];
  parts.forEach((part, i) => {
    stages.share = [i / parts.length, 1 / parts.length];
    const target = Math.max(LEAST, (wanted * areaIn(part)) / total);
    const made = new Part(part, target, options, stages).lay();
    for (const { soup, verdict, route } of made.pieces) {
      laid.push(soup);
      if (verdict.handlesLost > 0) mended.push(`${verdict.handlesLost} handles too small for quads of this size closed`);
      routes.push({ route, irregular: verdict.irregular, interior: verdict.interior });
    }
    mended.push(...made.mended);
  });
  return { soup: joined(laid), mended: summed(mended), stages: stages.finish(), routes };
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

/** One connected part of the input on its way to quads. */
class Part {
  private readonly size: number;
  private readonly working: number;
  private readonly surface: SculptSurface;
  private readonly form: WalkingForm;
  private curves: readonly Curve[] = [];

  constructor(
    private readonly mesh: TriMesh,
    private readonly target: number,
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
  }

  lay(): { pieces: Piece[]; mended: string[] } {
    const { mesh, stages, options, size, working } = this;
    stages.begin('Sharp edges', 0.15);
    const { curves, corners } = markLines(mesh, options.keepEdges, Math.max(10 * working, 4 * size));
    this.curves = curves;
    stages.begin('Working mesh', 0.2);
    reduce(mesh, corners, 0.5 * working);
    const mended: string[] = [];
    const closed = closeTiny(mesh, TINY * size);
    if (closed > 0) mended.push(`${closed} handles or necks thinner than ${TINY} of a quad closed`);
    const pieces = mesh.parts().filter(({ mesh: m }) => m.triangles > 4);
    return { pieces: pieces.map((piece) => this.layPiece(piece, corners)), mended };
  }

  private layPiece({ mesh: reduced, was }: { mesh: TriMesh; was: Int32Array }, corners: Uint8Array): Piece {
    const { stages, surface, curves, working } = this;
    const topology = topologyOf(reduced);
    const samples = reduced.points.slice();
    const target = (this.target * areaIn(reduced)) / areaIn(this.mesh);
    const kept = evenTriangles(reduced, Uint8Array.from(was, (v) => corners[v]), curves, surface, workingLengths(reduced, surface, working)); // prettier-ignore
    const work = reduced.compact();
    const marks = Uint8Array.from(work.was, (v) => kept[v]);
    let best: Piece | null = null;
    let nearly: Piece | null = null;
    for (const [i, attempt] of TRIES.entries()) {
      const piece = this.byGrid(work.mesh, marks, target, attempt, topology, samples);
      if (piece && piece.verdict.reasons.length === 0) {
        best = piece;
        break;
      }
      if (piece && piece.verdict.handlesLost > 0 && piece.verdict.handlesLost < (nearly?.verdict.handlesLost ?? Infinity)) nearly = piece; // prettier-ignore
      stages.begin('Another way', 0.5 + 0.15 * i);
    }
    return best ?? nearly ?? this.byPairs(work.mesh, marks, target, topology);
  }

  private byGrid(
    work: TriMesh,
    corners: Uint8Array,
    target: number,
    attempt: (typeof TRIES)[number],
    topology: Topology,
    samples: Float64Array,
  ): Piece | null {
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
  private byPairs(work: TriMesh, corners: Uint8Array, target: number, topology: Topology): Piece {
    const { curves, form, surface, stages } = this;
    const area = areaIn(work);
    let last: Verdict | null = null;
    for (const finer of [1, 0.75, 0.55, 0.4]) {
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
