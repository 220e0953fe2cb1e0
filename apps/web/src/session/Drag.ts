import type * as z from 'zod/mini';
import type { TopologyError } from '@half-loop/core/errors';
import { touchedElements, type Delta, type PolyMesh, type Selection, type Touched } from '@half-loop/core/mesh';
import { Preview, type Ground, type Operator, type Outcome } from '@half-loop/core/ops';
import type { Latest } from './Latest';

/** What the last update ran. */
type Made = Pick<Latest, 'op' | 'selection' | 'params'>;

export interface DragHost {
  touched(touched: Touched): void;
  committed(delta: Delta, outcome: Outcome, made: Made): void;
  closed(): void;
  /** nothing of the drag was kept */
  cancelled(): void;
}

/** One drag on the low-poly; tells the views what each update reached and gave back. */
export class Drag {
  private readonly preview: Preview;
  private open = true;
  /** of the last update; null when it was refused */
  outcome: Outcome | null = null;
  private made: Made | null = null;

  constructor(
    private readonly mesh: PolyMesh,
    ground: Ground,
    private readonly host: DragHost,
  ) {
    this.preview = new Preview(mesh, ground);
  }

  /** Neither committed nor cancelled yet. */
  get isOpen(): boolean {
    return this.open;
  }

  /** A refusal leaves the starting state in view, and is returned. */
  update<S extends z.ZodMiniType>(op: Operator<S>, selection: Selection, params: z.input<S>): Outcome | TopologyError {
    const touched = touchedElements(this.mesh, this.mesh.openRows());
    const result = this.preview.update(op, selection, params);
    this.outcome = 'report' in result ? result : null;
    this.made = { op: op as unknown as Operator, selection, params: params as object };
    this.host.touched(touchedElements(this.mesh, this.mesh.openRows(), touched));
    return result;
  }

  /** Adds to what the drag did so far; `whole` is what the step is remembered by. */
  extend<S extends z.ZodMiniType>(op: Operator<S>, selection: Selection, params: z.input<S>, whole: object): Outcome {
    const result = this.preview.extend(op, selection, params);
    this.made = { op: op as unknown as Operator, selection, params: whole };
    this.host.touched(touchedElements(this.mesh, this.mesh.openRows()));
    return result;
  }

  commit(): Outcome | null {
    if (!this.open) return null;
    const touched = touchedElements(this.mesh, this.mesh.openRows());
    this.end();
    const done = this.preview.commit();
    if (!done || !this.made) {
      this.host.touched(touchedElements(this.mesh, [], touched));
      this.host.cancelled();
      return null;
    }
    this.host.committed(done.delta, done, this.made);
    return done;
  }

  cancel(): void {
    if (!this.open) return;
    const touched = touchedElements(this.mesh, this.mesh.openRows());
    this.end();
    this.preview.cancel();
    this.host.touched(touchedElements(this.mesh, [], touched));
    this.host.cancelled();
  }

  private end(): void {
    this.open = false;
    this.host.closed();
  }
}
