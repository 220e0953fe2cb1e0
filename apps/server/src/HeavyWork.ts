import { Piscina } from 'piscina';
import { HalfLoopError, type ErrorCode } from '@half-loop/core/errors';
import type { HeavyTask, HeavyResult } from './heavyWorker';

/** Work that would hold up the server, in threads that can be killed. */
export class HeavyWork {
  private readonly pool: Piscina;

  /** `worker` is the bundled worker's path; a task past the deadline is killed. */
  constructor(
    worker: string,
    private readonly deadlineMs = 120_000,
  ) {
    this.pool = new Piscina({ filename: worker, maxThreads: 2, minThreads: 0, idleTimeout: 30_000 });
  }

  /** Throws BAD_FILE when the sculpt's bytes are not sound. */
  async checkSculpt(bytes: Uint8Array): Promise<void> {
    await this.run({ kind: 'checkSculpt', bytes });
  }

  async drawThumbnail(document: Uint8Array, sculpt: Uint8Array | null): Promise<Buffer> {
    const result = await this.run({ kind: 'thumbnail', document, sculpt });
    return Buffer.from(result.bytes as Uint8Array);
  }

  /** One demo asset: its sculpt and its document, ready to be stored. */
  async makeDemo(name: string): Promise<{ sculpt: Uint8Array; document: Uint8Array }> {
    const { bytes, second } = await this.run({ kind: 'demo', name });
    return { sculpt: bytes as Uint8Array, document: second as Uint8Array };
  }

  private async run(task: HeavyTask): Promise<HeavyResult> {
    const result = (await this.pool.run(task, { signal: AbortSignal.timeout(this.deadlineMs) })) as HeavyResult;
    if (result.error) throw new HalfLoopError(result.error.code as ErrorCode, result.error.message);
    return result;
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
