import { SculptDistance, type DistanceSummary } from '@half-loop/core/inspect';
import type { PolyMesh } from '@half-loop/core/mesh';
import type { SculptSurface } from '@half-loop/core/surface';
import type { Emitter } from './Emitter';

/** What is measured, as the session holds it now. */
interface Measured {
  readonly events: Emitter;
  readonly mesh: PolyMesh;
  readonly surface: SculptSurface | null;
}

const SLICE_MS = 6;

/** Keeps the distance to the sculpt up to date in small slices between frames; an edit costs the faces it touched. */
export class DistanceWatch {
  private measure: SculptDistance | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private stopped = false;

  constructor(private readonly session: Measured) {
    session.events.on('mesh', () => this.wake());
    session.events.on('reset', () => this.restart());
    this.restart();
  }

  get summary(): DistanceSummary | null {
    return this.measure?.summary() ?? null;
  }
  /** A face's worst distance, outside positive, file units; null until measured. */
  signedWorst(face: number): number | null {
    return this.measure?.signedWorst(face) ?? null;
  }

  stop(): void {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
  }

  private restart(): void {
    this.measure = this.session.surface ? new SculptDistance(this.session.mesh, this.session.surface) : null;
    this.wake();
  }

  private wake(): void {
    if (this.timer || this.stopped || !this.measure) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      const end = performance.now() + SLICE_MS;
      const done = this.session.mesh.inTransaction || (this.measure?.update(() => performance.now() > end) ?? true);
      if (!done) this.wake();
      this.session.events.emit('distance', undefined);
    }, 30);
  }
}
