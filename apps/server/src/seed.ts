import { gzipSync } from 'node:zlib';
import type { DataSource } from 'typeorm';
import { DEMO_NAMES, DEMO_PROJECT } from '@half-loop/studies';
import type { AssetService } from './AssetService';
import type { BlobStore } from './BlobStore';
import { Marks } from './entities';
import type { HeavyWork } from './HeavyWork';

/** Makes the demo project, once in the life of a database: what a user deletes stays deleted. */
export async function seedDemo(
  db: DataSource,
  assets: AssetService,
  blobs: BlobStore,
  heavy: HeavyWork,
  say: (line: string) => void,
): Promise<void> {
  const marks = db.getRepository(Marks);
  if (await marks.existsBy({ name: 'demo' })) return;
  say(`Making the demo project ${DEMO_PROJECT}: its sculpts, once, about half a minute …`);
  const made = await Promise.all(DEMO_NAMES.map(async (name) => ({ name, ...(await heavy.makeDemo(name)) })));
  const project = await assets.createProject(DEMO_PROJECT);
  for (const { name, sculpt, document } of made) {
    const stored = await Promise.all([sculpt ? blobs.putBytes(sculpt) : null, blobs.putBytes(gzipSync(document))]);
    const card = await assets.create({
      projectId: project.id,
      name,
      sculpt: stored[0]?.hash ?? null,
      original: null,
      document: stored[1].hash,
    });
    await assets.thumbnail(card.id);
  }
  await marks.insert({ name: 'demo' });
}
