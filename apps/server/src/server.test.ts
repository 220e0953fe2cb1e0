import { request } from 'node:http';
import { gunzipSync } from 'node:zlib';
import { decode } from 'fast-png';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { decodeDocument } from '@half-loop/contract';
import { encodeSculpt } from '@half-loop/core/surface';
import { Blobs, Chunks } from './entities';
import { packed, sculpt, TestServer } from './testServer';
import { thinned } from './thinning';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start(inject('databaseUrl'));
});
afterAll(() => server.close());
const json: TestServer['json'] = (...args) => server.json(...args);
const upload: TestServer['upload'] = (bytes) => server.upload(bytes);
const save: TestServer['save'] = (...args) => server.save(...args);
const makeAsset: TestServer['makeAsset'] = (name) => server.makeAsset(name);

describe('blobs', () => {
  it('come back byte for byte over several chunks, and are stored once', async () => {
    const bytes = Uint8Array.from({ length: 2_500_000 }, (_, i) => (i * i * 7) >> 3);
    const hash = await upload(bytes);
    expect(await upload(bytes)).toBe(hash);
    const back = Buffer.from(await (await fetch(`${server.base}/api/blobs/${hash}`)).arrayBuffer());
    expect(back.equals(bytes)).toBe(true);
    expect(await server.db.getRepository(Blobs).countBy({ hash })).toBe(1);
    const { uploadId } = await server.db.getRepository(Blobs).findOneByOrFail({ hash });
    expect(await server.db.getRepository(Chunks).countBy({ uploadId })).toBe(3);
    expect((await json('GET', `/api/blobs/${'0'.repeat(64)}`)).body).toMatchObject({ code: 'NOT_FOUND', status: 404 });
  });

  it('leave nothing behind when an upload is cut off or too large', async () => {
    const before = await server.db.getRepository(Chunks).count();
    await new Promise<void>((resolve) => {
      const req = request(`${server.base}/api/blobs`, {
        method: 'POST',
        headers: { 'content-type': 'application/octet-stream', 'content-length': 9e6 },
      });
      req.on('error', () => resolve());
      req.write(Buffer.alloc(3_000_000, 5), () => setTimeout(() => req.destroy(new Error('gone')), 300));
    });
    await expect.poll(() => server.db.getRepository(Chunks).count(), { timeout: 5000 }).toBe(before);
    async function* many(): AsyncGenerator<Uint8Array> {
      for (let i = 0; i < 4; i++) yield new Uint8Array(1_000_000).fill(i);
    }
    await expect(server.blobs.put(many(), 3_000_000)).rejects.toMatchObject({ code: 'TOO_LARGE' });
    expect(await server.db.getRepository(Chunks).count()).toBe(before);
  });

  it('are swept when nothing names them any more, and never while they may be in use', async () => {
    const kept = await makeAsset();
    const hash = await upload(Buffer.from('nobody needs this'));
    await server.db.getRepository(Chunks).insert({ uploadId: 'torn-upload', n: 0, data: Buffer.from('half') });
    expect(await server.blobs.sweep()).toMatchObject({ blobs: 0, chunks: 1 });
    expect((await server.blobs.sweep(Date.now() + 2 * 3600_000)).blobs).toBeGreaterThan(0);
    await expect(server.blobs.find(hash)).rejects.toMatchObject({ code: 'NOT_FOUND' });
    expect((await server.blobs.readAll(kept.sculpt as string)).equals(sculpt)).toBe(true);
  });
});

describe('assets', () => {
  it('are listed with their summary and drawn as a PNG', async () => {
    const asset = await makeAsset('<b>Limpet</b>');
    const { body } = await json('GET', '/api/library');
    expect(JSON.stringify(body)).toContain('<b>Limpet</b>');
    const res = await fetch(`${server.base}/api/assets/${asset.id}/thumbnail`);
    const png = decode(new Uint8Array(await res.arrayBuffer()));
    expect([png.width, png.height]).toEqual([480, 320]);
    expect(new Set(png.data).size).toBeGreaterThan(30);
    expect((await json('PATCH', `/api/assets/${asset.id}`, { name: '  Whelk ' })).body).toMatchObject({
      name: 'Whelk',
    });
    expect((await fetch(`${server.base}/api/assets/${asset.id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await json('GET', `/api/assets/${asset.id}`)).status).toBe(404);
  });

  it('get a newer sculpt, and the one before again; a damaged one is refused and nothing changes', async () => {
    const asset = await makeAsset('Limpet');
    const bigger = encodeSculpt({ positions: Float32Array.of(0, 0, 0, 8, 0, 0, 0, 8, 0, 0, 0, 8), indices: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3) }); // prettier-ignore
    const [bad, newer] = await Promise.all([upload(sculpt.slice(0, -4)), upload(bigger)]);
    const put = (hash: string): ReturnType<typeof json> =>
      json('PUT', `/api/assets/${asset.id}/sculpt`, { sculpt: hash, original: null });
    expect(await put(bad)).toMatchObject({ status: 422, body: { code: 'BAD_FILE' } });
    expect((await json('GET', `/api/assets/${asset.id}`)).body).toMatchObject({ sculpt: asset.sculpt, sculptBefore: null }); // prettier-ignore
    expect((await put(newer)).body).toMatchObject({ sculpt: newer, sculptBefore: asset.sculpt });
    // what it took the place of is not swept away
    await server.blobs.sweep(Date.now() + 1e9);
    expect((await fetch(`${server.base}/api/blobs/${asset.sculpt}`)).status).toBe(200);
    expect((await put(asset.sculpt as string)).body).toMatchObject({ sculpt: asset.sculpt, sculptBefore: newer });
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
    const res = await fetch(`${server.base}/api/assets/${id}/document`);
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
        const res = await fetch(`${server.base}/api/assets/${id}/versions/${v.id}/thumbnail`);
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
      fetch(`${server.base}/api/assets/${id}/document`, { method: 'PUT', headers, body: Uint8Array.from(packed(2)) });
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
    const res = await fetch(`${server.base}/api/blobs`, {
      method: 'POST',
      headers: { 'content-type': 'text/plain' },
      body: 'hello',
    });
    expect(res.headers.get('content-type')).toContain('application/problem+json');
    expect(res.status).toBe(400);
    expect(
      (
        await fetch(`${server.base}/api/projects`, {
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
