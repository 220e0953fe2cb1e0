import { expect, test, type Page } from '@playwright/test';
import { addShape, card, emptyAsset, group, open, step, takeHalf, toFlow, tools, undo } from './flow';
import { centre, faces, seen } from './workbench';

const FOUR = [[-40, -40], [40, -40], [40, 40], [-40, 40]] as const; // prettier-ignore

/** Looks at a box from a side, picks the four faces there, and deletes them. */
async function takeSide(page: Page, side: string): Promise<void> {
  await page.getByRole('group', { name: 'View from' }).getByRole('button', { name: side, exact: true }).click();
  await page.getByRole('application').focus();
  for (const key of ['0', 'e', 'Escape']) await page.keyboard.press(key);
  const { x, y } = await centre(page);
  for (const [dx, dy] of FOUR) {
    await page.mouse.click(x + dx, y + dy, { delay: 20 });
    await page.keyboard.down('Shift');
  }
  await page.keyboard.up('Shift');
  await page.keyboard.press('Delete');
}

test.beforeEach(async ({ page }) => {
  await emptyAsset(page);
  await addShape(page, 'Box');
  await expect(faces(page)).toHaveText('24');
});

test('an opening is capped; two openings are bridged; both are undone', async ({ page }) => {
  await takeSide(page, 'Top');
  await expect(faces(page)).toHaveText('20');
  const edge = (await seen(page)).openEdges[0];
  await page.mouse.click(edge.x, edge.y);
  await tools(page).getByRole('button', { name: 'Cap', exact: true }).click();
  await card(page, 'Cap').getByRole('button', { name: 'Cap', exact: true }).click();
  await expect(step(page, /^(Capped with|Filled with)/)).toBeVisible();
  await expect(page.getByText('No open edges')).toBeVisible();
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('20');

  await takeSide(page, 'Under');
  await expect(faces(page)).toHaveText('16');
  await page.getByRole('group', { name: 'View from' }).getByRole('button', { name: 'Front', exact: true }).click();
  await page.getByRole('application').focus();
  await page.keyboard.press('0');
  const { openEdges } = await seen(page);
  const low = openEdges.reduce((a, b) => (b.y > a.y ? b : a));
  const high = openEdges.reduce((a, b) => (b.y < a.y ? b : a));
  await page.mouse.dblclick(high.x, high.y);
  await page.keyboard.down('Shift');
  await page.mouse.dblclick(low.x, low.y);
  await page.keyboard.up('Shift');
  await tools(page).getByRole('button', { name: 'Bridge', exact: true }).click();
  await card(page, 'Bridge').getByRole('button', { name: 'Bridge', exact: true }).click();
  const bridged = step(page, /^Bridged by \d+ faces/);
  await expect(bridged).toBeVisible();
  const made = Number(/by (\d+)/.exec((await bridged.textContent()) ?? '')?.[1]);
  expect(made % 8).toBe(0);
  await expect(faces(page)).toHaveText(String(16 + made));
  await expect(page.getByText('No open edges')).toBeVisible();
});

test('half a box is joined to its other half, made of even quads, and settled', async ({ page }) => {
  await toFlow(page);
  await takeHalf(page);
  await group(page, 'Join');
  await open(page, 'Join halves');
  await card(page, 'Join halves').getByRole('button', { name: 'Join halves', exact: true }).click();
  await expect(faces(page)).toHaveText('24');
  await expect(page.getByText('No open edges')).toBeVisible();

  await group(page, 'Shape');
  await open(page, 'Even out');
  // it runs beside the page, with progress, and can be stopped: then nothing has changed
  const evenOut = card(page, 'Even out').getByRole('button', { name: 'Even out', exact: true });
  const length = card(page, 'Even out').getByRole('textbox', { name: 'Edge length' });
  await length.fill('0.1');
  await length.press('Enter');
  await evenOut.click();
  await expect(page.getByRole('progressbar', { name: 'Even out' })).toBeVisible();
  await expect(evenOut).toBeDisabled();
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  await expect(evenOut).toBeEnabled();
  await expect(faces(page)).toHaveText('24');
  await length.fill('');
  await length.press('Enter');
  await evenOut.click();
  await expect(step(page, /^\d+ quads in place of 24 faces/)).toBeVisible({ timeout: 30_000 });
  // a few faces follow the settings at once, in place of what was made
  const coarse = Number(await faces(page).textContent());
  await length.fill('3');
  await length.press('Enter');
  await expect.poll(async () => Number(await faces(page).textContent()), { timeout: 30_000 }).toBeGreaterThan(coarse);
  await expect(step(page, /quads in place of/)).toHaveCount(1);
  await expect(page.getByText('No open edges')).toBeVisible();

  await group(page, 'Place and brush');
  await open(page, 'Settle');
  await card(page, 'Settle').getByText('its centre', { exact: true }).click();
  await card(page, 'Settle').getByRole('button', { name: 'Settle', exact: true }).click();
  await expect(step(page, /^Settled with its pivot at/)).toBeVisible();
});
