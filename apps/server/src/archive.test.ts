import { createHash } from 'node:crypto';
import { createWriteStream, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import os from 'node:os';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import {
  decodeDocument,
  documentFromJson,
  documentToJson,
  type AssetCard,
  type ProjectIndex,
} from '@half-loop/contract';
import { readMesh } from '@half-loop/core/formats';
import { meshSections } from '@half-loop/core/mesh';
import { ZipFile } from 'yazl';
import { packed, sculpt, TestServer } from './testServer';
import { ZipReader } from './ZipReader';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start(inject('databaseUrl'));
});
afterAll(() => server.close());
const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-archive-'));

async function takeOut(projectId: string): Promise<string> {
  const res = await fetch(`${server.base}/api/projects/${projectId}/archive`);
  expect([res.status, res.headers.get('content-type')]).toEqual([200, 'application/zip']);
  const file = path.join(folder, `${projectId}.zip`);
  writeFileSync(file, new Uint8Array(await res.arrayBuffer()));
  return file;
}
const bringIn = async (
  file: string,
): Promise<{ status: number; body: { code?: string; detail?: string; id?: string } }> => {
  const body = readFileSync(file);
  const res = await fetch(`${server.base}/api/projects/archive`, { method: 'POST', body, headers: { 'content-type': 'application/zip' } }); // prettier-ignore
  return { status: res.status, body: (await res.json()) as object };
};
/** A ZIP with these parts. */
async function zipOf(parts: Record<string, string | Buffer>, name: string): Promise<string> {
  const zip = new ZipFile();
  for (const [part, content] of Object.entries(parts)) zip.addBuffer(Buffer.from(content), part);
  zip.end();
  const file = path.join(folder, name);
  await once(zip.outputStream.pipe(createWriteStream(file)), 'finish');
  return file;
}
/** All parts of an archive but its index changed as asked. */
async function edited(
  file: string,
  name: string,
  change: (parts: Record<string, Buffer>, index: ProjectIndex) => void,
): Promise<string> {
  const zip = await ZipReader.open(file);
  const index = JSON.parse((await zip.read('project.json', 1e6)).toString()) as ProjectIndex;
  const parts: Record<string, Buffer> = {};
  for (const a of index.assets)
    for (const part of [a.document, a.lowPoly, a.sculpt, a.original?.path, ...a.versions.map((v) => v.document)])
      if (part) parts[part] = await zip.read(part, 1e9);
  zip.close();
  change(parts, index);
  return zipOf({ ...parts, 'project.json': JSON.stringify(index) }, name);
}
const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const document = async (id: string): Promise<Uint8Array> =>
  gunzipSync(Buffer.from(await (await fetch(`${server.base}/api/assets/${id}/document`)).arrayBuffer()));

