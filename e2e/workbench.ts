import { expect, type Page } from '@playwright/test';
import { writeMesh } from '@half-loop/core/formats';
import { ballSoup } from '@half-loop/core/testing';

interface Spot {
  id: number;
  x: number;
  y: number;
}
export interface Seen {
  vertices: Spot[];
  openEdges: (Spot & { mirrored: boolean })[];
  innerEdges: Spot[];
  faceMiddles: Spot[];
  faces: number;
}

/** A small sculpt as file bytes: an egg, mirror-symmetric across x, so many times as wide and deep as the first. */
export async function eggFile(
  name = 'Limpet egg.ply',
  times = 1,
): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  const soup = ballSoup(18, 5);
  for (let i = 0; i < soup.positions.length; i += 3) {
    const y = soup.positions[i + 1] / 5;
    soup.positions[i + 1] *= 1.3;
    soup.positions[i + 2] *= 1 - 0.18 * y;
    soup.positions[i + 2] += 0.6 * y * y;
    soup.positions[i] *= times;
    soup.positions[i + 2] *= times;
  }
  const { bytes } = await writeMesh(soup, 'ply', { name: 'egg' });
  return { name, mimeType: 'application/octet-stream', buffer: Buffer.from(bytes) };
}

/** Goes to a stop, and waits until its column stands: the columns of two stops share controls by name. */
export async function toStop(page: Page, name: string): Promise<void> {
  const link = page.getByRole('navigation', { name: 'Stops' }).getByRole('link', { name, exact: true });
  await link.click();
  await expect(link).toHaveAttribute('aria-current', 'step');
}

/** Brings the egg in by the Library's own controls, into a new project; ends in the workbench at Gather. */
export async function bringInEgg(page: Page, symmetry: 'nothing' | 'x'): Promise<void> {
  await page.goto('/');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose a file' }).click();
  await (await chooser).setFiles(await eggFile());
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Doubled points welded')).toBeVisible({ timeout: 30_000 });
  await dialog.getByRole('radiogroup', { name: 'Project' }).getByText('A new one').click();
  await dialog.getByRole('radiogroup', { name: 'Symmetry across' }).getByText(symmetry).click();
  await dialog.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page).toHaveURL(/\/a\/[^/]+\/gather$/, { timeout: 30_000 });
  await modelReady(page);
}

/** Until the model is drawn and answers. */
export async function modelReady(page: Page): Promise<void> {
  await page.waitForFunction(() => window.halfLoopProbe !== undefined, undefined, { timeout: 30_000 });
  await expect(page.locator('[data-view=model][data-frame]')).toBeVisible({ timeout: 30_000 });
}

/** The page's one read-only probe: where elements are seen. */
export const seen = (page: Page): Promise<Seen> => page.evaluate(() => (window.halfLoopProbe as () => Seen)());

export async function centre(page: Page): Promise<{ x: number; y: number }> {
  const box = await page.locator('[data-view=model]').boundingBox();
  if (!box) throw new Error('the model is not there');
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** Presses, moves and lets go as a hand would, in a few steps. */
export async function drag(
  page: Page,
  from: { x: number; y: number },
  to: { x: number; y: number },
  { release = true, clickCount = 1 } = {},
): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down({ clickCount });
  for (let i = 1; i <= 6; i++) {
    await page.mouse.move(from.x + ((to.x - from.x) * i) / 6, from.y + ((to.y - from.y) * i) / 6);
    await page.waitForTimeout(40);
  }
  await page.waitForTimeout(120);
  if (release) await page.mouse.up();
}

export const faces = (page: Page): ReturnType<Page['getByTestId']> => page.getByTestId('faces');
export const saved = (page: Page): Promise<void> =>
  expect(page.getByText(/^Saved today/)).toBeVisible({ timeout: 20_000 });

/** Four clicks round a place. */
export async function layQuad(page: Page, at: { x: number; y: number }, half: number): Promise<void> {
  for (const [dx, dy] of [[-1, -1], [1, -1], [1, 1], [-1, 1]]) await page.mouse.click(at.x + dx * half, at.y + dy * half, { delay: 20 }); // prettier-ignore
}

export async function front(page: Page): Promise<void> {
  await page.getByRole('group', { name: 'View from' }).getByRole('button', { name: 'Front' }).click();
}
