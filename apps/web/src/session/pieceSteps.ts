import { encodeDocument, plainPiece, type Piece } from '@half-loop/contract';
import { appendFaces, decodeMesh, EMPTY_SELECTION, encodeMesh, PolyMesh, type Delta } from '@half-loop/core/mesh';
import { HalfLoopError } from '@half-loop/core/errors';
import { deletePicked, OPERATORS, runOperator, wholeParts, type Operator } from '@half-loop/core/ops';
import type { Session } from './Session';
import { lockOf, summaryOf } from './summary';

/** Other pieces in place of those that are there, as one step; `hand` names the one to work on next. Refused in words where that would change a locked one. */
export function changePieces(session: Session, name: string, pieces: Piece[], hand: string): void {
  const locked = session.document.pieces.find((p) => p.locked && pieces.find((q) => q.id === p.id)?.mesh !== p.mesh);
  if (locked) return session.say({ kind: 'refused', text: lockOf(locked) as string });
  const document = { ...session.document, pieces };
  session.replaceDocument(name, encodeDocument(document, summaryOf(document)));
  session.usePiece(hand);
}

export const freshId = ({ document }: Session): string => {
  for (let n = document.pieces.length + 1; ; n++) if (!document.pieces.some(({ id }) => id === `piece-${n}`)) return `piece-${n}`; // prettier-ignore
};
const freshName = (session: Session): string => `Piece ${session.document.pieces.length + 1}`;

/** A new piece with nothing in it. */
export function addPiece(session: Session): void {
  const id = freshId(session);
  const piece = plainPiece(id, freshName(session), new PolyMesh());
  changePieces(session, `“${piece.name}” begun`, [...session.document.pieces, piece], id);
}

/** A quick body that points stick to, shaped by brush and thrown away later: a ball without poles, taken in hand. It never ships. */
export function addGuideBody(session: Session, radius: number, at: readonly [number, number, number]): void {
  const mesh = new PolyMesh();
  runOperator(mesh, OPERATORS.get('ball') as Operator, EMPTY_SELECTION, { radius, cells: 16, at: [at[0], at[1] - radius, at[2]] } as never); // prettier-ignore
  const id = freshId(session);
  const n = session.document.pieces.filter((p) => p.guide).length + 1;
  const piece = { ...plainPiece(id, `Guide body ${n}`, mesh), guide: true };
  changePieces(session, `“${piece.name}” begun`, [...session.document.pieces, piece], id);
}

/** What was done to the piece in hand by the latest step, done to the other shown pieces too, as part of that step. */
export async function alsoPlaced(session: Session, op: Operator, params: object): Promise<void> {
  const seq = session.steps.position - 1;
  const step = await session.step(seq);
  if (!step?.meshes) return;
  const more: { pieceId: string; delta: Delta }[] = [];
  for (const { id, mesh, visible, locked } of session.document.pieces) {
    if (!visible || locked || id === session.piece.id || mesh.vertexCount === 0) continue;
    const all = { ...EMPTY_SELECTION, vertices: [...mesh.vertices()] };
    try {
      const { delta } = runOperator(mesh, op, all, params as never, { ...session.ground, form: null });
      more.push({ pieceId: id, delta });
    } catch (error) {
      if (!(error instanceof HalfLoopError)) throw error;
      session.say({ kind: 'refused', text: error.message });
    }
  }
  const { selection } = step;
  session.keep(
    `${step.name}, ${more.length} more pieces with it`,
    { selection, meshes: [...step.meshes, ...more] },
    seq,
  );
  session.events.emit('pieces', undefined);
}

