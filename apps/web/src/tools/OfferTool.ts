import { TopologyError } from '@half-loop/core/errors';
import type { Outcome } from '@half-loop/core/ops';
import type { Drag } from '../session';
import type { Hit } from '../viewport';
import type { Offer, ToolHost } from './Tool';

/** A press that is answered in several ways, one of them in view. */
export interface OpenOffer {
  drag: Drag;
  /** each way in words, with its cost */
  ways: string[];
  way: number;
}

/** The ends of a tool whose press offers ways: a digit or the card shows another, Enter keeps the one in view, Esc none. */
export abstract class OfferTool<Open extends OpenOffer> {
  protected open: Open | null = null;
  protected hovered: Hit | null = null;

  constructor(protected readonly host: ToolHost) {}

  /** Runs the way that is to be shown. */
  protected abstract run(open: Open): Outcome | TopologyError;
  /** What is told beside the pointer for it. */
  protected abstract words(open: Open, outcome: Outcome): string;
  protected abstract draw(): void;
  protected abstract idleHint(): string;

  hint(): string {
    return this.offer() ? 'A digit shows another way. Enter keeps the one in view, Esc none.' : this.idleHint();
  }
  /** The ways of the open press; none once something else has ended it. */
  offer(): Offer | null {
    const { open } = this;
    if (!open?.drag.isOpen) return null;
    return { choices: open.ways, chosen: open.way, choose: (way) => this.show(way), accept: () => this.finish() };
  }
  wantsDrag(): boolean {
    return false;
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

  protected show(way: number): void {
    const { open } = this;
    if (!this.offer() || !open) return;
    open.way = way;
    const done = this.run(open);
    if (done instanceof TopologyError) {
      this.cancel();
      return this.host.session.say({ kind: 'refused', text: done.message });
    }
    this.host.tell(`Way ${way + 1} of ${open.ways.length}: ${this.words(open, done)}`);
    this.draw();
  }
  private close(): void {
    this.open = null;
    this.host.tell(null);
    this.draw();
  }
}
