import { expect, test, type Page } from '@playwright/test';
import { addShape, card, emptyAsset, set, step, toLay, tools, undo } from './flow';
import { bringInEgg, centre, drag, faces, seen, toStop } from './workbench';

async function openJobs(page: Page): Promise<string[]> {
  const { jobs } = (await (await page.request.get('/api/jobs')).json()) as { jobs: { id: string; state: string }[] };
  return jobs.filter(({ state }) => state === 'waiting' || state === 'running').map(({ id }) => id);
}

test('all is laid over the sculpt, cancelled, laid again, kept and undone', async ({ page }) => {
  await bringInEgg(page, 'x');
  await toLay(page);
  await tools(page).getByRole('button', { name: 'Lay all' }).click();
  const all = card(page, 'Lay all');
  await all.getByText('budget', { exact: true }).click();
  await set(page, 'Lay all', 'Of the budget (%)', '150');
  await expect(all.getByText(/^[\d,]+ over the budget of [\d,]+ faces$/)).toBeVisible();
  await set(page, 'Lay all', 'Of the budget (%)', '50');
  await expect(all.getByText(/over the budget/)).toBeHidden();
  await all.getByText('number', { exact: true }).click();
  const budget = Number((await page.getByText(/of [\d,]+ faces/).textContent())?.replace(/\D/g, ''));
  await expect(all.getByRole('textbox', { name: 'Faces (quads)' })).toHaveValue((budget / 2).toLocaleString('en'));
  await set(page, 'Lay all', 'Faces (quads)', '200');
  await all.getByRole('button', { name: 'Lay it all' }).click();
  await all.getByRole('button', { name: 'Cancel' }).click();
  await expect(all.getByRole('button', { name: 'Lay it all' })).toBeVisible();
  await all.getByText('two', { exact: true }).click();
  await all.getByRole('button', { name: 'Lay it all' }).click();
  // the work is the server's: closing the tab does not end it, and Jobs tells of it
  await expect(all.getByText(/^(Waiting|Starting|Clean|Working mesh|Flow) …$/)).toBeVisible();
  const address = page.url();
  await page.goto('/jobs');
  const jobs = page.getByRole('list', { name: 'Jobs' }).getByRole('listitem');
  await expect(jobs.filter({ hasText: 'Limpet egg' }).filter({ hasText: 'Sizes all alike' }).first()).toBeVisible();
  // the list that the page asks for on opening tells of jobs that run, and comes when they have ended
  await page.route('**/api/jobs', async (route) => {
    const early = await route.fetch();
    await expect(async () => expect(await openJobs(page)).toEqual([])).toPass({ timeout: 90_000 });
    await route.fulfill({ response: early });
  });
  await page.goto(`${address}#lay-all`);
  await toLay(page);
  // both ways stand side by side, one is shown before anything is kept
  const ways = all.getByRole('radiogroup', { name: 'Show' }).getByRole('radio');
  await expect(ways).toHaveCount(2, { timeout: 90_000 });
  // later lists come as they are: none may be held when the page closes
  await page.unrouteAll({ behavior: 'wait' });
  await expect(all.getByRole('radio', { name: /^As asked: \d+ quads, \d+ poles/ })).toBeChecked();
  await all.getByText(/^Sizes all alike: \d+ quads/).click();
  await expect(all.getByRole('radio', { name: /^Sizes all alike/ })).toBeChecked();
  // or both in one picture: only its left half changes
  const half = (x: number): Promise<Buffer> => page.screenshot({ clip: { x, y: 300, width: 380, height: 360 } });
  const [left, right] = [250, 650];
  const rightAlone = await half(right);
  await all.getByRole('radiogroup', { name: 'Left of the wipe' }).getByText('As asked').click();
  await expect(all.getByRole('slider', { name: 'Wipe to the other' })).toHaveValue('0.5');
  await expect(page.getByText('As asked', { exact: true })).toHaveCount(2);
  expect((await half(right)).equals(rightAlone)).toBe(true);
  const other = await half(left);
  await all.getByRole('radiogroup', { name: 'Left of the wipe' }).getByText('before').click();
  await expect(async () => expect((await half(left)).equals(other)).toBe(false)).toPass();
  expect((await half(right)).equals(rightAlone)).toBe(true);
  await all.getByRole('slider', { name: 'Wipe to before' }).press('End');
  await expect(all.getByText('before only')).toBeVisible();
  await expect(faces(page)).toHaveText('0');
  // at other stops it is said that it waits, and where
  await set(page, 'Lay all', 'Faces (quads)', '300');
  await toStop(page, 'Ship');
  await expect(page.getByText('Nothing is laid yet, so there is nothing to write.')).toBeVisible();
  await expect(page.getByText('What Lay all made is not in this asset yet.')).toBeVisible();
  await page.getByRole('link', { name: 'Look at it, keep it or drop it' }).click();
  await expect(all.getByText('waits for you')).toBeVisible();
  // what was asked for stands as it was left
  await expect(all.getByRole('textbox', { name: 'Faces (quads)' })).toHaveValue('300');
  await all.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('What Lay all made is not in this asset yet.')).toBeHidden();
  await expect(step(page, /^All laid: \d+ quads$/)).toBeVisible();
  const laid = Number(await faces(page).textContent());
  expect(laid).toBeGreaterThan(160);
  expect(laid).toBeLessThan(240);
  await expect(page.getByText('No open edges')).toBeVisible();
  await expect(page.getByText(/^\d+ quads kept\.$/)).toBeVisible();
  // what was kept is no open result any more
  await expect(all.getByText('waits for you')).toBeHidden();
  // what was told at one stop is not told at the next
  await toStop(page, 'Trim');
  await expect(page.getByText(/^\d+ quads kept\.$/)).toBeHidden();
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('0');
});

