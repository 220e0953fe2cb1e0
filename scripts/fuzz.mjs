// npm run fuzz -- --count N [--seed S]: damages N files of every kind and reads each; the sweep of `npm test`, longer.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { numberAfter, root } from './machine.mjs';

const count = numberAfter('--count', 2000);
const seed = numberAfter('--seed', 1);
const env = { ...process.env, HALF_LOOP_FUZZ_COUNT: String(count), HALF_LOOP_FUZZ_SEED: String(seed) };
const vitest = path.join(root, 'node_modules/vitest/vitest.mjs');
const args = [vitest, 'run', '--project', 'unit', 'packages/core/src/formats/fuzz.test.ts'];
process.exit(spawnSync(process.execPath, args, { stdio: 'inherit', cwd: root, env }).status ?? 1);
