import type { Drag } from '../session';
import type { ToolHost } from './Tool';

/** What a drag holds while it goes on. */
export interface OpenDrag {
  drag: Drag;
  /** typed in place of how far the pointer went */
  typed: number | null;
}

/** The ends of a tool that is one drag: let go keeps it, Esc takes it back, typed digits lead it. */
export abstract class DragTool<Open extends OpenDrag> {
  protected open: Open | null = null;

  constructor(protected readonly host: ToolHost) {}

  typed(value: number | null): void {
    if (!this.open) return;
    this.open.typed = value;
    this.update();
  }
  dragEnd(): void {
    this.open?.drag.commit();
    this.close();
  }
  cancel(): boolean {
    const had = this.open !== null;
    this.open?.drag.cancel();
    this.close();
    return had;
  }
  finish(): boolean {
    return false;
  }
  stepBack(): boolean {
    return false;
  }

  protected close(): void {
    this.open = null;
    this.host.tell(null);
    this.draw();
  }
  /** Runs the operator with how far the drag has gone. */
  protected abstract update(): void;
  protected abstract draw(): void;
}
