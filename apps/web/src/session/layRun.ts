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

/** A new piece, with the one in hand hidden, or in its place. */
export type KeptAs = 'piece' | 'in place';

/** What was laid, as one step. Before it takes the place of faces, a version is saved. */
export async function keepLaid(session: Session, laid: Laid, as: KeptAs): Promise<void> {
  const mesh = decodeMesh(laid.bytes);
  const hand = session.piece;
  const name = `All laid: ${laid.faces} quads`;
  if (as === 'in place' && hand.mesh.faceCount > 0) await saveVersion(session, `before laying all over ${hand.name}`);
  const others = (change: Partial<typeof hand>): (typeof hand)[] => session.document.pieces.map((p) => (p.id === hand.id ? { ...p, ...change } : p)); // prettier-ignore
  if (as === 'in place') return changePieces(session, name, others({ mesh }), hand.id);
  const id = freshId(session);
  changePieces(session, name, [...others({ visible: false }), plainPiece(id, 'Laid all over', mesh)], id);
}
