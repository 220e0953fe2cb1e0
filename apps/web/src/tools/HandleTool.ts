import { TopologyError } from '@half-loop/core/errors';
import { addScaled, distance, dot, mirrored, normalize, sub, type Vec3 } from '@half-loop/core/math';
import type { Selection } from '@half-loop/core/mesh';
import type { Operator } from '@half-loop/core/ops';
import type { Drag } from '../session';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Line } from '../viewport';
import type { Tool, ToolHost } from './Tool';

/** A point of the view that can be dragged. */
export interface Handle {
  id: string;
  at: Vec3;
  /** of a few that matter more than the rest */
  isMain: boolean;
}
export type Values = Record<string, unknown>;

interface Open {
  drag: Drag;
  handle: Handle;
  selection: Selection;
  /** the settings when the drag began */
  from: Values;
  start: Hit;
}

/** Within this many pixels a press takes a handle. */
const NEAR_PX = 13;

/**
 * An operator whose settings are dragged in the view by handles: the first drag is a step, each further one changes that step while it
 * is the latest. Esc takes a drag back.
 */
export abstract class HandleTool implements Tool {
  abstract readonly name: string;
  protected open: Open | null = null;
  private near: string | null = null;

  constructor(
    protected readonly host: ToolHost,
    private readonly op: Operator,
  ) {}

  protected abstract idleHint(): string;
  /** The handles for some settings, and lines between them. */
  protected abstract handles(values: Values, selection: Selection): { handles: Handle[]; lines: Line[] };
  /** The settings after a handle was dragged to a pixel. */
  protected abstract dragged(open: Open, hit: Hit): Values;
  /** A step begins: what the handles stand on is measured now. */
  protected abstract begin(selection: Selection): void;

  hint(): string {
    return this.open
      ? 'Let go to keep it; the handles still change it afterwards. Esc takes it back.'
      : this.idleHint();
  }
  hover(hit: Hit | null): void {
    this.near = hit && (this.handleAt(hit)?.id ?? null);
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return this.handleAt(hit) !== null;
  }
  click(): void {}
  dragStart(hit: Hit): void {
    const handle = this.handleAt(hit);
    if (!handle) return;
    const { session } = this.host;
    const live = this.live();
    const selection = live ? live.selection : session.selection;
    if (!live) this.begin(selection);
    const from = this.values();
    const drag = (live && session.reopen()) || session.drag();
    this.open = { drag, handle, selection, from, start: hit };
  }
  drag(hit: Hit): void {
    const { open } = this;
    if (!open) return;
    const values = this.dragged(open, hit);
    const done = open.drag.update(this.op, open.selection, values as never);
    this.host.tell(done instanceof TopologyError ? done.message : null);
    this.host.remember(this.op.name, values);
    this.draw();
  }
  dragEnd(): void {
    this.open?.drag.commit();
    this.open = null;
    this.host.tell(null);
    this.draw();
  }
  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }
  cancel(): boolean {
    const { open } = this;
    open?.drag.cancel();
    if (open) this.host.remember(this.op.name, open.from);
    this.open = null;
    this.host.tell(null);
    this.draw();
    return open !== null;
  }

  /** The latest step, when it is this tool's. */
  protected live(): { selection: Selection; params: Values } | null {
    const { latest } = this.host.session;
    return latest?.op.name === this.op.name ? { selection: latest.selection, params: latest.params as Values } : null;
  }
  protected values(): Values {
    return { ...this.host.settings(this.op.name), ...this.live()?.params };
  }
  protected shown(): { handles: Handle[]; lines: Line[] } {
    const { session } = this.host;
    if (session.mesh.vertexCount === 0) return { handles: [], lines: [] };
    const selection = this.open?.selection ?? this.live()?.selection ?? session.selection;
    return this.handles(this.open ? this.host.settings(this.op.name) : this.values(), selection);
  }

  private handleAt(hit: Hit): Handle | null {
    let best: Handle | null = null,
      least = NEAR_PX;
    for (const handle of this.shown().handles) {
      const p = this.host.scene.picker.pixelOf(handle.at);
      const far = Math.hypot(p.x - hit.x, p.y - hit.y);
      if (p.along > 0 && far < least) [best, least] = [handle, far];
    }
    return best;
  }

  /** How far a handle that stands at `from` is moved in the view's own plane when the pointer goes to a hit. */
  protected moveInView(from: Vec3, hit: Hit): Vec3 {
    const towards = normalize(sub(from, hit.view.eye));
    const along = distance(from, hit.view.eye) / Math.max(1e-6, dot(hit.direction, towards));
    return sub(addScaled(hit.view.eye, hit.direction, along), from);
  }

  protected draw(): void {
    const { handles, lines } = this.shown();
    const { plane } = this.host.session;
    const points = handles.map(({ id, at, isMain }) => ({
      at,
      colour:
        id === (this.open?.handle.id ?? this.near)
          ? MODEL_COLOURS.pointed
          : isMain
            ? MODEL_COLOURS.active
            : MODEL_COLOURS.ink,
      size: isMain ? 14 : 9,
      shape: 0 as const,
    }));
    const image = plane
      ? lines.map((l) => ({ ...l, a: mirrored(l.a, plane), b: mirrored(l.b, plane), width: l.width / 2 }))
      : [];
    this.host.draw({ ...NO_OVERLAY, points, lines: [...lines, ...image] });
  }
}
