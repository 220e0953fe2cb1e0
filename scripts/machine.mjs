// What the machine must have: the right Node, Debian's MariaDB, npm's packages, Chromium for the browser tests.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
export const say = (line) => console.log(line);
const isRoot = process.getuid?.() === 0;

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 19)) return;
  fail(`Half Loop needs Node 20.19 or later; this is ${process.versions.node}.`);
}

export function fail(message) {
  console.error(message);
  process.exit(1);
}

export function findBinary(...names) {
  const folders = [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/local/sbin', '/usr/bin'];
  for (const name of names)
    for (const folder of folders) if (folder && existsSync(path.join(folder, name))) return path.join(folder, name);
  return null;
}

/** Debian packages that bring missing binaries: installed when root, else the command to run is printed. */
export function ensureDebian(needs) {
  const missing = needs.filter(({ binaries }) => !findBinary(...binaries)).map((n) => n.package);
  if (missing.length === 0) return;
  const command = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (!isRoot) fail(`Some Debian packages are missing. Run this once, then try again:\n  sudo ${command}`);
  say(`Installing Debian packages: ${missing.join(', ')} …`);
  const options = {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    shell: true,
  };
  spawnSync('apt-get update', options);
  if (spawnSync(command, options).status !== 0) fail(`That did not work. The command was:\n  ${command}`);
}

export const MARIADB = [
  { package: 'mariadb-server-core', binaries: ['mariadbd'] },
  { package: 'mariadb-client-core', binaries: ['mariadb'] },
];
export const CHROMIUM = [{ package: 'chromium', binaries: ['chromium'] }];

/** npm packages, when the lock file changed since they were last installed. */
export function ensurePackages() {
  const lock = readFileSync(path.join(root, 'package-lock.json'));
  const stamp = createHash('sha256').update(lock).digest('hex');
  const mark = path.join(root, 'node_modules/.half-loop-installed');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === stamp) return;
  if (!existsSync(path.join(root, 'node_modules/.package-lock.json')) || existsSync(mark)) {
    say('Installing npm packages …');
    const { status } = spawnSync('npm', ['ci', '--no-audit', '--no-fund'], {
      cwd: root,
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    if (status !== 0) fail('npm ci did not work; its messages are above.');
  }
  writeFileSync(mark, stamp);
}

/** Newest change below the source folders, to tell whether a build is stale. */
export function sourceStamp() {
  const hash = createHash('sha256');
  const visit = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      if (['node_modules', 'dist', '.cache'].includes(entry.name)) continue;
      const file = path.join(folder, entry.name);
      if (entry.isDirectory()) visit(file);
      else if (!/\.test\.ts$/.test(entry.name))
        hash.update(`${file}:${statSync(file).size}:`).update(readFileSync(file));
    }
  };
  for (const folder of ['packages', 'apps', 'scripts']) visit(path.join(root, folder));
  hash.update(readFileSync(path.join(root, 'package-lock.json')));
  return hash.digest('hex');
}

/** Builds everything unless the last build was of the same source. */
export async function ensureBuilt() {
  const mark = path.join(root, 'apps/server/dist/.built-from');
  const stamp = sourceStamp();
  if (existsSync(mark) && readFileSync(mark, 'utf8') === stamp) return;
  say('Building …');
  const { buildCli, buildServer, buildWeb } = await import('./build.mjs');
  await Promise.all([buildCli(), buildServer(), buildWeb()]);
  mkdirSync(path.dirname(mark), { recursive: true });
  writeFileSync(mark, stamp);
}

/** The number behind an option of this script's command line; ends with exit 2 when it is not one. */
export function numberAfter(option, fallback) {
  const at = process.argv.indexOf(option);
  if (at < 0) return fallback;
  const value = Number(process.argv[at + 1]);
  if (Number.isInteger(value) && value > 0) return value;
  console.error(`${option} wants a whole number above 0`);
  process.exit(2);
}
