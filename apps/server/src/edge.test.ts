import { connect } from 'node:net';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { accessDoor } from './access';
import { packed, TestServer } from './testServer';

const CODE = 'abcde-fghij-kmnpq-rstuv-wxyz2-3';
let open: TestServer, lan: TestServer;
beforeAll(async () => {
  open = await TestServer.start(inject('databaseUrl'));
  lan = await TestServer.start(inject('databaseUrl'), {
    accessCode: CODE,
    hosts: new Set(['studio.test', '127.0.0.1']),
  });
});
afterAll(() => Promise.all([open.close(), lan.close()]));

describe('the network edge', () => {
  const status = async (
    headers: Record<string, string>,
    method = 'GET',
    url = '/api/library',
    body = '',
  ): Promise<number> => (await open.raw(url, headers, method, body)).status;

  it('answers only its own host names: a name that was turned to this machine gets nothing', async () => {
    expect(await status({})).toBe(200);
    for (const host of [
      'evil.example',
      'evil.example:80',
      'localhost.evil.example',
      '127.0.0.1.evil.example',
      '0.0.0.0',
    ])
      expect(await status({ host }), host).toBe(400);
    expect(await status({ host: 'LOCALHOST:4380' })).toBe(200);
  });

  it('lets a page of another origin neither read nor write', async () => {
    const json = { 'content-type': 'application/json' };
    for (const origin of ['http://evil.example', 'null', 'http://127.0.0.1:1', 'https://localhost']) {
      expect(await status({ origin }), origin).toBe(400);
      expect(await status({ origin, ...json }, 'POST', '/api/projects', '{"name":"x"}'), origin).toBe(400);
    }
    expect(await status({ origin: open.base })).toBe(200);
    for (const site of ['cross-site', 'same-site']) expect(await status({ 'sec-fetch-site': site })).toBe(400);
    expect(await status({ 'sec-fetch-site': 'same-origin' })).toBe(200);
    // what a form of another site can send without asking is not taken either
    for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data'])
      expect(await status({ 'content-type': type }, 'POST', '/api/projects', '{"name":"x"}')).toBe(400);
    const { headers } = await open.raw('/api/library', { origin: open.base });
    expect(headers['access-control-allow-origin']).toBeUndefined();
    expect(headers['cross-origin-resource-policy']).toBe('same-origin');
  });

  it('gives each page a nonce of its own under a strict policy', async () => {
    const pages = await Promise.all([fetch(open.base), fetch(`${open.base}/a/xyz/lay`)]);
    const nonces = await Promise.all(pages.map(async (p) => /nonce="([^"]+)"/.exec(await p.text())?.[1]));
    expect(nonces[0]).not.toBe(nonces[1]);
    const policy = pages[0].headers.get('content-security-policy') ?? '';
    expect(policy).toContain(`'nonce-${nonces[0]}'`);
    expect(policy).toContain("default-src 'none'");
    expect(policy).not.toMatch(/script-src[^;]*'unsafe-(inline|eval)'|upgrade-insecure-requests/);
    expect((await open.json('GET', '/api/nothing')).body).toMatchObject({ code: 'NOT_FOUND' });
  });

  it('serves nothing outside its page, whatever the path', async () => {
    const raw = (path: string): Promise<string> =>
      new Promise((resolve, reject) => {
        const url = new URL(open.base);
        const socket = connect(Number(url.port), url.hostname, () => socket.write(`GET ${path} HTTP/1.1\r\nHost: ${url.host}\r\nConnection: close\r\n\r\n`)); // prettier-ignore
        let text = '';
        socket.on('data', (d) => (text += d)).on('end', () => resolve(text)).on('error', reject); // prettier-ignore
      });
    for (const path of [
      '/../../../../etc/passwd',
      '/assets/../../../etc/passwd',
      '/assets/%2e%2e/%2e%2e/etc/passwd',
      '/assets/..%2f..%2fetc%2fpasswd',
      '/..%5c..%5cetc',
      '/api/blobs/..%2f..%2fetc%2fpasswd',
      '/%00',
    ])
      expect(await raw(path), path).not.toContain('root:');
  });

  it('refuses bodies beyond their limits and headers with line breaks', async () => {
    const big = JSON.stringify({ name: 'x'.repeat(400_000) });
    expect(await status({ 'content-type': 'application/json' }, 'POST', '/api/projects', big)).toBe(413);
    expect(await open.json('POST', '/api/projects', { name: 'x'.repeat(200) })).toMatchObject({ status: 400 });
    expect(await open.json('POST', '/api/projects', { name: 'a', __proto__: { admin: true }, extra: 1 })).toMatchObject(
      { status: 201 },
    );
    const asset = await open.makeAsset('Whelk\r\nSet-Cookie: a=b', 'Pool"\r\nX-Evil: 1; filename="x.exe');
    const { headers } = await open.raw(`/api/projects/${asset.projectId}/archive`, {});
    expect(headers['x-evil']).toBeUndefined();
    expect(headers['set-cookie']).toBeUndefined();
    expect(headers['content-disposition']).toMatch(/^attachment; filename="[^"\r\n]*\.zip"(; filename\*=[^\r\n]*)?$/);
  });

  it('keeps a script in any name a text: JSON, never markup', async () => {
    const script = '<script>alert(1)</script><img src=x onerror=alert(2)>';
    const asset = await open.makeAsset(script, script);
    await open.json('POST', `/api/assets/${asset.id}/versions`, { name: script });
    for (const url of ['/api/library', `/api/assets/${asset.id}`, `/api/assets/${asset.id}/versions`]) {
      const res = await fetch(open.base + url);
      expect(res.headers.get('content-type')).toMatch(/^application\/json/);
      expect(res.headers.get('x-content-type-options')).toBe('nosniff');
      expect(await res.text()).toContain('<script>');
    }
    const blob = await open.upload(Buffer.from(script));
    const res = await fetch(`${open.base}/api/blobs/${blob}`);
    expect([res.headers.get('content-type'), res.headers.get('x-content-type-options')]).toEqual([
      'application/octet-stream',
      'nosniff',
    ]);
  });

  it('does not inflate a document beyond what a document may be', async () => {
    const { id } = await open.makeAsset();
    const bomb = await promisify(gzip)(Buffer.alloc(1_100_000_000), { level: 9 });
    expect(bomb.length).toBeLessThan(2_000_000);
    expect((await open.save(id, 1, bomb)).status).toBe(422);
    expect((await open.save(id, 1, packed(2))).status).toBe(200);
  });
});

