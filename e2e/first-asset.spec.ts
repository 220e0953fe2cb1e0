import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { readMesh } from '@half-loop/core/formats';
import { soupInfo } from '@half-loop/core/inspect';
import { bringInEgg, centre, drag, faces, modelReady, saved, seen, front, layQuad, toStop } from './workbench';

test('a sculpt comes in, is laid on, survives a reload, is kept as a version and goes out', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  // Gather: what it is for proposes a budget, which can be typed
  await page.getByRole('radiogroup', { name: 'What is it for?' }).getByText('It stays rigid').click();
  await page.getByRole('textbox', { name: /Seen this high/ }).fill('300');
  await page.keyboard.press('Tab');
  await expect(page.getByText('630 faces', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Take the proposed budget' }).click();
  await expect(page.getByText('of 630 faces')).toBeVisible();

  // Lay: a quad by four clicks
  await toStop(page, 'Lay');
  await front(page);
  const middle = await centre(page);
  await layQuad(page, middle, 40);
  await expect(faces(page)).toHaveText('1');
  await expect(page.getByText('1 quad laid, 4 new points')).toBeVisible();

  // Draw out: dragging a border edge lays a quad, pressed twice a whole row
  await page.keyboard.press('d');
  const right = (await seen(page)).openEdges.reduce((a, b) => (b.x > a.x ? b : a));
  await drag(page, right, { x: right.x + 60, y: right.y });
  await expect(faces(page)).toHaveText('2');
  const top = (await seen(page)).openEdges.reduce((a, b) => (b.y < a.y ? b : a));
  await page.mouse.move(top.x, top.y);
  await page.mouse.down();
  await page.mouse.up();
  await drag(page, top, { x: top.x, y: top.y - 50 }, { clickCount: 2 });
  await expect(faces(page)).toHaveText('8');
  await expect(page.getByText('6 faces drawn out, 6 new points')).toBeVisible();
  await page.keyboard.press('Escape');

  // by single clicks: the edge, then where the quad ends
  const edge = (await seen(page)).openEdges.reduce((a, b) => (b.y > a.y ? b : a));
  await page.mouse.click(edge.x, edge.y);
  await page.mouse.click(edge.x, edge.y + 45);
  await expect(faces(page)).toHaveText('9');
  await page.keyboard.press('Escape');

  // a vertex is dragged onto another and welds
  const vertices = (await seen(page)).vertices;
  const low = vertices.filter((v) => v.y > edge.y + 20).sort((a, b) => a.x - b.x);
  expect(low).toHaveLength(2);
  await drag(page, low[0], low[1]);
  await expect(page.getByText('1 pair welded')).toBeVisible();
  await expect(page.getByText('Triangles').locator('..')).toContainText('1');

  // undo and redo, over a reload
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Triangles').locator('..')).toContainText('0');
  await saved(page);
  await page.reload();
  await modelReady(page);
  await expect(faces(page)).toHaveText('9');
  await page.getByRole('application').focus();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByText('Triangles').locator('..')).toContainText('1');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect(faces(page)).toHaveText('1');
  await page.getByRole('list', { name: 'Steps' }).getByRole('button', { name: '6 faces drawn out' }).click();
  await expect(faces(page)).toHaveText('8');

  // a face picked and deleted
  await page.keyboard.press('e');
  await front(page);
  const inner = await centre(page);
  await page.mouse.click(inner.x, inner.y);
  await page.keyboard.press('Delete');
  await expect(faces(page)).toHaveText('7');
  await expect(page.getByText('Open edges', { exact: true }).locator('..')).toContainText('10');
  await page.keyboard.press('Control+z');

  // the ledger and the lenses
  await expect(page.getByText('Worst', { exact: true }).locator('..')).toContainText(/0\.\d+ cm/);
  await page.keyboard.press('Shift+4');
  await expect(page.getByText(/^inside/)).toBeVisible();
  await page.keyboard.press('Shift+3');
  await expect(page.getByText(/^Inner points with three/)).toBeVisible();

  // a version, a change, and back
  await toStop(page, 'Ship');
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('egg-01');
  await page.getByRole('button', { name: 'Save the version' }).click();
  await expect(page.getByText('Version “egg-01” saved.')).toBeVisible();
  await page.getByRole('application').focus();
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
  await expect(faces(page)).toHaveText('1');
  await saved(page);
  await page.getByRole('link', { name: 'All versions' }).click();
  await expect(page.getByRole('img', { name: 'Version egg-01' })).toBeVisible();
  await page.getByRole('button', { name: 'Restore “egg-01”' }).click();
  await modelReady(page);
  await expect(faces(page)).toHaveText('8');
  await expect(page.getByText('Version “egg-01” restored')).toBeVisible();

  // the file
  await toStop(page, 'Ship');
  for (const [format, ending] of [
    ['GLB', 'glb'],
    ['OBJ', 'obj'],
    ['PLY', 'ply'],
  ]) {
    // prettier-ignore
    await page.getByRole('radiogroup', { name: 'Format' }).getByText(format).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Write the file' }).click();
    const file = await download;
    expect(file.suggestedFilename()).toBe(`Limpet egg.${ending}`);
    const { soup } = await readMesh(new Uint8Array(await readFile(await file.path())), file.suggestedFilename());
    expect(soupInfo(soup)).toMatchObject({ faces: 8, quads: 8 });
    expect(soupInfo(soup).min[1]).toBeCloseTo(0, 5);
  }
});

