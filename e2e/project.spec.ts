import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { execFileSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { choose } from './support/choose';
import { TestServer } from './support/server';
import { makeFile } from './support/makeFile';

/** What is said once for a project, from the card to the film that another program reads. */
const server = new TestServer();
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  await page.goto(server.address);
});
test.afterAll(() => server.close());

const card = (label: string) => page.locator('zr-project-card').getByLabel(label, { exact: true });
const render = (label: string) => page.locator('zr-render-desk').getByLabel(label, { exact: true });
const typeInto = async (field: ReturnType<typeof card>, text: string) => {
  await field.fill(text);
  await field.press('Enter');
};
const desk = (name: string) => page.locator('zr-rail').getByRole('button', { name }).click();
const strip = () => page.locator('zr-strip');

test('another frame rate keeps what happens where it was in time, and is undone in one step', async () => {
  await expect(strip()).toContainText('/ 96 at 24 per second');
  await choose(card('Frames'), '30 a second');
  await expect(strip()).toContainText('/ 120 at 30 per second');
  await page.keyboard.press('Control+z');
  await expect(strip()).toContainText('/ 96 at 24 per second');
  await choose(card('Another frame rate keeps'), 'The frames: all goes faster or slower');
  await choose(card('Frames'), '30 a second');
  await expect(strip()).toContainText('/ 96 at 30 per second');
});

test('the picture takes the shape of the film, and a shot one of its own', async () => {
  const shape = async () => {
    const box = (await page.locator('zr-picture .mask').boundingBox())!;
    return box.width / box.height;
  };
  expect(await shape()).toBeCloseTo(16 / 9, 1);
  await choose(card('Ready sizes'), '1080 × 1920 upright');
  await expect.poll(shape).toBeCloseTo(9 / 16, 1);
  await desk('Render');
  await page.locator('zr-render-desk').getByRole('switch', { name: 'Own size' }).click();
  await typeInto(render('Width'), '96');
  await typeInto(render('Height'), '96');
  await expect.poll(shape).toBeCloseTo(1, 1);
  await page.keyboard.press('Escape');
  // The project's stays what it was.
  await expect(card('Width')).toHaveValue('1080');
});

test('lengths are shown in the unit of the project', async () => {
  await desk('Lights');
  const lamp = page.locator('zr-lights-desk zr-row', { hasText: 'Key panel' }).getByRole('button').first();
  await lamp.click();
  const width = page.locator('zr-card').getByRole('textbox', { name: 'Width', exact: true });
  await expect(width).toHaveValue('400');
  await page.keyboard.press('Control+k');
  await page.getByRole('dialog').getByRole('combobox').fill('fps');
  await page.keyboard.press('Enter');
  await choose(card('Lengths in'), 'Centimetres');
  await lamp.click();
  await expect(width).toHaveValue('40');
  await typeInto(width, '50');
  await expect(width).toHaveValue('50');
  const { id } = ((await (await page.request.get(`${server.address}/api/projects`)).json()) as { id: string }[])[0]!;
  const kept = async () => {
    const { document } = (await (await page.request.get(`${server.address}/api/projects/${id}`)).json()) as {
      document: { lights: Record<string, { width: number }> };
    };
    return Object.values(document.lights)[0]!.width;
  };
  await expect.poll(kept).toBe(500);
});

test('presets, range and the rest are there after a reload, and a film is made of them', async () => {
  await desk('Render');
  await typeInto(render('Samples'), '9');
  await choose(render('Size'), 'Full');
  await typeInto(render('Last frame'), '3');
  await page.getByRole('button', { name: 'Keep as a preset' }).click();
  await page.getByRole('alertdialog').getByRole('textbox').fill('Quick look');
  await page.keyboard.press('Enter');
  await expect(render('Preset')).toContainText('Quick look');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await desk('Render');
  await expect(render('Preset')).toContainText('Quick look');
  await expect(page.locator('zr-render-desk')).toContainText('96 × 96 pixels, frames 1 to 3');
  await page.getByRole('button', { name: 'Render take' }).click();
  await expect(page.getByText(/done · 3 of 3 frames/)).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Put on the reel' }).click();
  await makeFile(page, 'MP4 (H.264)', 120_000);
  const film = readdirSync(join(server.folder, 'films')).find((name) => name.endsWith('.mp4'))!;
  const read = execFileSync(
    'ffprobe',
    ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', join(server.folder, 'films', film)],
    { encoding: 'utf8' },
  );
  const { streams } = JSON.parse(read) as { streams: Record<string, string>[] };
  expect(streams[0]).toMatchObject({ width: 96, height: 96, r_frame_rate: '30/1', nb_read_frames: '3' });
});
