import { gunzipSync, gzipSync } from 'node:zlib';
import { decodeDocument, DEFAULT_SETTINGS, encodeDocument, plainPiece, type AssetCard } from '@half-loop/contract';
import type { Rng } from '@half-loop/core/math';
import { addFace, addVertex, PolyMesh } from '@half-loop/core/mesh';
import { sha256 } from './World';

const OCTETS = { 'content-type': 'application/octet-stream' };

/** A document of some faces that no other call made. */
export function someDocument(rng: Rng): Uint8Array {
  const mesh = new PolyMesh();
  const faces = 1 + Math.floor(rng() * 400);
  for (let i = 0; i < faces; i++)
    addFace(
      mesh,
      [0, 1, 2].map(() => addVertex(mesh, [rng(), rng(), rng()])),
    );
  const document = {
    settings: DEFAULT_SETTINGS,
    done: [],
    pieces: [plainPiece('p', 'Low-poly', mesh)],
  };
  return gzipSync(encodeDocument(document, { stage: 'lay', faces, budget: 2000, needsALook: 0 }));
}

/** A page as the server sees it, with a log of what was acknowledged to it, kept where no kill reaches. */
export class Client {
  asset!: AssetCard;
  /** the revision and the hash of the last acknowledged save */
  acknowledged = { revision: 1, hash: '' };
  /** sent on top of it and never answered */
  unanswered: Uint8Array | null = null;
  readonly uploads = new Map<string, Uint8Array>();
  acks = 0;

  constructor(readonly base: string) {}

  private async call(url: string, init?: RequestInit): Promise<Response> {
    return fetch(this.base + url, { ...init, signal: AbortSignal.timeout(20_000) });
  }
  async upload(bytes: Uint8Array): Promise<{ status: number; hash: string }> {
    const res = await this.call('/api/blobs', { method: 'POST', headers: OCTETS, body: Uint8Array.from(bytes) });
    const { hash = '' } = (await res.json()) as { hash?: string };
    if (res.status === 201) {
      this.uploads.set(hash, bytes);
      this.acks++;
    }
    return { status: res.status, hash };
  }
  async makeAsset(rng: Rng): Promise<void> {
    const json = { 'content-type': 'application/json' };
    const project = await this.call('/api/projects', { method: 'POST', headers: json, body: '{"name":"Torture"}' });
    const { id } = (await project.json()) as { id: string };
    const first = someDocument(rng);
    const { hash } = await this.upload(first);
    this.uploads.delete(hash);
    const body = JSON.stringify({ projectId: id, name: 'Limpet', sculpt: null, original: null, document: hash });
    const res = await this.call('/api/assets', { method: 'POST', headers: json, body });
    this.asset = (await res.json()) as AssetCard;
    this.acknowledged = { revision: 1, hash };
  }
  /** One save on the acknowledged revision; an answer is logged before anything else happens. */
  async save(bytes: Uint8Array): Promise<number> {
    this.unanswered = bytes;
    const headers = { ...OCTETS, 'x-base-revision': String(this.acknowledged.revision) };
    const url = `/api/assets/${this.asset.id}/document`;
    const res = await this.call(url, { method: 'PUT', headers, body: Uint8Array.from(bytes) });
    const body = (await res.json()) as { revision: number; hash: string };
    if (res.status === 200) {
      this.acknowledged = { revision: body.revision, hash: body.hash };
      this.unanswered = null;
      this.acks++;
    }
    return res.status;
  }
  /** Compares the server with this log; what is wrong, in words. Afterwards the log goes on from the server's state. */
  async compare(): Promise<string[]> {
    const wrong: string[] = [];
    const res = await this.call(`/api/assets/${this.asset.id}/document`);
    if (res.status !== 200) return [`the document is not there (${res.status})`];
    const revision = Number(res.headers.get('x-revision'));
    const bytes = Buffer.from(await res.arrayBuffer());
    const hash = sha256(bytes);
    const { acknowledged, unanswered } = this;
    if (revision < acknowledged.revision) wrong.push(`acknowledged revision ${acknowledged.revision} is gone: the server has ${revision}`); // prettier-ignore
    else if (revision === acknowledged.revision && hash !== acknowledged.hash) wrong.push(`revision ${revision} holds other bytes than were acknowledged`); // prettier-ignore
    else if (revision > acknowledged.revision && !(revision === acknowledged.revision + 1 && unanswered && sha256(unanswered) === hash)) wrong.push(`revision ${revision} holds what nobody sent`); // prettier-ignore
    try {
      decodeDocument(gunzipSync(bytes));
    } catch (error) {
      wrong.push(`the stored document is damaged: ${String(error)}`);
    }
    for (const [known, sent] of this.uploads) {
      const stored = await this.call(`/api/blobs/${known}`);
      if (stored.status !== 200 || sha256(Buffer.from(await stored.arrayBuffer())) !== sha256(sent)) wrong.push(`acknowledged bytes ${known.slice(0, 8)} are not there`); // prettier-ignore
    }
    this.acknowledged = { revision, hash };
    this.unanswered = null;
    this.uploads.clear();
    return wrong;
  }
}
