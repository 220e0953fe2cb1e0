// npm run sweep -- fill|retopo [--count N]: far more cases than `npm test` takes, by the same checks. Retopo runs in two processes.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { numberAfter, root, say } from './machine.mjs';

const SWEEPS = {
  fill: { file: 'packages/core/src/fill/fill.test.ts', count: 2000, parts: 1 },
  retopo: { file: 'packages/core/src/retopo/seeds.test.ts', count: 500, parts: 2 },
};
const [name = 'fill'] = process.argv.slice(2);
const sweep = SWEEPS[name];
if (!sweep) {
  say(`There is no sweep “${name}”; there are ${Object.keys(SWEEPS).join(', ')}.`);
  process.exit(2);
}
const vitest = path.join(root, 'node_modules/vitest/vitest.mjs');
const args = [vitest, 'run', '--project', 'unit', '--testTimeout', '7200000', sweep.file];
const runs = Array.from({ length: sweep.parts }, (_, i) => {
  const env = { ...process.env, HALF_LOOP_SWEEP: String(numberAfter('--count', sweep.count)), HALF_LOOP_PART: `${i}/${sweep.parts}` }; // prettier-ignore
  const run = spawn(process.execPath, args, { stdio: 'inherit', cwd: root, env });
  return new Promise((done) => run.once('exit', (code) => done(code ?? 1)));
});
process.exit(Math.max(...(await Promise.all(runs))));
