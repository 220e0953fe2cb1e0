import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { addShape, card, emptyAsset, near, set, step, toFlow, toLay, tools, undo } from './flow';
import { bringInEgg, centre, drag, faces, seen, toStop } from './workbench';

/** Fills the opening whose edge is seen furthest up (−1) or down (1). */
async function fillEnd(page: Page, way: 1 | -1): Promise<void> {
  await page.getByRole('application').focus();
  await page.keyboard.press('f');
  const edges = (await seen(page)).openEdges.filter(({ mirrored }) => !mirrored);
  const e = edges.reduce((a, b) => (b.y * way > a.y * way ? b : a));
  await page.mouse.move(e.x, e.y);
  await page.mouse.click(e.x, e.y);
  await expect(card(page, 'Fill').getByRole('radiogroup', { name: 'Ways to fill it' })).toBeVisible();
  await page.getByRole('application').focus();
  await page.keyboard.press('Enter');
  await expect(step(page, /^Filled with \d+ quads/)).toBeVisible();
}

test('a whole low-poly is laid by strokes: rings, then both ends filled; it is closed, all quads, and ships so', async ({
  page,
}) => {
  await bringInEgg(page, 'x');
  await toLay(page);
  await page.keyboard.press('o');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 270, y }, { x: x + 270, y });
  await expect(step(page, /^1 half ring of 4 laid$/)).toBeVisible();
  await set(page, 'Row', 'Points round it', '16');
  await set(page, 'Row', 'Step along the limb (cm)', '1.5');
  await set(page, 'Row', 'How many rings', '4');
  await expect(step(page, '4 half rings of 8 laid, 24 quads')).toBeVisible();
  await expect(faces(page)).toHaveText('48');
  // the other way: joined to the ring that is open there
  const ring = (await seen(page)).openEdges.map((e) => e.y);
  const goesUp = Math.max(...ring) - y < y - Math.min(...ring);
  await drag(page, { x: x - 270, y: y + (goesUp ? 45 : -45) }, { x: x + 270, y: y + (goesUp ? 45 : -45) });
  await expect(step(page, /joined to the ring before$/)).toBeVisible();
  await set(page, 'Row', 'How many rings', '4');
  await expect(faces(page)).toHaveText('112');
  await fillEnd(page, -1);
  await fillEnd(page, 1);
  await expect(page.getByText('No open edges off the midline')).toBeVisible();
  await expect(page.getByText('100.0%')).toBeVisible();
  await toStop(page, 'Ship');
  await page.getByText('OBJ', { exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Write the file' }).click();
  const file = await (await download).path();
  const root = path.resolve(import.meta.dirname, '..');
  const copy = `${file}.obj`;
  execFileSync('cp', [file, copy]);
  const info = JSON.parse(execFileSync('node', [path.join(root, 'apps/cli/bin/half-loop.mjs'), 'info', copy, '--json'], { encoding: 'utf8' })) as Record<string, unknown>; // prettier-ignore
  expect(info).toMatchObject({ components: 1, borderLoops: 0, nonManifoldEdges: 0, triangles: 0, ngons: 0, genus: 0 });
  expect(info.quads).toBe(info.faces);
});

test('with sectors round an axis a ring is laid for one of them, and the others go on from it', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toStop(page, 'Gather');
  await tools(page).getByRole('button', { name: 'Sectors round an axis' }).click();
  await card(page, 'Sectors round an axis').getByRole('button', { name: 'Lay one of 6 sectors' }).click();
  await toLay(page);
  await page.keyboard.press('o');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 270, y }, { x: x + 270, y });
  await set(page, 'Row', 'Points round it', '24');
  await set(page, 'Row', 'How many rings', '3');
  await expect(step(page, '3 rings of 24 laid, one sector of 6, 8 quads')).toBeVisible();
  // what would ship: all six, closed round the axis
  await expect(faces(page)).toHaveText('48');
  await expect(page.getByRole('button', { name: /^Points of the seam apart/ })).toBeHidden();
  await expect(page.getByRole('button', { name: /^Open edges/ })).toContainText('48');
});

test('the ring laid last is repeated by a drag along the limb', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toLay(page);
  await page.keyboard.press('o');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 270, y }, { x: x + 270, y });
  await expect(step(page, /^1 ring of 8 laid$/)).toBeVisible();
  await set(page, 'Row', 'Step along the limb (cm)', '1');
  const all = (await seen(page)).vertices;
  const front = all.filter((v) => Math.abs(v.x - x) < 120).sort((a, b) => a.x - b.x)[0];
  const next = all.filter((v) => v.x > front.x + 5).sort((a, b) => Math.hypot(a.x - front.x, a.y - front.y) - Math.hypot(b.x - front.x, b.y - front.y))[0]; // prettier-ignore
  const middle = { x: (front.x + next.x) / 2, y: (front.y + next.y) / 2 };
  await drag(page, middle, { x: middle.x, y: middle.y - 120 });
  await expect(step(page, /^[3-9] rings of 8 laid, \d+ quads$/)).toBeVisible();
});

