import { directionAcross, mirrored, type Vec3 } from '@half-loop/core/math';
import { edgeRing, EMPTY_SELECTION } from '@half-loop/core/mesh';
import { insertLoops } from '@half-loop/core/ops';
import { fractionOnEdge } from '@half-loop/core/pick';
import { TopologyError } from '@half-loop/core/errors';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { DragTool, type OpenDrag } from './DragTool';
import { seenPoint } from './placing';
import type { Tool } from './Tool';

/** Fractions this near to the middle are the middle. */
const MIDDLE = 0.03;

interface Inserting extends OpenDrag {
  edge: number;
  ends: [Vec3, Vec3];
  onImage: boolean;
  at: number;
}

/**
 * Insert loops: the ring that a loop would cross lights up under the pointer; a click or drag on an edge inserts there. The
 * fraction follows the drag, typed digits set it as a percentage.
 */
export class LoopsTool extends DragTool<Inserting> implements Tool {
  readonly name = 'insert-loops';
  private hovered: Hit | null = null;

  hint(): string {
    if (this.open) return 'Let go to insert here. Type a percentage for an exact place. Esc takes it back.';
    return 'Press an edge: a loop goes across its ring there. Drag along the edge to place it. More loops stand at even steps.';
  }
  hover(hit: Hit | null): void {
    this.hovered = hit;
    const e = this.edgeOf(hit);
    this.host.tell(e === null || !hit ? null : this.words(this.fraction(e, hit), e));
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return this.edgeOf(hit) !== null;
  }
  click(hit: Hit): void {
    const e = this.edgeOf(hit);
    if (e === null) return;
    const { session } = this.host;
    session.run(insertLoops, this.params(this.fraction(e, hit)), { ...EMPTY_SELECTION, edges: [e] });
    this.host.tell(null);
    this.draw();
  }
  dragStart(hit: Hit): void {
    const e = this.edgeOf(hit);
    if (e === null) return;
    const { mesh } = this.host.session;
    const ends: [Vec3, Vec3] = [mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))];
    const onImage = hit.element?.mirrored === true;
    this.open = { drag: this.host.session.drag(), edge: e, ends, onImage, at: this.fraction(e, hit), typed: null };
    this.update();
  }
  drag(hit: Hit): void {
    if (!this.open) return;
    // the preview has split the edge itself: its ends as they were say where the pointer is
    this.open.at = this.along(this.open.ends, this.open.onImage, hit);
    this.update();
  }

  protected override close(): void {
    this.hovered = null;
    super.close();
  }

  protected update(): void {
    if (!this.open) return;
    const { drag, edge, typed } = this.open;
    const at = typed === null ? this.open.at : Math.max(0.01, Math.min(0.99, typed / 100));
    const done = drag.update(insertLoops, { ...EMPTY_SELECTION, edges: [edge] }, this.params(at));
    this.host.tell(done instanceof TopologyError ? done.message : `${Math.round(at * 100)} %, ${done.report.sentence}`);
    this.draw();
  }

  private params(at: number): { at: number } {
    return { ...this.host.settings(insertLoops.name), at };
  }

  private words(at: number, e: number): string {
    const rungs = edgeRing(this.host.session.mesh, 2 * e).halves.length;
    return `${Math.round(at * 100)} %, across ${rungs} ${rungs === 1 ? 'edge' : 'edges'}`;
  }

  private edgeOf(hit: Hit | null): number | null {
    const { mesh } = this.host.session;
    if (hit?.element?.kind !== 'edge' || !mesh.hasEdge(hit.element.id)) return null;
    return mesh.isLooseEdge(hit.element.id) ? null : hit.element.id;
  }

  private fraction(e: number, hit: Hit): number {
    const { mesh } = this.host.session;
    const ends: [Vec3, Vec3] = [mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))];
    return this.along(ends, hit.element?.mirrored === true, hit);
  }

  /** How far along an edge, from its first end, the pointer is; the middle catches. */
  private along([a, b]: [Vec3, Vec3], onImage: boolean, { view, direction }: Hit): number {
    const { plane } = this.host.session;
    const t =
      onImage && plane
        ? fractionOnEdge(mirrored(view.eye, plane), directionAcross(direction, plane), a, b)
        : fractionOnEdge(view.eye, direction, a, b);
    return Math.abs(t - 0.5) < MIDDLE ? 0.5 : Math.max(0.02, Math.min(0.98, t));
  }

  protected draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const e = this.edgeOf(this.hovered);
    if (!this.open && e !== null && this.hovered) {
      const { mesh } = this.host.session;
      const at = this.fraction(e, this.hovered);
      const walk = edgeRing(mesh, 2 * e);
      const onImage = this.hovered.element?.mirrored === true;
      const places = walk.halves.map((h) => {
        const [a, b] = [mesh.point(mesh.origin(h)), mesh.point(mesh.target(h))];
        return seenPoint(this.host, [0, 1, 2].map((k) => a[k] + (b[k] - a[k]) * at) as unknown as typeof a, onImage);
      });
      overlay.lines = places.slice(1).map((b, i) => ({ a: places[i], b, colour: MODEL_COLOURS.pointed, width: 2.6 }));
      if (walk.closed)
        overlay.lines.push({ a: places[places.length - 1], b: places[0], colour: MODEL_COLOURS.pointed, width: 2.6 });
      overlay.points.push({
        at: places[walk.halves.findIndex((h) => h >> 1 === e)],
        colour: MODEL_COLOURS.pointed,
        size: 12,
        shape: 0,
      });
    }
    this.host.draw(overlay);
  }
}
