import { expect, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Take } from '@zippy/core/wire';
import { choose } from './support/choose';
import { crateIn } from './support/crate';
import { TestServer } from './support/server';
import { test } from './support/test';

/** The Render desk with a model that came from outside: takes, their layers and files, what is measured and compared. */
const server = new TestServer();
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
  await page.goto(server.address);
});
test.afterAll(() => server.close());

const openDesk = (name: string) => page.locator('zr-rail').getByRole('button', { name: new RegExp(name) }).click(); // prettier-ignore
const desk = () => page.locator('zr-render-desk');
const card = () => page.locator('zr-card');
const project = () => new URL(page.url()).pathname.split('/').at(-1)!;
const takes = async (): Promise<Take[]> => (await fetch(`${server.address}/api/projects/${project()}/takes`)).json();
const set = async (label: string, value: string) => {
  const field = desk().getByRole('textbox', { name: label, exact: true }).first();
  await field.fill(value);
  await field.press('Enter');
};
const done = (count: number) =>
  expect
    .poll(async () => (await takes()).filter(({ state }) => state === 'done').length, { timeout: 120_000 })
    .toBe(count);
const save = async (button: string): Promise<string> => {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    card().getByRole('button', { name: button }).click(),
  ]);
  const path = join(server.folder, download.suggestedFilename());
  await download.saveAs(path);
  return path;
};
const probe = (path: string, of: string) =>
  String(execFileSync('ffprobe', ['-v', 'error', '-show_entries', `stream=${of}`, '-of', 'csv=p=0', path])).trim();

