import { createWriteStream, readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import express, { type Express } from 'express';
import type { Logger } from 'pino';
import { HalfLoopError } from '@half-loop/core/errors';
import { LIMITS, NewAsset, NewerSculpt, NewProject, NewVersion, Rename } from '@half-loop/contract';
import type { AssetService } from './AssetService';
import type { BlobStore } from './BlobStore';
import type { ProjectArchive } from './ProjectArchive';
import { accessDoor } from './access';
import { bodyOf } from './bodyOf';
import { headers, nonceOf, sameOrigin } from './guard';
import { jobRoutes } from './jobs/jobRoutes';
import type { JobService } from './jobs/JobService';
import { openApi } from './openApi';
import { problems } from './problem';

export interface AppParts {
  assets: AssetService;
  archive: ProjectArchive;
  blobs: BlobStore;
  jobs: JobService;
  log: Logger;
  /** folder of the built page; none for the API alone */
  page?: string;
  hosts?: ReadonlySet<string>;
  /** asked for before anything else is answered; none on loopback */
  accessCode?: string;
}

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]']);

/** The server's routes: each parses, calls a service and maps the result. */
export function createApp({
  assets,
  archive,
  blobs,
  jobs,
  log,
  page,
  hosts = LOOPBACK,
  accessCode,
}: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(...headers());
  app.use('/api', sameOrigin(hosts));
  // the guides of a whole asset may be long
  app.use('/api/assets/:id/jobs', express.json({ limit: '8mb' }));
  app.use('/api', express.json({ limit: '256kb' }));
  app.get('/api/health', (_req, res) => void res.json({ ok: true, version: '0.1.0' }));
  accessRoutes(app, accessCode);
  libraryRoutes(app, assets);
  archiveRoutes(app, archive);
  blobRoutes(app, blobs);
  documentRoutes(app, assets);
  jobRoutes(app, jobs);
  app.get('/api/openapi.json', (_req, res) => void res.json(openApi()));
  app.use('/api', (_req, _res, next) => next(new HalfLoopError('NOT_FOUND', 'There is nothing at this address.')));
  if (page) pageRoutes(app, page);
  app.use(problems(log));
  return app;
}

function accessRoutes(app: Express, code: string | undefined): void {
  if (code === undefined) {
    app.get('/api/access', (_req, res) => void res.json({ needed: false, given: true }));
    return;
  }
  const { state, give, guard } = accessDoor(code);
  app.get('/api/access', state);
  app.post('/api/access', give);
  app.use('/api', guard);
}

function libraryRoutes(app: Express, assets: AssetService): void {
  app.get('/api/library', async (_req, res) => void res.json({ projects: await assets.library() }));
  app.post(
    '/api/projects',
    async (req, res) => void res.status(201).json(await assets.createProject(bodyOf(NewProject, req).name)),
  );
  app.post('/api/assets', async (req, res) => void res.status(201).json(await assets.create(bodyOf(NewAsset, req))));
  app.get('/api/assets/:id', async (req, res) => void res.json(await assets.asset(req.params.id)));
  app.patch(
    '/api/assets/:id',
    async (req, res) => void res.json(await assets.rename(req.params.id, bodyOf(Rename, req).name)),
  );
  app.put(
    '/api/assets/:id/sculpt',
    async (req, res) => void res.json(await assets.replaceSculpt(req.params.id, bodyOf(NewerSculpt, req))),
  );
  app.delete('/api/assets/:id', async (req, res) => {
    await assets.remove(req.params.id);
    res.status(204).end();
  });
  app.get('/api/assets/:id/thumbnail', async (req, res) => {
    res
      .type('png')
      .set('Cache-Control', 'private, max-age=31536000')
      .send(await assets.thumbnail(req.params.id));
  });
}

