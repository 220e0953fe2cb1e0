import type * as z from 'zod/mini';
import type { TopologyError } from '@half-loop/core/errors';
import { touchedElements, type Delta, type PolyMesh, type Selection, type Touched } from '@half-loop/core/mesh';
import { Preview, type Operator, type Outcome } from '@half-loop/core/ops';

interface DragHost {
  touched(touched: Touched): void;
  committed(delta: Delta, outcome: Outcome): void;
  closed(): void;
}

/** One drag on the low-poly; tells the views what each update reached and gave back. */
export class Drag {
  private readonly preview: Preview;
  private open = true;

  constructor(
    private readonly mesh: PolyMesh,
    private readonly host: DragHost,
  ) {
    this.preview = new Preview(mesh);
  }

  /** A refusal leaves the starting state in view, and is returned. */
  update<S extends z.ZodMiniType>(op: Operator<S>, selection: Selection, params: z.input<S>): Outcome | TopologyError {
    const touched = touchedElements(this.mesh, this.mesh.openRows());
    const result = this.preview.update(op, selection, params);
    this.host.touched(touchedElements(this.mesh, this.mesh.openRows(), touched));
    return result;
  }

  commit(): Outcome | null {
    if (!this.open) return null;
    const touched = touchedElements(this.mesh, this.mesh.openRows());
    this.end();
    const done = this.preview.commit();
    if (!done) {
      this.host.touched(touchedElements(this.mesh, [], touched));
      return null;
    }
    this.host.committed(done.delta, done);
    return done;
  }

  cancel(): void {
    if (!this.open) return;
    const touched = touchedElements(this.mesh, this.mesh.openRows());
    this.end();
    this.preview.cancel();
    this.host.touched(touchedElements(this.mesh, [], touched));
  }

  private end(): void {
    this.open = false;
    this.host.closed();
  }
}
