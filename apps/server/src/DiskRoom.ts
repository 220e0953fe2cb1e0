import { statfs } from 'node:fs/promises';
import { HalfLoopError } from '@half-loop/core/errors';

const MIB = 1024 ** 2;
/** Room kept free for uploads; a save of work in hand may go down to a quarter of it. */
const RESERVE_MIB = 512;

/**
 * Keeps the database from ever meeting a full disk, which ends it: what would go below the reserve is refused beforehand, in
 * words. Without a folder (a database elsewhere) nothing is known and all is let through.
 */
export class DiskRoom {
  constructor(
    private readonly folder: string | null,
    private readonly reserveMib = RESERVE_MIB,
  ) {}

  /** Throws NO_SPACE when `bytes` more would leave too little. A few microseconds. */
  async check(bytes: number, kind: 'upload' | 'save'): Promise<void> {
    if (this.folder === null) return;
    const { bavail, bsize } = await statfs(this.folder);
    const reserve = this.reserveMib * MIB * (kind === 'save' ? 0.25 : 1);
    if (bavail * bsize - bytes >= reserve) return;
    throw new HalfLoopError(
      'NO_SPACE',
      `The disk of the server is nearly full (${Math.floor((bavail * bsize) / MIB)} MiB left); nothing was changed there. Make room on it: what waits goes out then.`,
    );
  }
}
