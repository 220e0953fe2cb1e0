import { plainPiece, type JobCard, type LaidMeasures } from '@half-loop/contract';
import { decodeMesh, encodeMesh } from '@half-loop/core/mesh';
import { api, uploadBlob } from './api';
import type { LayTry } from './layTries';
import { changePieces, freshId } from './pieceSteps';
import { saveVersion } from './saveVersion';
import type { Session } from './Session';

/** Asks the server to lay over the sculpt, or over the piece in hand, each way as a job of one run; what came of the run before is dropped once this one is taken. */
export async function askToLay(
  session: Session,
  over: 'sculpt' | 'piece',
  tries: readonly LayTry[],
  before: readonly JobCard[],
): Promise<void> {
  // a piece of a symmetric asset is half already: its border on the plane stays a border
  const isHalf = over === 'piece' && session.plane !== null;
  const piece =
    over === 'piece'
      ? await uploadBlob(new Blob([encodeMesh(session.mesh) as Uint8Array<ArrayBuffer>]), () => undefined)
      : null;
  const ways = tries.map(({ label, options }) => {
    const { faces, plane } = options;
    const half = isHalf ? { faces: Math.max(6, Math.round(faces / 2)), plane: null } : { faces, plane };
    return { label, ask: { ...options, ...half, piece: piece?.hash ?? null } };
  });
  await api.askJobs(session.asset.id, { kind: 'lay-all', ways });
  await dropJobs(before);
}

export const dropJobs = async (jobs: readonly JobCard[]): Promise<void> =>
  void (await Promise.all(jobs.map((job) => api.dropJob(job.id))));

/** A new piece, with the one in hand hidden, or in its place. */
export type KeptAs = 'piece' | 'in place';

/** What was laid, as one step. Before it takes the place of faces, a version is saved. */
export async function keepLaid(session: Session, laid: LaidMeasures, as: KeptAs): Promise<void> {
  const mesh = decodeMesh(await api.blob(laid.hash));
  const hand = session.piece;
  // the other half mirrors what was laid
  const faces = laid.faces * (session.plane ? 2 : 1);
  const name = `All laid: ${faces.toLocaleString('en')} quads`;
  if (as === 'in place' && hand.mesh.faceCount > 0) await saveVersion(session, `before laying all over ${hand.name}`);
  const others = (change: Partial<typeof hand>): (typeof hand)[] =>
    session.document.pieces.map((p) => (p.id === hand.id ? { ...p, ...change } : p));
  if (as === 'in place') changePieces(session, name, others({ mesh }), hand.id);
  else {
    const id = freshId(session);
    changePieces(session, name, [...others({ visible: false }), plainPiece(id, 'Laid all over', mesh)], id);
  }
  const over = faces - session.settings.budget;
  const told = over > 0 ? `, ${over.toLocaleString('en')} over the budget` : '';
  const hidden = as === 'piece' ? `; “${hand.name}” is hidden` : '';
  session.say({ kind: 'done', text: `${faces.toLocaleString('en')} quads kept${told}${hidden}.` });
}
