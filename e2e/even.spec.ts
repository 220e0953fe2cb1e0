import { expect, test, type Page } from '@playwright/test';
import { addShape, card, emptyAsset, group, open, set, step, takeHalf, toFlow } from './flow';
import { centre, faces } from './workbench';

const mirror = async (page: Page): Promise<void> => {
  await page.getByRole('button', { name: 'Command list' }).click();
  await page.getByRole('searchbox').fill('symmetry');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
};

test('a big part is evened out: settings are tried on a patch under the pointer, and the whole follows them', async ({
  page,
}) => {
  await emptyAsset(page);
  await addShape(page, 'Box');
  await toFlow(page);
  await group(page, 'Shape');
  await open(page, 'Even out');
  const box = card(page, 'Even out');
  const told = box.getByText(/the whole, about/);
  await expect(told).toHaveCount(0);
  await set(page, 'Even out', 'Edge length', '0.1');
  // too many to be made live: a patch shows what comes, and nothing has changed yet
  const { x, y } = await centre(page);
  await page.mouse.move(x + 20, y + 10);
  await expect(told).toContainText('is made beside the page');
  await expect(told).toContainText('The patch in the view');
  await expect(faces(page)).toHaveText('24');
  const count = async (): Promise<number> => Number((await faces(page).textContent())?.replace(/\D/g, ''));
  const about = Number(/about ([\d,]+) quads/.exec((await told.textContent()) ?? '')?.[1].replace(',', ''));
  await box.getByRole('button', { name: 'Even out', exact: true }).click();
  await expect(step(page, /quads in place of 24 faces/)).toBeVisible({ timeout: 60_000 });
  expect((await count()) / about).toBeGreaterThan(0.8);
  expect((await count()) / about).toBeLessThan(1.3);
  await expect(told).toHaveCount(0);

  // other settings: the whole follows by itself, in place of what was made
  await set(page, 'Even out', 'Edge length', '0.2');
  await expect(told).toContainText('follows');
  await expect.poll(count, { timeout: 60_000 }).toBeLessThan(about / 2);
  await expect(step(page, /quads in place of 24 faces/)).toHaveCount(1);
  await expect(told).toHaveCount(0);

  // a run that is cancelled leaves what was there, and does not begin again by itself
  const before = await count();
  await set(page, 'Even out', 'Edge length', '0.1');
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  await expect(told).toContainText('is made beside the page');
  await expect(page.getByRole('progressbar', { name: 'Even out' })).toHaveCount(0);
  expect(await count()).toBe(before);
  // nor does it promise what it would refuse
  await set(page, 'Even out', 'Edge length', '0.02');
  await expect(box.getByText(/would give more than 100,000 faces; take a longer one/)).toBeVisible();
  await expect(told).toHaveCount(0);
});

test('with a mirror plane a patch is shown too, and nothing has changed yet', async ({ page }) => {
  await emptyAsset(page);
  await addShape(page, 'Box');
  await toFlow(page);
  await mirror(page);
  await group(page, 'Shape');
  await open(page, 'Even out');
  const box = card(page, 'Even out');
  await set(page, 'Even out', 'Edge length', '0.3');
  await page.getByRole('application').focus();
  await page.keyboard.press('0');
  const { x, y } = await centre(page);
  await page.mouse.move(x - 90, y - 60);
  await expect(box.getByText('The patch in the view')).toBeVisible();
  await expect(step(page, /quads in place of/)).toHaveCount(0);

  // both halves of the box are there: its other half could not be joined to what came out
  await box.getByRole('button', { name: 'Even out', exact: true }).click();
  await expect(page.getByText(/if both halves are there already, turn symmetry off/).first()).toBeVisible();
  await expect(faces(page)).toHaveText('48');
  await expect(step(page, /quads in place of/)).toHaveCount(0);
});

test('half a box under a mirror plane is evened out: both halves still meet', async ({ page }) => {
  await emptyAsset(page);
  await addShape(page, 'Box');
  await toFlow(page);
  await takeHalf(page);
  await mirror(page);
  await expect(faces(page)).toHaveText('24');
  await group(page, 'Shape');
  await open(page, 'Even out');
  const box = card(page, 'Even out');
  await set(page, 'Even out', 'Edge length', '0.2');
  await box.getByRole('button', { name: 'Even out', exact: true }).click();
  const made = step(page, /quads in place of 12 faces/);
  await expect(made).toBeVisible({ timeout: 60_000 });
  const half = Number(/([\d,]+) quads/.exec((await made.textContent()) ?? '')?.[1].replace(',', ''));
  expect(half).toBeGreaterThan(200);
  await expect(faces(page)).toHaveText((2 * half).toLocaleString('en'));
  await expect(page.getByText('No open edges')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(faces(page)).toHaveText('24');
});
