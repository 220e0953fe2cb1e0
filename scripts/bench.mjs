// npm run bench [-- PART …]: builds and runs the benchmark table. Ratios are against a named library on the same input in one run.
import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import os from 'node:os';
import path from 'node:path';
import { freePort, startDatabase } from './database.mjs';
import { ensureBuilt, findBinary, root, say } from './machine.mjs';

// sculpts of millions of triangles need more than the heap that Node takes by itself
const HEAP = '--max-old-space-size=8192';
if (!process.execArgv.includes(HEAP)) {
  const { status } = spawnSync(process.execPath, [HEAP, ...process.argv.slice(1)], { stdio: 'inherit' });
  process.exit(status ?? 1);
}
const names = process.argv.slice(2);
if (names.length === 0 || names.includes('opening')) await ensureBuilt();
const outdir = path.join(root, 'bench/dist');
await build({
  entryPoints: [
    { in: path.join(root, 'bench/main.ts'), out: 'main' },
    { in: path.join(root, 'packages/threads/src/asideWorker.ts'), out: 'asideWorker' },
  ],
  outdir,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
  absWorkingDir: root,
  external: ['@playwright/test'],
});
say(`Node ${process.versions.node}, ${os.cpus().length} cores: ${os.cpus()[0]?.model ?? 'unknown'}`);
const { bench } = await import(path.join(outdir, 'main.js'));
await bench(names, { startDatabase, freePort, root, chromium: findBinary('chromium') });
process.exit(0);
