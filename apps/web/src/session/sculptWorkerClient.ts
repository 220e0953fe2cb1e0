import { wrap, type Remote } from 'comlink';
import type { SculptWorker } from '../workers/sculptWorker';

/** Runs one piece of work in a fresh sculpt worker, which ends with it, or at once when cancelled. */
export async function withSculptWorker<T>(
  work: (worker: Remote<SculptWorker>) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  const worker = new Worker(new URL('../workers/sculptWorker.ts', import.meta.url), { type: 'module' });
  try {
    return await new Promise<T>((resolve, reject) => {
      const cancel = (): void => reject(new DOMException('cancelled', 'AbortError'));
      if (signal?.aborted) cancel();
      signal?.addEventListener('abort', cancel);
      worker.onerror = () => reject(new Error('the worker broke, probably for lack of memory'));
      work(wrap<SculptWorker>(worker)).then(resolve, reject);
    });
  } finally {
    worker.terminate();
  }
}
