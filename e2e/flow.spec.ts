import { expect, test } from '@playwright/test';
import { card, dragging, group, near, open, sheet, step, tools, undo } from './flow';
import { centre, faces } from './workbench';

test.beforeEach(({ page }) => sheet(page));

test('Insert loops: hover tells the ring, a click inserts, the card still changes it, a drag takes typed digits', async ({
  page,
}) => {
  await page.keyboard.press('i');
  const edge = await near(page, 'innerEdges', 60, 20);
  await page.mouse.move(edge.x, edge.y);
  await expect(page.getByText(/50 %, across 9 edges/)).toBeVisible();
  await page.mouse.click(edge.x, edge.y);
  await expect(faces(page)).toHaveText('72');
  const loops = card(page, 'Insert loops').getByRole('textbox', { name: 'Loops' });
  await loops.fill('3');
  await loops.press('Enter');
  await expect(faces(page)).toHaveText('88');
  await expect(step(page, '3 loops added, 24 faces more')).toBeVisible();
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('64');
  await loops.fill('1');
  await loops.press('Enter');
  await dragging(page, await near(page, 'innerEdges', 60, 20), 6, 0, async () => {
    await page.keyboard.type('30');
    await expect(page.getByText(/^30 %/)).toBeVisible();
  });
  await expect(faces(page)).toHaveText('72');
});

test('Slide and Dissolve: a loop goes along its rungs by a typed share, and out again', async ({ page }) => {
  await page.keyboard.press('s');
  const edge = await near(page, 'innerEdges', 0, 20);
  await page.keyboard.down('Shift');
  await dragging(page, edge, 12, 0, async () => {
    await page.keyboard.up('Shift');
    await page.keyboard.type('50');
    await expect(page.getByText(/^50 %, .+ cm/)).toBeVisible();
  });
  await expect(step(page, '9 points slid by 50 %')).toBeVisible();
  await open(page, 'Dissolve');
  await card(page, 'Dissolve').getByRole('button', { name: 'Dissolve', exact: true }).click();
  await expect(faces(page)).toHaveText('56');
  await page.getByRole('application').focus();
  await undo(page);
  await undo(page);
  await expect(faces(page)).toHaveText('64');
});

test('Cut: two places and Enter, a stroke, and a single press that moves nothing', async ({ page }) => {
  await page.keyboard.press('u');
  const [a, b] = [await near(page, 'innerEdges', -40, 60), await near(page, 'innerEdges', 40, 60)];
  await page.mouse.click(a.x, a.y);
  await page.mouse.click(b.x, b.y);
  await page.keyboard.press('Enter');
  await expect(step(page, /Cut through \d+ faces?/)).toBeVisible();
  const [c, d] = [await near(page, 'vertices', -80, -80), await near(page, 'vertices', 0, 0)];
  await dragging(page, c, d.x - c.x, d.y - c.y);
  await expect(page.getByRole('listitem').filter({ hasText: /Cut through/ })).toHaveCount(2);
});

test('Place: a drag moves by a typed length along a locked axis, and below a few pixels moves nothing', async ({
  page,
}) => {
  await page.keyboard.press('p');
  const v = await near(page, 'vertices', 0, 0);
  await dragging(page, v, 2, 1);
  await expect(page.getByRole('listitem').filter({ hasText: 'moved' })).toHaveCount(0);
  await card(page, 'Place').getByText('x', { exact: true }).click();
  await page.mouse.move(v.x, v.y);
  await dragging(page, v, 14, 9, async () => {
    await page.keyboard.type('0.25');
    await expect(page.getByText('0.250 cm')).toBeVisible();
  });
  await expect(step(page, '1 point moved')).toBeVisible();
  const moved = await near(page, 'vertices', v.x, 0);
  expect(moved.y).toBeDefined();
});

test('Brush: a stroke relaxes under it as one step, Esc takes an open stroke back', async ({ page }) => {
  await page.keyboard.press('b');
  await card(page, 'Brush').getByText('push', { exact: true }).click();
  await dragging(page, await near(page, 'faceMiddles', -40, -40), 60, 60);
  await expect(step(page, /points? pushed/)).toBeVisible();
  const count = await page.getByRole('listitem').count();
  await dragging(page, await near(page, 'faceMiddles', -40, -40), 60, 0, () => page.keyboard.press('Escape'));
  await expect(page.getByRole('listitem')).toHaveCount(count);
});