test('the flow is shown before all is laid; a guide drawn over it is taken along into the quads', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toLay(page);
  await tools(page).getByRole('button', { name: 'Lay all' }).click();
  const all = card(page, 'Lay all');
  const told = all.getByText(/^Loops would run along these lines, with \d+ poles/);
  await expect(told).toBeVisible({ timeout: 30_000 });
  await all.getByRole('switch', { name: 'Show the flow first' }).press(' ');
  await expect(told).toBeHidden();
  await all.getByRole('switch', { name: 'Show the flow first' }).press(' ');
  await expect(told).toBeVisible({ timeout: 30_000 });
  await page.getByRole('application').focus();
  await page.keyboard.press('g');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 120, y: y + 70 }, { x: x + 120, y: y - 70 });
  await expect(step(page, 'Guide 1 drawn')).toBeVisible();
  await expect(all.getByRole('switch', { name: 'Follow the guides: 1' })).toBeChecked();
  // from the guide back to it: that stretch is drawn anew; from its end it goes on; either is one step
  await drag(page, { x: x - 48, y: y + 28 }, { x: x + 48, y: y - 28 });
  await expect(step(page, 'Guide 1 drawn anew in part')).toBeVisible();
  await drag(page, { x: x + 120, y: y - 70 }, { x: x + 60, y: y - 140 });
  await expect(step(page, 'Guide 1 drawn on')).toBeVisible();
  await expect(all.getByRole('switch', { name: 'Follow the guides: 1' })).toBeChecked();
  await undo(page);
  await expect(step(page, 'Guide 1 drawn anew in part')).toBeVisible();
  await expect(told).toBeVisible({ timeout: 30_000 });
  await set(page, 'Lay all', 'Faces (quads)', '150');
  // the card is longer than the column: its button stays in sight
  await all.getByText('Quads all over, along the form.').scrollIntoViewIfNeeded();
  await expect(all.getByRole('button', { name: 'Lay it all' })).toBeInViewport();
  await all.getByRole('button', { name: 'Lay it all' }).click();
  // what comes of it stands at the other end of a long card, and is brought into sight
  await expect(all.getByText(/^\d+ quads; \d+ poles/)).toBeInViewport({ timeout: 90_000 });
  await expect(all.getByText(/^Distance from the form, both ways: typical [\d.]+ cm, worst [\d.]+ cm\./)).toBeVisible();
  const across = async (): Promise<number> => {
    const xs = (await seen(page)).vertices.map(({ x }) => x);
    return Math.max(...xs) - Math.min(...xs);
  };
  await expect(all.getByRole('button', { name: 'Show the worst place' })).toBeVisible();
  await all.getByRole('button', { name: 'Keep it' }).click();
  await expect(step(page, /^All laid: \d+ quads$/)).toBeVisible();
  const before = await across();
  await page.getByRole('button', { name: 'Show the worst place' }).click();
  await expect(async () => expect(await across()).toBeGreaterThan(1.5 * before)).toPass();
  // the mark stays when the pointer moves over the model, until it is taken away
  await page.mouse.move(x, y);
  await page.mouse.move(x + 40, y + 30);
  const model = page.locator('[data-view=model]').locator('..');
  const marked = await model.screenshot();
  await page.getByRole('button', { name: 'Take the mark away' }).click();
  await page.mouse.move(x + 40, y + 30);
  await expect(async () => expect(marked.equals(await model.screenshot())).toBe(false)).toPass();
  // what was kept is seen, not the flow, until something else is asked for
  await expect(told).toBeHidden();
  await expect(all.getByRole('switch', { name: 'Show the flow first' })).not.toBeChecked();
  await set(page, 'Lay all', 'Faces (quads)', '160');
  await expect(told).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('No open edges')).toBeVisible();
});

