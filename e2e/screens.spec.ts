import { writeFile } from 'node:fs/promises';
import { gzipSync } from 'node:zlib';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { DEFAULT_SETTINGS, encodeDocument, plainPiece } from '@half-loop/contract';
import { PolyMesh } from '@half-loop/core/mesh';
import { encodeSculpt, sculptFromSoup } from '@half-loop/core/surface';
import { ballSoup } from '@half-loop/core/testing';
import { encodeGltf, GLTF_KINDS, withBufferBeside } from '@half-loop/core/testing/gltf';
import { bringInEgg, centre, eggFile, faces, modelReady, saved, toStop } from './workbench';

/** What axe finds wrong on the page, in few words; the model's canvas is checked like everything else. */
async function axe(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations.map(
    (v) => `${v.id}: ${v.nodes.map((n) => `${n.target.join(' ')} ${n.failureSummary ?? ''}`).join(' | ')}`,
  );
}
const choose = async (page: Page, theme: 'slip' | 'night'): Promise<void> => {
  await page.goto('/settings');
  await page
    .getByRole('radiogroup', { name: 'Theme' })
    .getByText(theme === 'night' ? 'Night kiln (dark)' : 'Slip (light)')
    .click();
};

for (const theme of ['slip', 'night'] as const) {
  test(`axe finds nothing on any screen, theme ${theme}`, async ({ page }) => {
    await choose(page, theme);
    expect(await axe(page)).toEqual([]);
    await bringInEgg(page, 'x');
    for (const stop of ['Gather', 'Lay', 'Flow', 'Trim', 'Prove', 'Ship']) {
      await toStop(page, stop);
      expect(await axe(page), stop).toEqual([]);
    }
    await page.keyboard.press('Shift+3');
    await page.getByRole('button', { name: 'Command list' }).click();
    await expect(page.getByRole('searchbox', { name: 'Search commands' })).toBeFocused();
    expect(await axe(page), 'command list').toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Keys' }).click();
    expect(await axe(page), 'keys').toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('link', { name: 'All versions' }).click();
    await expect(page.getByText('No version saved yet.')).toBeVisible();
    expect(await axe(page), 'versions').toEqual([]);
    await page.goto('/');
    await expect(page.getByRole('link', { name: /^Open Limpet egg/ }).first()).toBeVisible();
    expect(await axe(page), 'library').toEqual([]);
    await page.goto('/jobs');
    await expect(page.getByRole('heading', { name: 'Jobs' })).toBeVisible();
    expect(await axe(page), 'jobs').toEqual([]);
    await page.goto('/');
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Choose a file' }).click();
    await (await chooser).setFiles(await eggFile());
    await expect(page.getByText('Doubled points welded')).toBeVisible();
    expect(await axe(page), 'import').toEqual([]);
  });
}

test('a broken file gets a sentence and leaves nothing behind', async ({ page }) => {
  const assets = async (): Promise<number> => {
    await Promise.all([page.waitForResponse('**/api/library'), page.goto('/')]);
    await expect(page.getByText('Looking up your projects')).toBeHidden();
    return page.getByRole('listitem').count();
  };
  const before = await assets();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose a file' }).click();
  const buffer = Buffer.from('v 0 0 0\nv 1 0\nf 1 2 3\n');
  await (await chooser).setFiles({ name: 'torn.obj', mimeType: 'text/plain', buffer });
  await expect(page.getByRole('alert')).toHaveText(/Expected a coordinate, found the end of the line \(line 2\)/);
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  expect(await assets()).toBe(before);
});

test('a file dropped on the Library is read, and can be cancelled', async ({ page }, info) => {
  await page.goto('/');
  const { name, buffer } = await eggFile();
  const file = info.outputPath(name);
  await writeFile(file, buffer);
  const browser = await page.context().newCDPSession(page);
  const data = { items: [], files: [file], dragOperationsMask: 1 };
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const)
    await browser.send('Input.dispatchDragEvent', { type, x: 60, y: 600, data });
  const dialog = page.getByRole('dialog', { name: `Bring in ${name}` });
  await expect(dialog.getByText('Triangles', { exact: true })).toBeVisible({ timeout: 30_000 });
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog).toBeHidden();
});