test('picking: loops by a second press, a lasso on the background, a rhythm told first, kept by name and locked', async ({
  page,
}) => {
  await page.keyboard.press('e');
  const edge = await near(page, 'innerEdges', 0, 20);
  await page.mouse.move(edge.x, edge.y);
  await expect(page.getByText('loop of 8 edges, open')).toBeVisible();
  await page.mouse.dblclick(edge.x, edge.y);
  await expect(page.getByText('8 edges picked in 1 run, open with 2 ends')).toBeVisible();
  await open(page, 'Rhythm');
  const rhythm = card(page, 'Rhythm');
  await expect(rhythm.getByText('6 of 8; 2 left over at the end')).toBeVisible();
  await rhythm.getByRole('textbox', { name: 'Take' }).fill('1');
  await rhythm.getByRole('textbox', { name: 'Take' }).press('Enter');
  await expect(rhythm.getByText('4 of 8; it comes out even')).toBeVisible();
  await rhythm.getByRole('button', { name: 'Pick in this rhythm' }).click();
  await expect(page.getByText('4 edges picked in 4 runs, open with 8 ends')).toBeVisible();
  await open(page, 'Kept selections');
  const kept = card(page, 'Kept selections');
  await kept.getByRole('textbox', { name: 'Keep it as' }).fill('every other');
  await kept.getByRole('button', { name: 'Keep', exact: true }).click();
  // a box from the background over everything, whatever tool is in hand
  const { x, y } = await centre(page);
  await page.keyboard.down('Shift');
  await dragging(page, { x: x - 230, y: y - 230 }, 460, 460);
  await page.keyboard.up('Shift');
  await expect(page.getByText('144 edges picked')).toBeVisible();
  await kept.getByRole('button', { name: 'every other', exact: true }).click();
  await expect(page.getByText('4 edges picked in 4 runs')).toBeVisible();
  await kept.getByText('Locked: presses do not change it').click();
  await page.mouse.click(x - 250, y - 250);
  await expect(page.getByText('4 edges picked in 4 runs')).toBeVisible();
});

test('Pick by: queries at once, and by a number that tells what it would take', async ({ page }) => {
  await page.keyboard.press('e');
  await open(page, 'Pick by');
  const by = card(page, 'Pick by');
  await expect(by.getByText('Nothing here is like that.')).toBeVisible();
  await by.getByText('faces by their sides').click();
  await by.getByText('quads', { exact: true }).click();
  await expect(by.getByText('64 would be picked')).toBeVisible();
  await by.getByRole('button', { name: 'Pick them' }).click();
  const picked = page.getByRole('complementary', { name: 'Ledger' }).getByText('Faces picked').locator('..');
  await expect(picked).toHaveText('Faces picked64');
  const f = await near(page, 'faceMiddles', 30, 30);
  await page.mouse.click(f.x, f.y);
  await by.getByRole('button', { name: 'Grow' }).click();
  await expect(picked).toHaveText('Faces picked9');
  await by.getByRole('button', { name: 'The other ones' }).click();
  await expect(picked).toHaveText('Faces picked55');
  await by.getByRole('button', { name: 'Open edges' }).click();
  await expect(page.getByText('32 edges picked in 1 run, closed')).toBeVisible();
  await by.getByText('points by their edges').click();
  await by.getByRole('textbox', { name: 'Edges (0: all poles)' }).fill('2');
  await by.getByRole('textbox', { name: 'Edges (0: all poles)' }).press('Enter');
  await expect(by.getByText('4 would be picked')).toBeVisible();
});

