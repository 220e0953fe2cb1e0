import { distance } from '@half-loop/core/math';
import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import type { TopologyError } from '@half-loop/core/errors';
import {
  loopStops,
  noWayWords,
  routeOn,
  routesOn,
  routeWords,
  stopWords,
  type LoopStop,
  type Outcome,
} from '@half-loop/core/ops';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { seenPoint } from './placing';
import { LOOP_WIDTH, seenEdges, stopMarks } from './seen';
import { OfferTool, type OpenOffer } from './OfferTool';
import type { Tool } from './Tool';

interface Open extends OpenOffer {
  edge: number;
  end: number;
}

/**
 * Route on: a loop under the pointer shows where it stops; a press offers the ways that lead it on, the first of them already
 * in view. Nothing is kept until one is accepted.
 */
export class RouteTool extends OfferTool<Open> implements Tool {
  readonly name = 'route-on';

  protected idleHint(): string {
    return 'Press a loop that stops, near the end that shall go on. The ways that lead it through are shown before one is kept.';
  }
  protected run({ drag, edge, end, way }: Open): Outcome | TopologyError {
    return drag.update(routeOn, { ...EMPTY_SELECTION, edges: [edge] }, { way: way + 1, end });
  }
  protected words({ ways, way }: Open): string {
    return ways[way];
  }

  hover(hit: Hit | null): void {
    this.hovered = hit;
    if (this.offer()) return;
    const stops = this.stopsAt(hit);
    const isEdge = hit?.element?.kind === 'edge';
    this.host.tell(stops.length > 0 ? stops.map(stopWords).join('; ') : isEdge ? 'goes all the way' : null);
    this.draw();
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

  protected draw(): void {
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