test('the command list finds and runs, and the address of nothing says so', async ({ page }) => {
  await bringInEgg(page, 'nothing');
  await page.getByRole('application').focus();
  await page.keyboard.press('/');
  await page.keyboard.type('poles');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('group', { name: 'Lens' }).getByRole('button', { name: 'Poles' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.goto('/a/nothing-here/lay');
  await expect(page.getByRole('alert')).toHaveText(/That asset is not here/);
  await page.goto('/nowhere');
  await expect(page.getByRole('heading', { name: 'Nothing here' })).toBeVisible();
});

test('compressed, sparse and quantised glTF, and one with a file beside it, are read in the page too', async ({
  page,
}) => {
  const ball = ballSoup(10, 2);
  const triangles = (ball.faceStarts.length - 1).toLocaleString('en');
  const shows = async (files: { name: string; mimeType: string; buffer: Buffer }[]): Promise<void> => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Choose a file' }).click();
    await (await chooser).setFiles(files);
    const dialog = page.getByRole('dialog', { name: `Bring in ${files[0].name}` });
    await expect(dialog.getByText('Triangles', { exact: true }).locator('..')).toContainText(triangles);
    await dialog.getByRole('button', { name: 'Cancel' }).click();
    await expect(dialog).toBeHidden();
  };
  await page.goto('/');
  for (const kind of GLTF_KINDS) {
    const buffer = Buffer.from(await encodeGltf(ball, kind));
    await shows([{ name: `${kind}.glb`, mimeType: 'model/gltf-binary', buffer }]);
  }
  const { json, bin } = await withBufferBeside(ball);
  await shows([
    { name: 'shell.gltf', mimeType: 'model/gltf+json', buffer: Buffer.from(json) },
    { name: 'shell.bin', mimeType: 'application/octet-stream', buffer: Buffer.from(bin) },
  ]);
});

test('a sculpt above half a million triangles is drawn by a stand-in, and laid on and saved all the same', async ({
  page,
  request,
}) => {
  const post = async (url: string, data: Buffer | object): Promise<{ id: string; hash: string }> => {
    const type = Buffer.isBuffer(data) ? 'application/octet-stream' : 'application/json';
    return (await request.post(url, { data, headers: { 'content-type': type } })).json() as never;
  };
  const ball = ballSoup(360, 5);
  const document = { settings: DEFAULT_SETTINGS, done: [], pieces: [plainPiece('p', 'Low-poly', new PolyMesh())] }; // prettier-ignore
  const summary = { stage: 'lay', faces: 0, budget: 2000, needsALook: 0 } as const;
  const sculpt = await post('/api/blobs', Buffer.from(encodeSculpt(sculptFromSoup(ball))));
  const stored = await post('/api/blobs', gzipSync(encodeDocument(document, summary)));
  const project = await post('/api/projects', { name: 'Big ones' });
  const asset = await post('/api/assets', { projectId: project.id, name: 'Boulder', sculpt: sculpt.hash, original: null, document: stored.hash }); // prettier-ignore
  await page.goto(`/a/${asset.id}/gather`);
  await modelReady(page);
  await expect(page.getByText(/^Drawn by 3\d\d,\d\d\d|^Drawn by 2\d\d,\d\d\d/)).toContainText('of its 516,960 triangles', { timeout: 60_000 }); // prettier-ignore
  await toStop(page, 'Lay');
  const { x, y } = await centre(page);
  for (const [a, b] of [[-1, -1], [1, -1], [1, 1], [-1, 1]]) await page.mouse.click(x + a * 30, y + b * 30, { delay: 20 }); // prettier-ignore
  await expect(faces(page)).toHaveText('1', { timeout: 30_000 });
  await saved(page);
  await expect(page.getByText('Worst', { exact: true }).locator('..')).toContainText(/0\.\d+ cm/);
});

test('a script in a name is a name: shown as it was typed, and never run', async ({ page, request }) => {
  const evil = '<img src=x onerror="document.title=\'taken\'"><script>document.title="taken"</script>';
  await bringInEgg(page, 'nothing');
  const id = /\/a\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  await request.patch(`/api/assets/${id}`, { data: { name: evil } });
  await request.post(`/api/assets/${id}/versions`, { data: { name: evil } });
  await request.post('/api/projects', { data: { name: evil } });
  await page.goto('/');
  await expect(page.getByRole('heading', { name: evil, level: 2 })).toBeVisible();
  await expect(page.getByRole('link', { name: `Open ${evil}` })).toBeVisible();
  await page.goto(`/a/${id}/versions`);
  await expect(page.getByRole('img', { name: `Version ${evil}` })).toBeVisible();
  await page.goto(`/a/${id}/ship`);
  await modelReady(page);
  await expect(page).toHaveTitle(`${evil} · Half Loop`);
});
