import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium } from '@playwright/test';
import type { Rng } from '@half-loop/core/math';
import { Client, someDocument } from './Client';
import { pause, World, type Machine } from './World';

/** What a trial found wrong, or why it could not run here. */
export type Trial = { wrong: string[] } | { skipped: string };

/**
 * The server closes a connection that was idle for some seconds, and filling a disk takes longer: a request that meets the closing is
 * asked once more, as a browser does by itself.
 */
async function askedAgain<T>(ask: () => Promise<T>): Promise<T> {
  try {
    return await ask();
  } catch (error) {
    const code = error instanceof Error ? (error.cause as { code?: string } | undefined)?.code : undefined;
    if (code !== 'ECONNRESET') throw error;
    return ask();
  }
}

/**
 * The disk fills up while work goes on. First by uploads: they are refused in words while saves still go through, until others fill
 * the rest. Then for real, without our reserve, so that the database itself breaks: with room again all that was acknowledged is there.
 */
export async function fullDisk(machine: Machine, folder: string, rng: Rng): Promise<Trial> {
  mkdirSync(folder, { recursive: true });
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=260m', 'tmpfs', folder]);
  if (mounted.status !== 0) return { skipped: 'a small disk cannot be mounted here (needs root)' };
  const wrong: string[] = [];
  let world: World | null = null;
  const room = (mib: string): Record<string, string> => ({
    HALF_LOOP_DATABASE_FOLDER: folder,
    HALF_LOOP_RESERVE_MIB: mib,
  });
  try {
    world = await World.make(machine, folder, ['--innodb-log-file-size=16M']);
    await world.killServer('SIGTERM');
    await world.startServer(room('80'));
    const client = new Client(world.url);
    await client.makeAsset(rng);
    wrong.push(...(await fillByUploads(client, rng)));
    const save = (): Promise<number> => askedAgain(() => client.save(someDocument(rng)));
    if ((await save()) !== 200) wrong.push('a small save was refused while there was room for it');
    const { bavail, bsize } = statfsSync(folder);
    writeFileSync(path.join(folder, 'filler'), Buffer.alloc(bavail * bsize - 10 * 1024 ** 2));
    if ((await save()) !== 507) wrong.push('a save on a full disk was not refused with 507');
    if ((await fetch(`${world.url}/api/health`)).status !== 200) wrong.push('the server does not answer while the disk is full'); // prettier-ignore
    rmSync(path.join(folder, 'filler'));
    if ((await save()) !== 200) wrong.push('with room again a save was still refused');
    wrong.push(...(await client.compare()));
    wrong.push(...(await breakForReal(world, client, room('0'), path.join(folder, 'filler'), rng)));
  } finally {
    await world?.stop();
    spawnSync('umount', [folder]);
  }
  return { wrong };
}

async function fillByUploads(client: Client, rng: Rng): Promise<string[]> {
  for (let i = 0; i < 40; i++) {
    const { status } = await client.upload(noise(8 * 1024 ** 2, rng));
    if (status !== 201) return status === 507 ? [] : [`an upload on a full disk was answered with ${status}, not with 507`]; // prettier-ignore
  }
  return ['the disk never filled up'];
}

async function breakForReal(
  world: World,
  client: Client,
  env: Record<string, string>,
  filler: string,
  rng: Rng,
): Promise<string[]> {
  await world.killServer('SIGTERM');
  await world.startServer(env);
  writeFileSync(filler, Buffer.alloc(20 * 1024 ** 2));
  for (let i = 0; i < 40; i++) {
    const save = await client.save(someDocument(rng)).catch(() => 0);
    const upload = await client.upload(noise(8 * 1024 ** 2, rng)).catch(() => ({ status: 0 }));
    if (save !== 200 || upload.status !== 201) break;
  }
  await world.killServer();
  rmSync(filler);
  await world.database.stop();
  await world.startDatabase();
  await world.startServer();
  return client.compare();
}

function noise(length: number, rng: Rng): Uint8Array {
  const bytes = new Uint8Array(length);
  for (let k = 0; k < length; k += 4) bytes[k] = rng() * 256;
  return bytes;
}

