import { distance } from '@half-loop/core/math';
import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import { loopStops, noWayWords, routeOn, routesOn, routeWords, stopWords, type LoopStop } from '@half-loop/core/ops';
import type { Drag } from '../session';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { seenPoint } from './placing';
import { LOOP_WIDTH, seenEdges, stopMarks } from './seen';
import type { Offer, Tool, ToolHost } from './Tool';

interface Open {
  drag: Drag;
  edge: number;
  end: number;
  ways: string[];
  way: number;
}

/**
 * Route on: a loop under the pointer shows where it stops; a press offers the ways that lead it on, the first of them already
 * in view. Nothing is kept until one is accepted.
 */
export class RouteTool implements Tool {
  readonly name = 'route-on';
  private hovered: Hit | null = null;
  private open: Open | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    if (this.offer()) return 'A digit shows another way. Enter keeps the one in view, Esc none.';
    return 'Press a loop that stops, near the end that shall go on. The ways that lead it through are shown before one is kept.';
  }

  /** The ways of the open press; none once something else has ended it. */
  offer(): Offer | null {
    const { open } = this;
    if (!open?.drag.isOpen) return null;
    return { choices: open.ways, chosen: open.way, choose: (way) => this.show(way), accept: () => this.finish() };
  }

  hover(hit: Hit | null): void {
    this.hovered = hit;
    if (this.offer()) return;
    const stops = this.stopsAt(hit);
    const isEdge = hit?.element?.kind === 'edge';
    this.host.tell(stops.length > 0 ? stops.map(stopWords).join('; ') : isEdge ? 'goes all the way' : null);
    this.draw();
  }
  wantsDrag(): boolean {
    return false;
  }
  click(hit: Hit): void {
    this.cancel();
    const { session } = this.host;
    const stops = this.stopsAt(hit);
    const edge = hit.element?.kind === 'edge' ? hit.element.id : null;
    if (edge === null) return;
    if (stops.length === 0)
      return session.say({
        kind: 'refused',
        text: 'This loop stops nowhere inside the mesh: it closes, or ends at borders.',
      });
    const nearest = this.nearest(stops, hit);
    const ways = routesOn(session.mesh, stops[nearest]).map(routeWords);
    if (ways.length === 0)
      return session.say({
        kind: 'refused',
        text: noWayWords(stops[nearest]),
      });
    this.open = { drag: session.drag(), edge, end: nearest + 1, ways, way: 0 };
    this.show(0);
  }
  dragStart(): void {}
  drag(): void {}
  dragEnd(): void {}
  finish(): boolean {
    const had = this.offer() !== null;
    if (had) this.open?.drag.commit();
    this.close();
    return had;
  }
  cancel(): boolean {
    const had = this.offer() !== null;
    this.open?.drag.cancel();
    this.close();
    return had;
  }
  stepBack(): boolean {
    return this.cancel();
  }

  private show(way: number): void {
    if (!this.offer() || !this.open) return;
    this.open.way = way;
    const { drag, edge, end } = this.open;
    drag.update(routeOn, { ...EMPTY_SELECTION, edges: [edge] }, { way: way + 1, end });
    this.host.tell(`Way ${way + 1} of ${this.open.ways.length}: ${this.open.ways[way]}`);
    this.draw();
  }

  private close(): void {
    this.open = null;
    this.host.tell(null);
    this.draw();
  }

  private stopsAt(hit: Hit | null): LoopStop[] {
    const { mesh, plane } = this.host.session;
    if (hit?.element?.kind !== 'edge' || !mesh.hasEdge(hit.element.id)) return [];
    return loopStops(mesh, hit.element.id, { plane, form: null });
  }

  /** Which of a loop's stops the pointer is closest to on the screen. */
  private nearest(stops: readonly LoopStop[], { x, y, element }: Hit): number {
    const away = stops.map(({ vertex }) => {
      const at = seenPoint(this.host, this.host.session.mesh.point(vertex), element?.mirrored === true);
      const seen = this.host.scene.picker.pixelOf(at);
      return distance([seen.x, seen.y, 0], [x, y, 0]);
    });
    return away.indexOf(Math.min(...away));
  }

  private draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const { mesh } = this.host.session;
    const onImage = this.hovered?.element?.mirrored === true;
    const offered = this.offer() ? this.open?.drag.outcome?.selection.edges : null;
    if (offered)
      overlay.lines = seenEdges(this.host, offered, onImage, MODEL_COLOURS.picked).map((l) => ({ ...l, width: LOOP_WIDTH * 1.5 })); // prettier-ignore
    const e = this.hovered?.element;
    if (!offered && e?.kind === 'edge' && mesh.hasEdge(e.id)) {
      overlay.pointedEdges = [e.id];
      overlay.points = stopMarks(this.host, this.stopsAt(this.hovered), onImage);
    }
    this.host.draw(overlay);
  }
}
