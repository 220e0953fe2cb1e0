import { api, gzip, uploadBlob } from './api';
import type { Session } from './Session';

/** Keeps the document as it is now under a name, on the server. */
export async function saveVersion(session: Session, name: string): ReturnType<typeof api.saveVersion> {
  const { hash } = await uploadBlob(new Blob([await gzip(session.encode())]), () => undefined);
  return api.saveVersion(session.asset.id, name, hash);
}
