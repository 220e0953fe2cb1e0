// npm run licences: every package in the lock file must carry a licence from this list. Part of npm test.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { root, say } from './machine.mjs';

const ALLOWED = ['MIT', 'ISC', 'BSD-2-Clause', 'BSD-3-Clause', '0BSD', 'Apache-2.0', 'BlueOak-1.0.0', 'CC0-1.0', 'Python-2.0', 'OFL-1.1', 'Unlicense', 'MIT-0']; // prettier-ignore
/** of build and test tools, whose code is in nothing that ships */
const TOOLS_ALLOWED = ['MPL-2.0', 'CC-BY-4.0'];

/** An SPDX expression is fine when one side of an OR is, and all sides of an AND are. */
function isAllowed(expression, list) {
  const text = expression.replace(/^\(|\)$/g, '');
  if (text.includes(' OR ')) return text.split(' OR ').some((part) => isAllowed(part, list));
  return text.split(' AND ').every((part) => list.includes(part.replace(/[()]/g, '')));
}

const lock = JSON.parse(readFileSync(path.join(root, 'package-lock.json'), 'utf8'));
const counts = new Map();
const refused = [];
for (const [place, { link, license, dev, optional }] of Object.entries(lock.packages)) {
  if (!place.includes('node_modules/') || link) continue;
  const licence = license ?? fromPackage(place);
  counts.set(licence, (counts.get(licence) ?? 0) + 1);
  if (!isAllowed(licence, dev || optional ? [...ALLOWED, ...TOOLS_ALLOWED] : ALLOWED))
    refused.push(`${place}: ${licence}`);
}
function fromPackage(place) {
  try {
    const { license, licenses } = JSON.parse(readFileSync(path.join(root, place, 'package.json'), 'utf8'));
    return license?.type ?? license ?? licenses?.map((l) => l.type).join(' OR ') ?? 'none said';
  } catch {
    return 'none said';
  }
}
const loose = Object.keys(lock.packages)
  .filter((place) => !place.includes('node_modules/'))
  .flatMap((place) => {
    const { dependencies, devDependencies } = JSON.parse(readFileSync(path.join(root, place, 'package.json'), 'utf8'));
    return Object.entries({ ...dependencies, ...devDependencies }).filter(([, v]) => !/^\d+\.\d+\.\d+/.test(v)).map(([name, v]) => `${place || '.'}: ${name} ${v}`); // prettier-ignore
  });
for (const [licence, n] of [...counts].sort((a, b) => b[1] - a[1])) say(`${String(n).padStart(5)}  ${licence}`);
for (const line of refused) console.error(`Not on the list: ${line}`);
for (const line of loose) console.error(`Not pinned to one version: ${line}`);
process.exit(refused.length + loose.length > 0 ? 1 : 0);
