import { directionAcross, distance, planeDistance, sub, type Vec3 } from '@half-loop/core/math';
import { layFace } from '@half-loop/core/ops';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { isOnImage, placeCorner, storedSide, weldRing, type Placed } from './placing';
import { borderWords } from './borderCounts';
import type { Tool, ToolHost } from './Tool';

/** What is set by the first corner and holds until the face is laid. */
interface Laying {
  corners: Placed[];
  onImage: boolean;
  side: number | null;
  eye: Vec3;
}

/** Quad: four clicks lay a face, or three and Enter (or the first point again). States: empty, laying. */
export class QuadTool implements Tool {
  readonly name = 'quad';
  private laying: Laying | null = null;
  private hovered: Placed | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    const n = this.laying?.corners.length ?? 0;
    if (n === 0) return 'Click four points on the surface. Points near a vertex weld to it.';
    if (n < 3) return `${4 - n} more points. Backspace takes the last one back, Esc all.`;
    return 'The fourth point lays a quad. Enter, or the first point again, lays a triangle.';
  }

  hover(hit: Hit | null): void {
    this.hovered = hit ? this.place(hit) : null;
    this.host.tell(borderWords(this.host, hit));
    this.draw();
  }

  wantsDrag(): boolean {
    return false;
  }

  click(hit: Hit): void {
    const placed = this.place(hit);
    if (!placed) {
      this.host.session.say({
        kind: 'refused',
        text: 'No surface here that this view sees from its front; click on the model.',
      });
      return;
    }
    const laying = (this.laying ??= { corners: [], ...this.sides(hit), eye: hit.view.eye });
    if (laying.side === null && this.host.session.plane) laying.side = sideOf(placed.stored, this.host);
    if (laying.corners.length === 3 && this.isFirst(placed)) return void this.lay();
    if (laying.corners.some((c) => isSame(c, placed))) return;
    laying.corners.push(placed);
    laying.eye = hit.view.eye;
    if (laying.corners.length === 4) this.lay();
    else this.draw();
  }

  finish(): boolean {
    if ((this.laying?.corners.length ?? 0) < 3) return false;
    this.lay();
    return true;
  }

  cancel(): boolean {
    const had = this.laying !== null;
    this.laying = null;
    this.host.draw(NO_OVERLAY);
    return had;
  }

  stepBack(): boolean {
    if (!this.laying) return false;
    this.laying.corners.pop();
    if (this.laying.corners.length === 0) this.laying = null;
    this.draw();
    return true;
  }

  dragStart(): void {}
  drag(): void {}
  dragEnd(): void {}

  private sides(hit: Hit): Pick<Laying, 'onImage' | 'side'> {
    return { onImage: isOnImage(this.host, hit), side: storedSide(this.host) };
  }

  private place(hit: Hit): Placed | null {
    const { onImage, side } = this.laying ?? this.sides(hit);
    return placeCorner(this.host, hit, onImage, side, new Set());
  }

  private isFirst(placed: Placed): boolean {
    const first = this.laying?.corners[0];
    return (
      first !== undefined && (isSame(first, placed) || distance(first.stored, placed.stored) <= this.host.weldWithin())
    );
  }

  private lay(): void {
    const { corners, onImage, eye } = this.laying as Laying;
    const toEye = sub(eye, corners[0].seen);
    const { plane } = this.host.session;
    const facing = onImage && plane ? directionAcross(toEye, plane) : toEye;
    this.laying = null;
    this.host.session.run(layFace, { corners: corners.map((c) => c.corner), facing: [...facing] });
    this.host.session.select({ vertices: [], edges: [], faces: [] });
    this.draw();
  }

  private draw(): void {
    const corners = this.laying?.corners ?? [];
    const chain = [...corners.map((c) => c.seen), ...(this.hovered ? [this.hovered.seen] : [])];
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    for (let i = 0; i + 1 < chain.length; i++)
      overlay.lines.push({ a: chain[i], b: chain[i + 1], colour: MODEL_COLOURS.active, width: 2.4 });
    if (chain.length > 2)
      overlay.lines.push({ a: chain[chain.length - 1], b: chain[0], colour: MODEL_COLOURS.active, width: 1.2 });
    overlay.points.push(
      ...corners.map((c) => ({ at: c.seen, colour: MODEL_COLOURS.active, size: 11, shape: 0 as const })),
    );
    if (this.hovered)
      overlay.points.push(...weldRing(this.host, this.hovered.seen), {
        at: this.hovered.seen,
        colour: MODEL_COLOURS.pointed,
        size: 'vertex' in this.hovered.corner ? 15 : 11,
        shape: 'vertex' in this.hovered.corner ? 1 : 0,
      });
    this.host.draw(overlay);
  }
}

function isSame(a: Placed, b: Placed): boolean {
  if ('vertex' in a.corner && 'vertex' in b.corner) return a.corner.vertex === b.corner.vertex;
  return distance(a.stored, b.stored) === 0;
}

function sideOf(p: Vec3, { session }: ToolHost): number | null {
  const { plane } = session;
  const d = plane ? planeDistance(p, plane) : 0;
  return d === 0 ? null : Math.sign(d);
}
