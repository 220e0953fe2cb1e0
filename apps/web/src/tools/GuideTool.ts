import { distance, evenSteps, type Vec3 } from '@half-loop/core/math';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { isOnImage, seenPoint, storedPoint, storedSide } from './placing';
import type { Tool, ToolHost } from './Tool';

interface Stroke {
  /** as stored: on the half that the low-poly is kept on */
  points: Vec3[];
  onImage: boolean;
  side: number | null;
  start: { x: number; y: number };
  closes: boolean;
}

/** Points of a stroke lie this many pixels apart. */
const STEP_PX = 6;
/** A stroke that ends this near its start closes. */
const CLOSE_PX = 14;
const MOST_POINTS = 4000;

/** Guide: a stroke on what points stick to, kept as a line that the flow follows and points catch on. */
export class GuideTool implements Tool {
  readonly name = 'guide';
  private stroke: Stroke | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    if (!this.stroke) return 'Drag a line on the surface, or on a work plane. Back at its start it closes.';
    return this.stroke.closes ? 'Let go here to close it.' : 'Let go to keep the guide. Esc drops it.';
  }
  hover(): void {
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return hit.landing !== null;
  }
  click(): void {}
  dragStart(hit: Hit): void {
    if (!hit.landing) return;
    const onImage = isOnImage(this.host, hit);
    const side = storedSide(this.host);
    this.stroke = {
      points: [storedPoint(this.host, hit.landing.point, onImage, side)],
      onImage,
      side,
      start: { x: hit.x, y: hit.y },
      closes: false,
    };
  }
  drag(hit: Hit): void {
    const { stroke } = this;
    if (!stroke || !hit.landing) return;
    const { picker, camera } = this.host.scene;
    const p = storedPoint(this.host, hit.landing.point, stroke.onImage, stroke.side);
    const last = stroke.points[stroke.points.length - 1];
    const step = camera.pixelSize(picker.pixelOf(seenPoint(this.host, p, stroke.onImage)).along) * STEP_PX;
    if (distance(p, last) >= step && stroke.points.length < MOST_POINTS) stroke.points.push(p);
    stroke.closes = stroke.points.length > 8 && Math.hypot(hit.x - stroke.start.x, hit.y - stroke.start.y) < CLOSE_PX;
    this.draw();
  }
  dragEnd(): void {
    const { stroke } = this;
    this.stroke = null;
    if (stroke && stroke.points.length > 2) this.keep(stroke);
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

  private keep({ points, closes }: Stroke): void {
    const { session } = this.host;
    const { guides } = session.settings;
    let n = guides.length + 1;
    while (guides.some((g) => g.name === `Guide ${n}`)) n++;
    const even = evenSteps(points, closes).map(([x, y, z]): [number, number, number] => [x, y, z]);
    session.changeSettings(`Guide ${n} drawn`, {
      guides: [...guides, { name: `Guide ${n}`, points: even, closed: closes }],
    });
  }

  private draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const { stroke } = this;
    if (stroke) {
      const seen = stroke.points.map((p) => seenPoint(this.host, p, stroke.onImage));
      const ends = stroke.closes ? [...seen, seen[0]] : seen;
      overlay.lines = ends.slice(1).map((b, i) => ({ a: ends[i], b, colour: MODEL_COLOURS.pointed, width: 3 }));
    }
    this.host.draw(overlay);
  }
}