/** The machine's clock goes back a day while work goes on: revisions decide, never clocks. */
export async function clockBack(world: World, client: Client, rng: Rng): Promise<Trial> {
  const shift = path.join(world.folder, 'shift.mjs');
  writeFileSync(
    shift,
    `const Real = Date, by = -26 * 3600 * 1000;
globalThis.Date = class extends Real {
  constructor(...a) { if (a.length) super(...a); else super(Real.now() + by); }
  static now() { return Real.now() + by; }
};\n`,
  );
  const wrong: string[] = [];
  const save = async (n: number): Promise<void> => {
    for (let i = 0; i < n; i++) if ((await client.save(someDocument(rng))) !== 200) wrong.push('a save was refused because of the clock'); // prettier-ignore
  };
  await save(12);
  await client.upload(someDocument(rng));
  await world.killServer('SIGTERM');
  await world.startServer({ NODE_OPTIONS: `--import=${pathToFileURL(shift).href}` });
  await save(25);
  wrong.push(...(await client.compare()));
  await world.killServer('SIGTERM');
  await world.startServer();
  await save(3);
  wrong.push(...(await client.compare()));
  return { wrong };
}

/** Lays quads in a real page and kills the browser in the middle; the page opened again has all but at most the gesture in hand. */
export async function killPage(world: World, folder: string, rng: Rng): Promise<Trial> {
  const { chromium: executablePath } = world.machine;
  if (!executablePath) return { skipped: 'Chromium is not on this machine' };
  const profile = path.join(folder, 'profile');
  const launch = async () => {
    const context = await chromium.launchPersistentContext(profile, {
      executablePath,
      viewport: { width: 1000, height: 700 },
      args: [...(process.getuid?.() === 0 ? ['--no-sandbox'] : []), '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'],
    }); // prettier-ignore
    return { context, page: context.pages()[0] ?? (await context.newPage()) };
  };
  const client = new Client(world.url);
  await client.makeAsset(rng);
  const address = `${world.url}/a/${client.asset.id}/lay`;
  const first = await launch();
  const faces = (p: typeof first.page): Promise<number> => p.evaluate(() => window.halfLoopProbe?.().faces ?? 0);
  await first.page.goto(address);
  await first.page.locator('[data-view=model][data-frame]').waitFor({ timeout: 60_000 });
  await first.page.getByRole('button', { name: 'Front', exact: true }).click();
  const box = await first.page.locator('[data-view=model]').boundingBox();
  const quads = 2 + Math.floor(rng() * 4);
  const centre = { x: (box?.x ?? 0) + (box?.width ?? 0) / 2, y: (box?.y ?? 0) + (box?.height ?? 0) / 2 };
  const before = await faces(first.page);
  for (let q = 0; q < quads; q++)
    for (const [a, b] of [[-1, -1], [1, -1], [1, 1], [-1, 1]]) await first.page.mouse.click(centre.x - 180 + 70 * q + a * 25, centre.y + b * 25); // prettier-ignore
  const seen = await faces(first.page);
  // the server dies with the page half of the time: then only the page's own store has the work
  const alone = rng() < 0.5;
  await pause(rng() * 300);
  if (alone) await world.killServer();
  for (const pid of processesOf(profile)) process.kill(pid, 'SIGKILL');
  await first.context.close().catch(() => undefined);
  if (alone) await world.startServer();
  rmSync(path.join(profile, 'SingletonLock'), { force: true });
  const again = await launch();
  await again.page.goto(address);
  await again.page.locator('[data-view=model][data-frame]').waitFor({ timeout: 60_000 });
  const back = await faces(again.page);
  await again.context.close();
  const wrong: string[] = [];
  if (seen === before) wrong.push('nothing could be laid');
  if (back < seen) wrong.push(`${seen} faces were laid, ${back} came back`);
  return { wrong };
}

/** The browsers that run on a profile; their other processes end with them. */
function processesOf(profile: string): number[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0');
        return words.includes(`--user-data-dir=${profile}`) && !words.some((w) => w.startsWith('--type='));
      } catch {
        return false;
      }
    })
    .map(Number);
}
