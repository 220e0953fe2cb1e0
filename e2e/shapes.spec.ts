import { expect, test } from '@playwright/test';
import { addShape as add, card, emptyAsset, group, near, open, step, toFlow as flow, tools, undo } from './flow';
import { faces, modelReady, seen } from './workbench';

test.beforeEach(({ page }) => emptyAsset(page));

test('a cylinder stands on the floor; its sides are told, asked for in four ways, and turned by half a side', async ({
  page,
}) => {
  await add(page, 'Cylinder');
  const shape = card(page, 'Add a shape');
  await expect(step(page, /Cylinder, 12 sides of 30° each; 54 faces/)).toBeVisible();
  await expect(shape.getByText('Each of 12 sides: 30°, 2.59 cm wide')).toBeVisible();
  await shape.getByRole('textbox', { name: 'How many' }).fill('13');
  await shape.getByRole('textbox', { name: 'How many' }).press('Enter');
  await expect(step(page, /13 is odd: its ends cannot be closed by quads alone/)).toBeVisible();
  await shape.getByText('by face width').click();
  await shape.getByRole('textbox', { name: 'Face width (cm)' }).fill('5');
  await shape.getByRole('textbox', { name: 'Face width (cm)' }).press('Enter');
  await expect(step(page, /Cylinder, 6 sides of 60° each/)).toBeVisible();
  await shape.getByText('by a rhythm').click();
  await shape.getByRole('textbox', { name: 'Times' }).fill('4');
  await shape.getByRole('textbox', { name: 'Times' }).press('Enter');
  await expect(step(page, /Cylinder, 12 sides/)).toBeVisible();
  const before = (await seen(page)).vertices.map(({ x }) => Math.round(x)).join();
  await shape.getByText('A flat faces the front').click();
  await expect.poll(async () => (await seen(page)).vertices.map(({ x }) => Math.round(x)).join()).not.toBe(before);
  // every change above was the same one step
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('0');
});

test('a box is copied and bent from its cards', async ({ page }) => {
  await add(page, 'Box');
  await expect(faces(page)).toHaveText('24');
  await page.keyboard.press('0');
  await flow(page);
  await page.keyboard.press('e');
  const f = await near(page, 'faceMiddles', 0, 0);
  await page.mouse.click(f.x, f.y);
  await group(page, 'Copies and bends');
  await tools(page).getByRole('button', { name: 'Copies', exact: true }).click();
  await card(page, 'Copies').getByRole('button', { name: 'Copies', exact: true }).click();
  await expect(step(page, '3 copies of 24 faces, 72 faces more')).toBeVisible();
  await expect(faces(page)).toHaveText('96');
  const many = card(page, 'Copies').getByRole('textbox', { name: 'How many in all' });
  await many.fill('2');
  await many.press('Enter');
  await expect(faces(page)).toHaveText('48');
  await page.keyboard.press('Escape');
  await open(page, 'Bend, twist, taper');
  await card(page, 'Bend, twist, taper').getByRole('button', { name: 'Bend, twist, taper', exact: true }).click();
  await expect(step(page, /points bent by 45°/)).toBeVisible();
});

test('a sheet is thickened, and the thickness that would cross is told', async ({ page }) => {
  await add(page, 'Plane grid');
  await expect(faces(page)).toHaveText('16');
  await flow(page);
  await group(page, 'Walls and holes');
  await open(page, 'Thicken');
  await page.keyboard.press('Escape');
  await card(page, 'Thicken').getByRole('button', { name: 'Thicken', exact: true }).click();
  await expect(step(page, '16 faces thickened, 16 faces along the rim')).toBeVisible();
  await expect(faces(page)).toHaveText('48');
});

test('a cylinder is cut out of a box, and the change of mind is live', async ({ page }) => {
  await add(page, 'Box');
  const shape = card(page, 'Add a shape');
  await shape.getByRole('radiogroup', { name: 'Which' }).getByText('Cylinder', { exact: true }).click();
  await shape.getByRole('textbox', { name: 'Radius (cm)' }).fill('3');
  await shape.getByRole('textbox', { name: 'Radius (cm)' }).press('Enter');
  await shape.getByRole('textbox', { name: 'Height (cm)' }).fill('14');
  await shape.getByRole('textbox', { name: 'Height (cm)' }).press('Enter');
  await shape.getByRole('button', { name: 'Add the cylinder' }).click();
  await expect(faces(page)).toHaveText('78');
  await flow(page);
  await group(page, 'Walls and holes');
  await open(page, 'Boolean');
  // the shape made last is still picked
  await card(page, 'Boolean').getByRole('button', { name: 'Boolean', exact: true }).click();
  await expect(step(page, /^Cut: \d+ faces in place of \d+; .*edges made hard/)).toBeVisible();
  await card(page, 'Boolean').getByText('join it on').click();
  await expect(step(page, /^Joined: \d+ faces/)).toBeVisible();
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('78');
});

test('picked faces become a piece of their own; steps go back to the piece they worked on', async ({ page }) => {
  await add(page, 'Box');
  await expect(faces(page)).toHaveText('24');
  await page.keyboard.press('0');
  await page.keyboard.press('e');
  const f = await near(page, 'faceMiddles', 0, 0);
  await page.mouse.click(f.x, f.y);
  await tools(page).getByRole('button', { name: 'Pieces' }).click();
  await card(page, 'Pieces').getByRole('button', { name: 'Take the picked faces out' }).click();
  const pieces = card(page, 'Pieces: 2');
  await expect(pieces.getByRole('row', { name: 'Piece 2', selected: true })).toContainText('1');
  await expect(pieces.getByRole('row', { name: 'Low-poly' })).toContainText('23');
  await expect(faces(page)).toHaveText('24');
  // work on the new piece, go back to the other, undo twice: the view follows the steps
  await flow(page);
  await group(page, 'Shape');
  await open(page, 'Subdivide');
  await card(page, 'Subdivide').getByRole('button', { name: 'Subdivide', exact: true }).click();
  await expect(faces(page)).toHaveText('27');
  await tools(page).getByRole('button', { name: 'Pieces: 2' }).click();
  await pieces.getByRole('row', { name: 'Low-poly' }).click();
  await pieces.getByText('Shown and shipped').click();
  await expect(step(page, '“Low-poly” hidden')).toBeVisible();
  await expect(faces(page)).toHaveText('4');
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('27');
  await undo(page);
  await expect(pieces.getByRole('row', { name: 'Piece 2', selected: true })).toContainText('1');
  await undo(page);
  await expect(faces(page)).toHaveText('24');
  await expect(tools(page).getByText('Pieces: 2')).toHaveCount(0);
  // a reload brings the pieces back with their history
  await page.keyboard.press('Control+Shift+z');
  await expect(tools(page).getByText('Pieces: 2')).toBeVisible();
  await page.reload();
  await modelReady(page);
  await expect(tools(page).getByText('Pieces: 2')).toBeVisible();
});
