import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { AssetSettings, LaidMeasures, LayAllAsk } from '@half-loop/contract';
import { HalfLoopError, type ErrorCode } from '@half-loop/core/errors';

/** A job's input, as its worker takes it; the asset's directions are for pictures. */
export interface JobTask extends Pick<AssetSettings, 'up' | 'front'> {
  ask: LayAllAsk;
  /** the stored sculpt, or the packed low-poly that the ask names */
  input: Uint8Array;
}
/** What comes out: the packed low-poly and its measures. */
export interface JobResult {
  bytes: Uint8Array;
  measures: Omit<LaidMeasures, 'hash'>;
}
/** On the way: a stage begins, or there is something to look at, as PNG. */
export type JobNews = { stage: string; done: number } | { picture: Uint8Array };

/** Runs jobs somewhere: in threads of this process, or on other machines. */
export interface JobRunner {
  /** how many run at once */
  readonly places: number;
  /** Rejects with an AbortError when the signal says so, else with a HalfLoopError that says why it was refused. */
  run(task: JobTask, signal: AbortSignal, tell: (news: JobNews) => void): Promise<JobResult>;
  close(): Promise<void>;
}

export type JobOutcome = JobResult | { error: { code: string; message: string } };

/** A thread that has run a job runs the next one some seconds sooner: so long it is kept for the next way that is tried, milliseconds. */
const WARM = 300_000;

/** Runs jobs in threads of this process, which are killed when a job is cancelled. */
export class ThreadRunner implements JobRunner {
  private readonly pool: Piscina;
  private running = 0;

  /** `worker` is the bundled worker's path. */
  constructor(
    worker: string,
    readonly places = 2,
  ) {
    this.pool = new Piscina({ filename: worker, maxThreads: places, minThreads: 0, idleTimeout: WARM });
  }

  async run(task: JobTask, signal: AbortSignal, tell: (news: JobNews) => void): Promise<JobResult> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', tell);
    this.running++;
    try {
      const outcome = (await this.pool.run(
        { ...task, isAlone: this.running === 1, port: port2 },
        { signal, transferList: [port2] },
      )) as JobOutcome;
      if ('error' in outcome) throw new HalfLoopError(outcome.error.code as ErrorCode, outcome.error.message);
      return outcome;
    } finally {
      this.running--;
      port1.close();
    }
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
