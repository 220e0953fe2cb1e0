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

  /** One demo asset: its sculpt, when it has one, and its document, ready to be stored. */
  async makeDemo(name: string): Promise<{ sculpt: Uint8Array | null; document: Uint8Array }> {
    const { bytes, second } = await this.run({ kind: 'demo', name }, 15 * 60_000);
    return { sculpt: second ?? null, document: bytes as Uint8Array };
  }

  /** Between what is stored and the open forms of an archive; see openForms.ts. Throws BAD_FILE. */
  async convert(
    kind: 'packSculpt' | 'packDocument' | 'unpackSculpt' | 'unpackDocument',
    bytes: Uint8Array,
  ): Promise<{ bytes: Uint8Array; second?: Uint8Array }> {
    const { bytes: made, second } = await this.run({ kind, bytes });
    return { bytes: made as Uint8Array, ...(second ? { second } : {}) };
  }

  private async run(task: HeavyTask, deadlineMs = this.deadlineMs): Promise<HeavyResult> {
    const signal = AbortSignal.timeout(deadlineMs);
    const result = (await this.pool.run(task, { signal }).catch((error: unknown) => {
      if (!signal.aborted) throw error;
      throw new HalfLoopError(
        'BAD_FILE',
        `This took over ${deadlineMs / 1000} s and was stopped; the data may be damaged.`,
      );
    })) as HeavyResult;
    if (result.error) throw new HalfLoopError(result.error.code as ErrorCode, result.error.message);
    return result;
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
