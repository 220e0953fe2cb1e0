// npm run torture -- --count N [--seed S]: kills the server, MariaDB and the page at seeded moments and compares what was acknowledged.
import { build } from 'esbuild';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { freePort, startDatabase } from './database.mjs';
import { checkNode, ensureBuilt, ensureDebian, findBinary, MARIADB, numberAfter, root, say } from './machine.mjs';

checkNode();
const count = numberAfter('--count', 300);
const seed = numberAfter('--seed', 1);
ensureDebian(MARIADB);
await ensureBuilt();
const outfile = path.join(root, 'torture/dist/main.mjs');
await build({
  entryPoints: [path.join(root, 'torture/main.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
  absWorkingDir: root,
  external: ['@playwright/test', 'mysql2'],
});
const { torture } = await import(outfile);
const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-torture-'));
const machine = {
  startDatabase,
  freePort,
  serverEntry: path.join(root, 'apps/server/dist/main.js'),
  chromium: findBinary('chromium'),
  say,
};
say(`Torture: ${count} kills, seed ${seed}`);
const verdict = await torture(machine, folder, count, seed);
rmSync(folder, { recursive: true, force: true });
if (process.env.HALF_LOOP_VERDICT) writeFileSync(process.env.HALF_LOOP_VERDICT, JSON.stringify(verdict));
say(`${verdict.passed} passed, ${verdict.failed} failed, ${verdict.skipped} skipped`);
process.exit(verdict.failed === 0 ? 0 : 1);
