import { distance, evenSteps, type Vec3 } from '@half-loop/core/math';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { extended, redrawn } from './guideEdits';
import { drawnPlace, seenPoint, storedPoint, storedSide, type DrawnPlace } from './placing';
import type { Tool, ToolHost } from './Tool';

interface Stroke {
  /** as stored: on the half that the low-poly is kept on */
  points: Vec3[];
  onImage: boolean;
  /** begun on the piece in hand, it stays on it */
  onPiece: boolean;
  side: number | null;
  /** pixels */
  start: { x: number; y: number };
  end: { x: number; y: number };
  closes: boolean;
  /** where it began on a guide that is there */
  from: Place | null;
}

/** A point of a guide. */
interface Place {
  guide: number;
  at: number;
}

/** Points of a stroke lie this many pixels apart. */
const STEP_PX = 6;
/** A stroke that ends this near its start closes. */
const CLOSE_PX = 14;
/** A stroke that begins or ends this near a guide begins or ends on it. */
const ON_PX = 9;
const MOST_POINTS = 4000;
/** An asset keeps guides of no more points. */
const MOST_KEPT = 20_000;

/**
 * Guide: a stroke on what points stick to, kept as a line that the flow follows and points catch on. From a guide back to the same one it is a new stretch of that;
 * from its end it goes on.
 */
export class GuideTool implements Tool {
  readonly name = 'guide';
  private stroke: Stroke | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    if (!this.stroke) return 'Drag a line on the surface, or on a work plane. Back at its start it closes. From a guide back to it: that stretch anew.'; // prettier-ignore
    return this.stroke.closes ? 'Let go here to close it.' : 'Let go to keep the guide. Esc drops it.';
  }
  hover(): void {
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return this.placeOf(hit) !== null;
  }
  click(): void {}
  dragStart(hit: Hit): void {
    const place = this.placeOf(hit);
    if (!place) return;
    const { onImage, onPiece } = place;
    const side = storedSide(this.host);
    this.stroke = {
      points: [storedPoint(this.host, place.seen, onImage, side)],
      onImage,
      onPiece,
      side,
      start: { x: hit.x, y: hit.y },
      end: { x: hit.x, y: hit.y },
      closes: false,
      from: this.guideAt(hit, onImage),
    };
  }
  drag(hit: Hit): void {
    const { stroke } = this;
    const place = stroke && this.placeFor(stroke, hit);
    if (!stroke || !place) return;
    const { picker, camera } = this.host.scene;
    stroke.end = { x: hit.x, y: hit.y };
    const p = storedPoint(this.host, place, stroke.onImage, stroke.side);
    const last = stroke.points[stroke.points.length - 1];
    const step = camera.pixelSize(picker.pixelOf(seenPoint(this.host, p, stroke.onImage)).along) * STEP_PX;
    if (distance(p, last) >= step && stroke.points.length < MOST_POINTS) stroke.points.push(p);
    stroke.closes = stroke.points.length > 8 && Math.hypot(hit.x - stroke.start.x, hit.y - stroke.start.y) < CLOSE_PX;
    this.draw();
  }
  dragEnd(): void {
    const { stroke } = this;
    this.stroke = null;
    if (stroke && stroke.points.length > 2 && !this.edit(stroke)) this.keep(stroke);
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

  /** Where a stroke would begin: the card says whether on the piece, where points stick to no surface. */
  private placeOf(hit: Hit): DrawnPlace | null {
    return drawnPlace(this.host, hit, this.host.settings(this.name).liesOn === 'piece');
  }

  /** Where a stroke goes on: on the piece where it began there, and else where points stick to. */
  private placeFor({ onPiece }: Stroke, hit: Hit): DrawnPlace['seen'] | null {
    if (!onPiece) return hit.landing?.point ?? null;
    const place = drawnPlace(this.host, hit);
    return place?.onPiece ? place.seen : null;
  }

  /** The point of a guide under the pointer, on the half that is worked on. Cost: the guides' points. */
  private guideAt({ x, y }: { x: number; y: number }, onImage: boolean): Place | null {
    let best: Place | null = null;
    let near = ON_PX;
    this.host.session.settings.guides.forEach(({ points }, guide) =>
      points.forEach((p, at) => {
        const seen = this.host.scene.picker.pixelOf(seenPoint(this.host, p, onImage));
        const away = Math.hypot(seen.x - x, seen.y - y);
        if (away < near) [best, near] = [{ guide, at }, away];
      }),
    );
    return best;
  }

  /** Draws part of a guide anew, or lets it go on; false for a stroke of its own. */
  private edit({ points, from, end, onImage, closes }: Stroke): boolean {
    const { session } = this.host;
    const { guides } = session.settings;
    if (!from || closes) return false;
    const old = guides[from.guide];
    const to = this.guideAt(end, onImage);
    const isEnd = !old.closed && (from.at === 0 || from.at === old.points.length - 1);
    if (to ? to.guide !== from.guide || to.at === from.at : !isEnd) return false;
    // a guide that is full is not made longer
    if (old.points.length + points.length > MOST_KEPT) return false;
    const line = to ? redrawn(old, points, from.at, to.at) : extended(old, points, from.at === 0);
    const even = this.evened(line.points, line.closed);
    session.changeSettings(`${old.name} ${to ? 'drawn anew in part' : 'drawn on'}`, {
      guides: guides.map((g) => (g === old ? { ...old, points: even } : g)),
    });
    return true;
  }

  private evened(points: readonly Vec3[], closed: boolean): [number, number, number][] {
    return evenSteps(points, closed).map(([x, y, z]) => [x, y, z]);
  }

  private keep({ points, closes }: Stroke): void {
    const { session } = this.host;
    const { guides } = session.settings;
    let n = guides.length + 1;
    while (guides.some((g) => g.name === `Guide ${n}`)) n++;
    const even = this.evened(points, closes);
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
