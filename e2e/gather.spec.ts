import { expect, test, type Page } from '@playwright/test';
import { bringInEgg, centre, eggFile, faces, modelReady, saved, toStop } from './workbench';

const size = (page: Page): ReturnType<Page['locator']> => page.getByText(/^[\d.]+ \w+ × [\d.]+ \w+ × [\d.]+ \w+$/);

test('the import report measures the file, and its answers become the settings', async ({ page }) => {
  await page.goto('/');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose a file' }).click();
  await (await chooser).setFiles(await eggFile('Sea potato.ply'));
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Triangles', { exact: true }).locator('..')).toContainText('1,224', {
    timeout: 30_000,
  });
  await expect(dialog.getByText('Open borders').locator('..')).toContainText('none');
  await expect(dialog.getByText('Width × height × depth').locator('..')).toContainText(
    /10\.0 cm × 13\.0 cm × [\d.]+ cm/,
  );
  await expect(dialog.getByRole('radio', { name: 'x (measured)' })).toBeChecked();
  await dialog.getByRole('radiogroup', { name: 'One unit of the file is' }).getByText('1 mm').click();
  await dialog.getByRole('radiogroup', { name: 'Up in the file' }).getByText('+z', { exact: true }).click();
  await expect(
    dialog.getByRole('radiogroup', { name: 'Front in the file' }).getByRole('radio', { name: '-y' }),
  ).toBeChecked();
  await expect(dialog.getByText('Width × height × depth').locator('..')).toContainText(
    /10\.0 mm × [\d.]+ mm × 13\.0 mm/,
  );
  await dialog.getByRole('textbox', { name: 'Name of the asset' }).fill('Sea potato <b>');
  await dialog.getByRole('radiogroup', { name: 'Project' }).getByText('A new one').click();
  await dialog.getByRole('button', { name: 'Bring it in' }).click();
  await modelReady(page);
  await expect(page.getByRole('heading', { level: 1, name: 'Sea potato <b>' })).toBeVisible();
  await expect(
    page.getByRole('radiogroup', { name: 'One unit of the file is' }).getByRole('radio', { name: 'mm' }),
  ).toBeChecked();
  await expect(page.getByRole('switch', { name: 'Symmetry' })).toBeChecked();
});

test('settings are steps: each can be undone, and quick changes are one', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await expect(size(page)).toHaveText(/^10\.0 cm × 13\.0 cm/);
  await page.getByRole('radiogroup', { name: 'One unit of the file is' }).getByText('in', { exact: true }).click();
  await expect(size(page)).toHaveText(/^10\.0 in × 13\.0 in/);
  const opacity = page.getByRole('slider', { name: 'Opacity' });
  await opacity.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('75 %', { exact: true })).toBeVisible();
  const steps = page.getByRole('list', { name: 'Steps, newest first' });
  await expect(steps.getByRole('button', { name: 'Sculpt opacity' })).toHaveCount(1);
  await page.getByRole('application').focus();
  await page.keyboard.press('y');
  await expect(page.getByRole('switch', { name: 'Shown' })).not.toBeChecked();
  await page.keyboard.press('m');
  await expect(page.getByRole('switch', { name: 'Symmetry' })).toBeChecked();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(page.getByRole('switch', { name: 'Shown' })).toBeChecked();
  await expect(page.getByText('100 %', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(size(page)).toHaveText(/^10\.0 cm/);
  await page.getByRole('button', { name: 'Measure the plane' }).click();
  await expect(page.getByText(/^Symmetrical across x/)).toBeVisible();
  await expect(page.getByRole('switch', { name: 'Symmetry' })).toBeChecked();
  await saved(page);
  await page.reload();
  await modelReady(page);
  await expect(page.getByRole('switch', { name: 'Symmetry' })).toBeChecked();
});

test('a work plane can be put through a picked point', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toStop(page, 'Lay');
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  const { x, y } = await centre(page);
  for (const [a, b] of [[-1, -1], [1, -1], [1, 1], [-1, 1]]) await page.mouse.click(x + a * 25, y + b * 25, { delay: 20 }); // prettier-ignore
  await expect(faces(page)).toHaveText('1');
  await page.keyboard.press('e');
  await page.mouse.click(x - 25, y - 25);
  await page.getByText('a work plane').click();
  const stands = page.getByRole('textbox', { name: /Stands at/ });
  await expect(stands).toHaveValue('0');
  await page.getByRole('button', { name: 'Through the picked point' }).click();
  await expect(stands).not.toHaveValue('0');
  // the next quad lies in that plane, also far beside the sculpt
  await page.keyboard.press('q');
  for (const [a, b] of [[-1, -1], [1, -1], [1, 1], [-1, 1]]) await page.mouse.click(x - 265 + a * 25, y + b * 25, { delay: 20 }); // prettier-ignore
  await expect(faces(page)).toHaveText('2');
  await page.getByRole('button', { name: 'Right', exact: true }).click();
});

test('the mirrored half is made real, and that can be undone', async ({ page }) => {
  await bringInEgg(page, 'x');
  await toStop(page, 'Lay');
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  const { x, y } = await centre(page);
  for (const [a, b] of [[20, -30], [80, -30], [80, 30], [20, 30]]) await page.mouse.click(x + a, y + b, { delay: 20 }); // prettier-ignore
  await expect(faces(page)).toHaveText('2');
  await page.getByRole('button', { name: 'Make the mirror real' }).click();
  await page.getByRole('button', { name: 'Make it real' }).click();
  await expect(page.getByText('1 face mirrored for real')).toBeVisible();
  await expect(faces(page)).toHaveText('2');
  await expect(page.getByText('Open edges', { exact: true }).locator('..')).toContainText('8');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Open edges off the midline', { exact: true }).locator('..')).toContainText('8');
});
