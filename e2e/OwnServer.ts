import { fork, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:net';
import path from 'node:path';

/** A server of this test's own, on the suite's database, that can be killed and started again. */
export class OwnServer {
  private child: ChildProcess | null = null;
  private constructor(
    readonly port: number,
    private readonly settings: Record<string, string>,
  ) {}
  static async make(settings: Record<string, string> = {}): Promise<OwnServer> {
    const probe = createServer().listen(0, '127.0.0.1');
    await once(probe, 'listening');
    const { port } = probe.address() as { port: number };
    await new Promise((resolve) => probe.close(resolve));
    return new OwnServer(port, settings);
  }
  get url(): string {
    return `http://localhost:${this.port}`;
  }
  async start(): Promise<void> {
    const env = {
      ...process.env,
      PORT: String(this.port),
      DATABASE_URL: process.env.HALF_LOOP_TEST_DATABASE,
      HALF_LOOP_DEMO: '0',
      ...this.settings,
    };
    this.child = fork(path.join(import.meta.dirname, '../apps/server/dist/main.js'), { env });
    await once(this.child, 'message');
  }
  async kill(): Promise<void> {
    if (!this.child) return;
    this.child.kill('SIGKILL');
    await once(this.child, 'exit');
    this.child = null;
  }
}
