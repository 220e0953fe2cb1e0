import { MessageChannel, receiveMessageOnPort, Worker } from 'node:worker_threads';
import type { Aside, Errand, AsideWork, LaidPart, LayAllOptions, Triangles } from '@half-loop/core/retopo';
import type { Answered, Given } from './asideWorker';
import { Claims } from './Claims';

/** Runs errands of Lay all in a thread of its own. Who asks may be held up by its answers, so it asks from no thread that anything else waits for. */
export class ThreadAside implements Aside {
  /** `worker` is the bundled `asideWorker`; it is given up after so many milliseconds without a sign of life. */
  constructor(
    private readonly worker: URL,
    private readonly silent?: number,
  ) {}

  /** Cost: copies of the input. */
  start({ positions, indices }: Triangles, options: LayAllOptions, errands: readonly Errand[]): AsideWork {
    const { silent } = this;
    const claims = new Claims(errands.length);
    const { port1, port2 } = new MessageChannel();
    const given: Given = { input: { positions, indices }, options, errands, shared: claims.shared, port: port2 };
    const thread = new Worker(this.worker, { workerData: given, transferList: [port2] });
    // where it dies, its silence tells
    thread.on('error', () => undefined);
    thread.unref();
    const answers = new Map<number, LaidPart | undefined>();
    return {
      claim: (i) => claims.take(i),
      isDone: (i) => claims.isDone(i),
      answer(i) {
        if (!claims.wait(i, silent)) return undefined;
        for (let news = receiveMessageOnPort(port1); news; news = receiveMessageOnPort(port1)) {
          const { number, laid } = news.message as Answered;
          answers.set(number, laid);
        }
        return answers.get(i);
      },
      stop() {
        port1.close();
        void thread.terminate();
      },
    };
  }
}
