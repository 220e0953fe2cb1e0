import { expose } from 'comlink';
import { decodeMesh, type Delta, type Selection } from '@half-loop/core/mesh';
import { OPERATORS, runOperator, type Ground, type Operator, type Outcome } from '@half-loop/core/ops';

const api = {
  /** An operator on a packed low-poly, without a form: what it changed, for the mesh that was packed. `tell` hears how far it is. */
  run(
    piece: Uint8Array,
    name: string,
    selection: Selection,
    params: object,
    { plane, locked }: Pick<Ground, 'plane' | 'locked'>,
    tell: (done: number) => void,
  ): Outcome & { delta: Delta } {
    const ground: Ground = { plane, locked, form: null, tell };
    return runOperator(decodeMesh(piece), OPERATORS.get(name) as Operator, selection, params as never, ground);
  },
};

export type OperatorWorker = typeof api;
expose(api);
