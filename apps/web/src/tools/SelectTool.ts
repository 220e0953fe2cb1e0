import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import { MODEL_COLOURS, NO_OVERLAY, type ElementHit, type Hit, type Overlay } from '../viewport';
import { seenPoint } from './placing';
import { seenEdges, stopMarks } from './seen';
import { leftWords, mergedSelection, oneElement, toggledSelection, walkOf, wholeOf } from './selecting';
import type { Press, Tool, ToolHost } from './Tool';

/**
 * Select: click an element, Shift adds or takes away; a second press takes the loop, the border, or all that hangs together,
 * with Alt the ring or strip. The walk that a second press would take shows as a thin line.
 */
export class SelectTool implements Tool {
  readonly name = 'select';
  private hovered: ElementHit | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    if (this.host.view.now.selectionLocked) return 'What is picked is locked. Unlock it to pick something else.';
    return 'Click a point, edge or face. Shift adds or takes away. A second press takes the whole loop or border (Alt: the ring), or all faces that hang together. Delete deletes.';
  }
  hover(hit: Hit | null): void {
    this.hovered = hit?.element ?? null;
    this.host.tell(this.words(hit));
    this.draw();
  }
  wantsDrag(): boolean {
    return false;
  }
  click(hit: Hit, { shift, second, alt }: Press): void {
    const { session, view } = this.host;
    if (view.now.selectionLocked) return;
    if (!hit.element) {
      if (!shift) session.select(EMPTY_SELECTION);
      return;
    }
    const across = alt === true;
    const whole = second || across;
    const picked = whole ? wholeOf(session.mesh, hit.element, across) : oneElement(hit.element);
    if (!shift) session.select(picked);
    else
      session.select(
        whole ? mergedSelection(session.selection, picked) : toggledSelection(session.selection, hit.element),
      );
    this.draw();
  }
  dragStart(): void {}
  drag(): void {}
  dragEnd(): void {}
  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }
  cancel(): boolean {
    const { session, view } = this.host;
    const { vertices, edges, faces } = session.selection;
    const had = vertices.length + edges.length + faces.length > 0 && !view.now.selectionLocked;
    if (had) session.select(EMPTY_SELECTION);
    this.hovered = null;
    this.host.tell(null);
    this.draw();
    return had;
  }

  /** Of an edge the walk that a second press takes; of a face that an edit left behind, what would mend it. */
  private words(hit: Hit | null): string | null {
    const { mesh, plane } = this.host.session;
    const e = hit?.element;
    if (e?.kind === 'edge') {
      const { words, stops } = walkOf(mesh, e.id, false, plane);
      return stops.length > 0 ? `${words}; R leads it on` : words;
    }
    return e?.kind === 'face' ? leftWords(mesh, e.id) : null;
  }

  private draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY };
    const e = this.hovered;
    const { mesh } = this.host.session;
    if (e?.kind === 'vertex' && mesh.hasVertex(e.id))
      overlay.points = [
        { at: seenPoint(this.host, mesh.point(e.id), e.mirrored), colour: MODEL_COLOURS.pointed, size: 13, shape: 0 },
      ];
    if (e?.kind === 'edge' && mesh.hasEdge(e.id)) {
      overlay.pointedEdges = [e.id];
      const walk = walkOf(mesh, e.id, false, this.host.session.plane);
      overlay.lines = seenEdges(this.host, walk.edges, e.mirrored, MODEL_COLOURS.pointed);
      overlay.points = stopMarks(this.host, walk.stops, e.mirrored);
    }
    if (e?.kind === 'face') overlay.pointedFace = e.id;
    this.host.draw(overlay);
  }
}
