import { expect, type Locator, type Page } from '@playwright/test';
import { centre, drag, faces, front, layQuad, modelReady, seen, toStop } from './workbench';

export const tools = (page: Page): Locator => page.getByRole('complementary', { name: 'Tools' });
export const card = (page: Page, name: string): Locator => tools(page).getByRole('region', { name, exact: true });
export const step = (page: Page, words: string | RegExp): Locator =>
  page.getByRole('listitem').filter({ hasText: words }).first();
export const group = (page: Page, name: string): Promise<void> =>
  tools(page).getByRole('button', { name, exact: true }).click();
export const open = (page: Page, name: string): Promise<void> =>
  tools(page)
    .getByRole('button', { name: new RegExp(`^${name}\\b`) })
    .click();

export interface At {
  x: number;
  y: number;
}
/** Of what the probe tells, what lies nearest to a place beside the middle of the view. */
export async function near(
  page: Page,
  what: 'innerEdges' | 'faceMiddles' | 'vertices',
  dx: number,
  dy: number,
): Promise<At> {
  const { x, y } = await centre(page);
  const all = (await seen(page))[what];
  const away = (p: At): number => Math.hypot(p.x - x - dx, p.y - y - dy);
  return all.reduce((a, b) => (away(b) < away(a) ? b : a));
}
/** Presses, moves in steps and lets go; what `before` does happens while the drag is open. */
export async function dragging(
  page: Page,
  from: At,
  dx: number,
  dy: number,
  before?: () => Promise<void>,
): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  for (let i = 1; i <= 5; i++) await page.mouse.move(from.x + (dx * i) / 5, from.y + (dy * i) / 5);
  if (before) await before();
  await page.mouse.up();
}
export const undo = (page: Page): Promise<void> => page.keyboard.press('Control+z');

/** A flat sheet of 8 × 8 quads in the middle of the view, at stop Flow. */
export async function sheet(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Tide sheets');
  await page.getByRole('button', { name: 'Make the project' }).click();
  const project = page.getByRole('group', { name: 'Tide sheets' }).last();
  await project.getByRole('button', { name: 'Empty asset' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Sheet');
  await page.getByRole('button', { name: 'Make the asset' }).click();
  await modelReady(page);
  await front(page);
  await layQuad(page, await centre(page), 160);
  await toStop(page, 'Flow');
  await group(page, 'Shape');
  await open(page, 'Subdivide');
  const shape = card(page, 'Subdivide');
  await shape.getByText('as it is').click();
  await shape.getByRole('textbox', { name: 'Levels' }).fill('3');
  await shape.getByRole('textbox', { name: 'Levels' }).press('Enter');
  await shape.getByRole('button', { name: 'Subdivide', exact: true }).click();
  await expect(faces(page)).toHaveText('64');
  await group(page, 'Shape');
}

/** An asset without a sculpt, at stop Lay, seen from the front. */
export async function emptyAsset(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Tide parts');
  await page.getByRole('button', { name: 'Make the project' }).click();
  const project = page.getByRole('group', { name: 'Tide parts' }).last();
  await project.getByRole('button', { name: 'Empty asset' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Buoy');
  await page.getByRole('button', { name: 'Make the asset' }).click();
  await modelReady(page);
  await front(page);
}
export async function addShape(page: Page, kind: string): Promise<void> {
  await tools(page).getByRole('button', { name: 'Add a shape' }).click();
  const shape = card(page, 'Add a shape');
  await shape.getByRole('radiogroup', { name: 'Which' }).getByText(kind, { exact: true }).click();
  await shape.getByRole('button', { name: `Add the ${kind.toLowerCase()}` }).click();
}
export const toFlow = (page: Page): Promise<void> => toStop(page, 'Flow');

/** At stop Lay, seen from the front, with the keys going to the view. */
export async function toLay(page: Page): Promise<void> {
  await toStop(page, 'Lay');
  await front(page);
  await page.getByRole('application').focus();
}

/** Types into a field of a card. */
export const set = async (page: Page, name: string, field: string, value: string): Promise<void> => {
  await card(page, name).getByRole('textbox', { name: field }).fill(value);
  await card(page, name).getByRole('textbox', { name: field }).press('Enter');
};

/** Takes a half off a box, seen from the front, by a lasso through it. */
export async function takeHalf(page: Page): Promise<void> {
  await page.getByRole('application').focus();
  for (const key of ['0', 'l']) await page.keyboard.press(key);
  const lasso = card(page, 'Lasso');
  await lasso.getByText('faces', { exact: true }).click();
  await lasso.getByText('Through the model').click();
  const { x, y } = await centre(page);
  await drag(page, { x: x - 4, y: y - 300 }, { x: x + 290, y: y + 290 });
  await page.getByRole('application').focus();
  await page.keyboard.press('Delete');
  await expect(faces(page)).toHaveText('12');
}