test('a row follows the stroke, is changed on its card, goes on from its end, and is undone', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toLay(page);
  await page.keyboard.press('o');
  const { x, y } = await centre(page);
  await drag(page, { x: x - 90, y: y + 40 }, { x: x + 20, y: y + 40 });
  await expect(step(page, /^Row of \d+ by 1 laid$/)).toBeVisible();
  await set(page, 'Row', 'Quads across', '2');
  await set(page, 'Row', 'Quads along', '6');
  await expect(step(page, 'Row of 6 by 2 laid')).toBeVisible();
  await expect(faces(page)).toHaveText('12');
  await set(page, 'Row', 'Quads along', '4');
  await expect(faces(page)).toHaveText('8');
  // begun on the edge at its end, it goes on from it, as wide
  const open = (await seen(page)).openEdges.reduce((a, b) => (b.x > a.x ? b : a));
  await drag(page, open, { x: open.x + 80, y: open.y + 5 });
  await expect(step(page, /^Row of \d+ by 2 laid, 3 points welded$/)).toBeVisible();
  await page.getByRole('application').focus();
  await undo(page);
  await undo(page);
  await expect(faces(page)).toHaveText('0');
  await expect(tools(page)).toBeVisible();
});

test('threads are clicked, joined to their start, and closed all at once', async ({ page }) => {
  await emptyAsset(page);
  await page.keyboard.press('h');
  const { x, y } = await centre(page);
  const click = (dx: number, dy: number): Promise<void> => page.mouse.click(x + dx, y + dy, { delay: 30 });
  for (const [dx, dy] of [[-120, -90], [0, -90], [120, -90], [120, 90], [0, 90], [-120, 90], [-120, -90]]) await click(dx, dy); // prettier-ignore
  await expect(step(page, 'Thread of 1 edge')).toBeVisible();
  await click(0, -90);
  await click(0, 90);
  await page.keyboard.press('Enter');
  const body = card(page, 'Thread');
  await body.getByRole('button', { name: 'Close every cell' }).click();
  await expect(faces(page)).toHaveText('2');
  // with a wall: both layers, and six faces along the rim
  await body.getByRole('textbox', { name: /^Thickness/ }).fill('0.3');
  await body.getByRole('textbox', { name: /^Thickness/ }).press('Enter');
  await expect(faces(page)).toHaveText('10');
  await body.getByRole('button', { name: 'Keep these faces' }).click();
  await expect(step(page, /^2 cells closed, 2 faces; 2 faces thickened, 6 faces along the rim/)).toBeVisible();
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('0');
});

test('threads that cross are tied; faces that would close them are seen while threads are still drawn; a larger cell is asked about', async ({
  page,
}) => {
  await emptyAsset(page);
  await page.keyboard.press('h');
  const { x, y } = await centre(page);
  const body = card(page, 'Thread');
  const line = async (...points: [number, number][]): Promise<void> => {
    for (const [dx, dy] of points) await page.mouse.click(x + dx, y + dy, { delay: 30 });
    await page.getByRole('application').focus();
    await page.keyboard.press('Enter');
  };
  // a hash of four threads, which cross without points
  await line([-60, -130], [-60, 130]);
  await line([60, -130], [60, 130]);
  await line([-130, -60], [130, -60]);
  await line([-130, 60], [130, 60]);
  await expect(body.getByText('4 places where threads nearly meet or cross without a point.')).toBeVisible();
  await expect(page.getByText('Threads crossing without a point')).toBeVisible();
  await body.getByRole('button', { name: 'Tie them' }).click();
  await expect(step(page, '4 crossings given a point')).toBeVisible();
  // a cell is marked as an opening where it lies, and closed again
  const inCell = async (): Promise<void> => {
    await page.keyboard.down('Alt');
    await page.mouse.click(x + 5, y + 5, { delay: 30 });
    await page.keyboard.up('Alt');
  };
  await inCell();
  await expect(body.getByRole('switch', { name: 'Close the cell of 4 sides' })).not.toBeChecked();
  await page.mouse.move(x + 8, y + 8);
  await expect(page.getByText('Cell of 4 sides: stays open')).toBeVisible();
  await body.getByRole('button', { name: 'Close every cell' }).click();
  await expect(body.getByText(/No cell of the threads closes/)).toBeVisible();
  await inCell();
  await expect(body.getByRole('switch', { name: 'Close the cell of 4 sides' })).toHaveCount(0);
  await expect(body.getByText(/^1 cell closed, 1 face/)).toBeVisible();
  await expect(faces(page)).toHaveText('1');
  // one more cell of six sides while the faces are in view
  await line([130, -60], [190, -50], [190, 50], [130, 60]);
  await expect(body.getByRole('switch', { name: 'Close the cell of 6 sides' })).not.toBeChecked();
  await body.getByRole('switch', { name: 'Close the cell of 6 sides' }).press(' ');
  await expect(body.getByText(/^2 cells closed, \d+ faces/)).toBeVisible();
  const made = Number(await faces(page).textContent());
  expect(made).toBeGreaterThan(1);
  await body.getByRole('button', { name: 'Leave the threads' }).click();
  await expect(faces(page)).toHaveText('0');
  await body.getByRole('button', { name: 'Close every cell' }).click();
  await body.getByRole('button', { name: 'Keep these faces' }).click();
  await expect(step(page, /^2 cells closed, \d+ faces/)).toBeVisible();
  await expect(faces(page)).toHaveText(String(made));
  // ends that are meant to be open are released, and need no look any more
  const ends = page.getByRole('button', { name: /^Open ends of threads/ });
  await ends.click();
  await tools(page).getByRole('button', { name: 'Lock or release points' }).click();
  const points = card(page, 'Lock or release points');
  await points.getByText('released', { exact: true }).click();
  await points.getByRole('button', { name: 'Lock or release points' }).click();
  await expect(step(page, /points released from the form/)).toBeVisible();
  await expect(ends).toBeHidden();
});

