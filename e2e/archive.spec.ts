import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { bringInEgg } from './workbench';

test('a project is taken out as one file and comes in again as another project', async ({ page }) => {
  await bringInEgg(page, 'x');
  await page.goto('/');
  const groups = page.getByRole('group', { name: 'My project' });
  await expect(groups.first()).toBeVisible();
  const before = await groups.count();
  const download = page.waitForEvent('download');
  await groups.last().getByRole('link', { name: 'Take out My project as ZIP' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('My project.zip');
  const buffer = await readFile(await file.path());
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose a file' }).click();
  await (await chooser).setFiles({ name: 'My project.zip', mimeType: 'application/zip', buffer });
  await expect(groups).toHaveCount(before + 1, { timeout: 30_000 });
  await expect(groups.last().getByRole('link', { name: /^Open Limpet egg/ })).toBeVisible();
  // an archive that is none gets a sentence
  const again = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose a file' }).click();
  await (await again).setFiles({ name: 'torn.zip', mimeType: 'application/zip', buffer: buffer.subarray(0, 700) });
  await expect(page.getByRole('alert')).toHaveText(/not a project archive/);
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(groups).toHaveCount(before + 1);
});
