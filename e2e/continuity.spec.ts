import { expect, test, type Locator, type Page } from '@playwright/test';
import { faces, seen } from './workbench';
import { card, dragging, group, near, open, sheet, step, tools, undo } from './flow';

test.beforeEach(({ page }) => sheet(page));

const ledger = (page: Page): Locator => page.getByRole('complementary', { name: 'Ledger' });
const pole = (page: Page): Promise<void> => expect(page.getByLabel(/[1-9]\d* poles of three/)).toBeVisible();

/** A spun edge in the middle of the sheet: two poles of three, two of five. */
async function spinOne(page: Page): Promise<void> {
  await page.keyboard.press('e');
  const e = await near(page, 'innerEdges', 0, 20);
  await page.mouse.click(e.x, e.y);
  await group(page, 'Cut and turn');
  await open(page, 'Spin edge');
  await card(page, 'Spin edge').getByRole('button', { name: 'Spin edge', exact: true }).click();
  await expect(step(page, '1 edge spun')).toBeVisible();
  await pole(page);
}

/** An edge of a loop that tells under the pointer that it stops. */
async function whereItStops(page: Page): Promise<{ x: number; y: number }> {
  for (const dx of [-60, -40, -20, 20, 40, 60]) {
    const e = await near(page, 'innerEdges', dx, 0);
    await page.mouse.move(e.x, e.y);
    if (await page.getByText(/stops at a pole of [35] edges; R leads it on/).isVisible()) return e;
  }
  throw new Error('no loop tells that it stops');
}

test('Route on: a loop tells where it stops; ways are shown with their cost before one is kept', async ({ page }) => {
  await spinOne(page);
  const stopped = await whereItStops(page);
  await page.keyboard.press('r');
  await page.mouse.click(stopped.x, stopped.y);
  const ways = card(page, 'Route on').getByRole('radiogroup', { name: 'Ways on' });
  await expect(ways.getByRole('radio', { name: /^1: 1 edit, 4 poles fewer/ })).toBeChecked();
  await expect(page.getByLabel('0 poles of three edges')).toBeVisible();
  // nothing is kept yet: Esc leaves the sheet as it was
  await page.keyboard.press('Escape');
  await pole(page);
  await expect(page.getByRole('listitem').filter({ hasText: 'Way 1' })).toHaveCount(0);
  await page.mouse.click(stopped.x, stopped.y);
  await page.keyboard.press('2');
  await expect(ways.getByRole('radio', { name: /^2: / })).toBeChecked();
  await page.keyboard.press('1');
  await page.keyboard.press('Enter');
  await expect(step(page, /^Way 1 of \d: 1 edit, 4 poles fewer/)).toBeVisible();
  await page.getByRole('application').focus();
  await undo(page);
  await pole(page);
});

test('what an edit leaves behind is lit, mended by one key or left as meant to be, and shown from the history', async ({
  page,
}) => {
  await page.keyboard.press('e');
  const e = await near(page, 'innerEdges', 0, 20);
  await page.mouse.click(e.x, e.y);
  await open(page, 'Dissolve');
  await card(page, 'Dissolve').getByRole('button', { name: 'Dissolve', exact: true }).click();
  await expect(faces(page)).toHaveText('63');
  await expect(ledger(page).getByRole('button', { name: /Left by edits 1/ })).toBeVisible();
  const f = await near(page, 'faceMiddles', 0, 20);
  await page.mouse.move(f.x, f.y);
  await expect(page.getByText('an edit left a face of 6 sides; N: connect two of its points')).toBeVisible();
  await page.keyboard.press('n');
  await expect(step(page, '1 face mended, 0 left')).toBeVisible();
  await expect(faces(page)).toHaveText('64');
  await page.getByRole('application').focus();
  await undo(page);
  await group(page, 'Cut and turn');
  await open(page, 'Mend');
  await page.keyboard.press('Escape');
  await card(page, 'Mend').getByRole('button', { name: 'Mend', exact: true }).click();
  await expect(faces(page)).toHaveText('64');
  await page.getByRole('application').focus();
  await undo(page);
  await open(page, 'Meant to be');
  await card(page, 'Meant to be').getByRole('button', { name: 'Meant to be', exact: true }).click();
  await expect(step(page, '1 face left as meant to be')).toBeVisible();
  await expect(ledger(page).getByText('Meant to be as they are')).toBeVisible();
  const before = JSON.stringify((await seen(page)).vertices);
  await step(page, /edge dissolved/).getByRole('button', { name: /^Show where step/ }).click(); // prettier-ignore
  await expect.poll(async () => JSON.stringify((await seen(page)).vertices) !== before).toBe(true);
});

