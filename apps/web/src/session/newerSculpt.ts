import { HalfLoopError } from '@half-loop/core/errors';
import { distance, type Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION, type Delta } from '@half-loop/core/mesh';
import { bringBack, runOperator } from '@half-loop/core/ops';
import { WalkingForm } from '@half-loop/core/surface';
import type { NewerSculpt } from '@half-loop/contract';
import { api } from './api';
import { withSculptWorker } from './sculptWorkerClient';
import type { Session } from './Session';

/**
 * Puts a stored sculpt in the place of the asset's: what is painted on the old one is carried over as a step, saved, and then the sculpts change. The page has to
 * open the asset again. Rejects with what went wrong; the asset then has the sculpt that it had.
 */
export async function replaceSculpt(session: Session, newer: NewerSculpt, canonical: Uint8Array): Promise<void> {
  const { surface, settings, sculptRegions, asset } = session;
  const isPainted = surface !== null && settings.sculptRegions !== '';
  if (isPainted) {
    const old = { positions: surface.positions, indices: surface.indices };
    const text = await withSculptWorker((worker) => worker.carryRegions(old, sculptRegions.labels, canonical));
    session.changeSettings('Regions carried to the newer sculpt', { sculptRegions: text }, false);
  }
  try {
    await session.autoSave.settled();
    await api.replaceSculpt(asset.id, newer);
  } catch (error) {
    // what was carried over fits the newer one only
    if (isPainted) await session.undo();
    throw error;
  }
}

/** A point that went somewhere else. */
export interface Move {
  from: Vec3;
  to: Vec3;
  length: number;
}

/** Brings every shown piece that is not locked back onto the sculpt, as one step; released points stay. Answers with the moves, the longest first; null where nothing could be done, which is told. */
export function reprojectAll(session: Session): Move[] | null {
  const { surface, document, piece } = session;
  if (!surface) return null;
  const meshes: { pieceId: string; delta: Delta }[] = [];
  const moves: Move[] = [];
  for (const { id, mesh, visible, locked, guide } of document.pieces) {
    if (locked || guide || (!visible && id !== piece.id) || mesh.vertexCount === 0) continue;
    const before = new Map([...mesh.vertices()].map((v) => [v, mesh.point(v)]));
    try {
      const ground = { plane: session.plane, form: new WalkingForm(surface) };
      const { delta } = runOperator(mesh, bringBack, EMPTY_SELECTION, {}, ground);
      meshes.push({ pieceId: id, delta });
    } catch (error) {
      if (!(error instanceof HalfLoopError)) throw error;
      session.say({ kind: 'refused', text: error.message });
    }
    for (const [v, from] of before) moves.push({ from, to: mesh.point(v), length: distance(from, mesh.point(v)) });
  }
  // the piece in hand first: a step shows where it worked
  meshes.sort((a, b) => Number(b.pieceId === piece.id) - Number(a.pieceId === piece.id));
  if (meshes.length === 0) {
    session.say({ kind: 'refused', text: 'No piece is here to be brought onto the sculpt, or all are locked.' });
    return null;
  }
  const { selection } = session;
  session.keep('All pieces brought onto the sculpt', { meshes, selection: { before: selection, after: selection } });
  session.events.emit('reset', undefined);
  return moves.filter((m) => m.length > 0).sort((a, b) => b.length - a.length);
}
