import type { Vec3 } from '../math';
import type { SculptSurface } from '../surface';
import { crossField, smoothed } from './field/field';
import { loopsThere, type LoopsThere } from './field/loopsThere';
import { polesAt, simplifyPoles, type Pole } from './field/poles';
import { sampleLoops, type SampleLoop } from './field/sampleLoops';
import { cleaned, type Triangles } from './form/clean';
import { halfOf } from './form/halve';
import { paintedDensity, type DensityStroke } from './form/paintedDensity';
import { paintedSizes, spreadOf } from './form/sizes';
import type { TriMesh } from './form/TriMesh';
import { nearestOf, USUAL_WAY } from './gridQuads';
import { drawOn, linesOfHalf, type DrawnLine } from './lines/drawn';
import { markLines, placesIn } from './lines/lines';
import { ridgesOf } from './lines/ridges';
import { LAY_AS_USUAL, type LayAllOptions } from './options';
import { surfaceOf } from './form/surfaceOf';
import { areaIn, isCoarse, Prepared, splitCoarse } from './Prepared';
import { Stages, type Watch } from './Stages';

/** Where quads' edges would run: long sample loops over the form, and the poles between them. */
export interface Flow {
  loops: SampleLoop[];
  poles: Pole[];
  /** ridges and grooves that loops would lie on */
  ridges: Vec3[][];
  /** edges of the form that are sharp, kept or not, from corner to corner */
  sharp: Vec3[][];
}

export type FlowAsked = Pick<LayAllOptions, 'faces' | 'evenness' | 'followForm' | 'lines'> & {
  /** painted density */
  densities: readonly DensityStroke[];
  /** of those that the form was made with */
  followsLoops: boolean;
};

/** What a form is made ready with. */
export type FlowFormOptions = Pick<LayAllOptions, 'plane' | 'keepEdges' | 'loops' | 'smoothing'>;

/** Working meshes for about so many quads have some 4,000 points. */
const QUADS = 2500;
/** Parts with less than this share of the whole are not shown. */
const DUST = 0.002;
/** Edges are told as sharp over so many degrees where none are kept. */
export const SHARP = 40;
/** Sharp edges shorter than so many quads are none. */
const SHORT = 4;
/** Sample loops run so many quads apart. */
const APART = 2;

/** A form made ready to be shown its flow, for one plane and angle of edges that are kept; then every wish costs a field alone. */
export class FlowForm {
  private readonly works: { work: TriMesh; surface: SculptSurface; form: SculptSurface; ridges: RidgesBySize }[];
  private readonly sharp: Vec3[][] = [];
  private readonly area: number;
  private readonly plane: LayAllOptions['plane'];
  private readonly loops: LoopsThere | null;

  /** Cost: as much as automatic retopology needs up to its working mesh. Throws BAD_INPUT for nothing to lay on. */
  constructor(input: Triangles, { plane, keepEdges, loops, smoothing }: FlowFormOptions, watch: Watch = {}) {
    const stages = new Stages(watch);
    stages.begin('Clean', 0);
    this.plane = plane;
    const { parts } = cleaned(plane ? halfOf(input, plane) : input);
    this.loops = loops && loopsThere(loops);
    if (smoothing > 0) for (const part of parts) part.points.set(smoothed(part, smoothing, plane));
    const total = parts.reduce((sum, mesh) => sum + areaIn(mesh), 0);
    const asked = { ...LAY_AS_USUAL, faces: QUADS, plane, keepEdges, density: null, loops: null };
    this.works = parts
      .filter((mesh) => areaIn(mesh) > DUST * total)
      .flatMap((mesh) => {
        const own = mesh.copied();
        this.sharp.push(...sharpLines(own, keepEdges ?? SHARP, SHORT * Math.sqrt(total / QUADS)));
        const ridges = new RidgesBySize(own);
        const prepared = new Prepared(mesh, Math.max(12, (QUADS * areaIn(mesh)) / total), asked, stages);
        const works = prepared.ready.map((piece) => prepared.taskOf(piece, 1).work);
        return works.map((work) => ({ work, surface: surfaceOf(work), form: prepared.surface, ridges }));
      });
    this.area = this.works.reduce((sum, { work }) => sum + areaIn(work), 0);
  }

  /** The flow for a count, sizes, strength and lines; of one half where there is a plane. Cost: a field over some 4,000 points. */
  flow({ faces, evenness, followForm, lines, followsLoops, densities }: FlowAsked): Flow {
    const size = Math.sqrt(this.area / (faces / (this.plane ? 2 : 1)));
    const own = this.plane ? linesOfHalf(lines, this.plane) : lines;
    const found: Flow = { loops: [], poles: [], ridges: [], sharp: this.sharp };
    for (const { work, surface, form, ridges } of this.works) {
      const mesh = work.compact().mesh;
      const edge = Math.sqrt(areaIn(mesh) / (0.433 * mesh.triangles));
      drawOn(mesh, surface, nearTo(own, surface, size), edge, size, 0);
      const painted = densities.length > 0 ? paintedDensity(mesh.points, densities, this.plane) : null;
      const sizes = painted && paintedSizes(mesh, painted, size);
      // as where all is laid: quads of many sizes have none
      if (followForm > 0 && !painted) found.ridges.push(...nearTo(ridges.of(size), surface, size).map(placesOf));
      const field = crossField(mesh, {
        ratio: size / edge,
        size,
        followForm: followForm * USUAL_WAY.follow,
        sizes,
        loops: followsLoops ? this.loops : null,
        ridges: [],
      });
      const spread = spreadOf(mesh, form, size, evenness, sizes, this.plane);
      const sizeAt = (v: number): number => size * spread[Math.floor(mesh.out[v] / 3)] * (sizes ? sizes[v] : 1);
      const index = simplifyPoles(mesh, field, sizeAt, nearestOf(USUAL_WAY, sizes), this.plane);
      found.poles.push(...polesAt(mesh, index));
      found.loops.push(...sampleLoops(mesh, field, APART * Math.max(size, edge)));
    }
    return found;
  }
}

/** The ridges of a part for the size of quads that was asked for last: only another one costs anything. */
class RidgesBySize {
  private size = 0;
  private found: DrawnLine[] = [];
  constructor(private readonly mesh: TriMesh) {}

  of(size: number): DrawnLine[] {
    if (size !== this.size) {
      // another size may want it split otherwise
      const coarse = isCoarse(this.mesh, size) ? this.mesh.copied() : null;
      if (coarse) splitCoarse(coarse, size);
      this.found = ridgesOf(coarse ?? this.mesh, size);
    }
    this.size = size;
    return this.found;
  }
}

/** Edges of a part that are sharper than so many degrees; marks them on it. */
const sharpLines = (mesh: TriMesh, angle: number, shortest: number): Vec3[][] =>
  markLines(mesh, angle, shortest).curves.flatMap(({ isBorder, points }) => (isBorder ? [] : [placesIn(points)]));

const placesOf = ({ points, closed }: DrawnLine): Vec3[] => (closed ? [...points, points[0]] : [...points]);

/** Lines that lie on a part, and not on another beside it. */
const nearTo = (lines: readonly DrawnLine[], surface: SculptSurface, size: number): DrawnLine[] =>
  lines.filter(({ points }) => points.reduce((sum, p) => sum + surface.closest(p).distance, 0) < size * points.length);
