import { TopologyError } from '@half-loop/core/errors';
import { EMPTY_SELECTION, type Selection } from '@half-loop/core/mesh';
import { fill, openingAt, waysToFill, type Outcome } from '@half-loop/core/ops';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import { borderWords, openEdgeAt } from './borderCounts';
import { LOOP_WIDTH, seenEdges } from './seen';
import { OfferTool, type OpenOffer } from './OfferTool';
import type { Tool } from './Tool';

interface Open extends OpenOffer {
  selection: Selection;
}

/**
 * Fill: an opening under the pointer lights up with its counts; a press shows it filled with quads and offers the other ways. Nothing is kept
 * until one is accepted. Points of the border that are picked before are its corners.
 */
export class FillTool extends OfferTool<Open> implements Tool {
  readonly name = 'fill';

  protected idleHint(): string {
    return 'Press a border edge: the whole opening is filled. Points that are picked on it are its corners.';
  }
  protected run({ drag, selection, way }: Open): Outcome | TopologyError {
    return drag.update(fill, selection, { ...this.host.settings(fill.name), way: way + 1 });
  }
  protected words(_open: Open, { report }: Outcome): string {
    return report.sentence;
  }

  hover(hit: Hit | null): void {
    this.hovered = hit;
    if (this.offer()) return;
    this.host.tell(borderWords(this.host, hit));
    this.draw();
  }
  click(hit: Hit): void {
    this.cancel();
    const { session } = this.host;
    const edge = openEdgeAt(this.host, hit);
    if (edge === null)
      return void (hit.element && session.say({ kind: 'refused', text: 'Press an edge of an opening: one with a face on one side only.' })); // prettier-ignore
    const selection = this.picked(edge);
    const settings = this.host.settings(fill.name);
    try {
      const { ways } = waysToFill(session.mesh, selection, settings.angle as number, session.ground);
      this.open = { drag: session.drag(), selection, ways: ways.length > 0 ? ways : ['as it can be'], way: 0 };
      this.show(0);
    } catch (error) {
      if (!(error instanceof TopologyError)) throw error;
      session.say({ kind: 'refused', text: error.message });
    }
  }
  private picked(edge: number): Selection {
    return { ...EMPTY_SELECTION, edges: [edge], vertices: this.host.session.selection.vertices };
  }

  protected draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const edge = this.offer() ? null : openEdgeAt(this.host, this.hovered);
    if (edge !== null) {
      const { session } = this.host;
      try {
        const edges = openingAt(session.mesh, edge, session.ground).halves.map((h) => h >> 1);
        const onImage = this.hovered?.element?.mirrored === true;
        overlay.lines = seenEdges(this.host, edges, onImage, MODEL_COLOURS.pointed).map((l) => ({ ...l, width: LOOP_WIDTH })); // prettier-ignore
      } catch (error) {
        // an opening that is none is told beside the pointer
        if (!(error instanceof TopologyError)) throw error;
        overlay.pointedEdges = [edge];
      }
    }
    this.host.draw(overlay);
  }
}
