// npm run sweep -- fill [--count N]: fills far more borders than `npm test` does, by the same checks.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { numberAfter, root, say } from './machine.mjs';

const FILES = { fill: 'packages/core/src/fill/fill.test.ts' };
const [name = 'fill'] = process.argv.slice(2);
const file = FILES[name];
if (!file) {
  say(`There is no sweep “${name}”; there are ${Object.keys(FILES).join(', ')}.`);
  process.exit(2);
}
const env = { ...process.env, HALF_LOOP_SWEEP: String(numberAfter('--count', 2000)) };
const vitest = path.join(root, 'node_modules/vitest/vitest.mjs');
const args = [vitest, 'run', '--project', 'unit', '--testTimeout', '7200000', file];
process.exit(spawnSync(process.execPath, args, { stdio: 'inherit', cwd: root, env }).status ?? 1);
