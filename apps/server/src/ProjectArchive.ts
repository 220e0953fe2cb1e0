import { Readable } from 'node:stream';
import { gunzip, gzip } from 'node:zlib';
import { promisify } from 'node:util';
import type { DataSource } from 'typeorm';
import { ZipFile } from 'yazl';
import { HalfLoopError } from '@half-loop/core/errors';
import { LIMITS, ProjectIndex, readSummary, type ProjectCard } from '@half-loop/contract';
import * as z from 'zod/mini';
import type { BlobStore } from './BlobStore';
import { Assets, Projects, Revisions, Versions, type AssetRow, type VersionRow } from './entities';
import type { HeavyWork } from './HeavyWork';
import { newId } from './ids';
import { ZipReader } from './ZipReader';

const inflate = promisify(gunzip);
const deflate = promisify(gzip);
const INDEX = 'project.json';
/** most bytes of one JSON text in an archive: V8's strings end near 512 MB */
const MOST_JSON = 400 * 1024 ** 2;

/** A whole project as one ZIP of open-format files and JSON, and the way back into any installation. */
export class ProjectArchive {
  constructor(
    private readonly db: DataSource,
    private readonly blobs: BlobStore,
    private readonly heavy: HeavyWork,
  ) {}

  /** The archive, made as it is read: sculpts as PLY, low-polys as OBJ, documents as JSON, originals as they came. */
  async takeOut(projectId: string): Promise<{ name: string; stream: Readable }> {
    const project = await this.db.getRepository(Projects).findOneBy({ id: projectId });
    if (!project) throw new HalfLoopError('NOT_FOUND', 'That project is not here any more.');
    const zip = new ZipFile();
    const stream = zip.outputStream as Readable;
    this.fill(zip, project.name, projectId).catch((error: Error) => stream.destroy(error));
    return { name: project.name, stream };
  }

  private async fill(zip: ZipFile, name: string, projectId: string): Promise<void> {
    const rows = await this.db.getRepository(Assets).find({ where: { projectId }, order: { name: 'ASC', id: 'ASC' } });
    const assets: ProjectIndex['assets'] = [];
    for (const [i, row] of rows.entries())
      assets.push(await this.addAsset(zip, row, `assets/${folderName(i, row.name)}`));
    const index: ProjectIndex = { format: 'half-loop project', version: 1, name, assets };
    zip.addBuffer(Buffer.from(`${JSON.stringify(index, null, 2)}\n`), INDEX);
    zip.end();
  }

  private async addAsset(zip: ZipFile, row: AssetRow, folder: string): Promise<ProjectIndex['assets'][number]> {
    const lazily = (path: string, make: () => Promise<Readable>): string => {
      zip.addReadStreamLazy(path, { mtime: row.savedAt }, (done) => {
        make().then((stream) => done(null, stream), (error: unknown) => done(error, Readable.from([]))); // prettier-ignore
      });
      return path;
    };
    const pack = (hash: string): ReturnType<HeavyWork['convert']> =>
      this.stored(hash).then((bytes) => this.heavy.convert('packDocument', bytes));
    const now = await pack(row.documentHash);
    zip.addBuffer(Buffer.from(now.bytes), `${folder}/document.json`);
    if (now.second) zip.addBuffer(Buffer.from(now.second), `${folder}/low-poly.obj`);
    const { sculptHash, originalHash } = row;
    const sculpt = sculptHash
      ? lazily(`${folder}/sculpt.ply`, async () =>
          Readable.from([(await this.heavy.convert('packSculpt', await this.blobs.readAll(sculptHash))).bytes]),
        )
      : null;
    const original = originalHash
      ? lazily(`${folder}/original`, async () => Readable.from(this.blobs.read(originalHash)))
      : null;
    const versions = await this.db
      .getRepository(Versions)
      .find({ where: { assetId: row.id }, order: { createdAt: 'ASC' } });
    return {
      name: row.name,
      document: `${folder}/document.json`,
      lowPoly: now.second ? `${folder}/low-poly.obj` : null,
      sculpt,
      original: original ? { path: original, fileName: row.originalName ?? 'original' } : null,
      versions: versions.map((v, i) => ({
        name: v.name,
        createdAt: v.createdAt.toISOString(),
        document: lazily(`${folder}/versions/${i + 1}.json`, async () =>
          Readable.from([(await pack(v.documentHash)).bytes]),
        ),
      })),
    };
  }

