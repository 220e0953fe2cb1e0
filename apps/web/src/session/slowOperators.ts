import { proxy } from 'comlink';
import { HalfLoopError } from '@half-loop/core/errors';
import { decodeMesh, encodeMesh } from '@half-loop/core/mesh';
import type { Operator } from '@half-loop/core/ops';
import type { OperatorWorker } from '../workers/operatorWorker';
import { besidePage, type BesideRun, type Tell } from './besidePage';
import type { Session } from './Session';

/**
 * Runs an operator that may take seconds on a copy of the low-poly, and takes what it made over as one step. Where it made the latest step, that
 * one is replaced, so that other settings can be tried. What changes the piece meanwhile is found
 * out at the end, and told. Such an operator has no form to hold points on but the piece's own.
 */
export function runSlow(session: Session, op: Operator, params: object, tell: Tell): BesideRun<void> {
  const worker = new Worker(new URL('../workers/operatorWorker.ts', import.meta.url), { type: 'module' });
  return besidePage<OperatorWorker, void>(worker, tell, async (remote, heard) => {
    const { latest, mesh, piece, plane } = session;
    const { position } = session.steps;
    const before = latest?.op.name === op.name ? latest : null;
    const locked = session.ground.locked ?? null;
    const selection = before?.selection ?? session.selection;
    const packed = before ? await packedBefore(session, before.seq) : encodeMesh(mesh);
    const made = await remote.run(packed, op.name, selection, params, { plane, locked }, proxy((done: number) => heard('Working', done))); // prettier-ignore
    if (session.piece.id !== piece.id || session.mesh !== mesh || session.steps.position !== position)
      throw new HalfLoopError('TOPOLOGY', `The piece was changed while ${op.title.toLowerCase()} was under way; start it again.`); // prettier-ignore
    if (before) await session.undo();
    session.takeOver(made, { op, selection, params, wasSlow: true });
  });
}

/** The low-poly as it was before its latest step. */
async function packedBefore(session: Session, seq: number): Promise<Uint8Array> {
  const copy = decodeMesh(encodeMesh(session.mesh));
  const delta = (await session.step(seq))?.meshes?.[0].delta;
  if (delta) copy.apply(delta, 'backward');
  return encodeMesh(copy);
}
