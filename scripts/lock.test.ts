import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';

const lock = path.join(import.meta.dirname, 'lock.mjs');
const takeAnd = (then: string, folder: string): string =>
  `import { lockFolder } from ${JSON.stringify(lock)}; const unlock = lockFolder(${JSON.stringify(folder)}); ${then}`;
const run = (code: string): { status: number | null; out: string; err: string } => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['--input-type=module', '-e', code], {
    encoding: 'utf8',
  });
  return { status, out: stdout, err: stderr };
};

describe('one start at a time for a data folder', () => {
  it('refuses a second start while the first lives, and lets it in after', async () => {
    const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-lock-'));
    const first = spawn(process.execPath, [
      '--input-type=module',
      '-e',
      takeAnd('console.log("in"); process.stdin.once("data", () => { unlock(); process.exit(0); });', folder),
    ]);
    await new Promise((resolve) => first.stdout.once('data', resolve));
    const second = run(takeAnd('console.log("in");', folder));
    expect(second.status).toBe(1);
    expect(second.err).toContain('already runs on');
    first.stdin.write('go\n');
    await new Promise((resolve) => first.once('exit', resolve));
    expect(existsSync(path.join(folder, 'lock'))).toBe(false);
    expect(run(takeAnd('console.log("in"); unlock();', folder))).toMatchObject({ status: 0, out: 'in\n' });
  });

  it('notices a lock left behind, also when its number was given to another process', () => {
    const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-lock-'));
    run(takeAnd('process.kill(process.pid, "SIGKILL");', folder));
    expect(existsSync(path.join(folder, 'lock'))).toBe(true);
    expect(run(takeAnd('console.log("in");', folder)).out).toContain('taken over');
    writeFileSync(path.join(folder, 'lock'), `${process.pid} 12345`);
    const after = run(takeAnd('console.log("in");', folder));
    expect(after.out).toContain('taken over');
    expect(after.status).toBe(0);
    expect(readFileSync(path.join(folder, 'lock'), 'utf8')).not.toContain(' 12345');
  });
});

describe('npm start', () => {
  it('refuses options it does not know', () => {
    const { status, stderr } = spawnSync(process.execPath, [path.join(import.meta.dirname, 'start.mjs'), '--demo'], {
      encoding: 'utf8',
    });
    expect(status).toBe(1);
    expect(stderr).toContain('--no-demo');
  });
});
