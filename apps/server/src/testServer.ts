import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import pino from 'pino';
import type { DataSource } from 'typeorm';
import { DEFAULT_SETTINGS, encodeDocument, plainPiece, type AssetCard } from '@half-loop/contract';
import { addFace, addVertex, PolyMesh } from '@half-loop/core/mesh';
import { encodeSculpt } from '@half-loop/core/surface';
import { AssetService } from './AssetService';
import { BlobStore } from './BlobStore';
import { createApp } from './app';
import { openDatabase } from './database';
import { HeavyWork } from './HeavyWork';
import { ThreadRunner } from './jobs/JobRunner';
import { JobService } from './jobs/JobService';
import { ProjectArchive } from './ProjectArchive';

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
  }
}

export interface Answer {
  status: number;
  body: Record<string, never> & { [k: string]: unknown };
}

/** A tetrahedron as a stored sculpt. */
export const sculpt = encodeSculpt({
  positions: Float32Array.of(0, 0, 0, 4, 0, 0, 0, 4, 0, 0, 0, 4),
  indices: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3),
});

/** A compressed document whose low-poly has so many loose triangles. */
export function packed(faces: number): Uint8Array {
  const mesh = new PolyMesh();
  for (let i = 0; i < faces; i++) addFace(mesh, [0, 1, 2].map((k) => addVertex(mesh, [i + k / 2, k === 1 ? 1 : 0, i / 9]))); // prettier-ignore
  const piece = plainPiece('p', 'Low-poly', mesh);
  return gzipSync(
    encodeDocument(
      { settings: DEFAULT_SETTINGS, done: [], pieces: [piece] },
      { stage: 'lay', faces, budget: 2000, needsALook: 0 },
    ),
  );
}

/** The whole server on a real database and a free port, for tests. */
export class TestServer {
  private constructor(
    readonly db: DataSource,
    readonly blobs: BlobStore,
    readonly base: string,
    readonly close: () => Promise<void>,
  ) {}

  static async start(
    databaseUrl: string,
    parts: { accessCode?: string; hosts?: ReadonlySet<string> } = {},
  ): Promise<TestServer> {
    const root = path.join(import.meta.dirname, '../../..');
    const page = mkdtempSync(path.join(os.tmpdir(), 'hl-server-'));
    mkdirSync(path.join(page, 'assets'));
    writeFileSync(path.join(page, 'index.html'), '<meta property="csp-nonce" nonce="__NONCE__">');
    const db = await openDatabase(databaseUrl);
    const blobs = new BlobStore(db);
    const heavy = new HeavyWork(path.join(root, 'apps/server/dist/heavyWorker.js'));
    const assets = new AssetService(db, blobs, heavy);
    const archive = new ProjectArchive(db, blobs, heavy);
    const jobs = new JobService(db, blobs, assets, new ThreadRunner(path.join(root, 'apps/server/dist/jobWorker.js')));
    await jobs.start();
    const server = createServer(
      createApp({ assets, archive, blobs, jobs, log: pino({ level: 'silent' }), page, ...parts }),
    );
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return new TestServer(db, blobs, `http://127.0.0.1:${(server.address() as AddressInfo).port}`, async () => {
      server.close();
      server.closeAllConnections();
      await jobs.close();
      await heavy.close();
      await db.destroy();
    });
  }

  async json(method: string, url: string, body?: unknown): Promise<Answer> {
    const res = await fetch(this.base + url, {
      method,
      ...(body ? { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } } : {}),
    });
    const text = await res.text();
    return { status: res.status, body: text ? JSON.parse(text) : {} };
  }

  async upload(bytes: Uint8Array): Promise<string> {
    const headers = { 'content-type': 'application/octet-stream' };
    const res = await fetch(`${this.base}/api/blobs`, { method: 'POST', body: Uint8Array.from(bytes), headers });
    return ((await res.json()) as { hash: string }).hash;
  }

  save(id: string, revision: number, bytes: Uint8Array): Promise<Response> {
    const headers = { 'content-type': 'application/octet-stream', 'x-base-revision': String(revision) };
    return fetch(`${this.base}/api/assets/${id}/document`, { method: 'PUT', body: Uint8Array.from(bytes), headers });
  }

  /** An asset with the tetrahedron, or another form, in a project of its own. */
  async makeAsset(name = 'Limpet', projectName = 'Rock pool', form = sculpt): Promise<AssetCard> {
    const project = await this.json('POST', '/api/projects', { name: projectName });
    const [s, d] = await Promise.all([this.upload(form), this.upload(packed(1))]);
    const original = { hash: s, fileName: 'a.ply' };
    const { status, body } = await this.json('POST', '/api/assets', { projectId: project.body.id, name, sculpt: s, original, document: d }); // prettier-ignore
    if (status !== 201) throw new Error(JSON.stringify(body));
    return body as unknown as AssetCard;
  }

  /** A request with headers that fetch would not let through; its status and headers. */
  raw(
    url: string,
    headers: Record<string, string>,
    method = 'GET',
    body = '',
  ): Promise<{ status: number; headers: Record<string, unknown> }> {
    return new Promise((resolve, reject) => {
      request(this.base + url, { method, headers }, (res) => {
        res.resume();
        resolve({ status: res.statusCode ?? 0, headers: res.headers });
      })
        .on('error', reject)
        .end(body);
    });
  }
}
