import type { RowDataPacket } from 'mysql2/promise';
import type { Rng } from '@half-loop/core/math';
import { someDocument, type Client } from './Client';
import { pause, sha256, type World } from './World';

/** How one kill went. */
export interface Kill {
  /** whether a transaction of the server was seen open, with a lock it waited for, at the moment of the kill */
  inTransaction: boolean;
  wrong: string[];
}
export type KillKind = 'save' | 'race' | 'upload' | 'database';

const quiet = <T>(p: Promise<T>): Promise<T | null> => p.catch(() => null);

/**
 * Saves until a seeded moment, then kills the server. `inside`: an insert of ours, not committed, holds the row that the save's
 * second statement needs, so that the kill falls between its two statements.
 */
export async function killDuringSave(world: World, client: Client, rng: Rng, inside: boolean): Promise<Kill> {
  for (let i = Math.floor(rng() * 3); i > 0; i--) await client.save(someDocument(rng));
  const wrong: string[] = [];
  let inTransaction = false;
  if (inside) {
    const lock = await world.connect();
    await lock.beginTransaction();
    const { revision, hash } = client.acknowledged;
    await lock.query('INSERT INTO revision (assetId, revision, documentHash, savedAt) VALUES (?, ?, ?, NOW(3))', [client.asset.id, revision + 1, hash]); // prettier-ignore
    const answer = quiet(client.save(someDocument(rng)));
    inTransaction = await world.seesOpenTransaction(lock);
    await world.killServer();
    await answer;
    await lock.rollback();
    await lock.end();
  } else {
    const stop = { now: false };
    const saving = (async () => {
      while (!stop.now) if ((await quiet(client.save(someDocument(rng)))) === null) return;
    })();
    await pause(rng() * 400);
    await world.killServer();
    stop.now = true;
    await saving;
  }
  await world.startServer();
  return { inTransaction, wrong: [...wrong, ...(await client.compare()), ...(await orphans(world))] };
}

/** Two pages save on one revision at once and the server dies: at most one was acknowledged, and that one is there. */
export async function killDuringRace(world: World, client: Client, rng: Rng): Promise<Kill> {
  const { revision } = client.acknowledged;
  const sent = [someDocument(rng), someDocument(rng)];
  const put = (bytes: Uint8Array): Promise<number | null> =>
    quiet(
      fetch(`${client.base}/api/assets/${client.asset.id}/document`, {
        method: 'PUT',
        headers: { 'content-type': 'application/octet-stream', 'x-base-revision': String(revision) },
        body: Uint8Array.from(bytes),
      }).then(async (res) => {
        await res.arrayBuffer();
        return res.status;
      }),
    );
  const both = Promise.all(sent.map(put));
  await pause(rng() * 40);
  await world.killServer();
  const answers = await both;
  await world.startServer();
  const winners = sent.filter((_, i) => answers[i] === 200);
  const wrong: string[] = winners.length > 1 ? ['two saves on one revision were both acknowledged'] : [];
  const res = await fetch(`${client.base}/api/assets/${client.asset.id}/document`);
  const stored = sha256(Buffer.from(await res.arrayBuffer()));
  if (winners[0] && stored !== sha256(winners[0])) wrong.push('the acknowledged one of two saves is not there');
  client.unanswered = sent.find((s) => sha256(s) === stored) ?? null;
  return { inTransaction: false, wrong: [...wrong, ...(await client.compare()), ...(await orphans(world))] };
}

/** Kills the server while a few megabytes arrive. `inside`: while the insert that publishes them waits for a row of ours. */
export async function killDuringUpload(world: World, client: Client, rng: Rng, inside: boolean): Promise<Kill> {
  const bytes = new Uint8Array(1_500_000 + Math.floor(rng() * 4_000_000));
  for (let i = 0; i < bytes.length; i += 97) bytes[i] = Math.floor(rng() * 256);
  let inTransaction = false;
  if (inside) {
    const lock = await world.connect();
    await lock.beginTransaction();
    await lock.query('INSERT INTO `blob` (hash, uploadId, size, createdAt) VALUES (?, ?, 0, NOW(3))', [sha256(bytes), 'torture-holds-this']); // prettier-ignore
    const answer = quiet(client.upload(bytes));
    inTransaction = await world.seesOpenTransaction(lock);
    await world.killServer();
    await answer;
    await lock.rollback();
    await lock.end();
  } else {
    const answer = quiet(client.upload(bytes));
    await pause(rng() * 150);
    await world.killServer();
    await answer;
  }
  await world.startServer();
  return { inTransaction, wrong: [...(await client.compare()), ...(await orphans(world))] };
}

/** Kills MariaDB itself; the server finds no database and is started again with it. */
export async function killDatabase(world: World, client: Client, rng: Rng, inside: boolean): Promise<Kill> {
  let inTransaction = false;
  if (inside) {
    const lock = await world.connect();
    lock.on('error', () => undefined);
    await lock.beginTransaction();
    const { revision, hash } = client.acknowledged;
    await lock.query('INSERT INTO revision (assetId, revision, documentHash, savedAt) VALUES (?, ?, ?, NOW(3))', [client.asset.id, revision + 1, hash]); // prettier-ignore
    const answer = quiet(client.save(someDocument(rng)));
    inTransaction = await world.seesOpenTransaction(lock);
    await world.killDatabase();
    await answer;
    lock.destroy();
  } else {
    const stop = { now: false };
    const saving = (async () => {
      while (!stop.now) if ((await quiet(client.save(someDocument(rng)))) !== 200) return;
    })();
    await pause(rng() * 400);
    await world.killDatabase();
    stop.now = true;
    await saving;
  }
  await world.killServer();
  await world.startDatabase();
  await world.startServer();
  return { inTransaction, wrong: [...(await client.compare()), ...(await orphans(world))] };
}

/** After the sweep of a start nothing lies about: no chunk without its blob, no blob without all of its chunks. */
async function orphans(world: World): Promise<string[]> {
  const root = await world.connect();
  const count = async (sql: string): Promise<number> => Number((await root.query<RowDataPacket[]>(sql))[0][0].n);
  const wrong: string[] = [];
  const loose = await count('SELECT COUNT(*) AS n FROM chunk c LEFT JOIN `blob` b ON b.uploadId = c.uploadId WHERE b.hash IS NULL'); // prettier-ignore
  const holed = await count('SELECT COUNT(*) AS n FROM `blob` b WHERE b.size <> (SELECT COALESCE(SUM(LENGTH(c.data)), 0) FROM chunk c WHERE c.uploadId = b.uploadId)'); // prettier-ignore
  const dangling = await count('SELECT COUNT(*) AS n FROM asset a LEFT JOIN revision r ON r.assetId = a.id AND r.revision = a.revision LEFT JOIN `blob` b ON b.hash = a.documentHash WHERE r.assetId IS NULL OR b.hash IS NULL'); // prettier-ignore
  if (loose > 0) wrong.push(`${loose} chunks belong to no blob`);
  if (holed > 0) wrong.push(`${holed} blobs have not all their bytes`);
  if (dangling > 0) wrong.push(`${dangling} assets name a revision or bytes that are not there`);
  await root.end();
  return wrong;
}
