import { SculptDistance, type DistanceSummary } from '@half-loop/core/inspect';
import type { Session } from './Session';

const SLICE_MS = 6;

/** Keeps the distance to the sculpt up to date in small slices between frames; an edit costs the faces it touched. */
export class DistanceWatch {
  private measure: SculptDistance | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private stopped = false;

  constructor(private readonly session: Session) {
    session.events.on('mesh', () => this.wake());
    session.events.on('reset', () => this.restart());
    this.restart();
  }

  get summary(): DistanceSummary | null {
    return this.measure?.summary() ?? null;
  }
  /** Signed distances at a face's corners, file units; null until measured. */
  cornersOf(face: number): Float32Array | null {
    return this.measure?.cornersOf(face) ?? null;
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
