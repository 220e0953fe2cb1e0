import * as z from 'zod/mini';
import { HalfLoopError, type ErrorCode } from '@half-loop/core/errors';
import {
  AccessState,
  AssetCard,
  BlobReceipt,
  JobCard,
  JobsResponse,
  LibraryResponse,
  Problem,
  ProjectCard,
  SaveReceipt,
  VersionCard,
  VersionsResponse,
  type NewAsset,
  type NewerSculpt,
  type NewRun,
} from '@half-loop/contract';

/** The server could not be reached; what is in this browser stays there. */
export class OfflineError extends Error {
  constructor() {
    super('The server cannot be reached. Your work is kept in this browser and goes out as soon as it answers.');
  }
}

async function call(url: string, init?: RequestInit): Promise<Response> {
  let res: Response;
  try {
    res = await fetch(url, init);
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new OfflineError();
  }
  if (res.ok) return res;
  const problem = z.safeParse(Problem, await res.json().catch(() => null));
  if (!problem.success) throw new OfflineError();
  const { code, detail, revision } = problem.data;
  throw new HalfLoopError(code as ErrorCode, detail, { revision });
}

async function get<S extends z.ZodMiniType>(schema: S, url: string, init?: RequestInit): Promise<z.infer<S>> {
  return z.parse(schema, await (await call(url, init)).json()) as z.infer<S>;
}
const sent = (method: string, body: unknown): RequestInit => ({
  method,
  body: JSON.stringify(body),
  headers: { 'Content-Type': 'application/json' },
});
const OCTETS = { 'Content-Type': 'application/octet-stream' };

export async function gunzip(packed: ArrayBuffer): Promise<Uint8Array> {
  const stream = new Blob([packed]).stream().pipeThrough(new DecompressionStream('gzip'));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}
export async function gzip(bytes: Uint8Array): Promise<Uint8Array<ArrayBuffer>> {
  const stream = new Blob([bytes as Uint8Array<ArrayBuffer>]).stream().pipeThrough(new CompressionStream('gzip'));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

export const api = {
  access: () => get(AccessState, '/api/access'),
  giveAccess: async (code: string) => void (await call('/api/access', sent('POST', { code }))),
  library: () => get(LibraryResponse, '/api/library'),
  asset: (id: string) => get(AssetCard, `/api/assets/${id}`),
  createProject: (name: string) => get(ProjectCard, '/api/projects', sent('POST', { name })),
  createAsset: (asset: NewAsset) => get(AssetCard, '/api/assets', sent('POST', asset)),
  renameAsset: (id: string, name: string) => get(AssetCard, `/api/assets/${id}`, sent('PATCH', { name })),
  replaceSculpt: (id: string, newer: NewerSculpt) => get(AssetCard, `/api/assets/${id}/sculpt`, sent('PUT', newer)),
  removeAsset: async (id: string) => void (await call(`/api/assets/${id}`, { method: 'DELETE' })),
  versions: (id: string) => get(VersionsResponse, `/api/assets/${id}/versions`),
  saveVersion: (id: string, name: string, document?: string) =>
    get(VersionCard, `/api/assets/${id}/versions`, sent('POST', { name, document })),
  async document(id: string): Promise<{ revision: number; bytes: Uint8Array }> {
    const res = await call(`/api/assets/${id}/document`);
    return { revision: Number(res.headers.get('X-Revision')), bytes: await gunzip(await res.arrayBuffer()) };
  },
  save: (id: string, base: number, packed: Uint8Array<ArrayBuffer>) =>
    get(SaveReceipt, `/api/assets/${id}/document`, {
      method: 'PUT',
      body: packed,
      headers: { ...OCTETS, 'X-Base-Revision': String(base) },
    }),
  jobs: () => get(JobsResponse, '/api/jobs'),
  askJobs: (asset: string, run: NewRun) => get(JobsResponse, `/api/assets/${asset}/jobs`, sent('POST', run)),
  cancelJob: (id: string) => get(JobCard, `/api/jobs/${id}/cancel`, { method: 'POST' }),
  dropJob: async (id: string) => void (await call(`/api/jobs/${id}`, { method: 'DELETE' })),
  /** Stored bytes by their hash. */
  blob: async (hash: string): Promise<Uint8Array> =>
    new Uint8Array(await (await call(`/api/blobs/${hash}`)).arrayBuffer()),
  /** A stored document by its hash, inflated. */
  async versionDocument(hash: string): Promise<Uint8Array> {
    return gunzip((await this.blob(hash)).buffer as ArrayBuffer);
  },
};

type Progress = (done: number) => void;

/** Stores bytes, with progress in [0, 1]; aborting rejects with an AbortError. */
export const uploadBlob = (body: Blob, onProgress: Progress, signal?: AbortSignal): Promise<BlobReceipt> =>
  upload('/api/blobs', 'application/octet-stream', BlobReceipt, body, onProgress, signal);

/** Brings a project in from its archive, with the upload's progress in [0, 1]. */
export const uploadArchive = (body: Blob, onProgress: Progress, signal?: AbortSignal): Promise<ProjectCard> =>
  upload('/api/projects/archive', 'application/zip', ProjectCard, body, onProgress, signal);

function upload<S extends z.ZodMiniType>(
  url: string,
  type: string,
  schema: S,
  body: Blob,
  onProgress: Progress,
  signal?: AbortSignal,
): Promise<z.infer<S>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', url);
    request.setRequestHeader('Content-Type', type);
    request.upload.onprogress = (e) => onProgress(e.total > 0 ? e.loaded / e.total : 0);
    request.onerror = () => reject(new OfflineError());
    request.onabort = () => reject(new DOMException('cancelled', 'AbortError'));
    request.onload = () => {
      const body: unknown = JSON.parse(request.responseText || 'null');
      const receipt = z.safeParse(schema, body);
      if (receipt.success) return resolve(receipt.data as z.infer<S>);
      const problem = z.safeParse(Problem, body);
      reject(
        problem.success ? new HalfLoopError(problem.data.code as ErrorCode, problem.data.detail) : new OfflineError(),
      );
    };
    signal?.addEventListener('abort', () => request.abort());
    request.send(body);
  });
}

const OWN_ERRORS: ReadonlySet<string> = new Set(['HalfLoopError', 'TopologyError']);

export function messageOf(error: unknown): string {
  // a worker's refusal comes over as a plain error that still has its name
  const isOwn = error instanceof Error && OWN_ERRORS.has(error.name);
  if (isOwn || error instanceof HalfLoopError || error instanceof OfflineError) return error.message;
  return `Something unexpected happened (${error instanceof Error ? error.message : String(error)}). Nothing was changed.`;
}
