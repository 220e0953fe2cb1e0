import { axisIndex, distance, nearestOnLine, type Vec3 } from '../math';
import { WalkingForm, type SculptSurface } from '../surface';
import { closeHoles } from './form/holes';
import { areaOf, workingLengths } from './form/sizes';
import { surfaceOf } from './form/surfaceOf';
import { partsOf } from './form/surgery';
import type { TriMesh } from './form/TriMesh';
import { drawOn, type DrawnLine } from './lines/drawn';
import type { Ground } from './lines/ground';
import { closesUp, markLines, type Curve } from './lines/lines';
import { ridgesTaken } from './lines/ridgeChains';
import { ridgesOf } from './lines/ridges';
import type { Asked } from './options';
import { FormCrossings } from './quads/FormCrossings';
import type { Task } from './quads/Task';
import { topologyOf, type Topology } from './quads/verify';
import type { Stages } from './Stages';
import { closeTiny, evenTriangles, reduce, splitLong } from './working';

/** Fewer working triangles lose the form, more cost time. */
const WORKING = { each: 3, least: 4000, most: 16000, small: 80 };
/** A form has at least so many points for each quad, or edges no longer than this share of one. */
const PLACES = { each: 4, apart: 0.4 };
/** Handles that less than this many quads' lengths run round are closed. */
const TINY = 0.6;
/** Holes with a rim of less than so many quads' lengths are closed. */
const HOLE = 3;
/** What comes off at a closed neck is dropped below this share of the area. */
const CRUMB = 0.02;
/** One of less than so much of a quad's area is no loss that is worth a word: mostly the tip of a dent between three edges. */
const SPECK = 0.2;
/** Area of the triangles that are there, square file units. */
export const areaIn = (mesh: TriMesh): number => {
  let sum = 0;
  for (let t = 0; t < mesh.triangles; t++) if (mesh.isAlive(t)) sum += areaOf(mesh, t);
  return sum;
};

/** A connected surface after tiny handles went, ready for quads. */
export interface Ready {
  reduced: TriMesh;
  corners: Uint8Array;
  target: number;
  topology: Topology;
  samples: Float64Array;
}

/** A connected part of the input with its lines marked, reduced, and what no quads would fit round closed. Cost: the part's triangles, some times over. */
export class Prepared {
  /** what was closed, each a number and what there are so many of: "(s)" stands where several have an s */
  readonly mended: string[] = [];
  /** the part as it came */
  readonly surface: SculptSurface;
  readonly curves: readonly Curve[];
  readonly ready: readonly Ready[];
  private readonly form: WalkingForm;

  constructor(
    mesh: TriMesh,
    target: number,
    private readonly options: Asked,
    private readonly stages: Stages,
  ) {
    const area = areaIn(mesh);
    const size = Math.sqrt(area / target);
    const working = workingSize(area, target);
    const { lines } = options;
    if (isCoarse(mesh, size)) splitCoarse(mesh, size);
    // what is a ridge is told by one size of quads
    const ridges = options.followForm > 0 && !options.density ? ridgesOf(mesh, size) : [];
    // a line needs edges to run along
    if (lines.length + ridges.length > 0) splitLong(mesh, working);
    stages.begin('Surface', 0.05);
    this.surface = surfaceOf(mesh);
    this.form = new WalkingForm(this.surface);
    stages.begin('Sharp edges', 0.09);
    const {
      curves,
      corners: marked,
      noise,
    } = markLines(
      mesh,
      options.keepEdges,
      Math.max(10 * working, 4 * size),
      (drawn, ridge) => {
        drawOn(mesh, this.surface, lines, working, size, drawn);
        drawOn(mesh, this.surface, ridges, working, size, ridge);
      },
      options.plane,
    );
    if (noise > 0) this.mended.push(`${noise.toLocaleString('en')} sharp edge(s) left out as noise, ending and branching all over`); // prettier-ignore
    for (const { points, isDrawn, isRidge } of curves)
      if (isDrawn || isRidge) this.ontoLines(points, working, isRidge ? ridges : lines);
    stages.begin('Working mesh', 0.11);
    reduce(mesh, marked, 0.5 * working, options.plane);
    const holes = closeHoles(mesh, marked, HOLE * size, (h) => this.isOnPlane(curves[mesh.line[h]]));
    const { corners, gone } = holes;
    this.curves = curves.map((curve, line) => (gone.has(line) ? { ...curve, isClosedOver: true } : curve));
    if (holes.closed > 0) this.mended.push(`${holes.closed} hole(s) with a rim of less than ${HOLE} quads closed`);
    const closed = closeTiny(mesh, TINY * size);
    const all = partsOf(mesh);
    // what does not take a part off takes a handle
    const handles = closed - (all.length - 1);
    if (handles > 0) this.mended.push(`${handles} handle(s) thinner than ${TINY} of a quad closed`);
    const parts = all.filter(({ mesh: m }, i) => i === 0 || areaIn(m) > CRUMB * area);
    if (parts.length > 1) this.mended.push(`${parts.length - 1} neck(s) thinner than ${TINY} of a quad closed`);
    const crumbs = all.filter((part) => !parts.includes(part) && areaIn(part.mesh) > SPECK * size ** 2).length;
    if (crumbs > 0) this.mended.push(`${crumbs} crumb(s) behind necks thinner than ${TINY} of a quad dropped`);
    // what was dropped, or drawn together, is made up for
    const kept = parts.reduce((sum, part) => sum + areaIn(part.mesh), 0);
    this.ready = parts.map(({ mesh: m, was }) => ({
      reduced: m,
      corners: Uint8Array.from(was, (v) => corners[v]),
      target: (target * areaIn(m)) / kept,
      topology: topologyOf(m),
      samples: m.points.slice(0, 3 * m.vertices),
    }));
  }

