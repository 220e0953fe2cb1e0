import { setTimeout } from 'node:timers/promises';
import { In, Not, type DataSource, type Repository } from 'typeorm';
import * as z from 'zod/mini';
import { HalfLoopError } from '@half-loop/core/errors';
import { decodeDocument, LayAllAsk, type JobCard, type JobEvent, type NewRun } from '@half-loop/contract';
import type { AssetService } from '../AssetService';
import type { BlobStore } from '../BlobStore';
import { Assets, Jobs, type JobRow } from '../entities';
import { newId } from '../ids';
import type { JobRunner, JobTask } from './JobRunner';

/** No asset may have more jobs than this that wait or run. */
const MOST_OPEN = 12;
const OPEN = ['waiting', 'running'] as const;
/** How long to wait before what the database did not take is written again, milliseconds. */
const AGAIN = 1000;

/** Long work: kept in the database, done by a runner, told to whoever listens. What the server's end cut off is begun again at its start. */
export class JobService {
  private readonly under = new Map<string, { abort: AbortController; stage: string; done: number }>();
  private readonly listeners = new Set<(event: JobEvent) => void>();
  private readonly closing = new AbortController();
  /** news are told one after another, so that none overtakes a newer one */
  private told: Promise<void> = Promise.resolve();

  constructor(
    private readonly db: DataSource,
    private readonly blobs: BlobStore,
    private readonly assets: AssetService,
    private readonly runner: JobRunner,
  ) {}

  /** Begins what was waiting or cut off. */
  async start(): Promise<void> {
    await this.rows.update({ state: 'running' }, { state: 'waiting' });
    await this.fill();
  }

  async list(): Promise<JobCard[]> {
    const rows = await this.rows.find({ order: { askedAt: 'DESC', id: 'ASC' }, take: 500 });
    return this.cards(rows);
  }

  async find(id: string): Promise<JobCard> {
    return (await this.cards([await this.row(id)]))[0];
  }

  /** Takes in all ways of a run, or none. Throws NOT_FOUND, BAD_INPUT, and TOO_MANY while many are open. */
  async ask(assetId: string, { kind, ways }: NewRun): Promise<JobCard[]> {
    const asset = await this.assets.asset(assetId);
    for (const { ask } of ways) {
      if (ask.piece !== null) await this.blobs.find(ask.piece);
      else if (asset.sculpt === null) throw new HalfLoopError('BAD_INPUT', 'This asset has no sculpt to lay over.');
    }
    if ((await this.rows.countBy({ assetId, state: In(OPEN) })) >= MOST_OPEN)
      throw new HalfLoopError('TOO_MANY', `${MOST_OPEN} jobs of this asset are open already; wait for one, or cancel one.`); // prettier-ignore
    const run = newId();
    const asked = Date.now();
    const rows = ways.map(({ label, ask }, i): JobRow => ({
      id: newId(),
      assetId,
      kind,
      run,
      label,
      state: 'waiting',
      ask,
      refusal: null,
      result: null,
      looks: 0,
      // a moment apart, so that they stay in order
      askedAt: new Date(asked + i),
      endedAt: null,
    }));
    await this.rows.insert(rows);
    for (const { id } of rows) await this.tell(id);
    this.fillSoon();
    return this.cards(rows);
  }

  /** Ends a job that waits or runs; others stay as they are. */
  async cancel(id: string): Promise<JobCard> {
    await this.row(id);
    const { affected } = await this.rows.update({ id, state: In(OPEN) }, { state: 'cancelled', endedAt: new Date() });
    if (affected === 1) {
      this.under.get(id)?.abort.abort();
      await this.tell(id);
    }
    return this.find(id);
  }

  /** Drops a job and what came of it. */
  async remove(id: string): Promise<void> {
    await this.cancel(id);
    await this.rows.delete({ id });
    await this.inTurn(() => this.emit({ gone: id }));
  }

  /** What there is to see of a job, as PNG. Throws NOT_FOUND before there is anything. */
  async picture(id: string): Promise<Buffer> {
    const row = await this.rows.findOne({ where: { id }, select: { id: true, picture: true } });
    if (!row?.picture) throw new HalfLoopError('NOT_FOUND', 'There is nothing to see of that job yet.');
    return row.picture;
  }

