import { proxy, wrap } from 'comlink';
import { plainPiece } from '@half-loop/contract';
import { decodeMesh, encodeMesh } from '@half-loop/core/mesh';
import type { LayAllOptions } from '@half-loop/core/retopo';
import type { Laid, LayAllInput, LayAllWorker } from '../workers/layAllWorker';
import { changePieces, freshId } from './pieceSteps';
import { saveVersion } from './saveVersion';
import type { Session } from './Session';

/** Automatic retopology under way in a worker of its own. */
export interface LayRun {
  done: Promise<Laid>;
  /** ends the worker; `done` never settles then */
  cancel(): void;
}

/** Lays over the sculpt, or over the piece in hand. The page is not held up. */
export function layOver(
  session: Session,
  what: 'sculpt' | 'piece',
  options: LayAllOptions,
  tell: (stage: string, done: number) => void,
): LayRun {
  const worker = new Worker(new URL('../workers/layAllWorker.ts', import.meta.url), { type: 'module' });
  const { surface } = session;
  const input: LayAllInput =
    what === 'sculpt' && surface
      ? { triangles: { positions: surface.positions, indices: surface.indices } }
      : { piece: encodeMesh(session.mesh) };
  // a piece of a symmetric asset is half already: its border on the plane stays a border
  const half = what === 'piece' && session.plane ? { ...options, plane: null, faces: options.faces / 2 } : options;
  const done = wrap<LayAllWorker>(worker)
    .lay(input, half, proxy(tell))
    .finally(() => worker.terminate());
  return { done, cancel: () => worker.terminate() };
}

/** What was laid, as one step: a new piece, or in place of the one in hand, of which a version is saved first. */
export async function keepLaid(session: Session, laid: Laid, as: 'piece' | 'in place'): Promise<void> {
  const mesh = decodeMesh(laid.bytes);
  const { pieces } = session.document;
  if (as === 'piece') {
    const id = freshId(session);
    changePieces(session, `All laid: ${laid.faces} quads`, [...pieces, plainPiece(id, 'Laid all over', mesh)], id);
    return;
  }
  await saveVersion(session, `before laying all over ${session.piece.name}`);
  const hand = session.piece.id;
  changePieces(session, `All laid: ${laid.faces} quads`, session.document.pieces.map((p) => (p.id === hand ? { ...p, mesh } : p)), hand); // prettier-ignore
}
