import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdtempSync, mkdirSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { build } from 'esbuild';
import { decode } from 'fast-png';
import pino from 'pino';
import type { DataSource } from 'typeorm';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { decodeDocument, DEFAULT_SETTINGS, encodeDocument, type AssetCard } from '@half-loop/contract';
import { addFace, addVertex, PolyMesh } from '@half-loop/core/mesh';
import { encodeSculpt } from '@half-loop/core/surface';
import { AssetService } from './AssetService';
import { BlobStore } from './BlobStore';
import { createApp } from './app';
import { openDatabase } from './database';
import { Blobs, Chunks } from './entities';
import { HeavyWork } from './HeavyWork';
import { ProjectArchive } from './ProjectArchive';
import { thinned } from './thinning';

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
  }
}

let db: DataSource, server: Server, heavy: HeavyWork, blobs: BlobStore, base: string;

beforeAll(async () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-server-'));
  const worker = path.join(import.meta.dirname, '../dist/test/heavyWorker.js');
  await build({ entryPoints: [path.join(import.meta.dirname, 'heavyWorker.ts')], outfile: worker, bundle: true, platform: 'node', format: 'esm', external: ['three', 'three-mesh-bvh', 'fast-png', 'zod'] }); // prettier-ignore
  mkdirSync(path.join(folder, 'assets'));
  writeFileSync(path.join(folder, 'index.html'), '<meta property="csp-nonce" nonce="__NONCE__">');
  db = await openDatabase(inject('databaseUrl'));
  blobs = new BlobStore(db);
  heavy = new HeavyWork(worker);
  const app = createApp({
    assets: new AssetService(db, blobs, heavy),
    archive: new ProjectArchive(db, blobs, heavy),
    blobs,
    log: pino({ level: 'silent' }),
    page: folder,
  });
  server = createServer(app);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  server.close();
  await heavy.close();
  await db.destroy();
});

const json = async (
  method: string,
  url: string,
  body?: unknown,
): Promise<{ status: number; body: Record<string, never> & { [k: string]: unknown } }> => {
  const res = await fetch(base + url, {
    method,
    ...(body ? { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } } : {}),
  });
  const text = await res.text();
  return { status: res.status, body: text ? JSON.parse(text) : {} };
};
const upload = async (bytes: Uint8Array): Promise<string> => {
  const res = await fetch(`${base}/api/blobs`, {
    method: 'POST',
    body: Uint8Array.from(bytes),
    headers: { 'content-type': 'application/octet-stream' },
  });
  return ((await res.json()) as { hash: string }).hash;
};
const save = (id: string, revision: number, bytes: Uint8Array): Promise<Response> =>
  fetch(`${base}/api/assets/${id}/document`, {
    method: 'PUT',
    body: Uint8Array.from(bytes),
    headers: { 'content-type': 'application/octet-stream', 'x-base-revision': String(revision) },
  });

function packed(faces: number): Uint8Array {
  const mesh = new PolyMesh();
  for (let i = 0; i < faces; i++) addFace(mesh, [0, 1, 2].map((k) => addVertex(mesh, [i + k / 2, k === 1 ? 1 : 0, i / 9]))); // prettier-ignore
  const piece = { id: 'p', name: 'Low-poly', visible: true, mesh };
  return gzipSync(
    encodeDocument(
      { settings: DEFAULT_SETTINGS, done: [], pieces: [piece] },
      { stage: 'lay', faces, budget: 2000, needsALook: 0 },
    ),
  );
}
const sculpt = encodeSculpt({
  positions: Float32Array.of(0, 0, 0, 4, 0, 0, 0, 4, 0, 0, 0, 4),
  indices: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3),
});

async function makeAsset(name = 'Limpet'): Promise<AssetCard> {
  const project = await json('POST', '/api/projects', { name: 'Rock pool' });
  const [s, d] = await Promise.all([upload(sculpt), upload(packed(1))]);
  const { status, body } = await json('POST', '/api/assets', {
    projectId: project.body.id,
    name,
    sculpt: s,
    original: { hash: s, fileName: 'a.ply' },
    document: d,
  });
  expect(status).toBe(201);
  return body as unknown as AssetCard;
}

