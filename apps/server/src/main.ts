import { createServer } from 'node:http';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { AssetService } from './AssetService';
import { BlobStore } from './BlobStore';
import { createApp } from './app';
import { openDatabase } from './database';
import { DiskRoom } from './DiskRoom';
import { HeavyWork } from './HeavyWork';
import { ThreadRunner } from './jobs/JobRunner';
import { JobService } from './jobs/JobService';
import { ProjectArchive } from './ProjectArchive';
import { seedDemo } from './seed';

/** Entry of the server: PORT, HOST, HALF_LOOP_HOSTS, HALF_LOOP_ACCESS_CODE, DATABASE_URL, HALF_LOOP_PAGE, HALF_LOOP_DEMO=0. Says 'listening' to its parent. */
async function main(): Promise<void> {
  const here = path.dirname(fileURLToPath(import.meta.url));
  const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' });
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set; start with npm start, which brings a database along.');
  const port = Number(process.env.PORT ?? 4380);
  const host = process.env.HOST ?? '127.0.0.1';
  const db = await openDatabase(url);
  const blobs = new BlobStore(db, diskRoom());
  await blobs.sweep();
  const heavy = new HeavyWork(path.join(here, 'heavyWorker.js'));
  const assets = new AssetService(db, blobs, heavy);
  const archive = new ProjectArchive(db, blobs, heavy);
  const jobs = new JobService(db, blobs, assets, new ThreadRunner(path.join(here, 'jobWorker.js')));
  if (process.env.HALF_LOOP_DEMO !== '0') await seedDemo(db, assets, blobs, heavy, (line) => console.log(line));
  const hosts = new Set([
    'localhost',
    '127.0.0.1',
    '[::1]',
    ...(process.env.HALF_LOOP_HOSTS ?? '').split(',').filter(Boolean),
  ]);
  const page = process.env.HALF_LOOP_PAGE ?? path.join(here, '../../web/dist');
  const accessCode = process.env.HALF_LOOP_ACCESS_CODE;
  if (!isLoopback(host) && (accessCode ?? '').length < 22)
    throw new Error(
      'To listen beyond this machine, HALF_LOOP_ACCESS_CODE must hold at least 128 random bits; npm start -- --lan makes one.',
    );
  const server = createServer(
    createApp({ assets, archive, blobs, jobs, log, page, hosts, ...(accessCode ? { accessCode } : {}) }),
  );
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      const taken = error.code === 'EADDRINUSE';
      reject(
        taken ? new Error(`Port ${port} is in use by another program. Set PORT to a free one and start again.`) : error,
      );
    });
    server.listen(port, host, resolve);
  });
  await jobs.start();
  process.send?.({ listening: port });

  let closing = false;
  const close = async (): Promise<void> => {
    if (closing) return;
    closing = true;
    server.close();
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), 1500).unref();
    await jobs.close();
    await heavy.close();
    await db.destroy();
    process.exit(0);
  };
  process.on('SIGTERM', () => void close());
  process.on('SIGINT', () => void close());
  process.on('disconnect', () => void close());
}

function diskRoom(): DiskRoom {
  const { HALF_LOOP_DATABASE_FOLDER: folder, HALF_LOOP_RESERVE_MIB: reserve } = process.env;
  return new DiskRoom(folder ?? null, reserve === undefined ? undefined : Number(reserve));
}

const isLoopback = (host: string): boolean => host === 'localhost' || host === '::1' || host.startsWith('127.');

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
});