test('the right-click list works on what lies there; faces are inset, extruded, and shown subdivided', async ({
  page,
}) => {
  await page.keyboard.press('e');
  const at = await near(page, 'faceMiddles', 30, 30);
  await page.mouse.click(at.x, at.y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Inset' }).click();
  await expect(faces(page)).toHaveText('68');
  await expect(step(page, '1 face inset, 4 faces in the rim')).toBeVisible();
  await page.mouse.click(at.x, at.y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Extrude' }).click();
  await expect(faces(page)).toHaveText('72');
  await tools(page).getByText('Show subdivided').scrollIntoViewIfNeeded();
  await tools(page).getByRole('radiogroup', { name: 'Show subdivided' }).getByText('2', { exact: true }).click();
  for (const lens of ['Loops', 'Density', 'Warp']) {
    await page.getByRole('group', { name: 'Lens' }).getByRole('button', { name: lens }).click();
    await expect(page.getByRole('group', { name: 'Lens' }).getByRole('button', { name: lens })).toHaveAttribute('aria-pressed', 'true'); // prettier-ignore
  }
});

/** Each card without a gesture, on a selection that suits it, and what its step says. */
const BUTTONS: readonly { name: string; at: string; kind: 'v' | 'e' | 'f' | 'loop' | 'none'; says: RegExp }[] = [
  { name: 'Fair', at: 'Loops', kind: 'loop', says: /9 points faired|7 points faired/ },
  { name: 'True', at: 'Loops', kind: 'loop', says: /brought to even steps/ },
  { name: 'Relax', at: 'Loops', kind: 'loop', says: /9 points relaxed/ },
  { name: 'Smooth', at: 'Loops', kind: 'loop', says: /9 points smoothed/ },
  { name: 'Connect', at: 'Join', kind: 'v', says: /edges? connected/ },
  { name: 'Weld into one', at: 'Join', kind: 'v', says: /2 points welded into one/ },
  { name: 'Collapse', at: 'Join', kind: 'e', says: /1 edge collapsed/ },
  { name: 'Spin edge', at: 'Cut and turn', kind: 'e', says: /1 edge spun/ },
  { name: 'Split', at: 'Cut and turn', kind: 'e', says: /1 edge split, 1 new point/ },
  { name: 'Poke', at: 'Cut and turn', kind: 'f', says: /1 face poked into 4 triangles/ },
  { name: 'Cut each face', at: 'Cut and turn', kind: 'f', says: /1 face cut alike/ },
  { name: 'Inset', at: 'Shape', kind: 'f', says: /1 face inset, 4 faces in the rim/ },
  { name: 'Extrude', at: 'Shape', kind: 'f', says: /1 face extruded, 4 walls/ },
  { name: 'Bevel', at: 'Shape', kind: 'loop', says: /8 edges bevelled/ },
  { name: 'Crease', at: 'Shape', kind: 'loop', says: /8 edges creased by 2/ },
];
test('each card by its button, and undone again', async ({ page }) => {
  test.setTimeout(180_000);
  // a point out of line, so that there is something to fair and to true
  await page.keyboard.press('p');
  await dragging(page, await near(page, 'vertices', 0, 40), 16, 10);
  await expect(step(page, '1 point moved')).toBeVisible();
  await page.keyboard.press('e');
  let shown = 'Loops';
  for (const { name, at, kind, says } of BUTTONS) {
    if (at !== shown) {
      await group(page, shown);
      await group(page, at);
      shown = at;
    }
    if (kind === 'v') {
      const [a, b] = [await near(page, 'vertices', 0, 0), await near(page, 'vertices', 40, 40)];
      await page.mouse.click(a.x, a.y);
      await page.keyboard.down('Shift');
      await page.mouse.click(b.x, b.y);
      await page.keyboard.up('Shift');
    } else {
      const p = await near(page, kind === 'f' ? 'faceMiddles' : 'innerEdges', 0, 20);
      if (kind === 'loop') await page.mouse.dblclick(p.x, p.y);
      else await page.mouse.click(p.x, p.y);
    }
    await open(page, name);
    await card(page, name).getByRole('button', { name, exact: true }).click();
    await expect(step(page, says)).toBeVisible();
    await page.getByRole('application').focus();
    await undo(page);
    await expect(faces(page)).toHaveText('64');
  }
});

test('Re-lay: the picked faces are laid anew inside their border, stopped, laid denser, and undone', async ({
  page,
}) => {
  await page.keyboard.press('e');
  await open(page, 'Re-lay');
  const relay = card(page, 'Re-lay');
  await expect(relay.getByText('Pick the faces first, or a region of them.')).toBeVisible();
  await expect(relay.getByRole('button', { name: 'Re-lay them' })).toBeDisabled();
  const f = await near(page, 'faceMiddles', 30, 30);
  await page.mouse.click(f.x, f.y);
  await open(page, 'Pick by');
  await card(page, 'Pick by').getByRole('button', { name: 'Grow' }).click();
  await card(page, 'Pick by').getByRole('button', { name: 'Grow' }).click();
  await expect(relay.getByText('25 faces picked, about 25 in their place.')).toBeVisible();
  for (let i = 0; i < 8; i++) await relay.getByRole('slider', { name: 'Density' }).press('ArrowRight');
  await expect(relay.getByText('25 faces picked, about 100 in their place.')).toBeVisible();
  await relay.getByRole('button', { name: 'Re-lay them' }).click();
  await relay.getByRole('button', { name: 'Cancel' }).click();
  await expect(faces(page)).toHaveText('64');
  await relay.getByRole('button', { name: 'Re-lay them' }).click();
  await expect(step(page, /^\d+ faces in place of 25$/)).toBeVisible({ timeout: 30_000 });
  const laid = Number(await faces(page).textContent());
  expect(laid).toBeGreaterThan(39 + 60);
  expect(laid).toBeLessThan(39 + 140);
  await page.getByRole('application').focus();
  await undo(page);
  await expect(faces(page)).toHaveText('64');
});
