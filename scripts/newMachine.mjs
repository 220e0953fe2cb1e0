// npm run new-machine [-- --test]: an empty Debian in a folder, with Node and nothing else, in which this checkout is started (and tested).
import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, cpSync, existsSync, mkdirSync, mkdtempSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { ensureDebian, fail, root, say } from './machine.mjs';

const SUITE = 'bookworm';
const USER = 'artist';
const PORT = '4391';
if (process.getuid() !== 0) fail('An empty machine can only be made as root.');
ensureDebian([{ package: 'debootstrap', binaries: ['debootstrap'] }]);

const bare = mkdtempSync(path.join(os.tmpdir(), 'hl-debian-'));
chmodSync(bare, 0o755);
const inside = (place) => path.join(bare, place);
const mounted = [];
process.on('exit', () => {
  for (const place of mounted.reverse()) spawnSync('umount', ['-l', place]);
  rmSync(bare, { recursive: true, force: true });
});
const must = (command, args) => {
  const { status, stderr } = spawnSync(command, args, { encoding: 'utf8' });
  if (status !== 0) fail(`${command} ${args.join(' ')}: ${stderr}`);
};
const seconds = (since) => `${((performance.now() - since) / 1000).toFixed(0)} s`;

say(`Making an empty Debian ${SUITE} …`);
must('debootstrap', ['--variant=minbase', '--include=ca-certificates,libstdc++6', SUITE, bare]);
for (const [what, place] of [['proc', 'proc'], ['sysfs', 'sys'], ['tmpfs', 'dev/shm'], ['devpts', 'dev/pts']]) mount(['-t', what, what], place); // prettier-ignore
for (const device of ['null', 'zero', 'random', 'urandom']) mount(['--bind', `/dev/${device}`], `dev/${device}`);
function mount(what, place) {
  const target = inside(place);
  const isFile = place.startsWith('dev/') && place !== 'dev/shm';
  if (!existsSync(target) && isFile) writeFileSync(target, '');
  if (!existsSync(target)) mkdirSync(target, { recursive: true });
  must('mount', [...what, target]);
  mounted.push(target);
}
// Node and npm, and how this machine reaches the registries
cpSync(realpathSync(process.execPath), inside('usr/bin/node'));
const npm = path.resolve(path.dirname(realpathSync('/usr/bin/npm')), '..');
cpSync(npm, inside('usr/lib/node_modules/npm'), { recursive: true });
must('ln', ['-sf', '../lib/node_modules/npm/bin/npm-cli.js', inside('usr/bin/npm')]);
must('ln', ['-sf', '../lib/node_modules/npm/bin/npx-cli.js', inside('usr/bin/npx')]);
for (const file of [
  '/etc/resolv.conf',
  '/etc/hosts',
  '/etc/ssl/certs/ca-certificates.crt',

  path.join(os.homedir(), '.npmrc'),
])
  // prettier-ignore
  if (existsSync(file)) cpSync(file, inside(file.replace(os.homedir(), '/root')), { dereference: true });
// the authorities this machine trusts, which a proxy's own may be among; apt would make its own list anew
const AUTHORITIES = '/etc/trusted-here.crt';
cpSync('/etc/ssl/certs/ca-certificates.crt', inside(AUTHORITIES), { dereference: true });
must('chroot', [bare, 'useradd', '-m', USER]);
const home = `/home/${USER}/half-loop`;
must('git', ['clone', '-q', root, inside(home)]);
must('git', ['clone', '-q', root, inside('/root/half-loop')]);
must('chroot', [bare, 'chown', '-R', `${USER}:${USER}`, home]);

/** Runs a shell line in there; resolves with its exit code and what it printed, or as soon as `until` was printed. */
function run(line, { user = 'root', until = null } = {}) {
  const args = user === 'root' ? [bare, 'sh', '-c', line] : [bare, 'su', user, '-c', line];
  const env = { PATH: '/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin', HOME: user === 'root' ? '/root' : `/home/${user}`, LANG: 'C.UTF-8', PORT, NODE_EXTRA_CA_CERTS: AUTHORITIES, npm_config_cafile: AUTHORITIES }; // prettier-ignore
  const child = spawn('chroot', args, { env, detached: true });
  let text = '';
  return new Promise((resolve) => {
    const hear = (data) => {
      text += data;
      process.stdout.write(String(data).replace(/^/gm, '    '));
      if (until && text.includes(until)) resolve({ code: null, text, stop: () => stop(child) });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.once('exit', (code) => resolve({ code, text, stop: async () => undefined }));
  });
}
/** Ctrl-C reaches the whole group of a terminal. */
function stop(child) {
  process.kill(-child.pid, 'SIGINT');
  return new Promise((resolve) => child.once('exit', resolve));
}
let wrong = 0;
const expect = (what, holds) => {
  say(`${holds ? 'ok  ' : 'NOT '} ${what}`);
  if (!holds) wrong++;
};

say('\nAs a user who may not install packages:');
const refused = await run(`cd ${home} && npm start`, { user: USER });
expect('npm start exits 1 and says exactly what to install', refused.code === 1 && /sudo apt-get install -y --no-install-recommends mariadb-server-core mariadb-client-core\n/.test(refused.text)); // prettier-ignore
const untested = await run(`cd ${home} && npm test`, { user: USER });
expect('npm test exits 1 and says exactly what to install', untested.code === 1 && /sudo apt-get install .*mariadb-client-core chromium\n/.test(untested.text)); // prettier-ignore

say('\nAs root, npm start from nothing:');
let began = performance.now();
const started = await run('cd /root/half-loop && npm start', { until: 'Ctrl-C stops it.' });
expect(`it says its address after ${seconds(began)}`, started.text.includes(`http://localhost:${PORT}`));
const health = await fetch(`http://127.0.0.1:${PORT}/api/health`).then((r) => r.status, () => 0); // prettier-ignore
const library = await fetch(`http://127.0.0.1:${PORT}/api/library`).then((r) => r.json(), () => ({})); // prettier-ignore
expect('it answers, with the demo project', health === 200 && library.projects?.[0]?.name === 'Tidepool Post');
await started.stop();
began = performance.now();
const again = await run('cd /root/half-loop && npm start', { until: 'Ctrl-C stops it.' });
expect(`a second start takes ${seconds(began)}`, performance.now() - began < 10_000);
await again.stop();

say('\nThe user again, now that the packages are there:');
began = performance.now();
const own = await run(`cd ${home} && npm start`, { user: USER, until: 'Ctrl-C stops it.' });
expect(`npm start says its address after ${seconds(began)}`, own.text.includes(`http://localhost:${PORT}`));
await own.stop();

if (process.argv.includes('--test')) {
  say('\nnpm test from nothing:');
  began = performance.now();
  const tested = await run('cd /root/half-loop && npm test');
  expect(`npm test passes in ${seconds(began)}`, tested.code === 0);
}
say(wrong === 0 ? '\nA new machine: all as it should be' : `\nA new machine: ${wrong} not as it should be`);
process.exit(wrong === 0 ? 0 : 1);
