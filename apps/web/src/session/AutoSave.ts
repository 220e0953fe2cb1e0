import { HalfLoopError } from '@half-loop/core/errors';
import type { SaveReceipt } from '@half-loop/contract';
import { api, gzip, messageOf, OfflineError } from './api';

export type SaveState =
  | { kind: 'saved'; at: number | null }
  | { kind: 'saving' }
  | { kind: 'waiting'; why: string }
  | { kind: 'conflict'; revision: number };

export interface SaveSource {
  assetId: string;
  /** the document as it is now, and the stamp of that state */
  capture(): { bytes: Uint8Array; stamp: number; base: number };
  acknowledged(receipt: SaveReceipt, stamp: number): void;
  isDirty(): boolean;
  /** a preview is in the document: what it holds now is nobody's decision yet */
  isPreviewing(): boolean;
  changed(): void;
}

interface Sending {
  packed: Uint8Array<ArrayBuffer>;
  stamp: number;
  base: number;
}

const SETTLE_MS = 350;
const POLL_MS = 100;
const RETRY_MS = [1000, 2000, 4000, 8000];

/** Sends the document within a second of a change, one save in flight, and keeps trying while the server is away. */
export class AutoSave {
  state: SaveState = { kind: 'saved', at: null };
  private timer: ReturnType<typeof setTimeout> | null = null;
  private inFlight = false;
  private failures = 0;
  /** sent, and not answered: it may have been stored, so that the same bytes go out again before anything newer */
  private unanswered: Sending | null = null;
  private stopped = false;

  constructor(private readonly source: SaveSource) {}

  /** Something changed; a save follows soon. */
  poke(delay = SETTLE_MS): void {
    if (this.stopped || this.state.kind === 'conflict') return;
    if (this.state.kind === 'saved') this.set({ kind: 'saving' });
    if (this.inFlight || this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.send();
    }, delay);
  }

  /** Settles once everything is saved. Rejects when the server cannot be reached, or has something newer. */
  async settled(): Promise<void> {
    while (this.source.isDirty()) {
      const { state } = this;
      if (state.kind === 'waiting') throw new HalfLoopError('INTERNAL', state.why);
      if (state.kind === 'conflict') throw new HalfLoopError('STALE_REVISION', 'This asset was saved from somewhere else meanwhile.'); // prettier-ignore
      this.poke(0);
      await new Promise((resolve) => setTimeout(resolve, POLL_MS));
    }
  }

  conflict(revision: number): void {
    this.set({ kind: 'conflict', revision });
  }

  /** After a conflict was settled. */
  resume(): void {
    this.unanswered = null;
    this.set({ kind: 'saved', at: null });
    if (this.source.isDirty()) this.poke(0);
  }

  stop(): void {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
  }

  private set(state: SaveState): void {
    this.state = state;
    this.source.changed();
  }

  private async send(): Promise<void> {
    if (this.stopped || !this.source.isDirty()) return this.set({ kind: 'saved', at: Date.now() });
    if (!this.unanswered && this.source.isPreviewing()) return this.poke();
    this.inFlight = true;
    try {
      const sending = this.unanswered ?? (await this.pack());
      const { packed, stamp, base } = sending;
      this.unanswered = sending;
      const receipt = await api.save(this.source.assetId, base, packed);
      this.unanswered = null;
      this.failures = 0;
      this.source.acknowledged(receipt, stamp);
      this.inFlight = false;
      if (this.source.isDirty()) this.poke();
      else this.set({ kind: 'saved', at: Date.now() });
    } catch (error) {
      this.inFlight = false;
      this.failed(error);
    }
  }

  private async pack(): Promise<Sending> {
    const { bytes, stamp, base } = this.source.capture();
    return { packed: await gzip(bytes), stamp, base };
  }

  private failed(error: unknown): void {
    if (!(error instanceof OfflineError)) this.unanswered = null;
    if (error instanceof HalfLoopError && error.code === 'STALE_REVISION')
      return this.set({ kind: 'conflict', revision: Number(error.details.revision) });
    const retry = RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)];
    this.set({ kind: 'waiting', why: error instanceof OfflineError ? error.message : messageOf(error) });
    this.poke(retry);
  }
}
