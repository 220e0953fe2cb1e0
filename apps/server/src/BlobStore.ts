import { createHash } from 'node:crypto';
import type { DataSource, EntityManager } from 'typeorm';
import { HalfLoopError } from '@half-loop/core/errors';
import type { BlobReceipt } from '@half-loop/contract';
import { Assets, Blobs, Chunks, Jobs, Revisions, Versions, type BlobRow } from './entities';
import { DiskRoom } from './DiskRoom';
import { newId } from './ids';

const CHUNK = 1024 * 1024;
/** An unused blob younger than this may belong to work in hand, milliseconds. */
const GRACE = 60 * 60 * 1000;

/**
 * Bytes by their SHA-256, in rows of 1 MiB. Chunks are written under an upload's own id with ordinary commits and
 * hashed on the way; one small insert publishes them. What never gets published is swept at start.
 */
export class BlobStore {
  constructor(
    private readonly db: DataSource,
    private readonly room = new DiskRoom(null),
  ) {}

  /** Stores a stream; the same bytes are stored once. Throws TOO_LARGE past `limit`, NO_SPACE when the disk is nearly full. */
  async put(
    source: AsyncIterable<Uint8Array>,
    limit: number,
    kind: 'upload' | 'save' = 'upload',
  ): Promise<BlobReceipt> {
    const uploadId = newId();
    const hash = createHash('sha256');
    let size = 0,
      n = 0,
      held: Uint8Array[] = [],
      heldBytes = 0;
    const flush = async (): Promise<void> => {
      if (heldBytes === 0) return;
      await this.room.check(heldBytes, kind);
      await this.db.getRepository(Chunks).insert({ uploadId, n: n++, data: Buffer.concat(held) });
      held = [];
      heldBytes = 0;
    };
    try {
      for await (const part of source) {
        size += part.length;
        if (size > limit)
          throw new HalfLoopError(
            'TOO_LARGE',
            `The file is larger than ${Math.round(limit / 1024 ** 2)} MiB, the most that can be stored.`,
          );
        hash.update(part);
        for (let at = 0; at < part.length;) {
          const piece = part.subarray(at, at + CHUNK - heldBytes);
          held.push(piece);
          heldBytes += piece.length;
          at += piece.length;
          if (heldBytes === CHUNK) await flush();
        }
      }
      await flush();
      return await this.publish(uploadId, hash.digest('hex'), size);
    } catch (error) {
      await this.db.getRepository(Chunks).delete({ uploadId });
      throw error;
    }
  }

  putBytes(bytes: Uint8Array, kind: 'upload' | 'save' = 'upload'): Promise<BlobReceipt> {
    return this.put(once(bytes), bytes.length, kind);
  }

  private async publish(uploadId: string, hash: string, size: number): Promise<BlobReceipt> {
    const fresh = await this.db.transaction(async (m) => {
      const result = await m.query('INSERT IGNORE INTO `blob` (hash, uploadId, size, createdAt) VALUES (?, ?, ?, ?)', [
        hash,
        uploadId,
        size,
        new Date(),
      ]);
      return (result as { affectedRows: number }).affectedRows === 1;
    });
    if (!fresh) await this.db.getRepository(Chunks).delete({ uploadId });
    return { hash, size };
  }

  async find(hash: string, manager: EntityManager = this.db.manager): Promise<BlobRow> {
    const row = await manager.getRepository(Blobs).findOneBy({ hash });
    if (!row) throw new HalfLoopError('NOT_FOUND', 'These bytes are not stored here.', { hash });
    return row;
  }

  /** The bytes, chunk by chunk, one read ahead. */
  async *read(hash: string): AsyncGenerator<Buffer> {
    const { uploadId, size } = await this.find(hash);
    const chunks = Math.ceil(size / CHUNK);
    const fetch = (n: number): Promise<Buffer> =>
      this.db
        .getRepository(Chunks)
        .findOneByOrFail({ uploadId, n })
        .then((row) => row.data);
    let next = chunks > 0 ? fetch(0) : null;
    for (let n = 0; next; n++) {
      const data = await next;
      next = n + 1 < chunks ? fetch(n + 1) : null;
      next?.catch(() => undefined);
      yield data;
    }
  }

  async readAll(hash: string): Promise<Buffer> {
    const parts: Buffer[] = [];
    for await (const part of this.read(hash)) parts.push(part);
    return Buffer.concat(parts);
  }

  /** Removes blobs that nothing names and chunks that no blob owns. Run at start, before uploads. */
  async sweep(now = Date.now()): Promise<{ blobs: number; chunks: number }> {
    const used = new Set<string | null>();
    for (const a of await this.db.getRepository(Assets).find())
      [a.sculptHash, a.originalHash, a.documentHash, a.sculptBefore, a.originalBefore].forEach((h) => used.add(h));
    for (const rows of [await this.db.getRepository(Revisions).find(), await this.db.getRepository(Versions).find()])
      for (const { documentHash } of rows) used.add(documentHash);
    for (const { ask, result } of await this.db.getRepository(Jobs).find())
      [ask.piece, result?.hash ?? null].forEach((h) => used.add(h));
    let blobs = 0;
    for (const { hash, createdAt } of await this.db.getRepository(Blobs).find()) {
      if (used.has(hash) || now - createdAt.getTime() < GRACE) continue;
      await this.db.getRepository(Blobs).delete({ hash });
      blobs++;
    }
    const result = await this.db.query(
      'DELETE c FROM chunk c LEFT JOIN `blob` b ON b.uploadId = c.uploadId WHERE b.hash IS NULL',
    );
    return { blobs, chunks: (result as { affectedRows: number }).affectedRows };
  }
}

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}
