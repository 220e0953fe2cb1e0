import { expect, test, type Page } from '@playwright/test';
import { addShape, card, dragging, emptyAsset, group, near, open, step, toFlow, tools, undo } from './flow';
import { centre, drag, faces, front, layQuad, modelReady, saved, seen, toStop } from './workbench';

test.beforeEach(({ page }) => emptyAsset(page));

const steps = (page: Page): Promise<number> =>
  page.getByRole('complementary', { name: 'Ledger' }).getByRole('listitem').count();

test('a recipe makes twins that are counted, switched, changed, undone, kept by a reload, and made real', async ({
  page,
}) => {
  await addShape(page, 'Box');
  await tools(page).getByRole('button', { name: 'Recipe' }).click();
  await card(page, 'Recipe').getByRole('radiogroup', { name: 'Step to add' }).getByText('Copies').click();
  await card(page, 'Recipe').getByRole('button', { name: 'Add it to the recipe' }).click();
  const recipe = card(page, 'Recipe: 1');
  await expect(recipe.getByText('3 copies of 24 faces, 72 faces more')).toBeVisible();
  await expect(faces(page)).toHaveText('96');
  await recipe.getByRole('switch', { name: 'Copies' }).click({ force: true });
  await expect(faces(page)).toHaveText('24');
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('96');
  await recipe.getByRole('button', { name: 'Settings of Copies' }).click();
  await recipe.getByRole('textbox', { name: 'How many in all' }).fill('3');
  await recipe.getByRole('textbox', { name: 'How many in all' }).press('Enter');
  await expect(faces(page)).toHaveText('72');
  // an edit of the original is an edit of its twins
  await toFlow(page);
  await group(page, 'Shape');
  await open(page, 'Subdivide');
  await card(page, 'Subdivide').getByRole('button', { name: 'Subdivide', exact: true }).click();
  await expect(faces(page)).toHaveText('288');
  await saved(page);
  await page.reload();
  await modelReady(page);
  await expect(faces(page)).toHaveText('288');
  await tools(page).getByRole('button', { name: 'Recipe: 1' }).click();
  await card(page, 'Recipe: 1').getByRole('button', { name: 'Make all of it real' }).click();
  await expect(card(page, 'Recipe')).toBeVisible();
  await expect(faces(page)).toHaveText('288');
  await expect.poll(async () => (await seen(page)).faces).toBe(288);
  await page.getByRole('application').focus();
  await undo(page);
  await expect(card(page, 'Recipe: 1')).toBeVisible();
});

test('another piece cuts as a step of the recipe: hidden, several in a line, its clean-up listed, followed when it moves', async ({
  page,
}) => {
  await addShape(page, 'Box');
  await tools(page).getByRole('button', { name: 'Pieces' }).click();
  await card(page, 'Pieces').getByRole('button', { name: 'New piece' }).click();
  await card(page, 'Add a shape').getByRole('textbox', { name: 'Width (cm)' }).fill('2');
  await card(page, 'Add a shape').getByRole('textbox', { name: 'Width (cm)' }).press('Enter');
  await card(page, 'Add a shape').getByRole('button', { name: 'Add the box' }).click();
  await expect(faces(page)).toHaveText('48');
  await card(page, 'Pieces: 2').getByRole('row', { name: 'Low-poly' }).click();
  await tools(page).getByRole('button', { name: 'Recipe' }).click();
  await card(page, 'Recipe').getByRole('radiogroup', { name: 'Step to add' }).getByText('Boolean').click();
  await card(page, 'Recipe').getByRole('button', { name: 'Add it to the recipe' }).click();
  const recipe = card(page, 'Recipe: 1');
  await expect(recipe.getByText(/^Cut: \d+ faces in place of \d+/)).toBeVisible({ timeout: 15_000 });
  await expect(recipe.getByText(/edges made hard$/)).toBeVisible();
  // the cutting shape does not ship
  await expect(card(page, 'Pieces: 2').getByRole('row', { name: 'Piece 2' })).toContainText('24, hidden');
  const before = await faces(page).textContent();
  // moved away, it cuts nothing any more
  await card(page, 'Pieces: 2').getByRole('row', { name: 'Piece 2' }).click();
  await toFlow(page);
  await page.keyboard.press('p');
  await tools(page).getByText('the whole piece').click();
  const v = await near(page, 'faceMiddles', 0, 0);
  await dragging(page, v, 40, 0);
  await tools(page).getByRole('button', { name: 'Pieces: 2' }).click();
  await card(page, 'Pieces: 2').getByRole('row', { name: 'Low-poly' }).click();
  await expect.poll(() => faces(page).textContent(), { timeout: 15_000 }).not.toBe(before);
});

test('a guide is drawn, edges are drawn out along it, and it is dropped', async ({ page }) => {
  await page.keyboard.press('g');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 150, y: y + 60 }, { x: x + 150, y: y - 80 });
  const guide = card(page, 'Guide');
  await expect(guide.getByText('Guide 1', { exact: true })).toBeVisible();
  await expect(step(page, 'Guide 1 drawn')).toBeVisible();
  await toFlow(page);
  await group(page, 'Copies and bends');
  await open(page, 'Draw out along a guide');
  const along = card(page, 'Draw out along a guide');
  await along.getByText('Guide 1').click();
  await along.getByRole('button', { name: 'Draw out along a guide', exact: true }).click();
  await expect(step(page, '12 rows drawn along the curve, 12 faces')).toBeVisible();
  await expect(faces(page)).toHaveText('12');
  await page.keyboard.press('g');
  await card(page, 'Guide').getByRole('button', { name: 'Drop Guide 1' }).click();
  await expect(card(page, 'Guide').getByText('No guide is drawn yet.')).toBeVisible();
  await page.getByRole('application').focus();
  await undo(page);
  await expect(card(page, 'Guide').getByText('Guide 1', { exact: true })).toBeVisible();
});

