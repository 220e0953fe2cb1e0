import { expect, test } from '@playwright/test';
import { card, step, tools, undo } from './flow';
import { bringInEgg, centre, drag, eggFile, faces, front, modelReady, saved, seen, toStop } from './workbench';

test('a newer sculpt takes the place of the one that is there; what was laid and painted goes along, and it is shown where it moved most', async ({
  page,
}) => {
  await bringInEgg(page, 'nothing');
  await toStop(page, 'Lay');
  await front(page);
  await page.getByRole('application').focus();
  await page.keyboard.press('o');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 270, y }, { x: x + 270, y });
  await expect(step(page, /^1 ring of 8 laid/)).toBeVisible();
  await page.keyboard.press('v');
  for (let i = 0; i < 6; i++) await page.keyboard.press(']');
  await drag(page, { x: x - 60, y: y - 90 }, { x: x + 60, y: y - 90 });
  await expect(step(page, '“Region 1” painted')).toBeVisible();
  const laid = await faces(page).textContent();
  await saved(page);

  await toStop(page, 'Gather');
  await tools(page).getByRole('button', { name: 'Newer sculpt' }).click();
  const chosen = page.waitForEvent('filechooser');
  await card(page, 'Newer sculpt').getByRole('button', { name: 'Choose the newer sculpt' }).click();
  await (await chosen).setFiles(await eggFile('Newer egg.ply', 1.2));
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Size of the newer one')).toBeVisible();
  await dialog.getByRole('button', { name: 'Take its place' }).click();
  await expect(page.getByText('12.0 cm × 13.0 cm × 12.2 cm')).toBeVisible({ timeout: 30_000 });
  await modelReady(page);
  await expect(faces(page)).toHaveText(laid as string);

  await tools(page).getByRole('button', { name: 'Newer sculpt' }).click();
  const width = async (): Promise<number> => {
    await page.getByRole('application').focus();
    await page.keyboard.press('0');
    const xs = (await seen(page)).vertices.map((v) => v.x);
    return Math.max(...xs) - Math.min(...xs);
  };
  const before = await width();
  await card(page, 'Newer sculpt').getByRole('button', { name: 'Bring all pieces onto the sculpt' }).click();
  await expect(step(page, 'All pieces brought onto the sculpt')).toBeVisible();
  await expect(card(page, 'Newer sculpt').getByText('The farthest')).toBeVisible();
  expect((await width()) / before).toBeGreaterThan(1.15);
  expect((await width()) / before).toBeLessThan(1.25);
  await page.getByRole('application').focus();
  await undo(page);
  await expect(card(page, 'Newer sculpt').getByRole('button', { name: 'Go back to the sculpt before' })).toBeVisible();

  // what was painted lies on the newer one
  await toStop(page, 'Lay');
  await page.getByRole('application').focus();
  await page.keyboard.press('v');
  await card(page, 'Paint a region').getByRole('radio', { name: 'Region 1' }).click({ force: true });
  await expect(card(page, 'Paint a region').getByText(/^[1-9][\d,]* of [\d,]+ points of the sculpt/)).toBeVisible();
});
