// npm run bench: builds and runs the benchmark table. Ratios are against a named library on the same input in one run.
import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import os from 'node:os';
import path from 'node:path';
import { root, say } from './machine.mjs';

const outfile = path.join(root, 'bench/dist/main.mjs');
await build({
  entryPoints: [path.join(root, 'bench/main.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  logLevel: 'warning',
  absWorkingDir: root,
});
say(`Node ${process.versions.node}, ${os.cpus().length} cores: ${os.cpus()[0]?.model ?? 'unknown'}`);
process.exit(spawnSync(process.execPath, ['--max-old-space-size=8192', outfile], { stdio: 'inherit' }).status ?? 1);
