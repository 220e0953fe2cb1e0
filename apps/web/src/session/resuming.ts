import { decodeDocument, type AssetCard } from '@half-loop/contract';
import type { SculptSurface } from '@half-loop/core/surface';
import { Session } from './Session';
import { SessionLog, type LogHead } from './SessionLog';

/** What a page's log holds: the document as it was kept last, and after how many steps that was. */
export interface Recalled {
  log: SessionLog;
  bytes: Uint8Array;
  from: number;
}

/** Null where the log has no document any more. */
export async function recall(head: LogHead): Promise<Recalled | null> {
  const log = await SessionLog.adopt(head);
  const bytes = await log.snapshot();
  return bytes ? { log, bytes, from: head.snapshotPosition } : null;
}

/** The session as its log left it: the document that was kept last, and the steps from there, done again or undone. */
export async function resumed(
  asset: AssetCard,
  surface: SculptSurface | null,
  { log, bytes, from }: Recalled,
): Promise<Session> {
  const { position } = log.head;
  const session = new Session(asset, decodeDocument(bytes).document, surface, log);
  for (let seq = from; seq !== position; seq += seq < position ? 1 : -1) {
    const forward = seq < position;
    const step = await log.step(forward ? seq : seq - 1);
    if (step) session.apply(step, forward);
  }
  return session;
}
