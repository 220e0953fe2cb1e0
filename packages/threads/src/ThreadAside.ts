import { MessageChannel, receiveMessageOnPort, Worker } from 'node:worker_threads';
import type { Aside, AsideWork, LaidPart, LayAllOptions, Triangles } from '@half-loop/core/retopo';
import type { Answered, Task } from './asideWorker';
import { Claims } from './Claims';

/** Lays some of a form in a thread of its own. Who asks may be held up by its answers, so it asks from no thread that anything else waits for. */
export class ThreadAside implements Aside {
  /** `worker` is the bundled `asideWorker`; it is given up after so many milliseconds without a sign of life. */
  constructor(
    private readonly worker: URL,
    private readonly silent?: number,
  ) {}

  /** Cost: copies of the input. */
  start({ positions, indices }: Triangles, options: LayAllOptions, parts: readonly number[]): AsideWork {
    const { silent } = this;
    const claims = new Claims(parts.length);
    const { port1, port2 } = new MessageChannel();
    const task: Task = { input: { positions, indices }, options, parts, shared: claims.shared, port: port2 };
    const thread = new Worker(this.worker, { workerData: task, transferList: [port2] });
    // where it dies, its silence tells
    thread.on('error', () => undefined);
    thread.unref();
    const answers = new Map<number, LaidPart | undefined>();
    return {
      claim: (i) => claims.take(i),
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