test('with symmetry the other half is shown, counted and shipped, and the midline holds', async ({ page }) => {
  await bringInEgg(page, 'x');
  await toStop(page, 'Lay');
  await front(page);
  const middle = await centre(page);
  // the left corners lie a few pixels beside the midline: they end up on it
  for (const [dx, dy] of [[3, -40], [70, -40], [70, 40], [-4, 40]]) await page.mouse.click(middle.x + dx, middle.y + dy, { delay: 20 }); // prettier-ignore
  await expect(faces(page)).toHaveText('2');
  await expect(page.getByText('Open edges off the midline').locator('..')).toContainText('6');
  // work on the image: its border edge is drawn out, and both halves grow
  await page.keyboard.press('d');
  const left = (await seen(page)).openEdges.filter((e) => e.mirrored).reduce((a, b) => (b.x < a.x ? b : a));
  await drag(page, left, { x: left.x - 45, y: left.y });
  await expect(faces(page)).toHaveText('4');
  expect((await seen(page)).vertices.every((v) => v.x > middle.x - 2)).toBe(true);
  // a midline point stays on the midline
  const mid = (await seen(page)).vertices.filter((v) => Math.abs(v.x - middle.x) < 2);
  expect(mid).toHaveLength(2);
  await drag(page, mid[0], { x: mid[0].x + 30, y: mid[0].y - 25 });
  const moved = (await seen(page)).vertices.find((v) => v.id === mid[0].id);
  expect(moved?.x).toBeCloseTo(middle.x, 0);
  expect(moved?.y).toBeLessThan(mid[0].y - 15);
  await toStop(page, 'Ship');
  await page.getByRole('radiogroup', { name: 'Format' }).getByText('OBJ').click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Write the file' }).click();
  const { soup } = await readMesh(new Uint8Array(await readFile(await (await download).path())), 'egg.obj');
  expect(soupInfo(soup)).toMatchObject({ faces: 4, quads: 4, vertices: 10, components: 1 });
});

test('a quad is laid without a pointer', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await page.getByRole('application').focus();
  await page.keyboard.press('2');
  await page.keyboard.press('q');
  const steps = ['ArrowRight', 'ArrowDown', 'ArrowLeft', 'ArrowUp'];
  await page.keyboard.press('ArrowUp');
  for (const key of steps) {
    await page.keyboard.press('Enter');
    for (let i = 0; i < 6; i++) await page.keyboard.press(key);
  }
  await expect(faces(page)).toHaveText('1');
});

test('an empty asset is laid on a work plane', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Driftwood');
  await page.getByRole('button', { name: 'Make the project' }).click();
  await page.getByRole('group', { name: 'Driftwood' }).getByRole('button', { name: 'Empty asset' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Plank');
  await page.getByRole('button', { name: 'Make the asset' }).click();
  await modelReady(page);
  await front(page);
  await layQuad(page, await centre(page), 60);
  await expect(faces(page)).toHaveText('1');
  await expect(page.getByText('This asset has no sculpt.')).toBeVisible();
});
