// npm test: the machine's set-up, then types, lint, unit and server tests, browser tests; ends with one plain line.
import { fork, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { freePort, startDatabase } from './database.mjs';
import {
  checkNode,
  CHROMIUM,
  ensureBuilt,
  ensureDebian,
  ensurePackages,
  findBinary,
  MARIADB,
  root,
  say,
} from './machine.mjs';

checkNode();
ensureDebian([...MARIADB, ...CHROMIUM]);
ensurePackages();

const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-npm-test-'));
const totals = { passed: 0, failed: 0, skipped: 0 };

function run(title, command, args, env = {}) {
  say(`\n── ${title}`);
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    child.once('exit', (code) => resolve(code ?? 1));
  });
}

/** A step that is one check: passes or fails as a whole. */
async function check(title, command, args) {
  const code = await run(title, command, args);
  totals[code === 0 ? 'passed' : 'failed']++;
}

const bin = (name) => path.join(root, 'node_modules/.bin', name);
await check('types', bin('tsc'), ['--noEmit', '-p', 'tsconfig.json']);
await check('lint: rules', bin('eslint'), ['.']);
await check('lint: imports', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'e2e']);
await check('lint: format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
await check('licences and pins', process.execPath, [path.join(root, 'scripts/licences.mjs')]);
await ensureBuilt();
await unitTests();
await browserTests();
await tortureTests();
rmSync(folder, { recursive: true, force: true });
const skipped = totals.skipped > 0 ? `, ${totals.skipped} skipped` : '';
say(`\n${totals.passed} passed, ${totals.failed} failed${skipped}`);
process.exit(totals.failed === 0 ? 0 : 1);

async function unitTests() {
  const file = path.join(folder, 'vitest.json');
  const code = await run('unit and server tests', bin('vitest'), [
    'run',
    '--reporter=dot',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  const report = readJson(file);
  if (!report) return void totals.failed++;
  totals.passed += report.numPassedTests;
  totals.failed += report.numFailedTests;
  totals.skipped += report.numPendingTests + report.numTodoTests;
  const empty = report.testResults.filter((f) =>
    f.assertionResults.every((a) => a.status !== 'passed' && a.status !== 'failed'),
  );
  for (const { name } of empty) say(`No test ran in ${name}`);
  totals.failed += empty.length;
  if (code !== 0 && report.numFailedTests === 0 && empty.length === 0) totals.failed++;
}

async function browserTests() {
  const database = await startDatabase(path.join(folder, 'data'));
  const port = await freePort();
  const server = fork(path.join(root, 'apps/server/dist/main.js'), {
    env: { ...process.env, PORT: String(port), DATABASE_URL: database.url, HALF_LOOP_DEMO: '0' },
  });
  await new Promise((resolve, reject) =>
    server.once('message', resolve).once('exit', () => reject(new Error('the server did not start'))),
  );
  const file = path.join(folder, 'playwright.json');
  const env = {
    HALF_LOOP_URL: `http://localhost:${port}`,
    PLAYWRIGHT_JSON: file,
    CHROMIUM: findBinary('chromium'),
    HALF_LOOP_TEST_DATABASE: database.url,
  };
  const code = await run('browser tests', bin('playwright'), ['test', '--config', 'e2e/playwright.config.ts'], env);
  const stats = readJson(file)?.stats;
  totals.passed += stats?.expected ?? 0;
  totals.failed += (stats?.unexpected ?? 1) + (stats?.flaky ?? 0);
  totals.skipped += stats?.skipped ?? 0;
  if (code !== 0 && stats?.unexpected === 0) totals.failed++;
  if (stats?.expected === 0) totals.failed++;
  server.removeAllListeners('exit');
  server.kill('SIGTERM');
  await new Promise((resolve) => server.once('exit', resolve));
  await database.stop();
}

/** A few kills of the server, the database and the page, a full disk and a clock set back; `npm run torture` has hundreds. */
async function tortureTests() {
  const file = path.join(folder, 'torture.json');
  const script = path.join(root, 'scripts/torture.mjs');
  await run('torture', process.execPath, [script, '--count', '6'], { HALF_LOOP_VERDICT: file });
  const verdict = readJson(file);
  if (!verdict) return void totals.failed++;
  for (const key of ['passed', 'failed', 'skipped']) totals[key] += verdict[key];
}

function readJson(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
}
