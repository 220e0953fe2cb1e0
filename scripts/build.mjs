// Bundles the server, its worker and the command line with esbuild, and the page with Vite. Usage: build.mjs cli|server|web|all
import { build } from 'esbuild';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { chmod, mkdir, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const at = (...parts) => path.join(root, ...parts);

/** What shares work with the command line and with jobs, in a thread of its own. */
const ASIDE = 'packages/threads/src/asideWorker.ts';

/** Our own rooms are bundled; packages stay where npm put them. */
const ownRoomsOnly = {
  name: 'own-rooms-only',
  setup(b) {
    b.onResolve({ filter: /^[^./]/ }, ({ path: id }) =>
      id.startsWith('@half-loop/') ? undefined : { path: id, external: true },
    );
  },
};

/** Files appear whole or not at all: tests and servers may be running the ones before. */
const node = async (entryPoints, outdir) => {
  const { outputFiles } = await build({
    entryPoints,
    outdir,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    absWorkingDir: root,
    plugins: [ownRoomsOnly],
    write: false,
  });
  for (const { path: file, contents } of outputFiles) {
    await mkdir(path.dirname(file), { recursive: true });
    const fresh = `${file}.${randomUUID()}`;
    await writeFile(fresh, contents);
    await rename(fresh, file);
  }
};

export async function buildCli() {
  if (!existsSync(at('apps/cli/src/main.ts'))) return;
  await node(
    [
      { in: at('apps/cli/src/main.ts'), out: 'main' },
      { in: at(ASIDE), out: 'asideWorker' },
    ],
    at('apps/cli/dist'),
  );
  await chmod(at('apps/cli/bin/half-loop.mjs'), 0o755);
}

export async function buildServer() {
  const entries = { main: 'main.ts', heavyWorker: 'heavyWorker.ts', jobWorker: 'jobs/jobWorker.ts' };
  const files = Object.entries(entries).map(([out, file]) => ({ in: at('apps/server/src', file), out }));
  await node([...files, { in: at(ASIDE), out: 'asideWorker' }], at('apps/server/dist'));
}

export async function buildWeb() {
  const vite = await import('vite');
  await vite.build({ root: at('apps/web'), logLevel: 'error' });
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const what = process.argv[2] ?? 'all';
  if (what === 'cli' || what === 'all') await buildCli();
  if (what === 'server' || what === 'all') await buildServer();
  if (what === 'web' || what === 'all') await buildWeb();
}
