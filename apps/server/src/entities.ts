import { EntitySchema } from 'typeorm';
import type { JobState, LaidMeasures, LayAllAsk, Summary } from '@half-loop/contract';

export interface ProjectRow {
  id: string;
  name: string;
  createdAt: Date;
}
export interface AssetRow {
  id: string;
  projectId: string;
  name: string;
  sculptHash: string | null;
  originalHash: string | null;
  originalName: string | null;
  /** what a newer sculpt took the place of */
  sculptBefore: string | null;
  originalBefore: string | null;
  originalNameBefore: string | null;
  revision: number;
  documentHash: string;
  summary: Summary;
  savedAt: Date;
}
/** One autosave; thinned as it ages. */
export interface RevisionRow {
  assetId: string;
  revision: number;
  documentHash: string;
  savedAt: Date;
}
export interface VersionRow {
  id: string;
  assetId: string;
  name: string;
  revision: number;
  documentHash: string;
  summary: Summary;
  createdAt: Date;
}
/** Published bytes: their chunks are those of the upload they came with. */
export interface BlobRow {
  hash: string;
  uploadId: string;
  size: number;
  createdAt: Date;
}
export interface ChunkRow {
  uploadId: string;
  n: number;
  data: Buffer;
}
export interface ThumbnailRow {
  assetId: string;
  revision: number;
  png: Buffer;
}
/** Long work; a run's ways share a run. */
export interface JobRow {
  id: string;
  assetId: string;
  kind: 'lay-all';
  run: string;
  label: string;
  state: JobState;
  ask: LayAllAsk;
  refusal: string | null;
  result: LaidMeasures | null;
  looks: number;
  /** not read with the rest */
  picture?: Buffer | null;
  askedAt: Date;
  endedAt: Date | null;
}
export interface MarkRow {
  name: string;
}

const id = { type: 'varchar', length: 40 } as const;
const hash = { type: 'char', length: 64 } as const;
const name = { type: 'varchar', length: 120 } as const;
const time = { type: 'datetime', precision: 3 } as const;

export const Projects = new EntitySchema<ProjectRow>({
  name: 'project',
  columns: { id: { ...id, primary: true }, name, createdAt: time },
});
export const Assets = new EntitySchema<AssetRow>({
  name: 'asset',
  columns: {
    id: { ...id, primary: true },
    projectId: id,
    name,
    sculptHash: { ...hash, nullable: true },
    originalHash: { ...hash, nullable: true },
    originalName: { type: 'varchar', length: 255, nullable: true },
    sculptBefore: { ...hash, nullable: true },
    originalBefore: { ...hash, nullable: true },
    originalNameBefore: { type: 'varchar', length: 255, nullable: true },
    revision: { type: 'int' },
    documentHash: hash,
    summary: { type: 'simple-json' },
    savedAt: time,
  },
});
export const Revisions = new EntitySchema<RevisionRow>({
  name: 'revision',
  columns: {
    assetId: { ...id, primary: true },
    revision: { type: 'int', primary: true },
    documentHash: hash,
    savedAt: time,
  },
});
export const Versions = new EntitySchema<VersionRow>({
  name: 'version',
  columns: {
    id: { ...id, primary: true },
    assetId: id,
    name,
    revision: { type: 'int' },
    documentHash: hash,
    summary: { type: 'simple-json' },
    createdAt: time,
  },
});
export const Blobs = new EntitySchema<BlobRow>({
  name: 'blob',
  columns: { hash: { ...hash, primary: true }, uploadId: id, size: { type: 'int', unsigned: true }, createdAt: time },
});
export const Chunks = new EntitySchema<ChunkRow>({
  name: 'chunk',
  columns: { uploadId: { ...id, primary: true }, n: { type: 'int', primary: true }, data: { type: 'mediumblob' } },
});
export const Thumbnails = new EntitySchema<ThumbnailRow>({
  name: 'thumbnail',
  columns: { assetId: { ...id, primary: true }, revision: { type: 'int' }, png: { type: 'mediumblob' } },
});
export const Jobs = new EntitySchema<JobRow>({
  name: 'job',
  columns: {
    id: { ...id, primary: true },
    assetId: id,
    kind: { type: 'varchar', length: 20 },
    run: id,
    label: name,
    state: { type: 'varchar', length: 12 },
    ask: { type: 'simple-json' },
    refusal: { type: 'text', nullable: true },
    result: { type: 'simple-json', nullable: true },
    looks: { type: 'int' },
    picture: { type: 'mediumblob', nullable: true, select: false },
    askedAt: time,
    endedAt: { ...time, nullable: true },
  },
});
/** Things done once in the life of a database. */
export const Marks = new EntitySchema<MarkRow>({ name: 'mark', columns: { name: { ...id, primary: true } } });

export const ENTITIES = [Projects, Assets, Revisions, Versions, Blobs, Chunks, Thumbnails, Jobs, Marks];