test('Pair triangles, Cut each face by its options, and Weld within with its count', async ({ page }) => {
  await page.keyboard.press('e');
  // two opposite corners of a face joined: two triangles
  const [a, b] = [await near(page, 'vertices', 0, 0), await near(page, 'vertices', 40, 40)];
  await page.mouse.click(a.x, a.y);
  await page.keyboard.down('Shift');
  await page.mouse.click(b.x, b.y);
  await page.keyboard.up('Shift');
  await group(page, 'Join');
  await open(page, 'Connect');
  await card(page, 'Connect').getByRole('button', { name: 'Connect', exact: true }).click();
  await expect(faces(page)).toHaveText('65');
  await group(page, 'Cut and turn');
  await page.keyboard.press('Escape');
  await open(page, 'Pair triangles');
  await card(page, 'Pair triangles').getByRole('button', { name: 'Pair triangles', exact: true }).click();
  await expect(step(page, '1 quad paired, 0 triangles left')).toBeVisible();
  await expect(faces(page)).toHaveText('64');
  const one = await near(page, 'faceMiddles', 20, 20);
  await page.mouse.click(one.x, one.y);
  await open(page, 'Cut each face');
  const each = card(page, 'Cut each face');
  await each.getByRole('button', { name: 'Cut each face', exact: true }).click();
  await expect(step(page, /1 face cut alike/)).toBeVisible();
  const count = Number(await faces(page).textContent());
  expect(count).toBeGreaterThan(64);
  const triangles = ledger(page).getByText('Triangles', { exact: true }).locator('..');
  await expect(triangles).toHaveText('Triangles0');
  // the card still changes the step: from the middle of one side to the next one's
  await each.getByRole('textbox', { name: 'To side' }).fill('2');
  await each.getByRole('textbox', { name: 'To side' }).press('Enter');
  await expect(triangles).toHaveText('Triangles1');
  await tools(page).getByRole('button', { name: 'Weld', exact: true }).click();
  await expect(card(page, 'Weld').getByRole('button', { name: 'No pairs to weld' })).toBeDisabled();
});

test('Stitch: a strip is deleted and both sides join again', async ({ page }) => {
  const [a, b] = [await near(page, 'vertices', 0, 0), await near(page, 'vertices', 40, 0)];
  const box = (kind: string): Promise<void> =>
    card(page, 'Lasso')
      .getByText(kind, { exact: true })
      .click()
      .then(() => dragging(page, { x: a.x - 6, y: a.y - 200 }, b.x - a.x + 12, 400));
  await page.keyboard.press('l');
  await box('faces');
  await expect(ledger(page).getByText('Faces picked')).toBeVisible();
  await page.keyboard.press('Delete');
  await expect(faces(page)).toHaveText('56');
  await box('edges');
  await expect(page.getByText('16 edges picked in 2 runs')).toBeVisible();
  await group(page, 'Join');
  await open(page, 'Stitch');
  await card(page, 'Stitch').getByRole('button', { name: 'Stitch', exact: true }).click();
  await expect(step(page, '9 pairs stitched')).toBeVisible();
});

test('lens Outline says that there is nothing to compare with until a copy is kept', async ({ page }) => {
  await page.keyboard.press('Shift+Digit7');
  await expect(page.getByText('There is no sculpt to compare with')).toBeVisible();
  await tools(page).getByRole('button', { name: 'Keep a copy of the form as it is' }).click();
  await expect(page.getByText('outline of the kept copy')).toBeVisible();
});
