import { TopologyError } from '../errors';
import type { StartAside } from './Aside';
import { smoothed } from './field/field';
import { loopsThere } from './field/loopsThere';
import { cleaned, type Triangles } from './form/clean';
import { densityOf } from './form/density';
import { halfOf } from './form/halve';
import { facingOutward } from './form/outward';
import { surfaceOf } from './form/surfaceOf';
import type { TriMesh } from './form/TriMesh';
import type { Piece } from './gridQuads';
import type { LaidPart } from './LaidPart';
import { linesOfHalf, type DrawnLine } from './lines/drawn';
import type { Asked, LayAllOptions } from './options';
import { overShell } from './overShell';
import { Part } from './Part';
import { areaIn } from './Prepared';
import type { Stages } from './Stages';

/** A part gets at least so many quads. */
const LEAST = 12;
/** Parts with less area than so many quads are dust. */
const DUST = 2;

/** A form on its way to quads: cleaned and taken apart, with what was drawn on each part. Cost of making: linear in the triangles. */
export class Laying {
  /** what was repaired, in words */
  readonly mended: string[];
  /** how many quads of all that is laid */
  readonly wanted: number;
  /** square file units */
  readonly area: number;
  private readonly parts: TriMesh[];
  private readonly areas: number[];
  private readonly asked: (i: number) => Asked;
  private byWays: { of: number; part: Part } | null = null;

  /** Throws BAD_INPUT for nothing to lay on. */
  constructor(input: Triangles, options: LayAllOptions) {
    const { plane } = options;
    const { parts: asTheyCome, mended } = cleaned(plane ? halfOf(input, plane) : input);
    const { parts, turned } = facingOutward(asTheyCome, plane);
    if (turned > 0) mended.push(`${turned} closed part(s) that faced inward turned over`);
    this.mended = mended;
    this.wanted = options.faces / (plane ? 2 : 1);
    this.parts = options.dropDust ? withoutDust(parts, this.wanted, mended) : parts;
    if (options.smoothing > 0) for (const part of this.parts) part.points.set(smoothed(part, options.smoothing, plane));
    this.areas = this.parts.map(areaIn);
    this.area = this.areas.reduce((sum, one) => sum + one, 0);
    const lines = linesByPart(this.parts, plane ? linesOfHalf(options.lines, plane) : options.lines);
    const density = options.density && densityOf(input, options.density);
    const loops = options.loops && loopsThere(options.loops);
    this.asked = (i) => ({ ...options, lines: lines[i], density, loops });
  }

  /** How much of the whole each part is, of 1. */
  get shares(): number[] {
    return this.areas.map((one) => one / this.area);
  }

  /** One way of a part's largest piece; no piece where it leads to nothing sound. Of one part alone, and no more once it is laid. Cost: that of the way, and at first readying the part. */
  partByWay(i: number, way: number, stages: Stages): LaidPart {
    if (this.byWays?.of !== i) this.byWays = { of: i, part: new Part(this.parts[i], this.targetOf(i), this.asked(i), stages) }; // prettier-ignore
    const piece = this.byWays.part.byWay(way);
    return { pieces: piece ? [piece] : [], mended: [] };
  }

  /** Lays a part: once, as that takes it apart; some of its ways on another processor, if there is one for them. Throws NO_WAY. */
  part(i: number, stages: Stages, start: StartAside | null = null): LaidPart {
    const mesh = this.parts[i];
    const options = this.asked(i);
    // laying takes the mesh apart
    const again = options.keepEdges === null ? null : mesh.copied();
    const ways = start && ((ways: readonly number[]) => start(ways.map((way) => ({ part: i, way }))));
    const part = new Part(mesh, this.targetOf(i), options, stages).lay(ways);
    if (!part.isLaid && part.isClosed) {
      const over = overShell(part, this.areas[i], options, stages);
      if (over) return over;
    }
    const pieces = part.pieces();
    const plain = again && crossingsIn(pieces) > 0 ? withoutEdges(again, this.targetOf(i), options, stages) : null;
    if (!plain || crossingsIn(plain.pieces) >= crossingsIn(pieces)) return { pieces, mended: part.mended };
    plain.mended.push(
      '1 part(s) laid without the sharp edges there, which are nearer to each other than quads are wide',
    );
    return plain;
  }

  private targetOf(i: number): number {
    return Math.max(LEAST, this.wanted * this.shares[i]);
  }
}

/** A part whose sharp edges are nearer to each other than quads are wide leaves those no way past each other: laid without them; null where there is none either. */
function withoutEdges(mesh: TriMesh, target: number, options: Asked, stages: Stages): LaidPart | null {
  const part = new Part(mesh, target, { ...options, keepEdges: null }, stages).lay();
  try {
    return { pieces: part.pieces(), mended: [...part.mended] };
  } catch (error) {
    if (error instanceof TopologyError) return null;
    throw error;
  }
}

const crossingsIn = (pieces: readonly Piece[]): number => pieces.reduce((sum, { crossing }) => sum + crossing, 0);

/** Each line with the part that it lies nearest to. Cost: with several parts, a BVH of each and a closest point for each point of a line. */
function linesByPart(parts: readonly TriMesh[], lines: readonly DrawnLine[]): DrawnLine[][] {
  const own: DrawnLine[][] = parts.map(() => []);
  if (parts.length === 1 || lines.length === 0) return own.map(() => [...lines]);
  const surfaces = parts.map(surfaceOf);
  for (const line of lines) {
    const away = surfaces.map((surface) => line.points.reduce((sum, p) => sum + surface.closest(p).distance, 0));
    own[away.indexOf(Math.min(...away))].push(line);
  }
  return own;
}

function withoutDust(parts: readonly TriMesh[], faces: number, mended: string[]): TriMesh[] {
  const total = parts.reduce((sum, part) => sum + areaIn(part), 0);
  const most = Math.max(...parts.map(areaIn));
  const kept = parts.filter((part) => areaIn(part) >= Math.min(most, (DUST * total) / faces));
  if (kept.length < parts.length)
    mended.push(`${parts.length - kept.length} part(s) smaller than ${DUST} quads dropped`);
  return kept;
}
