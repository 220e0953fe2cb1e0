// One start at a time for a data folder; a lock left by a process that is gone is taken over.
import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import path from 'node:path';
import { fail, say } from './machine.mjs';

function isAlive(pid, startedAt) {
  try {
    process.kill(pid, 0);
  } catch (error) {
    if (error.code !== 'EPERM') return false;
  }
  return processStart(pid) === startedAt;
}

/** When a process began, in ticks since boot: tells a reused number from the process that had it. */
function processStart(pid) {
  try {
    return readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')[19];
  } catch {
    return 'unknown';
  }
}

export function lockFolder(folder) {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const file = path.join(folder, 'lock');
  if (existsSync(file)) {
    const [pid, started] = readFileSync(file, 'utf8').split(' ');
    if (isAlive(Number(pid), started))
      fail(
        `Half Loop already runs on ${folder} (process ${pid}). Stop it first, or set HALF_LOOP_DATA to another folder.`,
      );
    say('A lock from a run that ended unexpectedly was found and taken over.');
    rmSync(file, { force: true });
  }
  const handle = openSync(file, 'wx');
  writeSync(handle, `${process.pid} ${processStart(process.pid)}`);
  closeSync(handle);
  return () => rmSync(file, { force: true });
}
