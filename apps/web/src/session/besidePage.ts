import { wrap, type Remote } from 'comlink';

/** Work beside the page that can be stopped. */
export interface BesideRun<T> {
  /** settles with what came of it; rejects with what went wrong; never settles once stopped */
  done: Promise<T>;
  stop: () => void;
}

/** Words and progress in [0, 1]. */
export type Tell = (stage: string, done: number) => void;

/** Does a piece of work with a fresh worker, which ends with it, or at once when it is stopped. */
export function besidePage<W, T>(
  worker: Worker,
  tell: Tell,
  work: (remote: Remote<W>, tell: Tell) => Promise<T>,
): BesideRun<T> {
  let isStopped = false;
  // news may be on its way when it is stopped
  const heard: Tell = (stage, done) => {
    if (!isStopped) tell(stage, done);
  };
  return {
    done: work(wrap<W>(worker), heard).finally(() => worker.terminate()),
    stop() {
      isStopped = true;
      worker.terminate();
    },
  };
}