describe('a project as one archive', () => {
  it('goes out in open formats and comes in again with everything in it', async () => {
    const asset = await server.makeAsset('Limpet <1>', 'Rock pool "A"');
    await server.save(asset.id, 1, packed(3));
    await server.json('POST', `/api/assets/${asset.id}/versions`, { name: 'limpet-01' });
    await server.json('POST', `/api/assets/${asset.id}/versions`, {
      name: 'older',
      document: await server.upload(packed(7)),
    });
    const file = await takeOut(asset.projectId);

    // any program can read what is in it
    const zip = await ZipReader.open(file);
    const index = JSON.parse((await zip.read('project.json', 1e6)).toString()) as ProjectIndex;
    const [packedAsset] = index.assets;
    const ply = await readMesh(await zip.read(packedAsset.sculpt as string, 1e6), 'sculpt.ply');
    expect(ply.soup.corners).toHaveLength(12);
    const obj = await readMesh(await zip.read(packedAsset.lowPoly as string, 1e6), 'low-poly.obj');
    expect(obj.soup.faceStarts).toHaveLength(4);
    expect((await zip.read(packedAsset.original?.path as string, 1e6)).equals(sculpt)).toBe(true);
    zip.close();

    const { status, body } = await bringIn(file);
    expect(status).toBe(201);
    const projects = (await server.json('GET', '/api/library')).body.projects as {
      id: string;
      name: string;
      assets: AssetCard[];
    }[];
    const project = projects.find((p) => p.id === body.id);
    expect(project).toMatchObject({ name: 'Rock pool "A"', assets: [{ name: 'Limpet <1>', summary: { faces: 3 }, sculpt: hashOf(sculpt) }] }); // prettier-ignore
    const back = project?.assets[0] as AssetCard;
    expect(Buffer.from(await document(back.id)).equals(await document(asset.id))).toBe(true);
    const versions = async (id: string): Promise<{ name: string; document: string }[]> =>
      (await server.json('GET', `/api/assets/${id}/versions`)).body.versions as never;
    const inflated = async (hash: string): Promise<string> => hashOf(gunzipSync(await server.blobs.readAll(hash)));
    const [before, after] = await Promise.all([versions(asset.id), versions(back.id)]);
    expect(after.map((v) => v.name)).toEqual(before.map((v) => v.name));
    expect(await Promise.all(after.map((v) => inflated(v.document)))).toEqual(await Promise.all(before.map((v) => inflated(v.document)))); // prettier-ignore
  });

  it('keeps every bit of a document in its JSON, what is no number and −0 too', () => {
    const { document: made, summary } = decodeDocument(gunzipSync(packed(2)));
    const { mesh } = made.pieces[0];
    mesh.setPoint(0, [-0, 1 / 3, 5e-324]);
    mesh.channel({ domain: 'corner', name: 'uv', type: 'f32', stride: 2, fill: NaN });
    const back = documentFromJson(documentToJson(made, summary));
    expect(back.summary).toEqual(summary);
    const sections = meshSections(mesh);
    const again = meshSections(back.document.pieces[0].mesh);
    expect(again).toEqual(sections);
    expect(Object.is(again.columns[0].data[0], -0)).toBe(true);
  });

  it('comes in whole or not at all: each damage gets a sentence and leaves no project', async () => {
    const asset = await server.makeAsset('Whelk', 'Pool');
    const file = await takeOut(asset.projectId);
    const count = async (): Promise<number> => ((await server.json('GET', '/api/library')).body.projects as []).length;
    const before = await count();
    const cases: [string, string, RegExp][] = [
      ['cut', path.join(folder, 'cut.zip'), /not a project archive/],
      ['text', path.join(folder, 'text.zip'), /not a project archive/],
      ['no index', await zipOf({ 'a.txt': 'x' }, 'noindex.zip'), /no “project.json”/],
      ['index', await zipOf({ 'project.json': '{"format":"other"}' }, 'index.zip'), /no valid format/],
      [
        'missing',
        await edited(file, 'missing.zip', (parts, { assets }) => delete parts[assets[0].sculpt as string]),
        /no “assets\/01-whelk\/sculpt.ply”/,
      ],
      [
        'sculpt',
        await edited(
          file,
          'sculpt.zip',
          (parts, { assets }) => (parts[assets[0].sculpt as string] = Buffer.from('ply\n')),
        ),
        /end_header/,
      ],
      [
        'quads',
        await edited(
          file,
          'quads.zip',
          (parts, { assets }) =>
            (parts[assets[0].sculpt as string] = Buffer.from(
              'ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n4 0 1 2 3\n',
            )),
        ),
        /triangles alone/,
      ],
      [
        'links',
        await edited(
          file,
          'links.zip',
          (parts, { assets }) =>
            (parts[assets[0].document] = Buffer.from(
              parts[assets[0].document]
                .toString()
                .replace(/"name":"halfNext","type":"i32","values":\[\d+/, '"name":"halfNext","type":"i32","values":[4'),
            )),
        ),
        /its mesh is broken/,
      ],
      [
        'path',
        await edited(file, 'path.zip', (_, { assets }) => (assets[0].document = '../../etc/passwd')),
        /no valid assets.0.document/,
      ],
      [
        'date',
        await edited(file, 'date.zip', (_, { assets }) =>
          assets[0].versions.push({ name: 'v', createdAt: 'yesterday', document: assets[0].document }),
        ),
        /no readable date/,
      ],
    ];
    writeFileSync(cases[0][1], readFileSync(file).subarray(0, 500));
    writeFileSync(cases[1][1], 'hello');
    for (const [what, bad, message] of cases) {
      const { status, body } = await bringIn(bad);
      expect([what, status, body.code]).toEqual([what, 422, 'BAD_FILE']);
      expect(body.detail, what).toMatch(message);
    }
    expect(await count()).toBe(before);
  });

  it('is not unpacked when it is a bomb or names files outside itself', async () => {
    const zeros = Buffer.alloc(200 * 1024 ** 2);
    const bomb = await zipOf({ 'project.json': zeros }, 'bomb.zip');
    expect(await bringIn(bomb)).toMatchObject({
      status: 422,
      body: { detail: expect.stringMatching(/unpacks to 209715200 bytes/) },
    });
    // yazl refuses to write such names, so one is put in by hand, of the same length
    const slip = await zipOf({ 'project.json': '{}', 'aa-aa-evil.txt': 'x' }, 'slip.zip');
    writeFileSync(
      slip,
      Buffer.from(readFileSync(slip).toString('latin1').replaceAll('aa-aa-evil.txt', '../../evil.txt'), 'latin1'),
    );
    expect(await bringIn(slip)).toMatchObject({
      status: 422,
      body: { detail: expect.stringMatching(/relative path/) },
    });
    expect(await server.json('POST', '/api/projects/archive', { a: 1 })).toMatchObject({ status: 400 });
  });
});
