import { meanPoint } from '@half-loop/core/math';
import { paintedDensity } from '@half-loop/core/retopo';
import type { Session } from '../session';
import { MODEL_COLOURS } from './modelColours';
import type { Srgb } from './materials';

/** How much of a face's colour paint takes at most, and at how many times as many quads, or as few, as a power of two. */
const MOST = 0.6;
const FULL = 2;

/** Density painted on an asset without a sculpt: its pieces' faces take the tint that the sculpt would have. */
export class DensityTint {
  /** a power of two by face of the piece in hand: what is strongest at its corners and in its middle */
  private powers: Float64Array | null = null;

  constructor(private readonly session: Session) {}

  /** Reads what is painted. Cost: the faces, where anything is. */
  refresh(): void {
    const { surface, settings, mesh, plane } = this.session;
    this.powers = null;
    if (surface || settings.densities.length === 0) return;
    const { vertexRows, faceRows } = mesh;
    const places = new Float64Array(3 * (vertexRows + faceRows)).fill(Infinity);
    for (const v of mesh.vertices()) places.set(mesh.point(v), 3 * v);
    for (const f of mesh.faces()) places.set(meanPoint(mesh.faceVertices(f).map((v) => mesh.point(v))), 3 * (vertexRows + f)); // prettier-ignore
    const power = paintedDensity(places, settings.densities, plane).map(Math.log2);
    this.powers = new Float64Array(faceRows);
    for (const f of mesh.faces())
      this.powers[f] = mesh.faceVertices(f).reduce((most, v) => (Math.abs(power[v]) > Math.abs(most) ? power[v] : most), power[vertexRows + f]); // prettier-ignore
  }

  /** A face's colour with what is painted over it. */
  over(f: number, colour: Srgb): Srgb {
    const power = this.powers?.[f] ?? 0;
    if (power === 0) return colour;
    const share = Math.min(1, Math.abs(power) / FULL) * MOST;
    const paint = power > 0 ? MODEL_COLOURS.denser : MODEL_COLOURS.sparser;
    return colour.map((x, k) => x + share * (paint[k] - x)) as Srgb;
  }
}
