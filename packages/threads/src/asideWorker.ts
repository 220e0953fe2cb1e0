import { workerData, type MessagePort } from 'node:worker_threads';
import { laidAside, type Errand, type LaidPart, type LayAllOptions, type Triangles } from '@half-loop/core/retopo';
import { Claims } from './Claims';

/** What the thread is made with. */
export interface Given {
  input: Triangles;
  options: LayAllOptions;
  errands: readonly Errand[];
  shared: SharedArrayBuffer;
  port: MessagePort;
}
export interface Answered {
  number: number;
  laid: LaidPart | undefined;
}

const { input, options, errands, shared, port } = workerData as Given;
const claims = new Claims(errands.length, shared);
laidAside(
  input,
  options,
  errands,
  (i) => claims.take(i),
  (number, laid) => {
    const told: Answered = { number, laid };
    port.postMessage(told);
    claims.done(number);
  },
  { stage: () => claims.alive() },
);
