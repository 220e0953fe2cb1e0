import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Step, StepTitle } from './Step';

/** Where one page stands with one asset: enough, with its steps and snapshot, to bring everything back. */
export interface LogHead {
  assetId: string;
  pageId: string;
  /** the server's revision that the last acknowledged save made */
  baseRevision: number;
  /** steps done; later ones can be redone */
  position: number;
  titles: StepTitle[];
  snapshotPosition: number;
  /** counts every change of state; equal stamps mean nothing unsaved */
  stamp: number;
  savedStamp: number;
  /** order of use among logs, counted, not timed */
  use: number;
}

interface Schema extends DBSchema {
  heads: { key: [string, string]; value: LogHead; indexes: { asset: string } };
  steps: { key: [string, string, number]; value: Step };
  snapshots: { key: [string, string]; value: Uint8Array };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const database = (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>('half-loop', 1, {
    upgrade(db) {
      db.createObjectStore('heads', { keyPath: ['assetId', 'pageId'] }).createIndex('asset', 'assetId');
      db.createObjectStore('steps');
      db.createObjectStore('snapshots');
    },
  }));

/** Every log of an asset in this browser. */
export async function logsOf(assetId: string): Promise<LogHead[]> {
  return (await database()).getAllFromIndex('heads', 'asset', assetId);
}

/**
 * The page's own store of its unsaved and undoable work. Writes are queued in order and started in the same task as
 * the change; one write holds all that belongs together.
 */
export class SessionLog {
  private constructor(
    private readonly db: IDBPDatabase<Schema>,
    public head: LogHead,
  ) {}

  /** A log that is there already. */
  static async adopt(head: LogHead): Promise<SessionLog> {
    return new SessionLog(await database(), head);
  }

  /** A fresh log that begins with a document, in place of what this page had. */
  static async begin(head: LogHead, snapshot: Uint8Array): Promise<SessionLog> {
    const log = new SessionLog(await database(), head);
    await log.replace(head, snapshot);
    return log;
  }

  private get key(): [string, string] {
    return [this.head.assetId, this.head.pageId];
  }

  async replace(head: LogHead, snapshot: Uint8Array): Promise<void> {
    const tx = this.db.transaction(['heads', 'steps', 'snapshots'], 'readwrite');
    const [asset, page] = this.key;
    void tx.objectStore('steps').delete(IDBKeyRange.bound([asset, page, 0], [asset, page, Infinity]));
    void tx.objectStore('snapshots').put(snapshot, [asset, page]);
    void tx.objectStore('heads').put(head);
    this.head = head;
    await tx.done;
  }

  /** Writes the head, and with it a step at its place and a snapshot when given. */
  write(head: LogHead, step?: { seq: number; step: Step }, snapshot?: Uint8Array): Promise<void> {
    this.head = head;
    const tx = this.db.transaction(['heads', 'steps', 'snapshots'], 'readwrite', { durability: 'strict' });
    if (step) void tx.objectStore('steps').put(step.step, [...this.key, step.seq]);
    if (snapshot) void tx.objectStore('snapshots').put(snapshot, this.key);
    void tx.objectStore('heads').put(head);
    // sent at once, so that a page closed in the next moment has it all the same
    tx.commit();
    return tx.done;
  }

  async step(seq: number): Promise<Step | undefined> {
    return this.db.get('steps', [...this.key, seq]);
  }
  async snapshot(): Promise<Uint8Array | undefined> {
    return this.db.get('snapshots', this.key);
  }
}