test('density is painted, kept as steps, heeded where all is laid, and dropped', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toLay(page);
  await page.keyboard.press('c');
  const body = card(page, 'Paint density');
  await expect(body.getByText('Nothing is painted yet.')).toBeVisible();
  for (let i = 0; i < 4; i++) await body.getByRole('slider', { name: 'Quads in the place of one' }).press('ArrowRight');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 40, y: y - 120 }, { x: x + 40, y: y - 120 });
  await expect(step(page, 'Density painted: 8.00 times')).toBeVisible();
  await page.mouse.click(x, y + 60);
  await expect(body.getByText('2 strokes painted')).toBeVisible();
  await body.getByRole('button', { name: 'Drop the last' }).click();
  await expect(body.getByText('1 stroke painted')).toBeVisible();
  await tools(page).getByRole('button', { name: 'Lay all' }).click();
  const all = card(page, 'Lay all');
  await expect(all.getByRole('switch', { name: 'Painted density: 1' })).toBeChecked();
  await set(page, 'Lay all', 'Faces (quads)', '200');
  await all.getByRole('button', { name: 'Lay it all' }).click();
  await all.getByRole('button', { name: 'Keep it' }).click({ timeout: 90_000 });
  await expect(step(page, /^All laid: \d+ quads$/)).toBeVisible();
  // more faces in the upper third than in the lower one
  const { faceMiddles } = await seen(page);
  const upper = faceMiddles.filter((f) => f.y < y - 60).length;
  expect(upper).toBeGreaterThan(1.3 * faceMiddles.filter((f) => f.y > y + 60).length);
});