describe('blobs', () => {
  it('come back byte for byte over several chunks, and are stored once', async () => {
    const bytes = Uint8Array.from({ length: 2_500_000 }, (_, i) => (i * i * 7) >> 3);
    const hash = await upload(bytes);
    expect(await upload(bytes)).toBe(hash);
    const back = Buffer.from(await (await fetch(`${base}/api/blobs/${hash}`)).arrayBuffer());
    expect(back.equals(bytes)).toBe(true);
    expect(await db.getRepository(Blobs).countBy({ hash })).toBe(1);
    const { uploadId } = await db.getRepository(Blobs).findOneByOrFail({ hash });
    expect(await db.getRepository(Chunks).countBy({ uploadId })).toBe(3);
    expect((await json('GET', `/api/blobs/${'0'.repeat(64)}`)).body).toMatchObject({ code: 'NOT_FOUND', status: 404 });
  });

  it('leave nothing behind when an upload is cut off or too large', async () => {
    const before = await db.getRepository(Chunks).count();
    await new Promise<void>((resolve) => {
      const req = request(`${base}/api/blobs`, {
        method: 'POST',
        headers: { 'content-type': 'application/octet-stream', 'content-length': 9e6 },
      });
      req.on('error', () => resolve());
      req.write(Buffer.alloc(3_000_000, 5), () => setTimeout(() => req.destroy(new Error('gone')), 300));
    });
    await expect.poll(() => db.getRepository(Chunks).count(), { timeout: 5000 }).toBe(before);
    async function* many(): AsyncGenerator<Uint8Array> {
      for (let i = 0; i < 4; i++) yield new Uint8Array(1_000_000).fill(i);
    }
    await expect(blobs.put(many(), 3_000_000)).rejects.toMatchObject({ code: 'TOO_LARGE' });
    expect(await db.getRepository(Chunks).count()).toBe(before);
  });

  it('are swept when nothing names them any more, and never while they may be in use', async () => {
    const kept = await makeAsset();
    const hash = await upload(Buffer.from('nobody needs this'));
    await db.getRepository(Chunks).insert({ uploadId: 'torn-upload', n: 0, data: Buffer.from('half') });
    expect(await blobs.sweep()).toMatchObject({ blobs: 0, chunks: 1 });
    expect((await blobs.sweep(Date.now() + 2 * 3600_000)).blobs).toBeGreaterThan(0);
    await expect(blobs.find(hash)).rejects.toMatchObject({ code: 'NOT_FOUND' });
    expect((await blobs.readAll(kept.sculpt as string)).equals(sculpt)).toBe(true);
  });
});

