// npm start: installs what is missing, builds, starts MariaDB and the server, prints the address. Ctrl-C stops all of it.
import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { startDatabase } from './database.mjs';
import { openToNetwork } from './lan.mjs';
import { lockFolder } from './lock.mjs';
import { checkNode, ensureBuilt, ensureDebian, ensurePackages, fail, MARIADB, root, say } from './machine.mjs';

checkNode();
const known = new Set(['--no-demo', '--lan']);
const unknown = process.argv.slice(2).find((a) => !known.has(a));
if (unknown)
  fail(
    `Unknown option ${unknown}. There are two: --no-demo leaves the demo project out, --lan lets other machines in by an access code.`,
  );
const data = path.resolve(root, process.env.HALF_LOOP_DATA ?? '.half-loop');
const port = Number(process.env.PORT ?? 4380);
const ownDatabase = !process.env.DATABASE_URL;

if (ownDatabase) ensureDebian(MARIADB);
ensurePackages();
const unlock = lockFolder(data);
let database = null,
  server = null,
  stopping = null;

function stop(code) {
  stopping ??= (async () => {
    if (server && server.exitCode === null && server.signalCode === null) {
      server.kill('SIGTERM');
      await Promise.race([once(server, 'exit'), new Promise((r) => setTimeout(r, 5000))]);
      server.kill('SIGKILL');
    }
    await database?.stop();
    unlock();
    process.exit(code);
  })();
  return stopping;
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
process.on('uncaughtException', (error) => {
  console.error(error.message);
  void stop(1);
});

await ensureBuilt();
if (ownDatabase) {
  say(`Starting MariaDB on loopback, data in ${path.relative(process.cwd(), data) || '.'} …`);
  database = await startDatabase(data);
  void database.ended.then(() => {
    if (stopping) return;
    console.error(
      `The database ended; its messages are in ${path.join(data, 'mariadb.log')}. Start again: what was saved is there.`,
    );
    void stop(1);
  });
}
const lan = process.argv.includes('--lan') ? openToNetwork(data) : null;
server = fork(path.join(root, 'apps/server/dist/main.js'), {
  detached: true,
  env: {
    ...process.env,
    PORT: String(port),
    DATABASE_URL: database?.url ?? process.env.DATABASE_URL,
    ...(database ? { HALF_LOOP_DATABASE_FOLDER: data } : {}),
    ...(process.argv.includes('--no-demo') ? { HALF_LOOP_DEMO: '0' } : {}),
    ...lan?.env,
  },
});
server.on('message', () => {
  say(`\nHalf Loop is ready: http://localhost:${port}`);
  if (lan) {
    for (const address of lan.addresses) say(`                    http://${address}:${port}`);
    say(
      `Access code: ${lan.code}\nEvery browser asks for it once. Delete ${path.relative(process.cwd(), lan.file)} for another.`,
    );
  }
  say('Ctrl-C stops it.');
});
server.once('exit', (code) => {
  if (!stopping) console.error(`The server ended (${code ?? 'killed'}).`);
  void stop(code ?? 1);
});
