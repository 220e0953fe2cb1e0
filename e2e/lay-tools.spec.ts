import { expect, test, type Page } from '@playwright/test';
import { bringInEgg, centre, drag, faces, seen, toStop } from './workbench';

const look = (page: Page, side: string): Promise<void> =>
  page.getByRole('group', { name: 'View from' }).getByRole('button', { name: side, exact: true }).click();
async function clicks(page: Page, at: [number, number][]): Promise<void> {
  const { x, y } = await centre(page);
  for (const [dx, dy] of at) await page.mouse.click(x + dx, y + dy, { delay: 20 });
}
const ledger = (page: Page, label: string): ReturnType<Page['locator']> =>
  page.getByText(label, { exact: true }).locator('..');
const square = (dx: number, half = 30): [number, number][] => [[dx - half, -half], [dx + half, -half], [dx + half, half], [dx - half, half]]; // prettier-ignore

test.beforeEach(async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toStop(page, 'Lay');
  await look(page, 'Front');
});

test('Quad: three points and Enter, back and Esc, crossed corners, welding to what is there', async ({ page }) => {
  await clicks(page, [[-60, 0], [-20, 0], [-40, -40]]); // prettier-ignore
  await expect(page.getByText('The fourth point lays a quad.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 triangle laid, 3 new points')).toBeVisible();
  await expect(ledger(page, 'Triangles')).toContainText('1');
  // a point too many is taken back, all of them are let go
  await clicks(page, [[40, 0], [80, 0]]); // prettier-ignore
  await page.keyboard.press('Backspace');
  await expect(page.getByText('3 more points.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('Click four points on the surface.')).toBeVisible();
  // corners clicked crosswise still make a quad that folds nothing
  await clicks(page, [[20, -20], [60, 20], [60, -20], [20, 20]]); // prettier-ignore
  await expect(page.getByText('1 quad laid, 4 new points')).toBeVisible();
  // a quad over two corners that are there brings two new ones
  await clicks(page, [[60, -20], [60, 20], [100, 20], [100, -20]]); // prettier-ignore
  await expect(page.getByText('1 quad laid, 2 new points')).toBeVisible();
  await expect(faces(page)).toHaveText('3');
  await expect(ledger(page, 'Points')).toContainText('9');
  // an edge that has both its faces is refused in words, and nothing changes
  await clicks(page, [[60, -20], [60, 20], [20, 60], [20, 90]]); // prettier-ignore
  await expect(page.getByText('This edge already has a face on that side.')).toBeVisible();
  await expect(faces(page)).toHaveText('3');
  await expect(ledger(page, 'Points')).toContainText('9');
});

test('points stick to what the view sees: beside the model they are refused, see-through is held or latched', async ({
  page,
}) => {
  const { x, y } = await centre(page);
  await page.mouse.click(x - 285, y - 250);
  await expect(page.getByText('No surface here that this view sees')).toBeVisible();
  const through = page.getByRole('switch', { name: /See through/ });
  await page.getByRole('application').focus();
  await page.keyboard.press('t', { delay: 30 });
  await expect(through).toBeChecked();
  await page.keyboard.press('t', { delay: 30 });
  await expect(through).not.toBeChecked();
  await page.keyboard.down('t');
  await page.waitForTimeout(500);
  await page.keyboard.up('t');
  await expect(through).not.toBeChecked();
});

test('Select: elements, whole borders and pieces by a second press, kinds, and findings that can be pressed', async ({
  page,
}) => {
  await clicks(page, square(-50));
  await page.keyboard.press('d');
  const right = (await seen(page)).openEdges.reduce((a, b) => (b.x > a.x ? b : a));
  await drag(page, right, { x: right.x + 50, y: right.y });
  await expect(faces(page)).toHaveText('2');
  await page.keyboard.press('e');
  // a second press on a face takes all that hangs together
  const { x, y } = await centre(page);
  await page.mouse.dblclick(x - 50, y);
  await page.keyboard.press('Delete');
  await expect(faces(page)).toHaveText('0');
  await page.keyboard.press('Control+z');
  await expect(faces(page)).toHaveText('2');
  // one press takes one; Shift adds
  await page.keyboard.press('Escape');
  await page.mouse.click(x - 50, y);
  await page.keyboard.press('Delete');
  await expect(faces(page)).toHaveText('1');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('k');
  await expect(page.getByRole('radio', { name: 'vertices' })).toBeChecked();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Delete');
  await expect(page.getByText('Nothing is picked.')).toBeVisible();
  // a finding, pressed, picks what it counts
  await page.getByRole('button', { name: /^Open edges/ }).click();
  await page.getByRole('application').focus();
  await page.keyboard.press('Delete');
  await expect(faces(page)).toHaveText('0');
});

test('Draw out: a drag can be let go of, closed edges are refused, ends weld to a neighbour', async ({ page }) => {
  await clicks(page, square(-70));
  await clicks(page, square(70));
  await page.keyboard.press('d');
  const inner = (await seen(page)).openEdges.filter((e) => e.x < 540).reduce((a, b) => (b.x > a.x ? b : a));
  // Esc in the middle of a drag puts everything back
  await drag(page, inner, { x: inner.x + 40, y: inner.y }, { release: false });
  await expect(faces(page)).toHaveText('3');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(faces(page)).toHaveText('2');
  await expect(page.getByRole('list', { name: 'Steps, newest first' }).getByRole('listitem')).toHaveCount(3);
  // drawn all the way to the other quad, both ends weld
  const other = (await seen(page)).openEdges.filter((e) => e.x > inner.x + 20).reduce((a, b) => (b.x < a.x ? b : a));
  await drag(page, inner, other);
  await expect(page.getByText('1 face drawn out, 0 new points')).toBeVisible();
  await expect(ledger(page, 'Points')).toContainText('8');
  // the joint is no border any more
  await page.mouse.click(other.x, other.y);
  await expect(page.getByText('only border edges can be drawn out')).toBeVisible();
});

test('the Weld card says what would weld, and welds it', async ({ page }) => {
  await clicks(page, square(-45));
  await clicks(page, square(35));
  await expect(ledger(page, 'Points')).toContainText('8');
  await page.getByRole('button', { name: 'Weld', exact: true }).click();
  await expect(page.getByRole('button', { name: 'No pairs to weld' })).toBeDisabled();
  const slider = page.getByRole('slider', { name: 'Weld within' }).last();
  await slider.focus();
  for (let i = 0; i < 40 && !(await page.getByRole('button', { name: 'Weld 2 pairs' }).isVisible()); i++)
    await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Show them' }).click();
  await page.getByRole('button', { name: 'Weld 2 pairs' }).click();
  await expect(page.getByText('2 pairs welded')).toBeVisible();
  await expect(ledger(page, 'Points')).toContainText('6');
});

test('a border edge is drawn out by keys alone', async ({ page }) => {
  await clicks(page, square(0));
  await page.getByRole('application').focus();
  await page.keyboard.press('d');
  await page.keyboard.press('ArrowRight');
  for (let i = 0; i < 30; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+Enter');
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('Let go to lay the quad')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(faces(page)).toHaveText('2');
  // Tab walks vertices while the cursor is out, Esc puts it away
  await page.keyboard.press('Tab');
  await expect(page.getByRole('application')).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('application')).not.toBeFocused();
});
