import { TRACE, TRACE_CHANNEL } from '@half-loop/core/mesh';
import { REGION_CHANNEL } from '@half-loop/core/ops';
import type { Session } from '../session';
import { DensityTint } from './DensityTint';
import { distanceColour, niceCeil, UNMEASURED } from './distanceScale';
import { densityShare, loopTints, middleSide, scaleColour, sideOf, WARP_RANGE, warpOf } from './faceLenses';
import type { LowPolyColours } from './LowPolyLayer';
import { allHidden } from './hiddenFaces';
import { srgb, type Srgb } from './materials';
import { MODEL_COLOURS } from './modelColours';
import type { Mark } from './PointSet';
import { pinMarks } from './pinMarks';
import { poleMarks } from './poleMarks';
import type { ViewState } from './ViewState';

const GLAZE: Srgb = [0.44, 0.73, 0.69];
const LIT: Srgb = [0.93, 0.66, 0.42];
/** A face so many times longer or shorter than is aimed at is told. */
const OFF = 1.5;
const LONG: Srgb = [0.87, 0.78, 0.55];
const SHORT: Srgb = [0.6, 0.7, 0.86];
const MEASURING: ReadonlySet<string> = new Set(['distance', 'density', 'warp']);
const PALE: Srgb = [0.8, 0.86, 0.83];

/** What colour the present lens gives each face and edge, and which marks it sets. */
export class LensPaint {
  /** side of a face at the middle of the density scale, file units */
  middleSide = 1;
  private range = 1;
  private tints = new Map<number, Srgb>();
  /** the piece's */
  private own = GLAZE;
  private loops: ReturnType<typeof loopTints> | null = null;
  private readonly density: DensityTint;

  constructor(
    private readonly session: Session,
    private readonly view: ViewState,
  ) {
    this.density = new DensityTint(session);
  }

  /** The low-poly's colours under the present lens. */
  get colours(): LowPolyColours {
    return {
      face: (f) => this.face(f),
      edge: (e) => this.edge(e),
      ink: [0.07, 0.22, 0.22],
      border: [0.02, 0.1, 0.12],
      picked: MODEL_COLOURS.picked,
      pointed: MODEL_COLOURS.pointed,
      isHidden: (faces) => allHidden(this.session.mesh, faces, this.view.now.hiddenRegions),
    };
  }

  /** Measures anew what the whole mesh decides: ranges, middles, loops. Cost: the mesh, for the lens in hand only. */
  refresh(): void {
    const { lens } = this.view.now;
    const { mesh } = this.session;
    this.range = this.distanceRange();
    this.tints = new Map(this.session.settings.regions.map(({ id, tint }) => [id, srgb(tint)]));
    const { tint } = this.session.piece;
    this.own = tint === null ? GLAZE : srgb(tint);
    this.density.refresh();
    this.loops = lens === 'loops' ? loopTints(mesh) : null;
    if (lens === 'density') this.middleSide = middleSide(mesh);
  }

  face(f: number): Srgb {
    const { mesh, distance } = this.session;
    // what an edit left behind stays lit under the plain lenses until somebody looks at it
    if (!MEASURING.has(this.view.now.lens) && mesh.findChannel('face', TRACE_CHANNEL.name)?.get(f) === TRACE.lit)
      return LIT;
    switch (this.view.now.lens) {
      case 'distance': {
        const d = distance.signedWorst(f);
        return d === null ? UNMEASURED : distanceColour(d / this.range);
      }
      case 'density':
        return scaleColour(densityShare(sideOf(mesh, f), this.middleSide));
      case 'warp':
        return scaleColour(warpOf(mesh, f) / WARP_RANGE);
      case 'form':
        return this.density.over(f, this.offLength(f) ?? this.tints.get(mesh.findChannel('face', REGION_CHANNEL.name)?.get(f) ?? 0) ?? this.own); // prettier-ignore
      default:
        return PALE;
    }
  }

  /** While a quad length is aimed at: faces that are far from it, longer ones warm, shorter ones cool. */
  private offLength(f: number): Srgb | null {
    const { quadLength } = this.session.settings;
    if (quadLength === null) return null;
    const ratio = sideOf(this.session.mesh, f) / quadLength;
    return ratio > OFF ? LONG : ratio < 1 / OFF ? SHORT : null;
  }

  edge(e: number): Srgb | null {
    return this.loops?.tint.get(e) ?? null;
  }

  /** The shapes of poles, all of them or those where a loop stops, and of locked and released points. */
  marks(): Mark[] {
    return [...this.poles(), ...pinMarks(this.session.mesh, this.session.plane)];
  }
  private poles(): Mark[] {
    const { mesh, plane } = this.session;
    const { lens } = this.view.now;
    if (lens === 'poles') return poleMarks(mesh, plane);
    return lens === 'loops' ? poleMarks(mesh, plane).filter(({ vertex }) => this.loops?.ends.has(vertex)) : [];
  }

  /** The distance at the ends of the scale, file units. */
  distanceRange(): number {
    const { surface, distance } = this.session;
    if (!surface) return 1;
    return niceCeil(Math.max(distance.summary?.worst ?? 0, surface.diagonal * 0.002));
  }
}
