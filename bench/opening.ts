import { fork } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { chromium, type Page } from '@playwright/test';
import { DEFAULT_SETTINGS, encodeDocument, plainPiece } from '@half-loop/contract';
import { meshFromSoup } from '@half-loop/core/mesh';
import { encodeSculpt, sculptFromSoup } from '@half-loop/core/surface';
import { ballSoup } from '@half-loop/core/testing';
import { say } from './measure';

export interface Machine {
  startDatabase(folder: string): Promise<{ url: string; stop(): Promise<void> }>;
  freePort(): Promise<number>;
  root: string;
  chromium: string | null;
}

/** rings of a ball of about this many triangles */
const SIZES: [string, number][] = [['200k', 224], ['1M', 500], ['2M', 710]]; // prettier-ignore
const LOADS = 5;

/** Opening the workbench in Chromium: from navigation to the first full frame and an answered pick; the first screen's script. */
export async function opening(machine: Machine): Promise<void> {
  say(
    `\nFirst screen's script ${(scriptBytes(path.join(machine.root, 'apps/web/dist')) / 1024).toFixed(0)} KiB gzipped`,
  );
  if (!machine.chromium) return say('Opening the workbench: skipped, Chromium is not on this machine');
  say('Opening the workbench in Chromium with software drawing: median of 5 warm loads');
  const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-bench-'));
  const database = await machine.startDatabase(folder);
  const port = await machine.freePort();
  const env = { ...process.env, PORT: String(port), DATABASE_URL: database.url, HALF_LOOP_DEMO: '0' };
  const server = fork(path.join(machine.root, 'apps/server/dist/main.js'), { env });
  await once(server, 'message');
  const args = [...(process.getuid?.() === 0 ? ['--no-sandbox'] : []), '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run']; // prettier-ignore
  const browser = await chromium.launch({ executablePath: machine.chromium, args });
  try {
    for (const [name, rings] of SIZES) {
      const address = await makeAsset(`http://localhost:${port}`, rings);
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      const loads: number[] = [];
      for (let i = 0; i <= LOADS; i++) loads.push(await load(page, address));
      const [median] = loads
        .slice(1)
        .sort((a, b) => a - b)
        .slice(2);
      say(`  ${name.padEnd(5)} ${median} ms (${Math.min(...loads.slice(1))}–${Math.max(...loads.slice(1))}); cold ${loads[0]} ms; lay and save ${await layAndSave(page)}; the page's process at most ${peakMib()} MiB`); // prettier-ignore
      await page.close();
    }
  } finally {
    await browser.close();
    server.kill('SIGTERM');
    await once(server, 'exit');
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function load(page: Page, address: string): Promise<number> {
  // the page before is closed first: its end is not part of this opening
  await page.goto('about:blank');
  await page.waitForTimeout(1500);
  const start = performance.now();
  await page.goto(address, { waitUntil: 'commit' });
  await page.locator('[data-view=model][data-frame]').waitFor({ timeout: 120_000 });
  const box = await page.locator('[data-view=model]').boundingBox();
  if (!box) throw new Error('the model is not there');
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  // asked every few milliseconds: waiting for a frame would add a frame of software drawing
  await page.waitForFunction((at) => window.halfLoopProbe?.(at).under === 'sculpt', middle, { polling: 20 });
  return Math.round(performance.now() - start);
}

/** A quad by four clicks, and until the server has it. */
async function layAndSave(page: Page): Promise<string> {
  const box = await page.locator('[data-view=model]').boundingBox();
  if (!box) throw new Error('the model is not there');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const before = await page.getByTestId('faces').textContent();
  const start = performance.now();
  for (const [a, b] of [[-1, -1], [1, -1], [1, 1], [-1, 1]]) await page.mouse.click(x + a * 30, y + b * 30, { delay: 20 }); // prettier-ignore
  await page.waitForFunction((was) => document.querySelector('[data-testid=faces]')?.textContent !== was, before);
  const laid = performance.now() - start;
  await page.getByText(/^Saved today/).waitFor({ timeout: 30_000 });
  return `${Math.round(laid)} and ${Math.round(performance.now() - start)} ms`;
}

async function makeAsset(base: string, rings: number): Promise<string> {
  const post = async (url: string, body: string | Uint8Array): Promise<{ id: string; hash: string }> => {
    const type = typeof body === 'string' ? 'application/json' : 'application/octet-stream';
    const sent = typeof body === 'string' ? body : Uint8Array.from(body);
    return (await fetch(base + url, { method: 'POST', headers: { 'content-type': type }, body: sent })).json() as never;
  };
  const sculpt = encodeSculpt(sculptFromSoup(ballSoup(rings, 10)));
  const { mesh } = meshFromSoup(ballSoup(8, 5));
  const document = {
    settings: DEFAULT_SETTINGS,
    done: [],
    pieces: [plainPiece('p', 'Low-poly', mesh)],
  };
  const packed = gzipSync(
    encodeDocument(document, { stage: 'lay', faces: mesh.faceCount, budget: 2000, needsALook: 0 }),
  );
  const [{ hash: s }, { hash: d }] = [await post('/api/blobs', sculpt), await post('/api/blobs', packed)];
  const { id: projectId } = await post('/api/projects', '{"name":"Bench"}');
  const made = await post(
    '/api/assets',
    JSON.stringify({ projectId, name: `Ball ${rings}`, sculpt: s, original: null, document: d }),
  );
  return `${base}/a/${made.id}/lay`;
}

/** The scripts that the page's HTML names, gzipped. */
function scriptBytes(dist: string): number {
  const html = readFileSync(path.join(dist, 'index.html'), 'utf8');
  const names = [...html.matchAll(/(?:src|href)="\/(assets\/[^"]+\.js)"/g)].map((m) => m[1]);
  return names.reduce((n, name) => n + gzipSync(readFileSync(path.join(dist, name))).length, 0);
}

/** The greatest memory that a renderer process of Chromium has had resident, MiB. */
function peakMib(): number {
  let most = 0;
  for (const pid of readdirSync('/proc').filter((n) => /^\d+$/.test(n)))
    try {
      if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer')) continue;
      const peak = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
      most = Math.max(most, Number(peak?.[1] ?? 0) / 1024);
    } catch {
      // gone meanwhile
    }
  return Math.round(most);
}
