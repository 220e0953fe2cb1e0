// npm run fuzz -- --count N [--seed S]: damages N files of every kind and reads each, as `npm test` does with fewer; then files that lie.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { readLies } from './lies.mjs';
import { numberAfter, root, say } from './machine.mjs';

const count = numberAfter('--count', 2000);
const seed = numberAfter('--seed', 1);
const env = { ...process.env, HALF_LOOP_FUZZ_COUNT: String(count), HALF_LOOP_FUZZ_SEED: String(seed) };
const vitest = path.join(root, 'node_modules/vitest/vitest.mjs');
const args = [vitest, 'run', '--project', 'unit', 'packages/core/src/formats/fuzz.test.ts'];
const { status } = spawnSync(process.execPath, args, { stdio: 'inherit', cwd: root, env });
say('Files that claim more than they hold: refused in one line, within twice their size and 300 MB');
process.exit(status === 0 && readLies() === 0 ? 0 : 1);