describe('assets', () => {
  it('are listed with their summary and drawn as a PNG', async () => {
    const asset = await makeAsset('<b>Limpet</b>');
    const { body } = await json('GET', '/api/library');
    expect(JSON.stringify(body)).toContain('<b>Limpet</b>');
    const res = await fetch(`${base}/api/assets/${asset.id}/thumbnail`);
    const png = decode(new Uint8Array(await res.arrayBuffer()));
    expect([png.width, png.height]).toEqual([480, 320]);
    expect(new Set(png.data).size).toBeGreaterThan(30);
    expect((await json('PATCH', `/api/assets/${asset.id}`, { name: '  Whelk ' })).body).toMatchObject({
      name: 'Whelk',
    });
    expect((await fetch(`${base}/api/assets/${asset.id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await json('GET', `/api/assets/${asset.id}`)).status).toBe(404);
  });

  it('are not made from a damaged sculpt or document', async () => {
    const project = await json('POST', '/api/projects', { name: 'x' });
    const [bad, good, document] = await Promise.all([upload(sculpt.slice(0, -4)), upload(sculpt), upload(packed(1))]);
    const make = (s: string, d: string): ReturnType<typeof json> =>
      json('POST', '/api/assets', { projectId: project.body.id, name: 'n', sculpt: s, original: null, document: d });
    expect(await make(bad, document)).toMatchObject({ status: 422, body: { code: 'BAD_FILE' } });
    expect(await make(good, good)).toMatchObject({ status: 422, body: { code: 'BAD_FILE' } });
    expect((await json('POST', '/api/assets', { name: '' })).body).toMatchObject({ code: 'BAD_INPUT' });
    const { body } = await json('GET', '/api/library');
    expect((body.projects as { id: string; assets: [] }[]).find((p) => p.id === project.body.id)?.assets).toEqual([]);
  });
});

describe('documents', () => {
  it('are saved revision by revision; of two saves on one revision the second is refused', async () => {
    const { id } = await makeAsset();
    const first = await save(id, 1, packed(2));
    expect(await first.json()).toMatchObject({ revision: 2 });
    const [a, b] = await Promise.all([save(id, 2, packed(3)), save(id, 2, packed(4))]);
    expect([a.status, b.status].sort()).toEqual([200, 409]);
    const refused = (await (a.status === 409 ? a : b).json()) as object;
    expect(refused).toMatchObject({ code: 'STALE_REVISION', revision: 3 });
    const res = await fetch(`${base}/api/assets/${id}/document`);
    expect(res.headers.get('x-revision')).toBe('3');
    const { document, summary } = decodeDocument(gunzipSync(await res.arrayBuffer()));
    expect(document.pieces[0].mesh.faceCount).toBe(summary.faces);
    expect((await save(id, 3, Buffer.from('not gzip'))).status).toBe(422);
    expect((await json('GET', `/api/assets/${id}`)).body).toMatchObject({
      revision: 3,
      summary: { faces: summary.faces },
    });
  });

  it('are kept as versions by name, also beside the saved one', async () => {
    const { id } = await makeAsset();
    await json('POST', `/api/assets/${id}/versions`, { name: 'limpet-01' });
    const mine = await upload(packed(9));
    await json('POST', `/api/assets/${id}/versions`, { name: 'mine', document: mine });
    const { body } = await json('GET', `/api/assets/${id}/versions`);
    expect(body.versions).toMatchObject([
      { name: 'mine', summary: { faces: 9 }, document: mine },
      { name: 'limpet-01', revision: 1 },
    ]);
  });

  it('are drawn as pictures, each as it was when it was kept', async () => {
    const { id } = await makeAsset();
    const [few, many] = await Promise.all([upload(packed(1)), upload(packed(40))]);
    await json('POST', `/api/assets/${id}/versions`, { name: 'few', document: few });
    await json('POST', `/api/assets/${id}/versions`, { name: 'many', document: many });
    const { body } = await json('GET', `/api/assets/${id}/versions`);
    const pictures = await Promise.all(
      (body.versions as { id: string }[]).map(async (v) => {
        const res = await fetch(`${base}/api/assets/${id}/versions/${v.id}/thumbnail`);
        expect(res.headers.get('content-type')).toBe('image/png');
        return Buffer.from(await res.arrayBuffer());
      }),
    );
    expect(pictures[0].equals(pictures[1])).toBe(false);
    expect((await json('GET', `/api/assets/${id}/versions/no-such-version/thumbnail`)).status).toBe(404);
    expect((await json('POST', `/api/assets/${id}/versions`, { name: 'bad', document: '0'.repeat(64) })).status).toBe(
      404,
    );
    expect((await json('POST', `/api/assets/${id}/versions`, { name: '' })).body).toMatchObject({ code: 'BAD_INPUT' });
  });

  it('are refused in words when the request is not a save', async () => {
    const { id } = await makeAsset();
    const put = (headers: Record<string, string>): Promise<Response> =>
      fetch(`${base}/api/assets/${id}/document`, { method: 'PUT', headers, body: Uint8Array.from(packed(2)) });
    const octets = { 'content-type': 'application/octet-stream' };
    expect(await (await put(octets)).json()).toMatchObject({
      code: 'BAD_INPUT',
      detail: expect.stringContaining('revision'),
    });
    expect((await put({ ...octets, 'x-base-revision': 'one' })).status).toBe(400);
    expect((await put({ 'content-type': 'text/plain', 'x-base-revision': '1' })).status).toBe(400);
    expect((await put({ ...octets, 'x-base-revision': '9' })).status).toBe(409);
    expect((await save('no-such-asset', 1, packed(2))).status).toBe(404);
    expect((await json('GET', `/api/assets/${id}`)).body).toMatchObject({ revision: 1 });
    const res = await fetch(`${base}/api/blobs`, {
      method: 'POST',
      headers: { 'content-type': 'text/plain' },
      body: 'hello',
    });
    expect(res.headers.get('content-type')).toContain('application/problem+json');
    expect(res.status).toBe(400);
    expect(
      (
        await fetch(`${base}/api/projects`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: '{torn',
        })
      ).status,
    ).toBe(400);
  });

  it('thin out by minute, hour and day, the newest always kept', () => {
    const now = 1e12;
    const saves = [1, 2, 3, 200, 4000, 4030, 90_000, 90_500, 100_000].map((age, i) => ({
      revision: 100 - i,
      savedAt: new Date(now - age * 1000),
    }));
    expect(thinned(saves, now).map((s) => s.revision)).toEqual([99, 98, 95, 93]);
    expect(thinned(saves.slice(0, 1), now)).toEqual([]);
  });
});

describe('the network edge', () => {
  const raw = (headers: Record<string, string>, method = 'GET'): Promise<number> =>
    new Promise((resolve, reject) => {
      request(`${base}/api/library`, { method, headers }, (res) => resolve(res.resume().statusCode ?? 0))
        .on('error', reject)
        .end();
    });
  it('answers only its own host names and its own page', async () => {
    expect(await raw({})).toBe(200);
    expect(await raw({ host: 'evil.example:80' })).toBe(400);
    expect(await raw({ origin: 'http://evil.example' })).toBe(400);
    expect(await raw({ origin: base })).toBe(200);
  });
  it('gives each page a nonce of its own under a strict policy', async () => {
    const pages = await Promise.all([fetch(base), fetch(`${base}/a/xyz/lay`)]);
    const nonces = await Promise.all(pages.map(async (p) => /nonce="([^"]+)"/.exec(await p.text())?.[1]));
    expect(nonces[0]).not.toBe(nonces[1]);
    const policy = pages[0].headers.get('content-security-policy') ?? '';
    expect(policy).toContain(`'nonce-${nonces[0]}'`);
    expect(policy).toContain("default-src 'none'");
    expect(policy).not.toContain('upgrade-insecure-requests');
    expect((await json('GET', '/api/nothing')).body).toMatchObject({ code: 'NOT_FOUND' });
  });
});
