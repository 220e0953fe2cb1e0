import path from 'node:path';
import { seededRng } from '@half-loop/core/math';
import { Client } from './Client';
import { killDatabase, killDuringRace, killDuringSave, killDuringUpload, type Kill } from './kills';
import { clockBack, fullDisk, killPage, type Trial } from './trials';
import { World, type Machine } from './World';

/** The kinds of kills in turn; five of twelve fall inside an open transaction. */
const KINDS: { name: string; run: (w: World, c: Client, rng: () => number) => Promise<Kill> }[] = [
  { name: 'server, inside a save', run: (w, c, r) => killDuringSave(w, c, r, true) },
  { name: 'server, during saves', run: (w, c, r) => killDuringSave(w, c, r, false) },
  { name: 'server, inside the publishing of an upload', run: (w, c, r) => killDuringUpload(w, c, r, true) },
  { name: 'MariaDB, inside a save', run: (w, c, r) => killDatabase(w, c, r, true) },
  { name: 'server, during an upload', run: (w, c, r) => killDuringUpload(w, c, r, false) },
  { name: 'MariaDB, during saves', run: (w, c, r) => killDatabase(w, c, r, false) },
  { name: 'server, inside a save', run: (w, c, r) => killDuringSave(w, c, r, true) },
  { name: 'server, while two pages save', run: killDuringRace },
  { name: 'server, inside the publishing of an upload', run: (w, c, r) => killDuringUpload(w, c, r, true) },
  { name: 'server, during saves', run: (w, c, r) => killDuringSave(w, c, r, false) },
  { name: 'MariaDB, inside a save', run: (w, c, r) => killDatabase(w, c, r, true) },
  { name: 'server, during an upload', run: (w, c, r) => killDuringUpload(w, c, r, false) },
];
/** one page kill for so many other kills */
const PAGE_EVERY = 12;

export interface Verdict {
  passed: number;
  failed: number;
  skipped: number;
}

/** Runs `count` kills and the trials of a full disk, a clock set back and a killed page; says what it saw. */
export async function torture(machine: Machine, folder: string, count: number, seed: number): Promise<Verdict> {
  const rng = seededRng(seed);
  const verdict: Verdict = { passed: 0, failed: 0, skipped: 0 };
  const world = await World.make(machine, path.join(folder, 'world'));
  const client = new Client(world.url);
  await client.makeAsset(rng);
  let inside = 0;
  const tally = new Map<string, number>();
  const judge = (what: string, wrong: string[]): void => {
    verdict[wrong.length > 0 ? 'failed' : 'passed']++;
    for (const w of wrong) machine.say(`  WRONG after ${what}: ${w}`);
  };
  const trial = async (what: string, run: () => Promise<Trial>): Promise<void> => {
    const result = await run();
    if ('skipped' in result) {
      verdict.skipped++;
      machine.say(`  skipped: ${what}: ${result.skipped}`);
    } else judge(what, result.wrong);
  };
  for (let i = 0; i < count; i++) {
    const kind = KINDS[i % KINDS.length];
    const { inTransaction, wrong } = await kind.run(world, client, rng);
    if (inTransaction) inside++;
    tally.set(kind.name, (tally.get(kind.name) ?? 0) + 1);
    judge(`kill ${i + 1} (${kind.name})`, wrong);
    if (i % PAGE_EVERY === PAGE_EVERY / 2 - 1) {
      await trial('a killed page', () => killPage(world, path.join(folder, `page-${i}`), rng));
      tally.set('page', (tally.get('page') ?? 0) + 1);
    }
  }
  for (const [name, n] of tally) machine.say(`  ${String(n).padStart(4)} ${name}`);
  machine.say(`  ${inside} of ${count} kills fell inside an open transaction; ${client.acks} saves and uploads were acknowledged`); // prettier-ignore
  judge('all kills', 3 * inside >= count ? [] : [`only ${inside} of ${count} kills fell inside a transaction; a third is wanted`]); // prettier-ignore
  await trial('the clock set back a day', () => clockBack(world, client, rng));
  await world.stop();
  await trial('a full disk', () => fullDisk(machine, path.join(folder, 'small-disk'), rng));
  return verdict;
}
