import { expect, test, type Page } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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
  const before = await page.locator('zr-lights-desk .line').count();
  const own = { Panel: 'Width', Disc: 'Radius', Tube: 'Length', Bulb: 'Radius', Spot: 'Grid', Sun: 'Seen size' };
  for (const [kind, label] of Object.entries(own)) {
    await page.locator('zr-lights-desk').getByRole('button', { name: kind, exact: true }).click();
    await expect(field(label)).toBeVisible();
  }
  await expect(page.locator('zr-lights-desk .line')).toHaveCount(before + 6);
  await expect(card().getByRole('combobox', { name: 'Unit' })).toHaveValue('lux');
  for (let k = 0; k < 6; k++) await page.keyboard.press('Control+z');
  await expect(page.locator('zr-lights-desk .line')).toHaveCount(before);
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
  await page.getByRole('button', { name: 'Traced' }).click();
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
  await page.getByRole('button', { name: 'Sketch' }).click();
});

test('time and noise of a take are foreseen, and what is there already costs nothing', async () => {
  await page.locator('.shot', { hasText: 'Dial warms up' }).click();
  await desk('Render');
  await set('Width', '96');
  await set('Height', '54');
  await set('Samples', '24');
  await set('Last frame', '3');
  await page.getByRole('button', { name: 'How long, how noisy?' }).click();
  const told = page.locator('zr-render-desk .told');
  await expect(told).toContainText(/3 frames in about .* noise about \d+\.\d %/, { timeout: 60_000 });
  await page.getByText('Noise, time and layers').click();
  await page.locator('zr-render-desk').getByLabel('Mattes').check();
  // What was told holds for what was asked.
  await expect(told).toHaveCount(0);
  await page.getByRole('button', { name: 'Test frames' }).click();
  await expect(page.locator('zr-render-desk .box')).toHaveCount(3);
  await expect(page.getByText(/done · 1 of 1 frames/)).toHaveCount(3, { timeout: 120_000 });
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
