import { decode } from 'fast-png';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { JobCard, JobEvent, JobsResponse, type LayAllAsk, type NewRun } from '@half-loop/contract';
import { decodeMesh, encodeMesh } from '@half-loop/core/mesh';
import { encodeSculpt, sculptFromSoup } from '@half-loop/core/surface';
import { ballSoup, cubeMesh, sideBySide } from '@half-loop/core/testing';
import * as z from 'zod/mini';
import { Blobs, Jobs } from '../entities';
import { TestServer } from '../testServer';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start(inject('databaseUrl'));
});
afterAll(() => server.close());

const ballSculpt = sculptFromSoup(ballSoup(24, 2));
const ball = encodeSculpt(ballSculpt);
const ASK: LayAllAsk = {
  piece: null,
  faces: 150,
  evenness: 0,
  followForm: 1,
  keepEdges: null,
  dropDust: true,
  plane: { axis: 'x', offset: 0 },
  lines: [],
  regions: false,
  levels: 0,
  smoothing: 0,
  followsLoops: false,
  densities: [],
};
const run = (...ways: [string, Partial<LayAllAsk>?][]): NewRun => ({ kind: 'lay-all', ways: ways.map(([label, change]) => ({ label, ask: { ...ASK, ...change } })) }); // prettier-ignore

async function ask(asset: string, what: NewRun): Promise<JobCard[]> {
  const { status, body } = await server.json('POST', `/api/assets/${asset}/jobs`, what);
  expect(status).toBe(201);
  return z.parse(JobsResponse, body).jobs;
}
const find = async (id: string): Promise<JobCard> =>
  z.parse(JobCard, (await server.json('GET', `/api/jobs/${id}`)).body);
const until = (id: string, state: JobCard['state']): Promise<void> =>
  expect.poll(async () => (await find(id)).state, { timeout: 60_000 }).toBe(state);

