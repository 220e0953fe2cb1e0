import { proxy, wrap, type Remote } from 'comlink';
import type { Flow, FlowAsked, FlowFormOptions } from '@half-loop/core/retopo';
import type { FlowInput, FlowWorker } from '../workers/flowWorker';

/** What a preview tells: what is being made ready, a flow, or why there is none. */
export type FlowNews = { stage: string; done: number } | { flow: Flow | null } | { failed: unknown };

/** Flows on one form, worked out beside the page; of what is asked for meanwhile only the last counts. */
export class FlowPreview {
  private readonly worker = new Worker(new URL('../workers/flowWorker.ts', import.meta.url), { type: 'module' });
  private readonly remote: Remote<FlowWorker> = wrap<FlowWorker>(this.worker);
  private readonly made: Promise<void>;
  private wanted: { asked: FlowAsked; regions: boolean } | null = null;
  private isBusy = false;
  private isClosed = false;

  constructor(
    input: FlowInput,
    options: Omit<FlowFormOptions, 'loops'>,
    private readonly tell: (news: FlowNews) => void,
  ) {
    this.made = this.remote.make(input, options, proxy((stage: string, done: number) => this.news({ stage, done }))); // prettier-ignore
    // told when a flow is asked for
    this.made.catch(() => undefined);
  }

  /** Asks for a flow, with `regions` along the borders of a piece's regions too. */
  ask(asked: FlowAsked, regions: boolean): void {
    this.wanted = { asked, regions };
    if (!this.isBusy) void this.work();
  }
  close(): void {
    this.isClosed = true;
    this.worker.terminate();
  }

  private async work(): Promise<void> {
    this.isBusy = true;
    try {
      await this.made;
      while (this.wanted && !this.isClosed) {
        const { asked, regions }: { asked: FlowAsked; regions: boolean } = this.wanted;
        this.wanted = null;
        const flow = await this.remote.flow(asked, regions);
        if (!this.wanted) this.news({ flow });
      }
    } catch (failed) {
      this.news({ failed });
    }
    this.isBusy = false;
  }
  private news(news: FlowNews): void {
    if (!this.isClosed) this.tell(news);
  }
}
