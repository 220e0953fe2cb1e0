// npm run screenshots: takes the pictures in docs/screenshots from the demo data. Start Half Loop first, on a fresh data folder.
import { chromium } from '@playwright/test';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { findBinary, root, say } from './machine.mjs';

const url = process.env.HALF_LOOP_URL ?? `http://localhost:${process.env.PORT ?? 4380}`;
const browser = await chromium.launch({
  executablePath: findBinary('chromium') ?? undefined,
  args: [
    ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: url });
const take = async (name) => {
  await page.waitForTimeout(1200);
  await page.screenshot({ path: path.join(root, 'docs/screenshots', `${name}.png`) });
  say(name);
};
const modelReady = () => page.waitForFunction(() => window.halfLoopProbe !== undefined, undefined, { timeout: 60_000 });
const open = async (asset, stop) => {
  await page.goto('/');
  await page.getByRole('link', { name: `Open ${asset}` }).click();
  await modelReady();
  await page.getByRole('navigation', { name: 'Stops' }).getByRole('link', { name: stop }).click();
};
const dragFrom = async (edge, dx, dy) => {
  await page.mouse.move(edge.x, edge.y);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) {
    await page.mouse.move(edge.x + (dx * i) / 8, edge.y + (dy * i) / 8);
    await page.waitForTimeout(80);
  }
};

await page.goto('/');
await page.waitForFunction(() => document.images.length > 1 && [...document.images].every((i) => i.complete));
await take('library');

const sculpt = path.join(path.dirname(fileURLToPath(import.meta.url)), '../docs/sample/limpet.obj');
const chooser = page.waitForEvent('filechooser');
await page.getByRole('button', { name: 'Choose a file' }).click();
await (await chooser).setFiles(sculpt);
await page.getByText('Doubled points welded').waitFor();
await take('import');

await open('Blenny bust', 'Gather');
await take('gather');
await open('Blenny bust', 'Lay');
await page.keyboard.press('d');
const seen = await page.evaluate(() => window.halfLoopProbe());
const low = seen.openEdges
  .filter((e) => !e.mirrored && e.x > 540 && e.x < 660 && e.y > 440 && e.y < 500)
  .sort((a, b) => b.y - a.y)[0];
await page.mouse.move(low.x, low.y);
await page.mouse.down();
await page.mouse.up();
await dragFrom(low, 6, 26);
await take('lay');
await page.keyboard.press('Escape');
await page.mouse.up();
await page.keyboard.press('Shift+4');
await take('distance');
await open('Blenny bust', 'Lay');
await page.keyboard.press('f');
const rim = (await page.evaluate(() => window.halfLoopProbe())).openEdges
  .filter((e) => !e.mirrored)
  .sort((a, b) => Math.hypot(a.x - 600, a.y - 345) - Math.hypot(b.x - 600, b.y - 345))[0];