  /** Tells of every change from now on, until what it gives is called. */
  listen(listener: (event: JobEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  async close(): Promise<void> {
    this.closing.abort();
    for (const { abort } of this.under.values()) abort.abort();
    await this.runner.close();
  }

  private get isClosed(): boolean {
    return this.closing.signal.aborted;
  }

  private get rows(): Repository<JobRow> {
    return this.db.getRepository(Jobs);
  }

  private async row(id: string): Promise<JobRow> {
    const row = await this.rows.findOneBy({ id });
    if (!row) throw new HalfLoopError('NOT_FOUND', 'That job is not here; it may have been dropped.');
    return row;
  }

  /** What cannot be read now, while the database is away or closing, is looked for again at the next job's end, or the next start. */
  private fillSoon(): void {
    this.fill().catch(() => undefined);
  }

  /** Starts waiting jobs, the oldest first, as long as there is room. */
  private async fill(): Promise<void> {
    while (!this.isClosed && this.under.size < this.runner.places) {
      // one that was started a moment ago may still wait by its row
      const where = { state: 'waiting', id: Not(In([...this.under.keys()])) } as const;
      const [next] = await this.rows.find({ where, order: { askedAt: 'ASC', id: 'ASC' }, take: 1 });
      if (!next || this.isClosed || this.under.size >= this.runner.places) return;
      // another call may have started it while this one read
      if (this.under.has(next.id)) continue;
      const abort = new AbortController();
      this.under.set(next.id, { abort, stage: 'Starting', done: 0 });
      void this.work(next, abort);
    }
  }

  private async work(job: JobRow, { signal }: AbortController): Promise<void> {
    const { id } = job;
    let ended: Partial<JobRow> = {};
    try {
      const { affected } = await this.rows.update({ id, state: 'waiting' }, { state: 'running' });
      if (affected !== 1) return;
      await this.tell(id);
      const news: Promise<void>[] = [];
      const { bytes, measures } = await this.runner.run(await this.taskOf(job), signal, (told) => {
        // news that the database did not take are told again by the next
        const isTold = 'picture' in told ? this.seen(id, Buffer.from(told.picture)) : this.progress(id, told.stage, told.done); // prettier-ignore
        news.push(isTold.catch(() => undefined));
      });
      await Promise.all(news);
      const { hash } = await this.blobs.putBytes(bytes, 'save');
      ended = { state: 'done', result: { ...measures, hash } };
    } catch (error) {
      // one that was cancelled says so already; one that the server's end cut off goes on at its next start
      if (signal.aborted) return;
      const isOurs = error instanceof HalfLoopError && error.code !== 'INTERNAL';
      ended = { state: 'refused', refusal: isOurs ? error.message : 'Something broke in the server while this was worked on.' }; // prettier-ignore
    } finally {
      this.under.delete(id);
      this.fillSoon();
      if (ended.state) await this.write(id, { ...ended, endedAt: new Date() });
    }
  }

  /** How a running job ended: written as soon as the database takes it, so that none seems to run for ever. */
  private async write(id: string, ended: Partial<JobRow>): Promise<void> {
    while (!this.isClosed)
      try {
        await this.rows.update({ id, state: 'running' }, ended as never);
        return await this.tell(id);
      } catch {
        await setTimeout(AGAIN, undefined, { signal: this.closing.signal }).catch(() => undefined);
      }
  }

  private async taskOf({ assetId, ask }: JobRow): Promise<JobTask> {
    const { sculpt } = await this.assets.asset(assetId);
    const input = await this.blobs.readAll((ask.piece ?? sculpt) as string);
    const { settings } = decodeDocument(await this.assets.openDocument(assetId)).document;
    // one that was asked for by an earlier version may lack what there is to ask for now
    return { ask: z.parse(LayAllAsk, ask), input, up: settings.up, front: settings.front };
  }

  private async seen(id: string, picture: Buffer): Promise<void> {
    await this.rows
      .createQueryBuilder()
      .update()
      .set({ picture, looks: () => 'looks + 1' })
      .where({ id })
      .execute();
    await this.tell(id);
  }

  private async progress(id: string, stage: string, done: number): Promise<void> {
    const own = this.under.get(id);
    if (!own) return;
    Object.assign(own, { stage, done });
    await this.tell(id);
  }

  private async tell(id: string): Promise<void> {
    if (this.listeners.size === 0) return;
    await this.inTurn(async () => {
      const row = await this.rows.findOneBy({ id });
      if (row) this.emit({ job: (await this.cards([row]))[0] });
    });
  }

  private inTurn(telling: () => void | Promise<void>): Promise<void> {
    const own = this.told.then(telling);
    this.told = own.catch(() => undefined);
    return own;
  }

  private emit(event: JobEvent): void {
    for (const listener of this.listeners) listener(event);
  }

  private async cards(rows: readonly JobRow[]): Promise<JobCard[]> {
    const ids = [...new Set(rows.map((r) => r.assetId))];
    const assets = await this.db
      .getRepository(Assets)
      .find({ where: { id: In(ids) }, select: { id: true, name: true } });
    const nameOf = new Map(assets.map((a) => [a.id, a.name]));
    return rows.map(({ id, kind, run, label, assetId, state, ask, refusal, result, looks, askedAt, endedAt }) => {
      const own = this.under.get(id);
      return {
        id,
        kind,
        run,
        label,
        asset: { id: assetId, name: nameOf.get(assetId) ?? '' },
        state,
        stage: state === 'running' ? (own?.stage ?? 'Starting') : '',
        done: state === 'done' ? 1 : state === 'running' ? (own?.done ?? 0) : 0,
        ask,
        refusal,
        result,
        looks,
        askedAt: askedAt.toISOString(),
        endedAt: endedAt?.toISOString() ?? null,
      };
    });
  }
}
