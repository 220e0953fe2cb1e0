import type { LogHead, SessionLog } from './SessionLog';
import type { Step } from './Step';

/** Steps kept in memory; older ones are fetched from the log. */
const IN_MEMORY = 300;

/** Where a session stands in its history, and the page's own store of it. Writes are asked for at once and end by themselves. */
export class Journal {
  head: LogHead;
  private readonly recent = new Map<number, Step>();

  constructor(
    private readonly log: SessionLog,
    private readonly failed: () => void,
  ) {
    this.head = log.head;
  }

  /** A step that is still in memory. */
  recentStep(seq: number): Step | undefined {
    return this.recent.get(seq);
  }
  /** One entry of the history; undefined once this browser has let it go. */
  async step(seq: number): Promise<Step | undefined> {
    return this.recent.get(seq) ?? this.log.step(seq);
  }

  /** Puts a step in its place; what came after it is gone. `encode` gives the document as the step leaves it. */
  put(seq: number, step: Step, encode: () => Uint8Array): void {
    for (const known of this.recent.keys()) if (known >= seq || known < seq - IN_MEMORY) this.recent.delete(known);
    this.recent.set(seq, step);
    const cutsSnapshot = seq < this.head.snapshotPosition;
    this.head = {
      ...this.head,
      titles: [...this.head.titles.slice(0, seq), { name: step.name, at: step.at }],
      position: seq + 1,
      stamp: this.head.stamp + 1,
      ...(cutsSnapshot ? { snapshotPosition: seq + 1 } : {}),
    };
    void this.log.write(this.head, { seq, step }, cutsSnapshot ? encode() : undefined).catch(this.failed);
  }

  write(change: Partial<LogHead>): void {
    this.head = { ...this.head, ...change };
    void this.log.write(this.head).catch(this.failed);
  }

  /** Keeps the document as it is now, so that what is left to replay stays short. */
  snapshot(bytes: Uint8Array): void {
    this.head = { ...this.head, snapshotPosition: this.head.position };
    void this.log.write(this.head, undefined, bytes).catch(this.failed);
  }
}
