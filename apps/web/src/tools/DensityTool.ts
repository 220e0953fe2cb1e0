import { distance, type Vec3 } from '@half-loop/core/math';
import type { Hit } from '../viewport';
import { brushRing, drawnPlace, storedPoint, storedSide, type DrawnPlace } from './placing';
import type { Tool, ToolHost } from './Tool';

interface Stroke {
  /** as stored: on the half that the low-poly is kept on */
  points: Vec3[];
  onImage: boolean;
  side: number | null;
}

/** A stroke takes a point when the pointer went this share of the radius. */
const SPACING = 0.35;
const MOST_POINTS = 2000;
/** An asset keeps no more. */
const MOST_STROKES = 500;

/** Paint density: a stroke on the sculpt, or on the piece in hand where there is none, along which Lay all makes more quads, or fewer. */
export class DensityTool implements Tool {
  readonly name = 'density';
  private stroke: Stroke | null = null;
  private hovered: Hit | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    if (this.stroke) return 'Let go to keep it. Esc drops it.';
    return `Drag over the ${this.host.session.surface ? 'sculpt' : 'piece'} where quads shall be smaller, or larger.`;
  }
  hover(hit: Hit | null): void {
    this.hovered = hit;
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return this.placeOf(hit) !== null;
  }
  click(hit: Hit): void {
    this.dragStart(hit);
    this.dragEnd();
  }
  dragStart(hit: Hit): void {
    const place = this.placeOf(hit);
    if (!place) return;
    const { seen, onImage } = place;
    const side = storedSide(this.host);
    this.stroke = { points: [storedPoint(this.host, seen, onImage, side)], onImage, side };
    this.hover(hit);
  }
  drag(hit: Hit): void {
    const { stroke } = this;
    const place = this.placeOf(hit);
    if (stroke && place && stroke.points.length < MOST_POINTS) {
      const p = storedPoint(this.host, place.seen, stroke.onImage, stroke.side);
      if (distance(p, stroke.points[stroke.points.length - 1]) >= SPACING * this.radius) stroke.points.push(p);
    }
    this.hover(hit);
  }
  dragEnd(): void {
    const { stroke } = this;
    this.stroke = null;
    if (stroke) this.keep(stroke);
    this.draw();
  }
  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }
  cancel(): boolean {
    const had = this.stroke !== null;
    this.stroke = null;
    this.draw();
    return had;
  }

  /** Where the pointer is on what is painted: never on a bare work plane. */
  private placeOf(hit: Hit): DrawnPlace | null {
    const place = drawnPlace(this.host, hit);
    return place?.onPiece || this.host.scene.picker.stickSurface() ? place : null;
  }

  private get radius(): number {
    return this.host.settings(this.name).radius as number;
  }

  private keep({ points }: Stroke): void {
    const { session } = this.host;
    if (session.settings.densities.length >= MOST_STROKES)
      return session.say({ kind: 'refused', text: `${MOST_STROKES} strokes of density are painted, and no more can be kept; drop some first.` }); // prettier-ignore
    const times = this.host.settings(this.name).times as number;
    const stroke = {
      points: points.map(([x, y, z]): [number, number, number] => [x, y, z]),
      radius: this.radius,
      times,
    };
    session.changeSettings(`Density painted: ${times.toFixed(2)} times`, {
      densities: [...session.settings.densities, stroke],
    });
  }

  /** A ring of the brush's size round the pointer; without a sculpt what is painted shows on the piece's own faces. */
  private draw(): void {
    const ring = brushRing(this.host, this.hovered && this.placeOf(this.hovered)?.seen, this.radius);
    this.host.draw({ ...ring, showsPaint: !this.host.session.surface });
  }
}