function archiveRoutes(app: Express, archive: ProjectArchive): void {
  app.get('/api/projects/:id/archive', async (req, res) => {
    const { name, stream } = await archive.takeOut(req.params.id);
    // express quotes and encodes the name, whatever a user put in it
    res.attachment(`${name.replace(/[\\/:*?"<>|\p{Cc}]+/gu, '_')}.zip`).type('application/zip');
    await pipeline(stream, res);
  });
  app.post('/api/projects/archive', async (req, res) => {
    if (!req.is('application/zip')) throw new HalfLoopError('BAD_INPUT', 'An archive is sent as application/zip.');
    const folder = await mkdtemp(path.join(os.tmpdir(), 'half-loop-'));
    try {
      const file = path.join(folder, 'project.zip');
      await pipeline(req, upTo(LIMITS.archive), createWriteStream(file));
      res.status(201).json(await archive.bringIn(file));
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });
}

/** Lets so many bytes through. */
function upTo(most: number): Transform {
  let seen = 0;
  return new Transform({
    transform(part: Buffer, _encoding, done) {
      seen += part.length;
      if (seen <= most) done(null, part);
      else done(new HalfLoopError('TOO_LARGE', `The file is larger than ${Math.round(most / 1024 ** 2)} MiB.`));
    },
  });
}

function blobRoutes(app: Express, blobs: BlobStore): void {
  app.post('/api/blobs', async (req, res) => {
    if (!req.is('application/octet-stream'))
      throw new HalfLoopError('BAD_INPUT', 'Bytes are sent as application/octet-stream.');
    res.status(201).json(await blobs.put(req, LIMITS.upload));
  });
  app.get('/api/blobs/:hash', async (req, res) => {
    const { size } = await blobs.find(req.params.hash);
    res.set({
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(size),
      'Cache-Control': 'private, max-age=31536000, immutable',
    });
    await pipeline(Readable.from(blobs.read(req.params.hash)), res);
  });
}

function documentRoutes(app: Express, assets: AssetService): void {
  const packed = express.raw({ type: 'application/octet-stream', limit: LIMITS.document });
  app.get('/api/assets/:id/document', async (req, res) => {
    const { revision, bytes } = await assets.document(req.params.id);
    res
      .set({ 'X-Revision': String(revision), 'Cache-Control': 'no-store' })
      .type('application/octet-stream')
      .send(bytes);
  });
  app.put('/api/assets/:id/document', packed, async (req, res) => {
    const base = Number(req.headers['x-base-revision']);
    if (!Number.isInteger(base) || base < 1)
      throw new HalfLoopError('BAD_INPUT', 'A save says which revision it is based on.');
    if (!Buffer.isBuffer(req.body))
      throw new HalfLoopError('BAD_INPUT', 'A document is sent as application/octet-stream.');
    res.json(await assets.save(String(req.params.id), base, req.body));
  });
  app.get(
    '/api/assets/:id/versions',
    async (req, res) => void res.json({ versions: await assets.versions(req.params.id) }),
  );
  app.get('/api/assets/:id/versions/:version/thumbnail', async (req, res) => {
    const png = await assets.versionThumbnail(req.params.id, req.params.version);
    res.type('png').set('Cache-Control', 'private, max-age=31536000, immutable').send(png);
  });
  app.post('/api/assets/:id/versions', async (req, res) => {
    const { name, document } = bodyOf(NewVersion, req);
    res.status(201).json(await assets.saveVersion(req.params.id, name, document));
  });
}

/** The built page: hashed files for ever, and the same HTML at every other address, with the request's nonce in it. */
function pageRoutes(app: Express, page: string): void {
  app.use('/assets', express.static(path.join(page, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
  app.use(express.static(page, { index: false }));
  const html = readFileSync(path.join(page, 'index.html'), 'utf8');
  app.get(/^\/(?!api\/)/, (_req, res) => {
    res
      .set('Cache-Control', 'no-store')
      .type('html')
      .send(html.replaceAll('__NONCE__', nonceOf(res)));
  });
}
