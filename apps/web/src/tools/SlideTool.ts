import { distance, dot, normalize, sub, type Vec3 } from '@half-loop/core/math';
import { edgeLoop, EMPTY_SELECTION, type Selection } from '@half-loop/core/mesh';
import { slide } from '@half-loop/core/ops';
import { TopologyError } from '@half-loop/core/errors';
import { MODEL_COLOURS, NO_OVERLAY, type ElementHit, type Hit, type Overlay } from '../viewport';
import { DragTool, type OpenDrag } from './DragTool';
import { seenPoint } from './placing';
import type { Press, Tool } from './Tool';

interface Sliding extends OpenDrag {
  selection: Selection;
  /** pixels of a full slide, and their direction on the screen */
  rail: { x: number; y: number; towards: number };
  start: { x: number; y: number };
  by: number;
  length: number;
}

/** Slide: drag a loop, an edge or a point along the edges it meets. A second press takes the whole loop. */
export class SlideTool extends DragTool<Sliding> implements Tool {
  readonly name = 'slide';
  private hovered: ElementHit | null = null;

  hint(): string {
    if (this.open) return 'Let go to leave it here. Type a percentage for an exact place. Esc puts it back.';
    return 'Drag an edge or a point along the edges it meets. Press twice, or hold Shift, for the whole loop; what is picked slides together.';
  }
  hover(hit: Hit | null): void {
    this.hovered = hit?.element ?? null;
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return hit.element?.kind === 'edge' || hit.element?.kind === 'vertex';
  }
  click(hit: Hit, press: Press): void {
    if (!hit.element || hit.element.kind === 'face') return;
    this.host.session.select(this.taken(hit.element, press));
    this.draw();
  }
  dragStart(hit: Hit, press: Press): void {
    const { session } = this.host;
    if (!hit.element || hit.element.kind === 'face') return;
    const selection = this.taken(hit.element, press);
    const rail = this.railFor(hit, selection);
    if (!rail) return session.say({ kind: 'refused', text: 'There is no edge here to slide along.' });
    session.select(selection);
    this.open = {
      drag: session.drag(),
      selection,
      rail,
      start: { x: hit.x, y: hit.y },
      by: 0,
      typed: null,
      length: rail.length,
    };
  }
  drag(hit: Hit): void {
    if (!this.open) return;
    const { rail, start } = this.open;
    const d2 = rail.x * rail.x + rail.y * rail.y;
    this.open.by =
      d2 > 0 ? Math.max(-1, Math.min(1, ((hit.x - start.x) * rail.x + (hit.y - start.y) * rail.y) / d2)) : 0;
    this.update();
  }

  protected update(): void {
    if (!this.open) return;
    const { drag, selection, rail, by, typed, length } = this.open;
    const share = typed === null ? by : Math.max(-1, Math.min(1, typed / 100));
    const done = drag.update(slide, selection, { ...this.host.settings(slide.name), by: share, towards: rail.towards });
    this.host.tell(
      done instanceof TopologyError
        ? done.message
        : `${Math.round(share * 100)} %, ${this.host.length(Math.abs(share) * length)}`,
    );
    this.draw();
  }

  /** What a press takes: what is picked when it is part of that, the loop on a second press, else the element. */
  private taken({ kind, id }: ElementHit, { second, shift }: Press): Selection {
    const { session } = this.host;
    if (kind === 'edge') {
      if (second || shift)
        return { ...EMPTY_SELECTION, edges: edgeLoop(session.mesh, 2 * id).halves.map((h) => h >> 1) };
      return session.selection.edges.includes(id)
        ? { ...EMPTY_SELECTION, edges: session.selection.edges }
        : { ...EMPTY_SELECTION, edges: [id] };
    }
    return session.selection.vertices.includes(id)
      ? { ...EMPTY_SELECTION, vertices: session.selection.vertices }
      : { ...EMPTY_SELECTION, vertices: [id] };
  }

  /** The edge that leaves what is dragged and lies most across it on the screen. */
  private railFor(hit: Hit, selection: Selection): { x: number; y: number; towards: number; length: number } | null {
    const { mesh } = this.host.session;
    const e = hit.element as ElementHit;
    const own = new Set(selection.edges);
    const from = e.kind === 'vertex' ? [e.id] : [mesh.origin(2 * e.id), mesh.target(2 * e.id)];
    const along: Vec3 | null = e.kind === 'edge' ? normalize(sub(mesh.point(from[1]), mesh.point(from[0]))) : null;
    let best: { x: number; y: number; towards: number; length: number; rank: number } | null = null;
    for (const v of from)
      for (const h of mesh.vertexHalves(v)) {
        if (own.has(h >> 1) || (e.kind === 'edge' && h >> 1 === e.id)) continue;
        const towards = mesh.target(h);
        const [p, q] = [mesh.point(v), mesh.point(towards)];
        const [a, b] = [p, q].map((x) => this.host.scene.picker.pixelOf(seenPoint(this.host, x, e.mirrored)));
        const square = along ? 1 - Math.abs(dot(along, normalize(sub(q, p)))) : 1;
        const rank = Math.hypot(b.x - a.x, b.y - a.y) * (0.2 + square);
        if (!best || rank > best.rank) best = { x: b.x - a.x, y: b.y - a.y, towards, length: distance(p, q), rank };
      }
    return best;
  }

  protected draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const e = this.hovered;
    const { mesh } = this.host.session;
    if (!this.open && e?.kind === 'edge' && mesh.hasEdge(e.id)) overlay.pointedEdges = [e.id];
    if (!this.open && e?.kind === 'vertex' && mesh.hasVertex(e.id))
      overlay.points = [
        { at: seenPoint(this.host, mesh.point(e.id), e.mirrored), colour: MODEL_COLOURS.pointed, size: 13, shape: 0 },
      ];
    this.host.draw(overlay);
  }
}
