import { gunzip } from 'node:zlib';
import { promisify } from 'node:util';
import { In, type DataSource } from 'typeorm';
import { HalfLoopError } from '@half-loop/core/errors';
import {
  LIMITS,
  readSummary,
  type AssetCard,
  type NewAsset,
  type NewerSculpt,
  type ProjectCard,
  type SaveReceipt,
  type Summary,
  type VersionCard,
} from '@half-loop/contract';
import type { BlobStore } from './BlobStore';
import { Assets, Projects, Revisions, Thumbnails, Versions, type AssetRow, type VersionRow } from './entities';
import { newId } from './ids';
import { thinned } from './thinning';
import type { HeavyWork } from './HeavyWork';

const inflate = promisify(gunzip);
const INFLATED = { free: 16 * 1024 ** 2, times: 200 };

/** Projects, assets, their documents and versions. Revisions decide what is newer, never clocks. */
export class AssetService {
  constructor(
    private readonly db: DataSource,
    private readonly blobs: BlobStore,
    private readonly heavy: HeavyWork,
  ) {}

  async library(): Promise<ProjectCard[]> {
    const projects = await this.db.getRepository(Projects).find({ order: { createdAt: 'ASC' } });
    const assets = await this.db.getRepository(Assets).find({ order: { name: 'ASC' } });
    return projects.map(({ id, name }) => ({ id, name, assets: assets.filter((a) => a.projectId === id).map(cardOf) }));
  }

  async createProject(name: string): Promise<ProjectCard> {
    const id = newId();
    await this.db.getRepository(Projects).insert({ id, name, createdAt: new Date() });
    return { id, name, assets: [] };
  }

  async asset(id: string): Promise<AssetCard> {
    return cardOf(await this.row(id));
  }

  /** Makes an asset over stored bytes, once a worker has found the sculpt sound. */
  async create({ projectId, name, sculpt, original, document }: NewAsset): Promise<AssetCard> {
    if (!(await this.db.getRepository(Projects).existsBy({ id: projectId })))
      throw new HalfLoopError('NOT_FOUND', 'That project is not here any more.');
    if (sculpt) await this.heavy.checkSculpt(await this.blobs.readAll(sculpt));
    if (original) await this.blobs.find(original.hash);
    const summary = readSummary(await this.unpack(await this.blobs.readAll(document)));
    const row: AssetRow = {
      id: newId(),
      projectId,
      name,
      sculptHash: sculpt,
      originalHash: original?.hash ?? null,
      originalName: original?.fileName ?? null,
      sculptBefore: null,
      originalBefore: null,
      originalNameBefore: null,
      revision: 1,
      documentHash: document,
      summary,
      savedAt: new Date(),
    };
    await this.db.transaction(async (m) => {
      await m.getRepository(Assets).insert(row);
      await m
        .getRepository(Revisions)
        .insert({ assetId: row.id, revision: 1, documentHash: document, savedAt: row.savedAt });
    });
    return cardOf(row);
  }

  /** Puts a stored sculpt in the place of an asset's, once a worker has found it sound; the one before is kept, and changes places with it when it is asked for. */
  async replaceSculpt(id: string, { sculpt, original }: NewerSculpt): Promise<AssetCard> {
    const row = await this.row(id);
    await this.heavy.checkSculpt(await this.blobs.readAll(sculpt));
    if (original) await this.blobs.find(original.hash);
    const isBack = sculpt === row.sculptBefore && original === null;
    const change = {
      sculptHash: sculpt,
      originalHash: isBack ? row.originalBefore : (original?.hash ?? null),
      originalName: isBack ? row.originalNameBefore : (original?.fileName ?? null),
      sculptBefore: row.sculptHash,
      originalBefore: row.originalHash,
      originalNameBefore: row.originalName,
    };
    await this.db.getRepository(Assets).update({ id }, change);
    await this.db.getRepository(Thumbnails).delete({ assetId: id });
    return this.asset(id);
  }

  async rename(id: string, name: string): Promise<AssetCard> {
    await this.row(id);
    await this.db.getRepository(Assets).update({ id }, { name });
    return this.asset(id);
  }

  async remove(id: string): Promise<void> {
    await this.row(id);
    await this.db.getRepository(Assets).delete({ id });
  }

  async document(id: string): Promise<{ revision: number; bytes: Buffer }> {
    const { revision, documentHash } = await this.row(id);
    return { revision, bytes: await this.blobs.readAll(documentHash) };
  }

  /** The asset's present document, inflated. */
  async openDocument(id: string): Promise<Uint8Array> {
    const { documentHash } = await this.row(id);
    return this.unpack(await this.blobs.readAll(documentHash));
  }