test('without a sculpt density is painted on the piece, and heeded where it is laid anew', async ({ page }) => {
  await emptyAsset(page);
  await addShape(page, 'Ball');
  await toLay(page);
  const before = await faces(page).textContent();
  await page.getByRole('application').focus();
  for (const key of ['0', 'Escape', 'c']) await page.keyboard.press(key);
  const body = card(page, 'Paint density');
  for (let i = 0; i < 4; i++) await body.getByRole('slider', { name: 'Quads in the place of one' }).press('ArrowRight');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 40, y: y - 90 }, { x: x + 40, y: y - 90 });
  await expect(step(page, 'Density painted: 8.00 times')).toBeVisible();
  await expect(body.getByText('1 stroke painted')).toBeVisible();
  await expect(faces(page)).toHaveText(before as string);
  await tools(page).getByRole('button', { name: 'Lay all' }).click();
  const all = card(page, 'Lay all');
  await expect(all.getByRole('switch', { name: 'Painted density: 1' })).toBeChecked();
  await set(page, 'Lay all', 'Faces (quads)', '400');
  await all.getByRole('button', { name: 'Lay it all' }).click();
  await all.getByRole('button', { name: 'Take in place of this piece' }).click({ timeout: 90_000 });
  await expect(step(page, /^All laid: \d+ quads$/)).toBeVisible();
  // the same patch of the view has more faces where paint was than below it
  const { faceMiddles } = await seen(page);
  const around = (dy: number): number => faceMiddles.filter((f) => Math.hypot(f.x - x, f.y - y - dy) < 60).length;
  expect(around(-90)).toBeGreaterThan(1.3 * around(90));
});

test('without a sculpt a guide may lie on the piece itself, and its quads run along', async ({ page }) => {
  await emptyAsset(page);
  await addShape(page, 'Ball');
  await toLay(page);
  await page.getByRole('application').focus();
  for (const key of ['0', 'g']) await page.keyboard.press(key);
  await card(page, 'Guide').getByText('this piece', { exact: true }).click();
  const { x, y } = await centre(page);
  await drag(page, { x: x - 100, y: y + 50 }, { x: x + 100, y: y - 50 });
  await expect(step(page, 'Guide 1 drawn')).toBeVisible();
  await tools(page).getByRole('button', { name: 'Lay all' }).click();
  const all = card(page, 'Lay all');
  await expect(all.getByRole('switch', { name: 'Follow the guides: 1' })).toBeChecked();
  await set(page, 'Lay all', 'Faces (quads)', '400');
  await all.getByRole('button', { name: 'Lay it all' }).click();
  await all.getByRole('button', { name: 'Take in place of this piece' }).click({ timeout: 90_000 });
  await expect(step(page, /^All laid: \d+ quads$/)).toBeVisible();
  // from end to end of the line that was drawn edges lie on it: both their points do, and their middle is seen
  const { vertices, innerEdges } = await seen(page);
  const on = vertices.filter((p) => Math.abs(p.x - x) < 108 && Math.abs(p.y - y + (p.x - x) / 2) < 3);
  const isEdge = (a: { x: number; y: number }, b: { x: number; y: number }): boolean =>
    innerEdges.some((e) => Math.hypot(e.x - (a.x + b.x) / 2, e.y - (a.y + b.y) / 2) < 2);
  let reached = x - 92;
  for (const from of on.sort((a, b) => a.x - b.x)) {
    const next = on.filter((to) => to.x > from.x && isEdge(from, to));
    if (from.x <= reached) reached = Math.max(reached, ...next.map((to) => to.x));
  }
  expect(reached).toBeGreaterThan(x + 92);
});

test('sharp edges of the form are shown before all is laid, and kept at one press', async ({ page }) => {
  await emptyAsset(page);
  await addShape(page, 'Box');
  await toLay(page);
  await tools(page).getByRole('button', { name: 'Lay all' }).click();
  const all = card(page, 'Lay all');
  const blunt = all.getByText(/^Broken double lines: edges sharper than 40°, 120 cm in all/);
  await expect(blunt).toBeVisible({ timeout: 30_000 });
  await all.getByRole('button', { name: 'Keep sharp edges' }).click();
  await expect(all.getByRole('switch', { name: 'Keep sharp edges' })).toBeChecked();
  await expect(all.getByText(/^Double lines: sharp edges that are kept, 120 cm in all/)).toBeVisible({
    timeout: 30_000,
  });
  await expect(blunt).toBeHidden();
});
