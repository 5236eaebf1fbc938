import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { ProjectDocument } from '@zippy/core/document';
import { choose } from './support/choose';
import { TestServer } from './support/server';

/** What the tracer offers in the page: lamps of every kind, parts and pairs of pictures, foresight, layers in the file. */
const server = new TestServer({ ZIPPY_DEMO: '1' });
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
  await page.goto(server.address);
  await expect(page.locator('canvas[data-models]')).toBeVisible({ timeout: 60_000 });
});
test.afterAll(() => server.close());

const desk = (name: string) =>
  page
    .locator('zr-rail')
    .getByRole('button', { name: new RegExp(name) })
    .click();
const card = () => page.locator('zr-card');
const field = (label: string) => card().getByRole('textbox', { name: label, exact: true }).first();
const set = async (label: string, value: string, within = page.locator('zr-render-desk')) => {
  const box = within.getByRole('textbox', { name: label, exact: true }).first();
  await box.fill(value);
  await box.press('Enter');
};

test('lamps of every kind are added with what they have, and undone', async () => {
  await desk('Lights');
  await expect(page.locator('zr-lights-desk zr-row').first()).toBeVisible();
  const before = await page.locator('zr-lights-desk zr-row').count();
  const own = { Panel: 'Width', Disc: 'Radius', Tube: 'Length', Bulb: 'Radius', Spot: 'Grid', Sun: 'Seen size' };
  for (const [kind, label] of Object.entries(own)) {
    await page.locator('zr-lights-desk').getByRole('button', { name: kind, exact: true }).click();
    await expect(field(label)).toBeVisible();
  }
  await expect(page.locator('zr-lights-desk zr-row')).toHaveCount(before + 6);
  await expect(card().getByRole('combobox', { name: 'Unit' })).toHaveText('lux');
  for (let k = 0; k < 6; k++) await page.keyboard.press('Control+z');
  await expect(page.locator('zr-lights-desk zr-row')).toHaveCount(before);
});