/** The picked faces as a piece of their own: a copy, or taken out of where they are. False when none are picked. */
export function pieceFromPicked(session: Session, takesOut: boolean): boolean {
  const { selection, piece } = session;
  const faces = selection.faces.filter((f) => piece.mesh.hasFace(f));
  if (faces.length === 0) return false;
  const mesh = new PolyMesh();
  appendFaces(mesh, piece.mesh, faces);
  const made = plainPiece(freshId(session), freshName(session), mesh);
  const rest = takesOut ? decodeMesh(encodeMesh(piece.mesh)) : piece.mesh;
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

/** Another name or tint, hidden and shown again, locked and unlocked, or taken as a guide body. */
export function changePiece(
  session: Session,
  id: string,
  change: Partial<Pick<Piece, 'name' | 'visible' | 'guide' | 'tint' | 'locked'>>,
): void {
  const before = session.document.pieces.find((p) => p.id === id);
  if (!before) return;
  const after = { ...before, ...change };
  const what = ((): string => {
    if (change.name !== undefined) return `is now “${after.name}”`;
    if (change.guide !== undefined) return after.guide ? 'is a guide body' : 'ships again';
    if (change.tint !== undefined) return after.tint === null ? 'has no tint of its own' : 'tinted';
    if (change.locked !== undefined) return after.locked ? 'locked' : 'unlocked';
    return after.visible ? 'shown' : 'hidden';
  })();
  session.changeHeads(`“${before.name}” ${what}`, (head) => (head.id === id ? { ...head, ...change } : head));
}

/** A copy of a piece set aside, hidden, so that the one in hand can be cut up. */
export function setAside(session: Session): void {
  const { piece, document } = session;
  const mesh = decodeMesh(encodeMesh(piece.mesh));
  const copy = { ...piece, id: freshId(session), name: `${piece.name} aside`, visible: false, mesh };
  const at = document.pieces.indexOf(piece) + 1;
  const pieces = [...document.pieces.slice(0, at), copy, ...document.pieces.slice(at)];
  changePieces(session, `A copy of “${piece.name}” set aside`, pieces, piece.id);
}

/** Brings a piece to another place in the order in which pieces are listed and shipped. */
export function orderPiece(session: Session, id: string, to: number): void {
  const { pieces } = session.document;
  const from = pieces.findIndex((p) => p.id === id);
  if (from < 0 || to < 0 || to >= pieces.length || from === to) return;
  const rest = pieces.filter((p) => p.id !== id);
  changePieces(session, `“${pieces[from].name}” moved to place ${to + 1}`, [...rest.slice(0, to), pieces[from], ...rest.slice(to)], session.piece.id); // prettier-ignore
}

/** Each part that hangs together becomes a piece of its own; the first stays in hand. False when there is only one. */
export function partPieces(session: Session): boolean {
  const { piece, document } = session;
  const left = new Set(piece.mesh.faces());
  const meshes: PolyMesh[] = [];
  for (const f of left) {
    const mesh = new PolyMesh();
    const part = wholeParts(piece.mesh, [f]);
    for (const g of part) left.delete(g);
    appendFaces(mesh, piece.mesh, part);
    meshes.push(mesh);
  }
  if (meshes.length < 2) return false;
  const first = { ...piece, mesh: meshes[0] };
  const others = meshes.slice(1).map((mesh, i) => plainPiece(`${piece.id}-${i + 2}`, `${piece.name} ${i + 2}`, mesh));
  const known = new Set(document.pieces.map((p) => p.id));
  const fresh = others.map((p) => (known.has(p.id) ? { ...p, id: `${p.id}-${document.pieces.length}` } : p));
  const pieces = document.pieces.flatMap((p) => (p.id === piece.id ? [first, ...fresh] : [p]));
  changePieces(session, `“${piece.name}” parted into ${meshes.length} pieces`, pieces, piece.id);
  return true;
}

/** A piece goes; the last one stays. */
export function removePiece(session: Session, id: string): void {
  const { pieces } = session.document;
  const gone = pieces.find((p) => p.id === id);
  const rest = pieces.filter((p) => p.id !== id);
  if (!gone || rest.length === 0) return;
  changePieces(session, `“${gone.name}” deleted`, rest, session.piece.id === id ? rest[0].id : session.piece.id);
}
