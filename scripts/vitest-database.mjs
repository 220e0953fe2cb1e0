// Vitest's global set-up: a MariaDB of its own in a temporary folder, for the tests of the server.
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { startDatabase } from './database.mjs';
import { ensureDebian, MARIADB } from './machine.mjs';

export default async function setup({ provide }) {
  ensureDebian(MARIADB);
  const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-test-'));
  const { url, stop } = await startDatabase(folder);
  provide('databaseUrl', url);
  return async () => {
    await stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