test('a region is traced alone, and two pictures are compared with an edge that moves', async () => {
  await page.keyboard.press('Home');
  await page.keyboard.press('g');
  const area = (await page.locator('zr-picture .area').boundingBox())!;
  await page.mouse.move(area.x + area.width * 0.4, area.y + area.height * 0.4);
  await page.mouse.down();
  await page.mouse.move(area.x + area.width * 0.6, area.y + area.height * 0.6, { steps: 4 });
  await page.mouse.up();
  await expect(page.locator('zr-picture .region')).toBeVisible();
  await page.getByRole('radio', { name: 'Traced' }).click();
  await expect(page.locator('zr-traced .state')).toContainText(/\b(8|16|32) samples/, { timeout: 60_000 });
  const seen = () =>
    page.locator('zr-traced canvas').evaluate((each) => {
      const canvas = each as unknown as { width: number; height: number; getContext(kind: '2d'): never };
      const context = canvas.getContext('2d') as {
        getImageData(x: number, y: number, w: number, h: number): { data: Uint8ClampedArray };
      };
      const alpha = (x: number, y: number) =>
        context.getImageData(Math.floor(x * canvas.width), Math.floor(y * canvas.height), 1, 1).data[3];
      return [alpha(0.5, 0.5), alpha(0.05, 0.05), alpha(0.95, 0.95)];
    });
  expect(await seen()).toEqual([255, 0, 0]);
  await page.getByRole('button', { name: 'Region' }).click();
  await expect(page.locator('zr-picture .region')).toHaveCount(0);
  await expect.poll(async () => (await seen())[1], { timeout: 60_000 }).toBe(255);

  await page.keyboard.press('c');
  const edge = page.getByRole('slider', { name: 'Edge between the two pictures' });
  await expect(edge).toHaveAttribute('aria-valuenow', '50');
  await edge.focus();
  for (let k = 0; k < 5; k++) await page.keyboard.press('ArrowRight');
  await expect(edge).toHaveAttribute('aria-valuenow', '60');
  await expect(page.locator('zr-traced')).toHaveCSS('clip-path', /inset\(0px \d/);
  await page.keyboard.press('c');
  await expect(edge).toHaveCount(0);
  await page.getByRole('radio', { name: 'Sketch' }).click();
});

test('time and noise of a take are foreseen, and what is there already costs nothing', async () => {
  await page.locator('.shot', { hasText: 'Dial warms up' }).click();
  await desk('Render');
  await choose(page.locator('zr-render-desk').getByLabel('Size', { exact: true }), 'Full');
  await set('Width', '96');
  await set('Height', '54');
  await set('Samples', '24');
  await set('Last frame', '3');
  await page.getByRole('button', { name: 'How long, how noisy?' }).click();
  const told = page.locator('zr-render-desk .told');
  await expect(told).toContainText(/3 frames in about .* noise about \d+\.\d %/, { timeout: 60_000 });
  // So are the ways of rendering that every project has.
  const offers = page.getByRole('group', { name: 'Ways of rendering and what they take' }).getByRole('button');
  await expect(offers).toHaveText([/Draft · \d+ s/, /Good · \d/, /Best · \d/]);
  await page.getByText('Noise, time and layers').click();
  await page.locator('zr-render-desk').getByLabel('Mattes').check();
  // What was told holds for what was asked.
  await expect(told).toHaveCount(0);
  await page.getByRole('button', { name: 'Test frames' }).click();
  await expect(page.locator('zr-render-desk .box')).toHaveCount(3);
  await expect(page.getByText(/done · 1 of 1 frame\b/)).toHaveCount(3, { timeout: 300_000 });
  await page.getByRole('button', { name: 'How long, how noisy?' }).click();
  await expect(told).toContainText('there already', { timeout: 60_000 });
});

test('a take keeps each light and mattes in a file that another program reads', async () => {
  const takes = (await (await page.request.get(`${server.address}/api/projects`)).json()) as { id: string }[];
  const list = (await (await page.request.get(`${server.address}/api/projects/${takes[0]!.id}/takes`)).json()) as {
    id: string;
    first: number;
  }[];
  const { id, first } = list[0]!;
  const bytes = await (await page.request.get(`${server.address}/api/takes/${id}/frames/${first}.exr`)).body();
  const path = join(mkdtempSync(join(tmpdir(), 'zippy-e2e-')), 'frame.exr');
  writeFileSync(path, bytes);
  const header = spawnSync('exrheader', [path], { encoding: 'utf8' });
  const text = header.error ? bytes.toString('latin1') : header.stdout;
  for (const name of [
    'light_Surroundings.R',
    'light_Key_panel.G',
    'light_Green_emitter.B',
    'crypto_part00.R',
    'Front panel',
  ])
    expect(text).toContain(name);
});

test('a picture is put on a finish, placed, seen by the tracer, and taken off again', async () => {
  await desk('Model');
  await page.getByRole('treeitem', { name: /Back cover/ }).click();
  const sign = join(server.folder, 'sign.png');
  const background = { r: 250, g: 0, b: 0 };
  writeFileSync(
    sign,
    await sharp({ create: { width: 8, height: 8, channels: 3, background } })
      .png()
      .toBuffer(),
  );
  const pictures = page.locator('zr-finish-maps');
  await pictures.locator('input[type=file]').setInputFiles(sign);
  await expect(pictures.getByRole('heading', { name: 'Base colour, by maps' })).toBeVisible();
  await expect(pictures.locator('img')).toHaveJSProperty('naturalWidth', 8);
  await set('Times across', '3', pictures);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const stored = async () => {
    const opened = await (await fetch(`${server.address}/api/projects/${id}`)).json();
    const { nodes, finishes } = (opened as { document: ProjectDocument }).document;
    const part = Object.values(nodes).find((node) => node.name === 'Back cover')!;
    return finishes[part.finish!]!;
  };
  // What was saved may still be told of the edit before.
  await expect.poll(async () => Object.values((await stored()).maps)[0]).toMatchObject({ repeatU: 3, coding: 'srgb' });
  // Seen from behind, the cover is red.
  await page.keyboard.press('Alt+2');
  await page.getByRole('radio', { name: 'Traced' }).click();
  await page.locator('zr-traced .state', { hasText: /samples/ }).waitFor({ timeout: 60_000 });
  const area = (await page.locator('zr-picture .area').boundingBox())!;
  await expect(async () => {
    const shot = await page.screenshot({
      clip: { x: area.x + area.width / 2 - 4, y: area.y + area.height / 2 - 4, width: 8, height: 8 },
    });
    const { channels } = await sharp(shot).stats();
    expect(channels[0]!.mean).toBeGreaterThan(2 * channels[1]!.mean);
  }).toPass({ timeout: 60_000 });
  await page.getByRole('radio', { name: 'Sketch' }).click();
  const broken = join(server.folder, 'torn.png');
  writeFileSync(broken, 'no picture at all');
  await pictures.locator('input[type=file]').setInputFiles(broken);
  await expect(page.getByRole('alert')).toContainText('"torn.png" cannot be read');
  await page.getByLabel('Close message').click();
  await pictures.getByRole('button', { name: 'Take sign off Base colour' }).click();
  await expect(pictures.getByRole('heading', { name: 'Base colour, by maps' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(pictures.getByRole('heading', { name: 'Base colour, by maps' })).toBeVisible();
});

test('parts and finishes are saved as a GLB that opens again', async () => {
  await page.locator('zr-header button').first().click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Save parts and finishes as GLB' }).click(),
  ]);
  const file = join(server.folder, 'saved.glb');
  await download.saveAs(file);
  await page.locator('input[type=file]').first().setInputFiles(file);
  const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
  await dialog.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('treeitem', { name: /in metres/ })).toBeVisible();
});

test('without memory that can be shared, one worker refines the picture alone and hears the next wish', async ({
  browser,
}) => {
  // One worker at a small picture: this is about that it gets on at all.
  const alone = await browser.newPage({ viewport: { width: 900, height: 620 } });
  // A page that is not isolated from others, as on an address without https, gets no shared memory.
  await alone.route(
    (url) => !url.pathname.startsWith('/api/'),
    async (route) => {
      const response = await route.fetch();
      const headers = { ...response.headers() };
      delete headers['cross-origin-opener-policy'];
      delete headers['cross-origin-embedder-policy'];
      await route.fulfill({ response, headers });
    },
  );
  await alone.goto(server.address);
  await expect(alone.locator('canvas[data-models]')).toBeVisible({ timeout: 60_000 });
  expect(await alone.evaluate(() => crossOriginIsolated)).toBe(false);
  await alone.getByRole('radio', { name: 'Traced' }).click();
  const state = alone.locator('zr-traced .state');
  await expect(state).toContainText(/([4-9]|\d\d+) samples/, { timeout: 300_000 });
  const picture = await alone.locator('zr-traced canvas').first().screenshot();
  const { channels } = await sharp(picture).stats();
  expect(channels[0]!.stdev).toBeGreaterThan(10);
  await alone.keyboard.press('End');
  await expect(state).toContainText(/([1-9]|\d\d+) samples/, { timeout: 60_000 });
  await expect(alone.getByRole('alert')).toHaveCount(0);
  await alone.close();
});