  private async stored(hash: string): Promise<Buffer> {
    return inflate(await this.blobs.readAll(hash), { maxOutputLength: 4 * LIMITS.document });
  }

  /** Brings an archive's project in, all of it or nothing. Throws BAD_FILE with the part that is wrong. */
  async bringIn(file: string): Promise<ProjectCard> {
    const zip = await ZipReader.open(file);
    try {
      const index = await readIndex(zip);
      const projectId = newId();
      const made: { row: AssetRow; versions: VersionRow[] }[] = [];
      for (const asset of index.assets) made.push(await this.readAsset(zip, asset, projectId));
      await this.db.transaction(async (m) => {
        await m.getRepository(Projects).insert({ id: projectId, name: index.name, createdAt: new Date() });
        for (const { row, versions } of made) {
          await m.getRepository(Assets).insert(row);
          await m.getRepository(Revisions).insert({ assetId: row.id, revision: 1, documentHash: row.documentHash, savedAt: row.savedAt }); // prettier-ignore
          for (const version of versions) await m.getRepository(Versions).insert(version);
        }
      });
      return { id: projectId, name: index.name, assets: [] };
    } finally {
      zip.close();
    }
  }

  private async readAsset(
    zip: ZipReader,
    asset: ProjectIndex['assets'][number],
    projectId: string,
  ): Promise<{ row: AssetRow; versions: VersionRow[] }> {
    const document = async (path: string) => {
      const bytes = (await this.heavy.convert('unpackDocument', await zip.read(path, MOST_JSON))).bytes;
      return { hash: (await this.blobs.putBytes(await deflate(bytes))).hash, summary: readSummary(bytes) };
    };
    let sculptHash: string | null = null;
    if (asset.sculpt) {
      const { bytes } = await this.heavy.convert('unpackSculpt', await zip.read(asset.sculpt, 2 * LIMITS.upload));
      await this.heavy.checkSculpt(bytes);
      sculptHash = (await this.blobs.putBytes(bytes)).hash;
    }
    const { original } = asset;
    const originalHash = original
      ? (await this.blobs.put(await zip.stream(original.path, LIMITS.upload), LIMITS.upload)).hash
      : null;
    const now = await document(asset.document);
    const id = newId();
    const row: AssetRow = {
      id,
      projectId,
      name: asset.name,
      sculptHash,
      originalHash,
      sculptBefore: null,
      originalBefore: null,
      originalNameBefore: null,
      originalName: original?.fileName ?? null,
      revision: 1,
      documentHash: now.hash,
      summary: now.summary,
      savedAt: new Date(),
    };
    const versions: VersionRow[] = [];
    for (const version of asset.versions) {
      const { hash, summary } = await document(version.document);
      const createdAt = new Date(version.createdAt);
      if (Number.isNaN(createdAt.getTime())) throw new HalfLoopError('BAD_FILE', `The version “${version.name}” has no readable date.`); // prettier-ignore
      versions.push({
        id: newId(),
        assetId: id,
        name: version.name,
        revision: 1,
        documentHash: hash,
        summary,
        createdAt,
      });
    }
    return { row, versions };
  }
}

async function readIndex(zip: ZipReader): Promise<ProjectIndex> {
  let json: unknown;
  try {
    json = JSON.parse((await zip.read(INDEX, 16 * 1024 ** 2)).toString('utf8'));
  } catch (error) {
    if (error instanceof HalfLoopError) throw error;
    throw new HalfLoopError('BAD_FILE', `The archive's ${INDEX} is not JSON.`);
  }
  const parsed = z.safeParse(ProjectIndex, json);
  if (parsed.success) return parsed.data;
  throw new HalfLoopError('BAD_FILE', `The archive's ${INDEX} has no valid ${parsed.error.issues[0].path.join('.') || 'content'}.`); // prettier-ignore
}

/** A folder's name: a number, and what plain letters the asset's name has. */
const folderName = (i: number, name: string): string => {
  const plain = name.normalize('NFKD').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '').slice(0, 40); // prettier-ignore
  return `${String(i + 1).padStart(2, '0')}${plain ? `-${plain}` : ''}`;
};
