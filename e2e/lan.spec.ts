import { expect, test } from '@playwright/test';
import { OwnServer } from './OwnServer';
import { bringInEgg, centre, faces, modelReady, saved } from './workbench';

const CODE = 'abcde-fghij-kmnpq-rstuv-wxyz2-3';
const NAME = 'studio.test';
const own = { server: null as OwnServer | null };

// a name that is no loopback: plain http to it is not a secure context
test.use({
  baseURL: async ({}, use) => use(`http://${NAME}:${own.server?.port}`),
  launchOptions: async ({ launchOptions }, use) =>
    use({ ...launchOptions, args: [...(launchOptions.args ?? []), `--host-resolver-rules=MAP ${NAME} 127.0.0.1`] }),
});
test.beforeAll(async () => {
  test.skip(!process.env.HALF_LOOP_TEST_DATABASE, 'needs the database that npm test starts');
  own.server = await OwnServer.make({ HOST: '0.0.0.0', HALF_LOOP_ACCESS_CODE: CODE, HALF_LOOP_HOSTS: NAME });
  await own.server.start();
});
test.afterAll(() => own.server?.kill());

test('over plain http from another machine: the code once, then everything works', async ({ page }) => {
  await page.goto('/');
  const box = page.getByRole('textbox', { name: 'Access code' });
  await box.fill('not the code');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toHaveText(/not the access code/);
  await box.fill(CODE.replaceAll('-', ' '));
  await page.getByRole('button', { name: 'Open Half Loop' }).click();
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible();
  expect(await page.evaluate(() => window.isSecureContext)).toBe(false);
  await bringInEgg(page, 'nothing');
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  const { x, y } = await centre(page);
  for (const [a, b] of [[-1, -1], [1, -1], [1, 1], [-1, 1]]) await page.mouse.click(x + a * 30, y + b * 30, { delay: 20 }); // prettier-ignore
  await expect(faces(page)).toHaveText('1');
  await saved(page);
  // the browser remembers: a reload asks nothing, and the work is there
  await page.reload();
  await modelReady(page);
  await expect(faces(page)).toHaveText('1');
});
