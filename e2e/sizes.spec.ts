import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { choose } from './support/choose';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { TestServer } from './support/server';

/** A product of any size is seen at once, through the camera too, and lit alike. */
const server = new TestServer();
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
});
test.afterAll(() => server.close());

/** A red box three times as long as it is high, far from its file's origin. */
function box(length: number): string {
  const corner = (k: number) =>
    `v ${length * (5 + (k & 1))} ${(length / 3) * (k & 2 ? 1 : 0)} ${(length / 2) * (k & 4 ? 1 : 0)}`;
  const faces = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'];
  const path = join(server.folder, `box ${length}.obj`);
  writeFileSync(
    path,
    `mtllib red.mtl\no Box\n${[0, 1, 2, 3, 4, 5, 6, 7].map(corner).join('\n')}\nusemtl red\n${faces.map((face) => `f ${face}`).join('\n')}\n`,
  );
  writeFileSync(join(server.folder, 'red.mtl'), 'newmtl red\nKd 0.8 0.05 0.03\n');
  return path;
}

/** Mean colour of the middle of the picture, as the screen shows it. */
async function middle(): Promise<number[]> {
  const { x, y, width, height } = (await page.locator('zr-picture .area').boundingBox())!;
  const clip = { x: x + width / 2 - 12, y: y + height / 2 - 8, width: 24, height: 16 };
  const { channels } = await sharp(await page.screenshot({ clip })).stats();
  return channels.slice(0, 3).map(({ mean }) => mean);
}
const isRed = ([r, g, b]: number[]) => r! > 60 && r! > 1.6 * g! && r! > 1.6 * b!;

test('2 mm, 20 m and 743 m: seen in the sketch, through the camera, and traced as bright as each other', async () => {
  const traced: number[] = [];
  for (const length of [2, 20_000, 743_000]) {
    const answer = await fetch(`${server.address}/api/projects`, {
      method: 'POST',
      body: JSON.stringify({ name: `Box of ${length}` }),
      headers: { 'Content-Type': 'application/json' },
    });
    const { id } = (await answer.json()) as { id: string };
    await page.goto(`${server.address}/p/${id}`);
    await page
      .locator('input[type=file]')
      .first()
      .setInputFiles([box(length), join(server.folder, 'red.mtl')]);
    const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
    await choose(dialog.getByLabel('Unit'), 'mm');
    // Arithmetic and units are taken here as everywhere.
    await dialog.getByLabel('Width in mm').fill(`${length / 2}*2`);
    await dialog.getByLabel('Width in mm').press('Enter');
    await dialog.getByRole('button', { name: 'Take it in' }).click();
    await expect(dialog).toBeHidden();
    await page.getByRole('button', { name: 'Through the camera' }).click();
    // Nothing selected: its colour is the finish's own.
    await page.keyboard.press('Escape');
    await page
      .locator('zr-picture canvas')
      .first()
      .click({ position: { x: 8, y: 8 } });
    await expect.poll(async () => isRed(await middle()), { timeout: 60_000 }).toBe(true);
    await page.locator('.grades').getByRole('radio', { name: 'Traced' }).click();
    const canvas = page.getByRole('img', { name: 'Traced picture' });
    await expect
      .poll(async () => Number(await canvas.getAttribute('data-samples')), { timeout: 120_000 })
      .toBeGreaterThan(7);
    const seen = await middle();
    expect(isRed(seen)).toBe(true);
    traced.push(seen[0]!);
    // Another desk does not begin the picture anew.
    const before = Number(await canvas.getAttribute('data-samples'));
    await page
      .locator('zr-rail')
      .getByRole('button', { name: /Lights/ })
      .click();
    await page.waitForTimeout(600);
    expect(Number(await canvas.getAttribute('data-samples'))).toBeGreaterThanOrEqual(before);
  }
  expect(Math.max(...traced.slice(0, 2)) / Math.min(...traced.slice(0, 2))).toBeLessThan(1.15);
});

test('a unit that was wrong is put right where the model stands: it is seen as before, and undone', async () => {
  const answer = await fetch(`${server.address}/api/projects`, {
    method: 'POST',
    body: JSON.stringify({ name: 'Wrong unit' }),
    headers: { 'Content-Type': 'application/json' },
  });
  const { id } = (await answer.json()) as { id: string };
  await page.goto(`${server.address}/p/${id}`);
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([box(0.2), join(server.folder, 'red.mtl')]);
  const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
  await choose(dialog.getByLabel('Unit'), 'm');
  await dialog.getByRole('button', { name: 'Take it in' }).click();
  await expect(dialog).toBeHidden();
  const unit = page.getByLabel('Unit of the model');
  await expect(unit).toHaveText('m');
  await page.getByRole('button', { name: 'Through the camera' }).click();
  const seen = async () => {
    await page.keyboard.press('Escape');
    await page
      .locator('zr-picture canvas')
      .first()
      .click({ position: { x: 8, y: 8 } });
    await expect.poll(async () => isRed(await middle()), { timeout: 60_000 }).toBe(true);
    await page.getByRole('treeitem').first().click();
  };
  await seen();
  for (const name of ['inch', 'mm']) {
    await choose(unit, name);
    await seen();
    await expect(unit).toHaveText(name);
  }
  // Seen from elsewhere, it is looked for.
  await page.getByRole('button', { name: 'Through the camera' }).click();
  await choose(unit, 'm');
  await seen();
  await choose(unit, 'mm');
  await seen();
  await page.getByRole('button', { name: 'Through the camera' }).click();
  await choose(unit, 'm');
  await page.keyboard.press('Control+z');
  await expect(unit).toHaveText('mm');
  await seen();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await page.getByRole('treeitem').first().click();
  await expect(unit).toHaveText('mm');
});
