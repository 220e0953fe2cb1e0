import { expect, test, type BrowserContext, type Page } from '@playwright/test';
import { OwnServer } from './OwnServer';
import { bringInEgg, centre, faces, modelReady, saved, toStop } from './workbench';

const server = { own: null as OwnServer | null };
test.beforeAll(async () => {
  test.skip(!process.env.HALF_LOOP_TEST_DATABASE, 'needs the database that npm test starts');
  server.own = await OwnServer.make();
});
test.beforeEach(async () => server.own?.start());
test.afterEach(async () => server.own?.kill());
test.use({ baseURL: async ({}, use) => use(server.own?.url) });

const quadAt = async (page: Page, dx: number): Promise<void> => {
  const { x, y } = await centre(page);
  for (const [a, b] of [[-1, -1], [1, -1], [1, 1], [-1, 1]]) await page.mouse.click(x + dx + a * 22, y + b * 22, { delay: 20 }); // prettier-ignore
};
async function layStop(page: Page): Promise<void> {
  await toStop(page, 'Lay');
  await page.getByRole('button', { name: 'Front', exact: true }).click();
}

/** Brings the egg in, and opens it in a second page too. */
async function secondPage(page: Page, context: BrowserContext): Promise<Page> {
  await bringInEgg(page, 'nothing');
  await layStop(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await modelReady(other);
  await other.getByRole('button', { name: 'Front', exact: true }).click();
  return other;
}

test('work goes on while the server is away, and is saved when it is back', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await layStop(page);
  await quadAt(page, -60);
  await saved(page);
  await server.own?.kill();
  await quadAt(page, 40);
  await expect(page.getByText('Not saved yet: kept in this browser')).toBeVisible();
  await expect(faces(page)).toHaveText('2');
  await server.own?.start();
  await saved(page);
  await page.reload();
  await modelReady(page);
  await expect(faces(page)).toHaveText('2');
});

test('a page closed with unsaved work gives it back when the asset is opened again', async ({ page, context }) => {
  await bringInEgg(page, 'nothing');
  await layStop(page);
  await quadAt(page, -60);
  await saved(page);
  await server.own?.kill();
  await quadAt(page, 40);
  await expect(faces(page)).toHaveText('2');
  // no waiting: the tab goes in the middle of work
  const url = page.url();
  await page.close();
  await server.own?.start();
  const again = await context.newPage();
  await again.goto(url);
  await modelReady(again);
  await expect(faces(again)).toHaveText('2');
  await saved(again);
  await again.getByRole('application').focus();
  await again.keyboard.press('Control+z');
  await expect(faces(again)).toHaveText('1');
});

test('of two pages on one asset, the later save asks, and both are kept', async ({ page, context }) => {
  const other = await secondPage(page, context);
  await quadAt(page, -60);
  await saved(page);
  await quadAt(other, 40);
  const dialog = other.getByRole('dialog', { name: 'This asset was also saved from somewhere else' });
  await dialog.getByRole('button', { name: 'Go on with the other save' }).click();
  await expect(dialog).toBeHidden();
  await expect(faces(other)).toHaveText('1');
  await saved(other);
  await toStop(other, 'Ship');
  await other.getByRole('link', { name: 'All versions' }).click();
  await expect(other.getByRole('heading', { name: 'Kept from this browser' })).toBeVisible();
});

test('going on with what is here keeps the other save as a version', async ({ page, context }) => {
  const other = await secondPage(page, context);
  await quadAt(page, -60);
  await quadAt(page, 110);
  await expect(faces(page)).toHaveText('2');
  await saved(page);
  await quadAt(other, 40);
  await other.getByRole('button', { name: 'Go on with what is here' }).click();
  await saved(other);
  await expect(faces(other)).toHaveText('1');
  await other.reload();
  await modelReady(other);
  await expect(faces(other)).toHaveText('1');
  await other.goto(other.url().replace(/lay$/, 'versions'));
  await expect(other.getByRole('heading', { name: 'Saved elsewhere' })).toBeVisible();
  await expect(other.getByText('2 of 2,000')).toBeVisible();
});