test('a take keeps layers that are looked at, a matte is made by clicks, and both leave as files', async () => {
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles(crateIn(server.folder, 'Crate', 20_000));
  const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
  await dialog.getByRole('button', { name: 'Take it in' }).click();
  await page.getByRole('treeitem', { name: /Crate/ }).last().click();
  await openDesk('Render');
  await choose(desk().getByLabel('Size', { exact: true }), 'Full');
  for (const [label, value] of [['Width', '160'], ['Height', '90'], ['Samples', '8']] as const) await set(label, value); // prettier-ignore
  await page.getByText('Noise, time and layers').click();
  await desk().getByLabel('Mattes').check();
  await desk()
    .getByRole('button', { name: /^Still of frame/ })
    .click();
  await done(1);

  const layer = page.getByRole('combobox', { name: 'Layer' });
  await choose(layer, 'Depth');
  await expect(page.locator('zr-layer-bar')).toContainText(/\d+ to \d+ mm/);
  await choose(layer, 'Parts');
  const picture = page.locator('zr-take-picture canvas');
  await expect(picture).toHaveAttribute('data-source', /layer=parts/);
  const box = (await picture.boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(page.getByRole('button', { name: /^Take Crate out of the matte/ })).toBeVisible();
  await page.getByRole('button', { name: 'Matte', exact: true }).click();
  await expect(picture).toHaveAttribute('data-source', /matte=/);
  const matte = await sharp(await save('Save frame 1')).raw().toBuffer({ resolveWithObject: true }); // prettier-ignore
  const at = (x: number, y: number) => matte.data[(y * matte.info.width + x) * matte.info.channels];
  expect([matte.info.width, at(80, 45), at(0, 0)]).toEqual([160, 255, 0]);

  await choose(layer, 'Picture');
  await choose(card().getByRole('combobox', { name: 'Form of the files' }), 'PNG, 16 bits');
  const deep = await save('Save frame 1');
  expect(deep).toMatch(/_take01_0001\.png$/);
  expect(probe(deep, 'width,height,pix_fmt')).toBe('160,90,rgba64be');
});

test('scopes tell what the picture holds, and the colour under the pointer', async () => {
  await page.keyboard.press('e');
  const scope = page.locator('zr-scopes');
  await expect(scope).toContainText(/clipped [\d.]+ % ?black [\d.]+ %/);
  await expect(scope.locator('path.luma')).toHaveAttribute('d', /L/);
  const picture = (await page.locator('zr-take-picture canvas').boundingBox())!;
  await page.mouse.move(picture.x + picture.width / 2 - 40, picture.y + picture.height / 2);
  await page.mouse.move(picture.x + picture.width / 2 - 30, picture.y + picture.height / 2);
  await expect(scope.getByRole('status')).toContainText(/#[0-9a-f]{6} · \d+ \d+ \d+ linear .* nits ?Crate, [\d.]+ m away/); // prettier-ignore
  for (const kind of ['Luma', 'RGB', 'Colours']) {
    await scope.getByRole('radio', { name: kind }).click();
    await expect.poll(() => scope.locator('canvas').evaluate((each) => (each as unknown as { width: number }).width)).toBeGreaterThan(200); // prettier-ignore
  }
  await page.keyboard.press('e');
  await expect(scope).toHaveCount(0);
});

test('two takes are compared in every way, to the pixel', async () => {
  await set('Samples', '2');
  await desk()
    .getByRole('button', { name: /^Still of frame/ })
    .click();
  await done(2);
  await page.keyboard.press('c');
  await choose(page.getByRole('combobox', { name: 'Against' }), 'Take 1 · Shot 1');
  const both = page.locator('zr-take-picture canvas');
  await expect(both).toHaveCount(2);
  for (const each of await both.all()) await expect(each).toHaveAttribute('data-frame', '1');
  const edge = page.getByRole('slider', { name: 'Edge between the two pictures' });
  await expect(edge).toBeVisible();
  await page.getByRole('radio', { name: 'Beside' }).click();
  await expect(edge).toHaveCount(0);
  const [left, right] = [(await both.nth(0).boundingBox())!, (await both.nth(1).boundingBox())!];
  expect(left.x + left.width).toBeLessThanOrEqual(right.x + 1);
  await page.getByRole('radio', { name: 'Difference' }).click();
  await expect(page.locator('.take').nth(1)).toHaveCSS('mix-blend-mode', 'difference');
  await page.getByRole('radio', { name: 'Edge' }).click();
  await page.keyboard.press('z');
  await expect(page.getByText(/\d+ % · drag to shift/)).toBeVisible();
  await page.keyboard.press('z');
  await page.getByRole('button', { name: 'Keep this picture' }).click();
  await choose(page.getByRole('combobox', { name: 'Against' }), 'Kept: frame 1');
  await expect(page.getByAltText('The picture that was kept')).toHaveJSProperty('naturalWidth', 160);
  await page.keyboard.press('c');
  await expect(both).toHaveCount(1);
});

test('a take is paused in the middle of a frame and goes on, one frame of three is rendered, and a name stays over a reload', async () => {
  await set('Samples', '3000');
  await set('Last frame', '7');
  await set('One frame of', '3');
  await desk().getByRole('button', { name: 'Render take' }).click();
  const queue = page.getByRole('button', { name: 'In the queue: take 3' });
  await expect(queue).toContainText(/frame 1: [1-9]\d* %/, { timeout: 60_000 });
  await desk().getByRole('button', { name: 'Pause all' }).click();
  await expect(desk().getByRole('group', { name: 'Take 3' })).toContainText('paused');
  await set('Samples', '4');
  // Another take is rendered meanwhile.
  await desk().getByRole('button', { name: 'Render take' }).click();
  await done(3);
  expect((await takes()).at(-1)!.done).toEqual([1, 4, 7]);
  await desk().getByRole('group', { name: 'Take 3' }).getByRole('button', { name: 'Go on' }).click();
  await expect(queue).toContainText(/frame 1: [1-9]\d* %/, { timeout: 60_000 });
  await desk().getByRole('button', { name: 'Pause all' }).click();

  await desk().getByRole('button', { name: 'Show take 4' }).click();
  await card().getByLabel('Name of the take').fill('Blocking');
  await card().getByLabel('Name of the take').press('Enter');
  await card().getByRole('button', { name: 'Star this take' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    card().getByRole('button', { name: 'Save all 3 frames' }).click(),
  ]);
  const zip = join(server.folder, download.suggestedFilename());
  await download.saveAs(zip);
  const listed = execFileSync('python3', ['-c', 'import sys, zipfile; print(*zipfile.ZipFile(sys.argv[1]).namelist())', zip]); // prettier-ignore
  expect(String(listed).trim().split(' ').map((name) => name.slice(-8))).toEqual(['0001.png', '0004.png', '0007.png']); // prettier-ignore
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await openDesk('Render');
  await choose(desk().getByRole('combobox', { name: 'Which takes' }), 'Starred takes');
  await expect(desk().getByRole('group', { name: /^Take \d/ })).toHaveCount(1);
  await expect(desk().getByRole('group', { name: 'Take 4' })).toContainText('Blocking');
});
