import { encodeDocument, type Piece } from '@half-loop/contract';
import { appendFaces, decodeMesh, encodeMesh, PolyMesh } from '@half-loop/core/mesh';
import { deletePicked, runOperator } from '@half-loop/core/ops';
import type { Session } from './Session';
import { summaryOf } from './summary';

/** Other pieces in place of those that are there, as one step; `hand` names the one to work on next. */
function changePieces(session: Session, name: string, pieces: Piece[], hand: string): void {
  const document = { ...session.document, pieces };
  session.replaceDocument(name, encodeDocument(document, summaryOf(document)));
  session.usePiece(hand);
}

const freshId = ({ document }: Session): string => {
  for (let n = document.pieces.length + 1; ; n++) if (!document.pieces.some(({ id }) => id === `piece-${n}`)) return `piece-${n}`; // prettier-ignore
};
const freshName = (session: Session): string => `Piece ${session.document.pieces.length + 1}`;

/** A new piece with nothing in it. */
export function addPiece(session: Session): void {
  const id = freshId(session);
  const piece = { id, name: freshName(session), visible: true, mesh: new PolyMesh() };
  changePieces(session, `“${piece.name}” begun`, [...session.document.pieces, piece], id);
}

/** The picked faces as a piece of their own: a copy, or taken out of where they are. False when none are picked. */
export function pieceFromPicked(session: Session, takesOut: boolean): boolean {
  const { selection, piece } = session;
  const faces = selection.faces.filter((f) => piece.mesh.hasFace(f));
  if (faces.length === 0) return false;
  const mesh = new PolyMesh();
  appendFaces(mesh, piece.mesh, faces);
  const made = { id: freshId(session), name: freshName(session), visible: true, mesh };
  const rest = decodeMesh(encodeMesh(piece.mesh));
  if (takesOut) runOperator(rest, deletePicked, { vertices: [], edges: [], faces }, {});
  const pieces = session.document.pieces.map((p) => (p.id === piece.id ? { ...p, mesh: rest } : p));
  changePieces(session, `“${made.name}” ${takesOut ? 'taken out of' : 'copied from'} “${piece.name}”`, [...pieces, made], made.id); // prettier-ignore
  return true;
}

/** All of a piece's faces join the one in hand, and it goes. */
export function joinPiece(session: Session, id: string): void {
  const { piece, document } = session;
  const other = document.pieces.find((p) => p.id === id);
  if (!other || other.id === piece.id) return;
  const mesh = decodeMesh(encodeMesh(piece.mesh));
  appendFaces(mesh, other.mesh);
  const pieces = document.pieces.filter((p) => p.id !== id).map((p) => (p.id === piece.id ? { ...p, mesh } : p));
  changePieces(session, `“${other.name}” joined to “${piece.name}”`, pieces, piece.id);
}

/** Another name, or hidden and shown again. */
export function changePiece(session: Session, id: string, change: Partial<Pick<Piece, 'name' | 'visible'>>): void {
  const before = session.document.pieces.find((p) => p.id === id);
  if (!before) return;
  const after = { ...before, ...change };
  const what = change.name !== undefined ? `“${before.name}” is now “${after.name}”` : `“${before.name}” ${after.visible ? 'shown' : 'hidden'}`; // prettier-ignore
  changePieces(session, what, session.document.pieces.map((p) => (p.id === id ? after : p)), session.piece.id); // prettier-ignore
}

/** A piece goes; the last one stays. */
export function removePiece(session: Session, id: string): void {
  const { pieces } = session.document;
  const gone = pieces.find((p) => p.id === id);
  const rest = pieces.filter((p) => p.id !== id);
  if (!gone || rest.length === 0) return;
  changePieces(session, `“${gone.name}” deleted`, rest, session.piece.id === id ? rest[0].id : session.piece.id);
}
