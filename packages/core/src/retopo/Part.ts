import { TopologyError } from '../errors';
import { axisIndex, distance, nearestOnLine, type Vec3 } from '../math';
import { SculptSurface, WalkingForm } from '../surface';
import { drawOn } from './drawn';
import { gridQuads, type Piece, type Task, type Way } from './gridQuads';
import type { Ground } from './ground';
import { closeHoles } from './holes';
import { markLines, type Curve } from './lines';
import type { Asked } from './options';
import { pairedQuads } from './paired';
import { facingOf, relaxedSafely } from './relax';
import { areaOf, workingLengths } from './sizes';
import type { Stages } from './Stages';
import { partsOf } from './surgery';
import type { TriMesh } from './TriMesh';
import { linesLost, topologyOf, verified, type Topology } from './verify';
import { closeTiny, evenTriangles, reduce, splitLong } from './working';

/** Fewer working triangles lose the form, more cost time. */
const WORKING = { each: 3, least: 4000, most: 16000, small: 40 };
/** Handles that less than this many quads' lengths run round are closed. */
const TINY = 0.6;
/** Holes with a rim of less than so many quads' lengths are closed. */
const HOLE = 3;
/** What comes off at a closed neck is dropped below this share of the area. */
const CRUMB = 0.02;
/** Tries of a part: with fewer poles, then with more quads, for forms whose limbs and handles are too fine for as many as were asked for. */
const TRIES: readonly (Way & { finer: number })[] = [
  { near: 2.5, follow: 1, finer: 1, evenness: 0 },
  { near: 4, follow: 0.3, finer: 1, evenness: 0 },
  { near: 3, follow: 0.5, finer: 1.8, evenness: 0.5 },
];
/** No finer tries beyond so many quads. */
const FINEST = 6000;

/** Area of the triangles that are there, square file units. */
export const areaIn = (mesh: TriMesh): number => {
  let sum = 0;
  for (let t = 0; t < mesh.triangles; t++) if (mesh.isAlive(t)) sum += areaOf(mesh, t);
  return sum;
};

/** A connected surface after tiny handles went, ready for quads. */
interface Ready {
  reduced: TriMesh;
  corners: Uint8Array;
  target: number;
  topology: Topology;
  samples: Float64Array;
}

/** One connected part of the input on its way to quads. */
export class Part {
  readonly mended: string[] = [];
  /** the part as it came, for its outer shell */
  readonly surface: SculptSurface;
  private readonly form: WalkingForm;
  private readonly curves: readonly Curve[];
  private readonly ready: Ready[];
  private readonly made: (Piece | null)[];

  constructor(
    mesh: TriMesh,
    readonly target: number,
    private readonly options: Asked,
    private readonly stages: Stages,
    /** an outer shell is tried so often only, and its handles may go */
    private readonly shellTries = 0,
  ) {
    const area = areaIn(mesh);
    const size = Math.sqrt(area / target);
    const working = workingSize(area, target);
    const { lines } = options;
    // a line needs edges to run along
    if (lines.length > 0) splitLong(mesh, working);
    stages.begin('Surface', 0.08);
    this.surface = surfaceOf(mesh);
    this.form = new WalkingForm(this.surface);
    stages.begin('Sharp edges', 0.15);
    const { curves, corners: marked } = markLines(mesh, options.keepEdges, Math.max(10 * working, 4 * size), (mark) =>
      drawOn(mesh, this.surface, lines, working, size, mark),
    );
    for (const { points, isDrawn } of curves) if (isDrawn) this.ontoLines(points, working);
    this.curves = curves;
    stages.begin('Working mesh', 0.2);
    reduce(mesh, marked, 0.5 * working);
    const holes = closeHoles(mesh, marked, HOLE * size, (h) => this.isOnPlane(mesh.line[h]));
    const { corners } = holes;
    if (holes.closed > 0) this.mended.push(`${holes.closed} holes with a rim of less than ${HOLE} quads closed`);
    const closed = closeTiny(mesh, TINY * size);
    if (closed > 0) this.mended.push(`${closed} handles or necks thinner than ${TINY} of a quad closed`);
    const all = partsOf(mesh);
    const parts = all.filter(({ mesh: m }, i) => i === 0 || areaIn(m) > CRUMB * area);
    const crumbs = all.length - parts.length;
    if (crumbs > 0) this.mended.push(`${crumbs} crumbs behind closed necks dropped`);
    this.ready = parts.map(({ mesh: m, was }) => ({
      reduced: m,
      corners: Uint8Array.from(was, (v) => corners[v]),
      target: (target * areaIn(m)) / area,
      topology: topologyOf(m),
      samples: m.points.slice(0, 3 * m.vertices),
    }));
    this.made = this.ready.map((piece) => this.tryGrid(piece));
  }

  /** Points of a drawn line's way along edges onto the line itself where it is near, and onto the form; ends stay where they meet others. */
  private ontoLines(points: Float64Array, near: number): void {
    const exact = this.options.lines.filter((line) => !line.isJagged);
    const last = points.length - 3;
    const isClosed = [0, 1, 2].every((k) => points[k] === points[last + k]);
    for (let i = isClosed ? 0 : 3; i < last; i += 3) {
      const p: Vec3 = [points[i], points[i + 1], points[i + 2]];
      const on = exact.map((line) => nearestOnLine(p, line.points, line.closed).point);
      const best = on.reduce((a, b) => (distance(b, p) < distance(a, p) ? b : a), on[0] ?? p);
      points.set(this.surface.closest(distance(best, p) < near ? best : p).point, i);
    }
    if (isClosed) points.copyWithin(last, 0, 3);
  }

