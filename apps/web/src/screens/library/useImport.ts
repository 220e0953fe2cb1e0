import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { HalfLoopError, type ErrorCode } from '@half-loop/core/errors';
import { LIMITS } from '@half-loop/contract';
import { messageOf } from '../../session/api';
import { withSculptWorker } from '../../session/sculptWorkerClient';
import type { Answer, Imported } from '../../workers/sculptWorker';

export type ImportState =
  | { name: 'reading'; stage: string; done: number }
  | { name: 'failed'; message: string }
  | { name: 'read'; imported: Imported };

/** Reads a dropped file, and those it names beside it, in a worker; leaving, or `cancel`, ends the worker at once. */
export function useImport(file: File, beside: File[]): { state: ImportState; cancel: () => void } {
  const [state, setState] = useState<ImportState>({ name: 'reading', stage: 'Opening the file', done: 0 });
  const abort = useRef<AbortController | null>(null);
  useEffect(() => {
    const controller = new AbortController();
    abort.current = controller;
    if (file.size > LIMITS.upload) {
      setState({
        name: 'failed',
        message: `“${file.name}” has ${(file.size / 1024 ** 3).toFixed(2)} GiB; 1 GiB is the most. Reduce the sculpt first, or save it as binary PLY.`,
      });
      return () => controller.abort();
    }
    // progress and the answer come over ports of their own, in no order: progress never replaces an answer
    const report = proxy((stage: string, done: number) => {
      if (controller.signal.aborted) return;
      setState((now) => (now.name === 'reading' ? { name: 'reading', stage, done } : now));
    });
    withSculptWorker<Answer<Imported>>(async (worker) => worker.import(file, beside, report), controller.signal)
      .then((answer) => {
        if ('error' in answer) throw new HalfLoopError(answer.error.code as ErrorCode, answer.error.message);
        setState({ name: 'read', imported: answer.ok });
      })
      .catch((error: unknown) => {
        if (!controller.signal.aborted) setState({ name: 'failed', message: messageOf(error) });
      });
    return () => controller.abort();
  }, [file, beside]);
  return { state, cancel: () => abort.current?.abort() };
}
