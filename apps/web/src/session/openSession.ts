import { decodeDocument } from '@half-loop/contract';
import { SculptSurface } from '@half-loop/core/surface';
import { api, gzip, uploadBlob } from './api';
import { otherPages, takePage, thisPage } from './pages';
import { Session } from './Session';
import { logsOf, SessionLog, type LogHead } from './SessionLog';
import { takeOpening, type OnStage } from './opening';
import { recall, resumed } from './resuming';

/** Opens an asset: the server's document, or what this browser has that the server does not. */
export async function openSession(assetId: string, signal: AbortSignal, onStage: OnStage): Promise<Session> {
  const opening = takeOpening(assetId);
  opening.onStage = onStage;
  signal.addEventListener('abort', opening.cancel);
  // the sculpt takes longest: nothing that it does not need is waited for before it
  const [asset, data, fromServer, others] = await Promise.all([
    opening.card,
    opening.surface,
    api.document(assetId),
    otherPages(),
  ]);
  const surface = data && SculptSurface.fromData(data);
  const known = chooseLog(await logsOf(assetId), others);
  const local = known ? await recall(known) : null;
  const isUnsaved = known !== null && known.stamp !== known.savedStamp;
  if (local && known && (known.baseRevision === fromServer.revision || isUnsaved)) {
    takePage(known.pageId);
    const session = await resumed(asset, surface, local);
    if (known.baseRevision !== fromServer.revision) session.autoSave.conflict(fromServer.revision);
    else if (isUnsaved) session.autoSave.poke(0);
    return session;
  }
  const head: LogHead = {
    assetId,
    pageId: thisPage(),
    baseRevision: fromServer.revision,
    position: 0,
    titles: [],
    snapshotPosition: 0,
    stamp: 0,
    savedStamp: 0,
    use: (known?.use ?? 0) + 1,
  };
  const log = await SessionLog.begin(head, fromServer.bytes);
  return new Session(asset, decodeDocument(fromServer.bytes).document, surface, log);
}

/** This page's own log, else the newest of a page that is gone, unsaved ones first. */
function chooseLog(logs: LogHead[], others: ReadonlySet<string>): LogHead | null {
  const free = logs.filter((l) => l.pageId === thisPage() || !others.has(l.pageId));
  const rank = (l: LogHead): number =>
    (l.pageId === thisPage() ? 2e9 : 0) + (l.stamp !== l.savedStamp ? 1e9 : 0) + l.use;
  return free.sort((a, b) => rank(b) - rank(a))[0] ?? null;
}

/** Settles a conflict so that both are kept: one becomes the asset's document, the other a version. */
export async function settleConflict(session: Session, keep: 'mine' | 'theirs'): Promise<void> {
  const theirs = await api.document(session.asset.id);
  if (keep === 'mine') {
    await api.saveVersion(session.asset.id, 'Saved elsewhere');
  } else {
    const { hash } = await uploadBlob(new Blob([await gzip(session.encode())]), () => undefined);
    await api.saveVersion(session.asset.id, 'Kept from this browser', hash);
    session.replaceDocument('The other save taken over', theirs.bytes);
  }
  session.rebase(theirs.revision);
}