  /** Points of a line's way along edges onto the line itself where it is near, and onto the form; ends stay where they meet others. */
  private ontoLines(points: Float64Array, near: number, lines: readonly DrawnLine[]): void {
    const exact = lines.filter((line) => !line.isJagged);
    const last = points.length - 3;
    const isClosed = closesUp(points);
    for (let i = isClosed ? 0 : 3; i < last; i += 3) {
      const p: Vec3 = [points[i], points[i + 1], points[i + 2]];
      const on = exact.map((line) => nearestOnLine(p, line.points, line.closed).point);
      const best = on.reduce((a, b) => (distance(b, p) < distance(a, p) ? b : a), on[0] ?? p);
      points.set(this.surface.closest(distance(best, p) < near ? best : p).point, i);
    }
    if (isClosed) points.copyWithin(last, 0, 3);
  }

  /** Whether its borders lie in the mirror plane alone. */
  get isClosed(): boolean {
    return this.curves.every((curve) => curve.isRidge || this.isOnPlane(curve));
  }
  private isOnPlane({ points }: Curve): boolean {
    const { plane } = this.options;
    const k = plane ? axisIndex(plane.axis) : 0;
    return plane !== null && points.every((x, i) => i % 3 !== k || x === plane.offset);
  }
  /** A working mesh for so many times the quads asked for. Cost: remeshing, and three rays a vertex. */
  taskOf({ reduced, corners, target, topology, samples }: Ready, finer: number): Task {
    const area = areaIn(reduced);
    const working = workingSize(area, finer * target);
    const own = reduced.compact().mesh;
    const { density } = this.options;
    const lengths = workingLengths(own, this.surface, working, density);
    const kept = evenTriangles(own, corners, this.curves, this.surface, lengths, this.options.plane);
    const { mesh: work, was } = own.compact();
    const marked = Uint8Array.from(was, (v) => kept[v]);
    const ridges = ridgesTaken(work, this.curves, marked);
    this.stages.showForm(work);
    const form = new WalkingForm(surfaceOf(work));
    const ground: Ground = { surface: this.surface, curves: this.curves, forms: [this.form, form], density };
    const size = Math.sqrt(area / target / finer);
    const formCrossings = new FormCrossings(() => this.surface, size);
    return { work, corners: marked, ridges, ground, formCrossings, target: finer * target, size, working, topology, plane: this.options.plane, samples }; // prettier-ignore
  }
}

/** Whether a form has but few points for quads of that size: it is looked at where these are. */
export const isCoarse = (mesh: TriMesh, size: number): boolean =>
  mesh.vertices < (PLACES.each * areaIn(mesh)) / size ** 2;

/** Splits the triangles of a coarse form, so that it has enough. Cost: the triangles that come of it. */
export const splitCoarse = (mesh: TriMesh, size: number): void => splitLong(mesh, PLACES.apart * size);

const workingSize = (area: number, target: number): number => {
  const least = Math.min(WORKING.least, WORKING.small * target);
  return Math.sqrt(area / (0.433 * Math.min(WORKING.most, Math.max(least, WORKING.each * target))));
};