  /** Stores a compressed document based on revision `base`; throws STALE_REVISION when another save came first. */
  async save(id: string, base: number, packed: Buffer): Promise<SaveReceipt> {
    const summary = readSummary(await this.unpack(packed));
    await this.row(id);
    const { hash } = await this.blobs.putBytes(packed, 'save');
    const savedAt = new Date();
    const done = await this.db.transaction(async (m) => {
      const { affected } = await m
        .getRepository(Assets)
        .createQueryBuilder()
        .update()
        .set({ revision: base + 1, documentHash: hash, summary, savedAt })
        .where('id = :id AND revision = :base', { id, base })
        .execute();
      if (affected !== 1) return this.alreadySaved(id, base, hash);
      await m.getRepository(Revisions).insert({ assetId: id, revision: base + 1, documentHash: hash, savedAt });
      return savedAt;
    });
    if (base % 20 === 0) await this.thin(id);
    return { revision: base + 1, hash, savedAt: done.toISOString() };
  }

  /** A save whose answer was lost is sent again: the same bytes on the same base were stored already. Else it is stale. */
  private async alreadySaved(id: string, base: number, hash: string): Promise<Date> {
    const { revision, documentHash, savedAt } = await this.row(id);
    if (revision === base + 1 && documentHash === hash) return savedAt;
    throw new HalfLoopError('STALE_REVISION', 'This asset was saved from somewhere else meanwhile.', { revision });
  }

  private async thin(assetId: string): Promise<void> {
    const saves = await this.db.getRepository(Revisions).findBy({ assetId });
    const gone = thinned(saves, Date.now()).map((s) => s.revision);
    if (gone.length > 0) await this.db.getRepository(Revisions).delete({ assetId, revision: In(gone) });
  }

  async versions(assetId: string): Promise<VersionCard[]> {
    await this.row(assetId);
    const rows = await this.db.getRepository(Versions).find({ where: { assetId }, order: { createdAt: 'DESC' } });
    return rows.map(versionCard);
  }

  /** Keeps the asset's present document under a name, or one that was uploaded before. */
  async saveVersion(assetId: string, name: string, document?: string): Promise<VersionCard> {
    const asset = await this.row(assetId);
    const documentHash = document ?? asset.documentHash;
    const summary: Summary = document
      ? readSummary(await this.unpack(await this.blobs.readAll(document)))
      : asset.summary;
    const row: VersionRow = {
      id: newId(),
      assetId,
      name,
      revision: asset.revision,
      documentHash,
      summary,
      createdAt: new Date(),
    };
    await this.db.getRepository(Versions).insert(row);
    return versionCard(row);
  }

  /** The picture of an asset as it is saved now; drawn when it is first asked for. */
  async thumbnail(id: string): Promise<Buffer> {
    const { revision, documentHash, sculptHash } = await this.row(id);
    const known = await this.db.getRepository(Thumbnails).findOneBy({ assetId: id });
    if (known?.revision === revision) return known.png;
    const document = await this.unpack(await this.blobs.readAll(documentHash));
    const png = await this.heavy.drawThumbnail(document, sculptHash ? await this.blobs.readAll(sculptHash) : null);
    await this.db.getRepository(Thumbnails).upsert({ assetId: id, revision, png }, ['assetId']);
    return png;
  }

  /** The picture of a version, drawn each time it is asked for; browsers keep it, since versions never change. */
  async versionThumbnail(assetId: string, versionId: string): Promise<Buffer> {
    const { sculptHash } = await this.row(assetId);
    const version = await this.db.getRepository(Versions).findOneBy({ id: versionId, assetId });
    if (!version) throw new HalfLoopError('NOT_FOUND', 'That version is not here.');
    const document = await this.unpack(await this.blobs.readAll(version.documentHash));
    return this.heavy.drawThumbnail(document, sculptHash ? await this.blobs.readAll(sculptHash) : null);
  }

  private async row(id: string): Promise<AssetRow> {
    const row = await this.db.getRepository(Assets).findOneBy({ id });
    if (!row) throw new HalfLoopError('NOT_FOUND', 'That asset is not here; it may have been deleted.');
    return row;
  }

  private async unpack(packed: Buffer): Promise<Uint8Array> {
    try {
      // documents deflate tenfold at most; what claims far more is made to fill the memory
      const most = Math.min(4 * LIMITS.document, INFLATED.free + INFLATED.times * packed.length);
      return await inflate(packed, { maxOutputLength: most });
    } catch (cause) {
      throw new HalfLoopError('BAD_FILE', 'The document is not compressed as expected, or too large.', {}, { cause });
    }
  }
}

const cardOf = (row: AssetRow): AssetCard => ({
  id: row.id,
  projectId: row.projectId,
  name: row.name,
  revision: row.revision,
  sculpt: row.sculptHash,
  sculptBefore: row.sculptBefore,
  summary: row.summary,
  savedAt: row.savedAt.toISOString(),
});

const versionCard = ({ id, name, revision, documentHash, summary, createdAt }: VersionRow): VersionCard => ({
  id,
  name,
  revision,
  document: documentHash,
  summary,
  createdAt: createdAt.toISOString(),
});