test('a lattice and a bend are dragged by their handles, each drag changing the one step', async ({ page }) => {
  await addShape(page, 'Box');
  await page.keyboard.press('0');
  await toFlow(page);
  await page.keyboard.press('a');
  const corner = (await seen(page)).vertices.reduce((a, b) => (b.x + b.y < a.x + a.y ? b : a));
  await dragging(page, corner, -40, -30);
  await expect(step(page, /points shaped by 1 control point$/)).toBeVisible();
  const count = await steps(page);
  const other = (await seen(page)).vertices.reduce((a, b) => (b.x + b.y > a.x + a.y ? b : a));
  await dragging(page, other, 30, -20);
  await expect(step(page, /points shaped by 2 control points$/)).toBeVisible();
  expect(await steps(page)).toBe(count);
  await page.getByRole('application').focus();
  await undo(page);
  await page.keyboard.press('w');
  const { x, y } = await centre(page);
  const rows = (await seen(page)).vertices.filter((v) => Math.abs(v.x - x) < 5).map((v) => v.y);
  const top = rows.filter((v) => v < y - 60),
    low = rows.filter((v) => v > y + 60);
  const mean = (of: number[]): number => of.reduce((s, v) => s + v, 0) / of.length;
  await dragging(page, { x, y: mean(top) - 0.08 * (mean(low) - mean(top)) }, 60, 10);
  await expect(step(page, /points bent by -?\d+/)).toBeVisible();
});

test('points stick to a guide body, which never ships', async ({ page }) => {
  await tools(page).getByRole('button', { name: 'Pieces' }).click();
  await card(page, 'Pieces').getByRole('button', { name: 'New guide body' }).click();
  await expect(faces(page)).toHaveText('0');
  await page.keyboard.press('0');
  await card(page, 'Pieces: 2').getByRole('row', { name: 'Low-poly' }).click();
  await tools(page).getByText('guide body “Guide body 1”').click();
  await page.keyboard.press('q');
  await layQuad(page, await centre(page), 40);
  await expect(faces(page)).toHaveText('1');
  // in front of the middle, on the ball: turning the view shows that the quad stands off the work plane
  const flat = (await seen(page)).vertices.map(({ x }) => x);
  await page.getByRole('group', { name: 'View from' }).getByRole('button', { name: 'Left' }).click();
  const { x } = await centre(page);
  await expect.poll(async () => (await seen(page)).vertices.every((v) => Math.abs(v.x - x) > 40)).toBe(true);
  expect(flat).toHaveLength(4);
});

test('one of four sectors is laid: the others follow, the seam is told where it is apart, sticks, and is made real', async ({
  page,
}) => {
  await toStop(page, 'Gather');
  await tools(page).getByRole('button', { name: 'Sectors round an axis' }).click();
  const sectors = card(page, 'Sectors round an axis');
  await sectors.getByRole('textbox', { name: 'How many sectors' }).fill('4');
  await sectors.getByRole('textbox', { name: 'How many sectors' }).press('Enter');
  await sectors.getByRole('radiogroup', { name: 'Round' }).getByText('z', { exact: true }).click();
  await sectors.getByRole('button', { name: 'Lay one of 4 sectors' }).click();
  await expect(sectors.getByText('There are no faces of a sector yet.')).toBeVisible();
  await toStop(page, 'Lay');
  await front(page);
  const { x, y } = await centre(page);
  await page.getByRole('application').focus();
  await page.keyboard.press('q');
  for (const [dx, dy] of [[90, 0], [200, 3], [0, -200], [0, -90]]) await page.mouse.click(x + dx, y + dy, { delay: 30 }); // prettier-ignore
  await expect(faces(page)).toHaveText('4');
  await expect(page.getByRole('button', { name: /^Open edges/ })).toContainText('8');
  // a seam point that leaves its partner is told, until the partner comes near its image: there it sticks
  const apart = page.getByRole('button', { name: /^Points of the seam apart/ });
  await page.keyboard.press('d');
  await drag(page, { x, y: y - 90 }, { x, y: y - 60 });
  await expect(apart).toBeVisible();
  await drag(page, { x: x + 90, y }, { x: x + 61, y: y + 1 });
  await expect(apart).toBeHidden();
  await expect(page.getByRole('button', { name: /^Open edges/ })).toContainText('8');
  await toStop(page, 'Gather');
  await expect(sectors.getByText(/^4 sectors, joined at 2 pairs of points each/)).toBeVisible();
  await toStop(page, 'Lay');
  await tools(page).getByRole('button', { name: 'Recipe: 1' }).click();
  await card(page, 'Recipe: 1').getByRole('button', { name: 'Make all of it real' }).click();
  await expect.poll(async () => (await seen(page)).faces).toBe(4);
  await expect(faces(page)).toHaveText('4');
  await expect(page.getByRole('button', { name: /^Open edges/ })).toContainText('8');
  // of the whole one sector is kept, which is copied over the others
  await toStop(page, 'Gather');
  await tools(page).getByRole('button', { name: 'Sectors round an axis' }).click();
  await sectors.getByRole('textbox', { name: 'How many sectors' }).fill('4');
  await sectors.getByRole('textbox', { name: 'How many sectors' }).press('Enter');
  await sectors.getByRole('radiogroup', { name: 'Round' }).getByText('z', { exact: true }).click();
  await sectors.getByRole('button', { name: 'Copy one sector over the others' }).click();
  await expect(step(page, '1 face of one sector kept, 3 of the others gone')).toBeVisible();
  await expect.poll(async () => (await seen(page)).faces).toBe(1);
  await expect(faces(page)).toHaveText('4');
});
