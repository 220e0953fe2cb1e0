import { fork, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import path from 'node:path';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';

export interface Database {
  url: string;
  socket: string;
  pid: number;
  ended: Promise<unknown>;
  stop(): Promise<void>;
}
/** What the script that runs this hands in: it alone knows the machine. */
export interface Machine {
  startDatabase(folder: string, options?: string[]): Promise<Database>;
  freePort(): Promise<number>;
  serverEntry: string;
  chromium: string | null;
  say(line: string): void;
}

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** A database and a server of their own in one folder, to be killed and started again. */
export class World {
  database!: Database;
  private server: ChildProcess | null = null;
  private constructor(
    readonly machine: Machine,
    readonly folder: string,
    readonly port: number,
    private readonly options: string[],
  ) {}

  static async make(machine: Machine, folder: string, options: string[] = []): Promise<World> {
    const world = new World(machine, folder, await machine.freePort(), options);
    await world.startDatabase();
    await world.startServer();
    return world;
  }
  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }
  async startDatabase(): Promise<void> {
    this.database = await this.machine.startDatabase(path.join(this.folder, 'data'), this.options);
  }
  async startServer(env: Record<string, string> = {}): Promise<void> {
    this.server = fork(this.machine.serverEntry, {
      env: {
        ...process.env,
        PORT: String(this.port),
        DATABASE_URL: this.database.url,
        HALF_LOOP_DEMO: '0',
        LOG_LEVEL: 'silent',
        ...env,
      },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    const ended = once(this.server, 'exit').then(([code]) => {
      throw new Error(`the server did not start (${code})`);
    });
    await Promise.race([once(this.server, 'message'), ended]);
    ended.catch(() => undefined);
  }
  async killServer(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const { server } = this;
    if (!server) return;
    this.server = null;
    if (server.exitCode !== null || server.signalCode !== null) return;
    server.kill(signal);
    await once(server, 'exit');
  }
  async killDatabase(): Promise<void> {
    process.kill(this.database.pid, 'SIGKILL');
    await this.database.ended;
  }
  async stop(): Promise<void> {
    await this.killServer('SIGTERM');
    await this.database.stop();
  }

  /** A connection as the database's root, who sees the transactions of all. */
  connect(): Promise<Connection> {
    return createConnection({ socketPath: this.database.socket, user: 'root', database: 'half_loop' });
  }

  /** Waits until some other connection's transaction has changed rows and waits for a lock of ours; false when it never does. */
  async seesOpenTransaction(own: Connection): Promise<boolean> {
    // MariaDB shows its transactions from a cache that it renews only when nobody asked for a tenth of a second
    for (let i = 0; i < 60; i++) {
      await pause(130);
      const [rows] = await own.query<RowDataPacket[]>(
        "SELECT trx_id FROM information_schema.innodb_trx WHERE trx_mysql_thread_id <> CONNECTION_ID() AND trx_state = 'LOCK WAIT'",
      );
      if (rows.length > 0) return true;
    }
    return false;
  }
}
