import type { Operator } from '@half-loop/core/ops';
import { messageOf, runSlow, type BesideRun, type Session } from '../../session';

/** The slow operator that is under way beside the page, one at a time. */
export class SlowRun {
  under: { op: Operator; done: number } | null = null;
  /** the parameters of the run that was cancelled last, until another begins */
  cancelled: object | null = null;
  private run: BesideRun<void> | null = null;
  private params: object | null = null;

  constructor(
    private readonly session: Session,
    private readonly changed: () => void,
  ) {}

  begin(op: Operator, params: object): void {
    this.stop();
    [this.params, this.cancelled] = [params, null];
    this.tell(op, 0);
    const run = runSlow(this.session, op, params, (_stage, done) => this.tell(op, done));
    this.run = run;
    run.done
      .catch((error: unknown) => this.session.say({ kind: 'refused', text: messageOf(error) }))
      .finally(() => this.run === run && this.stop());
  }

  cancel(): void {
    this.cancelled = this.params;
    this.stop();
  }

  stop(): void {
    this.run?.stop();
    this.run = null;
    this.under = null;
    this.changed();
  }

  private tell(op: Operator, done: number): void {
    this.under = { op, done };
    this.changed();
  }
}
