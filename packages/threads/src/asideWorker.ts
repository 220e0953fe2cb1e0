import { workerData, type MessagePort } from 'node:worker_threads';
import { laidAside, type LaidPart, type LayAllOptions, type Triangles } from '@half-loop/core/retopo';
import { Claims } from './Claims';

/** What the thread is made with. */
export interface Task {
  input: Triangles;
  options: LayAllOptions;
  parts: readonly number[];
  shared: SharedArrayBuffer;
  port: MessagePort;
}
export interface Answered {
  number: number;
  laid: LaidPart | undefined;
}

const { input, options, parts, shared, port } = workerData as Task;
const claims = new Claims(parts.length, shared);
laidAside(
  input,
  options,
  parts,
  (i) => claims.take(i),
  (number, laid) => {
    const told: Answered = { number, laid };
    port.postMessage(told);
    claims.done(number);
  },
  { stage: () => claims.alive() },
);
