import { expect, test } from '@playwright/test';
import { card, step, tools, undo } from './flow';
import { bringInEgg, centre, drag, faces, front, seen, toStop } from './workbench';

test.beforeEach(async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toStop(page, 'Lay');
  await front(page);
  await page.getByRole('application').focus();
  await page.keyboard.press('v');
});

test('a region is painted on the sculpt, grown, taken away from, and made into a sheet of quads; hidden, it is out of reach', async ({
  page,
}) => {
  const body = card(page, 'Paint a region');
  const { x, y } = await centre(page);
  const points = async (): Promise<number> => Number(((await body.getByText(/points of the sculpt/).textContent()) ?? '').replace(/ of .*/, '').replaceAll(',', '')); // prettier-ignore

  for (let i = 0; i < 6; i++) await page.keyboard.press(']');
  await drag(page, { x: x - 60, y }, { x: x + 60, y });
  await expect(step(page, '“Region 1” painted')).toBeVisible();
  const first = await points();
  expect(first).toBeGreaterThan(20);

  await body.getByRole('button', { name: 'Grow' }).click();
  await expect(step(page, /^“Region 1” grown by/)).toBeVisible();
  const grown = await points();
  expect(grown).toBeGreaterThan(first);
  await undo(page);
  await expect.poll(points).toBe(first);

  // what is taken away is as much as was painted there
  await page.keyboard.down('Alt');
  await drag(page, { x: x + 20, y }, { x: x + 60, y });
  await page.keyboard.up('Alt');
  await expect(step(page, 'Taken away from “Region 1”')).toBeVisible();
  expect(await points()).toBeLessThan(first);
  await undo(page);

  await body.getByRole('button', { name: 'Make a sheet' }).click();
  await expect(step(page, 'Sheet from “Region 1”')).toBeVisible({ timeout: 60_000 });
  const made = Number(await faces(page).textContent());
  expect(made).toBeGreaterThan(8);
  await expect(page.getByText('100.0%')).toBeVisible();
  const { faceMiddles } = await seen(page);
  expect(faceMiddles).toHaveLength(made);

  // faces of a sheet are in its region: hidden with it, and not to be picked
  await body.getByText('Shown', { exact: true }).click();
  await page.getByRole('application').focus();
  await page.keyboard.press('e');
  await page.mouse.click(x, y);
  await expect(page.getByText('1 face picked')).toHaveCount(0);
  await page.keyboard.press('v');
  await body.getByText('Shown', { exact: true }).click();
  await undo(page);
  await expect(faces(page)).toHaveText('0');
});

test('an opening round a painted region is filled with a loop of edges on its border', async ({ page }) => {
  const { x, y } = await centre(page);
  for (let i = 0; i < 4; i++) await page.keyboard.press(']');
  await drag(page, { x: x - 4, y }, { x: x + 4, y });
  await expect(step(page, '“Region 1” painted')).toBeVisible();
  await page.keyboard.press('x');
  await drag(page, { x, y }, { x: x + 130, y });
  await expect(step(page, '2 rings of 12 quads laid round an opening')).toBeVisible();
  await page.keyboard.press('f');
  const edge = (await seen(page)).openEdges.reduce((a, b) => (Math.hypot(b.x - x, b.y - y) < Math.hypot(a.x - x, a.y - y) ? b : a)); // prettier-ignore
  await page.mouse.click(edge.x, edge.y);
  await expect(card(page, 'Fill').getByRole('radiogroup', { name: 'Ways to fill it' })).toBeVisible();
  await page.getByRole('application').focus();
  await page.keyboard.press('Enter');
  await expect(step(page, /^Filled with \d+ quads along 1 region border: /)).toBeVisible();
  await expect(page.getByText('100.0%')).toBeVisible();
});

test('a region is filled by angle and by part, drawn round, inverted; its border is a guide; one too small is told', async ({
  page,
}) => {
  const body = card(page, 'Paint a region');
  const { x, y } = await centre(page);
  const text = body.getByText(/points of the sculpt/);

  await body.getByText('fill by angle').click();
  await page.mouse.click(x, y);
  await expect(step(page, '“Region 1” painted')).toBeVisible();
  await body.getByRole('button', { name: 'Border as guides' }).click();
  await expect(step(page, 'Border of “Region 1” kept as a guide')).toBeVisible();

  await body.getByText('a new one').click();
  await body.getByText('draw round').click();
  await page.mouse.move(x - 50, y - 90);
  await page.mouse.down();
  for (const [dx, dy] of [[50, -90], [50, -40], [-50, -40], [-50, -88]]) await page.mouse.move(x + dx, y + dy, { steps: 6 }); // prettier-ignore
  await page.mouse.up();
  await expect(step(page, '“Region 2” painted')).toBeVisible();
  const before = await text.textContent();

  await body.getByRole('button', { name: 'Invert' }).click();
  await expect(step(page, '“Region 2” inverted')).toBeVisible();
  expect(await text.textContent()).not.toBe(before);

  await body.getByText('whole part').click();
  await page.mouse.click(x, y);
  const [of, all] = ((await text.textContent()) ?? '').match(/[\d,]+/g) ?? [];
  expect(of).toBe(all);
  // all of the sculpt has no border
  await body.getByRole('button', { name: 'Border as guides' }).click();
  await expect(page.getByText('This region has no border: it is all of the sculpt, or nothing.')).toBeVisible();

  // Lay all heeds borders by a switch
  await undo(page);
  await tools(page).getByRole('button', { name: 'Lay all' }).click();
  await expect(card(page, 'Lay all').getByRole('switch', { name: 'Edges along region borders' })).toBeChecked();
});