describe('beyond loopback', () => {
  const give = (code: unknown): Promise<Response> =>
    fetch(`${lan.base}/api/access`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ code }) }); // prettier-ignore

  it('answers nothing before the code was given, and all of it afterwards', async () => {
    expect(await lan.json('GET', '/api/access')).toMatchObject({ body: { needed: true, given: false } });
    for (const [method, url] of [
      ['GET', '/api/library'],
      ['POST', '/api/projects'],
      ['GET', `/api/blobs/${'0'.repeat(64)}`],
      ['POST', '/api/blobs'],
      ['DELETE', '/api/assets/whatever'],
      ['GET', '/api/projects/whatever/archive'],
      ['POST', '/api/projects/archive'],
    ] as const)
      expect(await lan.json(method, url), url).toMatchObject({ status: 401, body: { code: 'NO_ACCESS' } });
    const res = await give(CODE.toUpperCase().replaceAll('-', ' '));
    expect(res.status).toBe(204);
    const cookie = res.headers.get('set-cookie') ?? '';
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    expect(cookie).not.toContain(CODE);
    const own = cookie.split(';')[0];
    expect((await lan.raw('/api/library', { cookie: own })).status).toBe(200);
    expect((await lan.raw('/api/library', { cookie: own, host: 'studio.test:4380' })).status).toBe(200);
    expect((await lan.raw('/api/library', { cookie: own, host: 'evil.example' })).status).toBe(400);
    expect((await lan.raw('/api/library', { cookie: `${own.slice(0, -1)}x` })).status).toBe(401);
  });

  it('takes few wrong codes a minute, then not even the right one', async () => {
    const answers = [];
    for (let i = 0; i < 7; i++) answers.push((await give(`${CODE}${i}`)).status);
    expect(answers).toEqual([401, 401, 401, 401, 401, 429, 429]);
    expect((await give(CODE)).status).toBe(429);
    expect((await give({ a: 1 })).status).toBe(429);
  });

  it('forgets wrong codes as its own clock goes on', () => {
    let now = 0;
    const { give } = accessDoor(CODE, () => now);
    const tried = (code: string): unknown => {
      const res = { cookie: () => res, status: () => res, end: () => undefined };
      try {
        return (
          give(
            { body: { code }, socket: { remoteAddress: '10.0.0.9' }, headers: {} } as never,
            res as never,
            () => undefined,
          ) ?? 'in'
        );
      } catch (error) {
        return (error as { code: string }).code;
      }
    };
    for (let i = 0; i < 5; i++) expect(tried('wrong')).toBe('NO_ACCESS');
    expect(tried(CODE)).toBe('TOO_MANY');
    now = 61_000;
    expect(tried(CODE)).toBe('in');
  });
});
