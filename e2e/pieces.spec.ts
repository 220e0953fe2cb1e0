import { expect, test, type Page } from '@playwright/test';
import { addShape, card, emptyAsset, group, step, toFlow, tools, undo } from './flow';
import { centre, drag, faces, front, seen, toStop } from './workbench';

const rows = (page: Page): Promise<string[]> =>
  card(page, 'Pieces: 2').getByRole('row').locator('.text').allTextContents();

test('pieces are ordered by dragging, or by keys; a locked one is changed by nothing until it is unlocked', async ({
  page,
}) => {
  await emptyAsset(page);
  await toStop(page, 'Lay');
  await addShape(page, 'Box');
  const made = Number(await faces(page).textContent());
  await tools(page).getByRole('button', { name: 'Pieces' }).click();
  await card(page, 'Pieces').getByRole('button', { name: 'New piece' }).click();
  const pieces = card(page, 'Pieces: 2');
  expect(await rows(page)).toEqual(['Low-poly', 'Piece 2']);
  await pieces.getByRole('row', { name: 'Piece 2' }).dragTo(pieces.getByRole('row', { name: 'Low-poly' }), { targetPosition: { x: 60, y: 3 } }); // prettier-ignore
  await expect(step(page, '“Piece 2” moved to place 1')).toBeVisible();
  expect(await rows(page)).toEqual(['Piece 2', 'Low-poly']);
  await undo(page);
  await expect.poll(() => rows(page)).toEqual(['Low-poly', 'Piece 2']);

  // by keys: take hold by the grip, go down, let go
  await tools(page).getByRole('button', { name: 'Pieces: 2' }).click({ timeout: 2000 }).catch(() => undefined); // prettier-ignore
  await pieces.getByRole('button', { name: 'Move Low-poly' }).focus();
  await page.keyboard.press('Enter');
  const target = page.locator('[aria-roledescription="drop indicator"]:focus');
  for (let i = 0; i < 4; i++) {
    await expect(target).toHaveCount(1);
    if ((await target.getAttribute('aria-label')) === 'Insert after Piece 2') break;
    await page.keyboard.press('ArrowDown');
  }
  await page.keyboard.press('Enter');
  await expect(step(page, '“Low-poly” moved to place 2')).toBeVisible();

  await pieces.getByRole('row', { name: 'Low-poly' }).click();
  await pieces.getByText('Locked: nothing changes it').click();
  await expect(step(page, '“Low-poly” locked')).toBeVisible();
  await expect(pieces.getByRole('row', { name: 'Low-poly' })).toContainText('locked');
  await front(page);
  await page.getByRole('application').focus();
  await page.keyboard.press('e');
  const { x, y } = await centre(page);
  await page.mouse.click(x, y);
  await page.getByRole('application').focus();
  await page.keyboard.press('Delete');
  await expect(page.getByText('“Low-poly” is locked. Unlock it under Pieces to change it.')).toBeVisible();
  await expect(faces(page)).toHaveText(String(made));
  await pieces.getByRole('button', { name: 'Delete “Low-poly”' }).click();
  await expect(pieces.getByRole('row')).toHaveCount(2);
  await pieces.getByText('Locked: nothing changes it').click();
  await pieces.getByRole('button', { name: 'Delete “Low-poly”' }).click();
  await expect(step(page, '“Low-poly” deleted')).toBeVisible();
});

test('a locked point stays while others are dragged; it is told how many stayed', async ({ page }) => {
  await emptyAsset(page);
  await toStop(page, 'Lay');
  await addShape(page, 'Box');
  await front(page);
  await page.getByRole('application').focus();
  await page.keyboard.press('0');
  const top = async (): Promise<{ x: number; y: number }[]> => {
    const { vertices } = await seen(page);
    const high = Math.min(...vertices.map((v) => v.y));
    return vertices.filter((v) => v.y < high + 3).sort((a, b) => a.x - b.x);
  };
  const before = await top();
  await page.getByRole('application').focus();
  await page.keyboard.press('e');
  const first = before[0];
  await page.mouse.click(first.x, first.y);
  await tools(page).getByRole('button', { name: 'Lock or release points' }).click();
  await card(page, 'Lock or release points').getByRole('button', { name: 'Lock or release points' }).click();
  await expect(step(page, '1 point locked where they are')).toBeVisible();
  await toFlow(page);
  await group(page, 'Place and brush');
  await page.getByRole('application').focus();
  await page.keyboard.press('p');
  await card(page, 'Place').getByText('the whole piece').click();
  const { x, y } = await centre(page);
  await drag(page, { x, y }, { x: x + 60, y });
  await expect(step(page, /; 1 locked point stayed$/)).toBeVisible();
  const after = await top();
  expect(after.some((v) => Math.hypot(v.x - first.x, v.y - first.y) < 1)).toBe(true);
});

test('a copy is held a chosen gap off the body below', async ({ page }) => {
  await emptyAsset(page);
  await toStop(page, 'Lay');
  await addShape(page, 'Ball');
  await tools(page).getByRole('button', { name: 'Pieces' }).click();
  await card(page, 'Pieces').getByRole('button', { name: 'Set a copy aside' }).click();
  await expect(step(page, /^A copy of “Low-poly” set aside/)).toBeVisible();
  await toFlow(page);
  const held = card(page, 'Points are held on');
  await held.getByRole('radio', { name: /“/ }).first().check({ force: true });
  const gap = held.getByRole('textbox', { name: /^Gap off it/ });
  await gap.fill('0.25');
  await gap.press('Enter');
  await group(page, 'Place and brush');
  await tools(page)
    .getByRole('button', { name: /^Bring back onto the form/ })
    .click();
  await card(page, 'Bring back onto the form').getByRole('button', { name: 'Bring back onto the form' }).click();
  await expect(step(page, /brought onto the form, the farthest by 0\.25/)).toBeVisible();
});