  /** Whether every piece has quads that lack small handles at most. */
  get isLaid(): boolean {
    return this.made.every((piece) => piece !== null);
  }
  /** Whether its borders lie in the mirror plane alone. */
  get isClosed(): boolean {
    return this.curves.every((_, line) => this.isOnPlane(line));
  }
  private isOnPlane(line: number): boolean {
    const { plane } = this.options;
    const k = plane ? axisIndex(plane.axis) : 0;
    return plane !== null && this.curves[line].points.every((x, i) => i % 3 !== k || x === plane.offset);
  }
  /** The quads of every piece; pairs where there are none yet. Throws NO_WAY where even pairs do not come out. */
  pieces(): Piece[] {
    return this.ready.map((piece, i) => (this.made[i] ??= this.byPairs(piece)));
  }

  private taskOf({ reduced, corners, target, topology, samples }: Ready, finer: number): Task {
    const area = areaIn(reduced);
    const working = workingSize(area, finer * target);
    const own = reduced.compact().mesh;
    const { density } = this.options;
    const lengths = workingLengths(own, this.surface, working, density);
    const kept = evenTriangles(own, corners, this.curves, this.surface, lengths);
    const { mesh: work, was } = own.compact();
    this.stages.show(work.points, work.from, 3);
    const form = new WalkingForm(surfaceOf(work));
    const ground: Ground = { surface: this.surface, curves: this.curves, forms: [this.form, form], density };
    return { work, corners: Uint8Array.from(was, (v) => kept[v]), ground, target: finer * target, size: Math.sqrt(area / target / finer), working, topology, samples }; // prettier-ignore
  }

  private tryGrid(piece: Ready): Piece | null {
    let nearly: Piece | null = null;
    let task: Task | null = null;
    const tries = this.shellTries > 0 ? TRIES.slice(0, this.shellTries) : TRIES;
    for (const [i, way] of tries.entries()) {
      // more quads than asked for are for limbs and handles, not for lines
      if (way.finer > 1 && (way.finer * piece.target > FINEST || nearly?.verdict.reasons.length === 0)) break;
      if (i > 0) this.stages.begin('Another way', 0.3 + 0.2 * i);
      if (!task || task.target !== way.finer * piece.target) task = this.taskOf(piece, way.finer);
      const made = gridQuads(task, way, this.options, this.stages);
      if (!made) continue;
      const { reasons, handlesLost } = made.verdict;
      if (reasons.length === 0 && made.lost.drawn === 0) {
        const more = Math.round(made.soup.quads.length / 4 - piece.target);
        if (more > 0 && way.finer > 1)
          this.mended.push(`${more} quads more than asked for, so that limbs and handles have room`);
        return made;
      }
      if ((reasons.length === 0 || handlesLost > 0) && (!nearly || missing(made) < missing(nearly))) nearly = made;
      if (nearly && this.shellTries > 0) return nearly;
    }
    return nearly;
  }

  /** Quads that are sound by their making; relaxing keeps them so. */
  private byPairs({ reduced, corners, target, topology }: Ready): Piece {
    const { curves, surface, stages } = this;
    stages.begin('Pairing', 0.9);
    // a triangle becomes three quads, a pair of them four: some 2.2 a triangle
    const length = Math.sqrt((2.2 * areaIn(reduced)) / (0.433 * target));
    const coarse = reduced.compact().mesh;
    const kept = evenTriangles(coarse, corners, curves, surface, new Float64Array(coarse.vertices).fill(length));
    const { mesh, was } = coarse.compact();
    const soup = pairedQuads(
      mesh,
      Uint8Array.from(was, (v) => kept[v]),
    );
    relaxedSafely(soup, curves, surface, 20, facingOf(soup));
    const verdict = verified(soup, topology, []);
    if (verdict.reasons.length === 0) return { soup, verdict, route: 'paired', lost: linesLost(soup, curves, Math.sqrt(areaIn(reduced) / target)) }; // prettier-ignore
    throw new TopologyError('NO_WAY', `No sound quads were found for a part of this surface: ${verdict.reasons.join('; ')}. Ask for more faces, or mend the surface there.`); // prettier-ignore
  }
}

/** What quads that are sound do not have of the form, and of what was drawn on it. */
const missing = ({ verdict, lost }: Piece): number => 100 * verdict.handlesLost + lost.drawn;

const workingSize = (area: number, target: number): number => {
  const least = Math.min(WORKING.least, WORKING.small * target);
  return Math.sqrt(area / (0.433 * Math.min(WORKING.most, Math.max(least, WORKING.each * target))));
};

/** The triangles as a surface, points with the same numbers. */
export const surfaceOf = (mesh: TriMesh): SculptSurface =>
  SculptSurface.build({
    positions: Float32Array.from(mesh.points.subarray(0, 3 * mesh.vertices)),
    indices: Uint32Array.from(mesh.from.subarray(0, 3 * mesh.triangles)),
  });