test('picked faces become a named region, whose border is made hard and kept as a guide', async ({ page }) => {
  await emptyAsset(page);
  await addShape(page, 'Box');
  await page.keyboard.press('0');
  await toFlow(page);
  await page.keyboard.press('e');
  await page.keyboard.press('Escape');
  const f = await near(page, 'faceMiddles', -40, -40);
  await page.mouse.click(f.x, f.y);
  await tools(page).getByRole('button', { name: 'Regions' }).click();
  await card(page, 'Regions').getByRole('textbox', { name: 'Name of a new one' }).fill('Hatch');
  await card(page, 'Regions').getByRole('button', { name: 'Make a region of the picked faces' }).click();
  const regions = card(page, 'Regions: 1');
  await expect(regions.getByText(/^Hatch: \d+/)).toBeVisible();
  await regions.getByRole('button', { name: 'Make it so' }).click();
  await expect(step(page, /border edges hard$/)).toBeVisible();
  await regions.getByText('a guide', { exact: true }).click();
  await regions.getByRole('button', { name: 'Make it so' }).click();
  await expect(step(page, 'Border of “Hatch” kept as a guide')).toBeVisible();
  await regions.getByRole('button', { name: 'Forget Hatch' }).click();
  await expect(card(page, 'Regions')).toBeVisible();
});

test('an opening is ringed by a drag from its middle, and filled', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await toLay(page);
  await page.keyboard.press('x');
  const { x, y } = await centre(page);
  await drag(page, { x, y }, { x: x + 60, y });
  await expect(step(page, '2 rings of 12 quads laid round an opening')).toBeVisible();
  await set(page, 'Ring an opening', 'Spokes', '10');
  await expect(faces(page)).toHaveText('20');
  await page.getByRole('application').focus();
  await page.keyboard.press('f');
  const edge = (await seen(page)).openEdges.reduce((a, b) => (Math.hypot(b.x - x, b.y - y) < Math.hypot(a.x - x, a.y - y) ? b : a)); // prettier-ignore
  await page.mouse.click(edge.x, edge.y);
  const ways = card(page, 'Fill').getByRole('radiogroup', { name: 'Ways to fill it' });
  await expect(ways).toBeVisible();
  await ways.getByRole('radio').nth(1).click({ force: true });
  await card(page, 'Fill').getByRole('button', { name: 'Keep this way' }).click();
  await expect(step(page, /^Filled with \d+ quads/)).toBeVisible();
});

test('a whole border is drawn out as a row that is scaled and turned under the drag', async ({ page }) => {
  await emptyAsset(page);
  await addShape(page, 'Plane grid');
  await card(page, 'Points stick to').getByText('top', { exact: true }).click();
  await page.getByRole('group', { name: 'View from' }).getByRole('button', { name: 'Top' }).click();
  await page.getByRole('application').focus();
  await page.keyboard.press('0');
  await page.keyboard.press('d');
  await expect(card(page, 'Draw out')).toBeVisible();
  const before = await seen(page);
  const span = (of: { x: number }[]): number => Math.max(...of.map((v) => v.x)) - Math.min(...of.map((v) => v.x));
  const edge = before.openEdges.reduce((a, b) => (b.x > a.x ? b : a));
  await page.mouse.move(edge.x, edge.y);
  await expect(page.getByText('4 + 4 + 4 + 4 = 16 edges, even')).toBeVisible();
  await page.keyboard.down('Shift');
  await page.mouse.down();
  await page.mouse.move(edge.x + 10, edge.y, { steps: 3 });
  await page.mouse.move(edge.x + 20, edge.y, { steps: 3 });
  await page.keyboard.up('Shift');
  await expect.poll(async () => span((await seen(page)).vertices)).toBeGreaterThan(span(before.vertices));
  const plain = span((await seen(page)).vertices);
  for (let i = 0; i < 4; i++) await page.keyboard.press(']');
  await expect(card(page, 'Draw out').getByText('120 %')).toBeVisible();
  await expect.poll(async () => span((await seen(page)).vertices) / plain).toBeGreaterThan(1.1);
  await page.mouse.up();
  await expect(step(page, /faces drawn out/)).toBeVisible();
});