describe('jobs', () => {
  it('lay quads over the sculpt, are told of on the way, draw pictures, and can be dropped with what they made', async () => {
    const { id: asset } = await server.makeAsset('Whelk', 'Pool', ball);
    const abort = new AbortController();
    const events: JobEvent[] = [];
    const stream = await fetch(`${server.base}/api/jobs/events`, { signal: abort.signal });
    const reading = (async () => {
      let text = '';
      for await (const part of stream.body as unknown as AsyncIterable<Uint8Array>) {
        text += Buffer.from(part).toString();
        const whole = text.split('\n\n');
        text = whole.pop() as string;
        for (const one of whole) if (one.startsWith('data: ')) events.push(z.parse(JobEvent, JSON.parse(one.slice(6))));
      }
    })().catch(() => undefined);
    const [{ id, state }] = await ask(asset, run(['As asked']));
    expect(['waiting', 'running']).toContain(state);
    expect((await server.raw(`/api/jobs/${'x'.repeat(16)}/picture`, {})).status).toBe(404);
    await until(id, 'done');
    const { result, looks, done } = await find(id);
    expect(done).toBe(1);
    expect(looks).toBeGreaterThan(0);
    const bytes = new Uint8Array(await (await fetch(`${server.base}/api/blobs/${result?.hash}`)).arrayBuffer());
    // one half: the other mirrors it
    const mesh = decodeMesh(bytes);
    expect(mesh.faceCount).toBe(result?.faces);
    expect(Math.abs(mesh.faceCount - 75)).toBeLessThan(16);
    // a ball four across, of so few quads, and both its halves measured: a half alone would be a whole radius off
    const { typical = 0, worst = 0, worstAt = [0, 0, 0] } = result?.distance ?? {};
    expect(typical).toBeGreaterThan(0);
    expect(worst).toBeGreaterThan(typical);
    expect(worst).toBeLessThan(0.1);
    expect(Math.abs(Math.hypot(...worstAt) - 2)).toBeLessThanOrEqual(worst + 1e-3);
    expect([...mesh.vertices()].every((v) => mesh.point(v)[0] >= 0)).toBe(true);
    const png = decode(new Uint8Array(await (await fetch(`${server.base}/api/jobs/${id}/picture`)).arrayBuffer()));
    expect([png.width, png.height]).toEqual([480, 320]);
    expect(new Set(png.data).size).toBeGreaterThan(20);
    const told = events.flatMap((event) => ('job' in event && event.job.id === id ? [event.job] : []));
    expect(told.some((card) => card.stage === 'Grid')).toBe(true);
    expect(told.map((card) => card.state)).toContain('done');
    expect((await server.json('DELETE', `/api/jobs/${id}`)).status).toBe(204);
    await expect.poll(() => events.some((event) => 'gone' in event && event.gone === id)).toBe(true);
    expect((await server.json('GET', `/api/jobs/${id}`)).status).toBe(404);
    abort.abort();
    await reading;
    // what nothing names any more goes at the next start
    await server.blobs.sweep(Date.now() + 2 * 3600_000);
    expect(await server.db.getRepository(Blobs).countBy({ hash: result?.hash })).toBe(0);
  });

  it('can be cancelled, wait their turn, and keep their results through a sweep', async () => {
    const { id: asset } = await server.makeAsset('Conch', 'Pool', ball);
    const [a, b, c] = await ask(asset, run(['One'], ['Two'], ['Three']));
    expect(new Set([a.run, b.run, c.run]).size).toBe(1);
    expect((await find(c.id)).state).toBe('waiting');
    const cancelled = z.parse(JobCard, (await server.json('POST', `/api/jobs/${a.id}/cancel`)).body);
    expect(cancelled.state).toBe('cancelled');
    await until(c.id, 'done');
    await until(b.id, 'done');
    // ended ones stay what they are
    expect(z.parse(JobCard, (await server.json('POST', `/api/jobs/${b.id}/cancel`)).body).state).toBe('done');
    expect((await find(a.id)).state).toBe('cancelled');
    await server.blobs.sweep(Date.now() + 2 * 3600_000);
    const { result } = await find(b.id);
    expect((await fetch(`${server.base}/api/blobs/${result?.hash}`)).status).toBe(200);
    // the same ask gives the same quads, stored once
    expect((await find(c.id)).result?.hash).toBe(result?.hash);
    await server.json('DELETE', `/api/assets/${asset}`);
    expect(await server.db.getRepository(Jobs).countBy({ assetId: asset })).toBe(0);
  });

  it('come out the same alone, where a second thread lays some of the parts, and beside another, where none does', async () => {
    const { id: asset } = await server.makeAsset('Cockle', 'Pool', encodeSculpt(sideBySide(ballSculpt, ballSculpt)));
    const whole = { plane: null, faces: 800 };
    const [alone] = await ask(asset, run(['Alone', whole]));
    await until(alone.id, 'done');
    const [, second] = await ask(asset, run(['First', whole], ['Second', whole]));
    await until(second.id, 'done');
    const { result } = await find(alone.id);
    expect(result?.routes).toEqual(['grid', 'grid']);
    expect(Math.abs((result?.faces ?? 0) - 800)).toBeLessThanOrEqual(16);
    expect((await find(second.id)).result?.hash).toBe(result?.hash);
  });

  it('are refused in one sentence: nothing to lay on, a number out of range, an asset or bytes that are not here', async () => {
    const { id: asset } = await server.makeAsset('Cowrie', 'Pool', ball);
    const url = `/api/assets/${asset}/jobs`;
    expect((await server.json('POST', url, run(['Well'], ['Few', { faces: 2 }]))).body).toMatchObject({
      code: 'BAD_INPUT',
    });
    expect((await server.json('POST', url, run(['Well'], ['Lost', { piece: 'a'.repeat(64) }]))).body).toMatchObject({ code: 'NOT_FOUND' }); // prettier-ignore
    expect((await server.json('POST', '/api/assets/aaaaaaaaaaaa/jobs', run(['Gone']))).status).toBe(404);
    expect(await server.db.getRepository(Jobs).countBy({ assetId: asset })).toBe(0);
    // bytes that are no low-poly
    const piece = await server.upload(Uint8Array.of(1, 2, 3));
    const [{ id }] = await ask(asset, run(['Broken', { piece }]));
    await until(id, 'refused');
    expect((await find(id)).refusal).toMatch(/^[A-Z].*\.$/);
  });

  it('lay over a piece: its subdivided shape, smoothed, along its own loops', async () => {
    const { id: asset } = await server.makeAsset('Whelk', 'Pool', ball);
    const piece = await server.upload(encodeMesh(cubeMesh()));
    const over = { piece, plane: null, faces: 96 };
    const ways = await ask(asset, run(['As it is', { ...over, keepEdges: 40 }], ['Rounded', { ...over, levels: 3, smoothing: 5, followsLoops: true }])); // prettier-ignore
    const corner: number[] = [];
    for (const { id } of ways) {
      await until(id, 'done');
      const { result } = await find(id);
      const mesh = decodeMesh(new Uint8Array(await (await fetch(`${server.base}/api/blobs/${result?.hash}`)).arrayBuffer())); // prettier-ignore
      corner.push(Math.max(...[...mesh.vertices()].map((v) => Math.hypot(...mesh.point(v)))));
    }
    // a box's corners stay where they are; those of the subdivided shape are round
    expect(corner[0]).toBeCloseTo(Math.sqrt(3), 3);
    expect(corner[1]).toBeLessThan(1.25);
  });

  it('go on after the server’s end cut them off', async () => {
    const { id: asset } = await server.makeAsset('Cone', 'Pool', ball);
    const [{ id }] = await ask(asset, run(['Cut off']));
    // as an earlier version would have asked
    const old: Partial<LayAllAsk> = { ...ASK };
    for (const late of ['levels', 'smoothing', 'followsLoops', 'densities'] as const) delete old[late];
    await server.db.getRepository(Jobs).update(id, { ask: old as LayAllAsk });
    await server.close();
    server = await TestServer.start(inject('databaseUrl'));
    await until(id, 'done');
  });

  it('are described in OpenAPI with the schemas that they are checked by', async () => {
    const { body } = await server.json('GET', '/api/openapi.json');
    const api = body as unknown as { paths: Record<string, object>; components: { schemas: Record<string, { required?: string[] }> } }; // prettier-ignore
    expect(Object.keys(api.paths)).toContain('/api/assets/{asset}/jobs');
    expect(api.components.schemas.NewRun.required).toEqual(['kind', 'ways']);
    const refs = [...JSON.stringify(api.paths).matchAll(/#\/components\/schemas\/(\w+)/g)].map(([, name]) => name);
    for (const name of refs) expect(Object.keys(api.components.schemas)).toContain(name);
  });
});