await page.mouse.move(rim.x, rim.y);
await page.waitForTimeout(600);
await page.mouse.click(rim.x, rim.y);
await page.getByRole('radiogroup', { name: 'Ways to fill it' }).waitFor();
await take('fill');
await page.keyboard.press('Escape');
await open('Blenny bust', 'Lay');
await page.keyboard.press('v');
const region = page.getByRole('region', { name: 'Paint a region', exact: true });
await page.mouse.move(770, 450);
await page.mouse.down();
for (let i = 0; i <= 8; i++) await page.mouse.move(740 + 3 * i, 440 + 10 * i);
await page.mouse.up();
await region.getByRole('button', { name: 'Make a sheet' }).click();
await page.getByRole('listitem').filter({ hasText: 'Sheet from “Region 1”' }).waitFor({ timeout: 60_000 });
await take('regions');
await page.getByRole('application').focus();
await page.keyboard.press('Control+z');
await page.keyboard.press('Control+z');
await page.waitForTimeout(2500);
await open('Crab pincer', 'Lay');
await page.getByRole('button', { name: 'Lay all' }).click();
const laying = page.getByRole('region', { name: 'Lay all', exact: true });
await laying.getByRole('textbox', { name: 'Faces (quads)' }).fill('1200');
await laying.getByRole('textbox', { name: 'Faces (quads)' }).press('Enter');
await laying.getByText('two', { exact: true }).click();
await laying.getByRole('button', { name: 'Lay it all' }).click();
await laying.getByRole('button', { name: 'Lay it all again' }).waitFor({ timeout: 90000 });
await laying.getByRole('slider', { name: 'Wipe to before' }).focus();
for (let i = 0; i < 42; i++) await page.keyboard.press('ArrowRight');
await take('lay-all');
await page.goto(new URL('/jobs', page.url()).href);
await page.getByRole('list', { name: 'Jobs' }).getByRole('img').first().waitFor();
await take('jobs');
await open('Crab pincer', 'Lay');
await page.getByRole('button', { name: 'Lay all' }).click();
await laying.getByRole('button', { name: 'Drop' }).click();
await open('Blenny bust', 'Lay');
await page.getByRole('button', { name: 'Lay all' }).click();
await page.getByText(/^Loops would run along these lines/).waitFor({ timeout: 60000 });
await take('flow-preview');
await open('Crab pincer', 'Flow');
await page.keyboard.press('i');
/** Over the edges nearest to a place, until one answers with the words: some of them lie on the far side. */
const hover = async (left, top, words) => {
  const inner = (await page.evaluate(() => window.halfLoopProbe())).innerEdges;
  const away = ({ x, y }) => Math.hypot(x - left, y - top);
  for (const { x, y } of inner.sort((a, b) => away(a) - away(b)).slice(0, 12)) {
    await page.mouse.move(x, y);
    await page.waitForTimeout(900);
    if (await page.getByText(words).isVisible()) return { x, y };
  }
  throw new Error(`nothing near ${left}, ${top} answers`);
};
await hover(780, 300, /across 1\d edges/);
await take('flow');
await page.keyboard.press('r');
const stopped = await hover(680, 260, /stops at a pole/);
await page.mouse.click(stopped.x, stopped.y);
await take('route-on');
await page.keyboard.press('Escape');
await page.keyboard.press('e');
await open('Mail capsule', 'Flow');
await page.keyboard.press('0');
await take('mail-capsule');
await page.getByRole('radiogroup', { name: 'Show subdivided' }).getByText('2', { exact: true }).click();
await take('mail-capsule-subdivided');
await open('Mail capsule', 'Flow');
await page.getByRole('button', { name: /^Pieces/ }).click();
await page.getByRole('row', { name: 'Studs' }).click();
await page.getByRole('button', { name: /^Recipe/ }).click();
await page.getByRole('button', { name: 'Settings of Copies' }).first().click();
await take('recipe');
await open('Mail capsule', 'Lay');
await page.getByRole('button', { name: 'Add a shape' }).click();
await page.getByRole('radiogroup', { name: 'Which' }).getByText('Torus', { exact: true }).click();
await page.getByRole('button', { name: 'Add the torus' }).click();
await page.keyboard.press('0');
await take('shapes');
await page.getByRole('application').focus();
await page.keyboard.press('Control+z');
await page.waitForTimeout(1500);
await open('Kelp tendril', 'Ship');
await page.keyboard.press('Shift+3');
await take('ship');
await page.getByRole('button', { name: 'Save the version' }).click();
await page.getByText(/^Version “.*” saved/).waitFor();
await page.getByRole('link', { name: 'All versions' }).click();
await page.waitForFunction(
  () => [...document.images].length > 0 && [...document.images].every((i) => i.complete && i.naturalWidth > 0),
);
await take('versions');
await page.goto('/settings');
await page.getByText('Night kiln (dark)').click();
await take('settings-night');
await browser.close();
