import { EMPTY_SELECTION, type Selection } from '@half-loop/core/mesh';
import { border, connected, loop, runQuery } from '@half-loop/core/select';
import { MODEL_COLOURS, NO_OVERLAY, type ElementHit, type Hit, type Overlay } from '../viewport';
import { seenPoint } from './placing';
import type { Press, Tool, ToolHost } from './Tool';

const LIST = { vertex: 'vertices', edge: 'edges', face: 'faces' } as const;

/** Select: click an element, Shift adds or takes away; a second press takes the loop, the border, or all that hangs together. */
export class SelectTool implements Tool {
  readonly name = 'select';
  private hovered: ElementHit | null = null;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    return 'Click a point, edge or face. Shift adds or takes away. A second press takes the whole loop or border, or all faces that hang together. Delete deletes.';
  }
  hover(hit: Hit | null): void {
    this.hovered = hit?.element ?? null;
    this.draw();
  }
  wantsDrag(): boolean {
    return false;
  }
  click(hit: Hit, { shift, second }: Press): void {
    const { session } = this.host;
    if (!hit.element) {
      if (!shift) session.select(EMPTY_SELECTION);
      return;
    }
    const picked = second
      ? this.whole(hit.element)
      : { ...EMPTY_SELECTION, [LIST[hit.element.kind]]: [hit.element.id] };
    session.select(
      shift && !second ? toggled(session.selection, hit.element) : shift ? merged(session.selection, picked) : picked,
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
    const { session } = this.host;
    const { vertices, edges, faces } = session.selection;
    const had = vertices.length + edges.length + faces.length > 0;
    if (had) session.select(EMPTY_SELECTION);
    this.hovered = null;
    this.draw();
    return had;
  }

  private whole({ kind, id }: ElementHit): Selection {
    const { mesh } = this.host.session;
    const one = { ...EMPTY_SELECTION, [LIST[kind]]: [id] };
    if (kind !== 'edge') return runQuery(mesh, connected, one, {});
    return runQuery(mesh, mesh.isBorderEdge(id) ? border : loop, one, {});
  }

  private draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY };
    const e = this.hovered;
    const { mesh } = this.host.session;
    if (e?.kind === 'vertex' && mesh.hasVertex(e.id))
      overlay.points = [
        { at: seenPoint(this.host, mesh.point(e.id), e.mirrored), colour: MODEL_COLOURS.pointed, size: 13, shape: 0 },
      ];
    if (e?.kind === 'edge') overlay.pointedEdges = [e.id];
    if (e?.kind === 'face') overlay.pointedFace = e.id;
    this.host.draw(overlay);
  }
}

function toggled(selection: Selection, { kind, id }: ElementHit): Selection {
  const list = selection[LIST[kind]];
  return { ...selection, [LIST[kind]]: list.includes(id) ? list.filter((x) => x !== id) : [...list, id] };
}

function merged(a: Selection, b: Selection): Selection {
  const join = (x: readonly number[], y: readonly number[]): number[] => [...new Set([...x, ...y])];
  return { vertices: join(a.vertices, b.vertices), edges: join(a.edges, b.edges), faces: join(a.faces, b.faces) };
}
