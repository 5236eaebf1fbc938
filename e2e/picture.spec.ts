import { expect, type Page } from '@playwright/test';
import sharp from 'sharp';
import { TestServer } from './support/server';
import { test } from './support/test';

/** The picture while one works: the set in its own light, as the tracer has it; flown, settled, outlined. */
const server = new TestServer({ ZIPPY_DEMO: '1' });
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  await page.addInitScript(() => localStorage.setItem('zippy-sketch', 'fine'));
  page.on('pageerror', (error) => {
    throw error;
  });
  await page.goto(server.address);
  await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
  await expect(page.locator('zr-strip .shot img')).toHaveCount(16, { timeout: 120_000 });
});
test.afterAll(() => server.close());

const desk = (name: string) => page.locator('zr-rail').getByRole('button', { name: new RegExp(name) }).click(); // prettier-ignore
const undo = async (steps: number) => {
  for (let k = 0; k < steps; k++) await page.keyboard.press('Control+z');
};
const setNumber = async (label: string, value: string) => {
  const field = page.getByRole('textbox', { name: label, exact: true }).first();
  await field.fill(value);
  await field.press('Enter');
};
const scene = () => page.getByLabel('Picture of the scene');

interface Seen {
  /** Means of red, green and blue, 0 to 255. */
  mean: [number, number, number];
  brightness: number;
}

/** Part of what the film's frame shows, from its left and top, once it is drawn as finely as it can be. */
async function seen(part = { left: 0, top: 0, width: 1, height: 1 }): Promise<Seen> {
  // Nothing that is selected shall lie over it, and no word about where the pointer is.
  await page.mouse.move(3, 3);
  const shot = async () => page.locator('zr-picture .area').screenshot({ scale: 'css' });
  let picture = await shot();
  await expect
    .poll(
      async () => {
        const before = picture;
        await page.waitForTimeout(1500);
        picture = await shot();
        return picture.equals(before);
      },
      { timeout: 60_000 },
    )
    .toBe(true);
  const area = (await page.locator('zr-picture .area').boundingBox())!;
  const mask = (await page.locator('zr-picture .mask').boundingBox())!;
  const box = {
    left: Math.round(mask.x - area.x + part.left * mask.width) + 2,
    top: Math.round(mask.y - area.y + part.top * mask.height) + 2,
    width: Math.round(part.width * mask.width) - 4,
    height: Math.round(part.height * mask.height) - 4,
  };
  const { channels } = await sharp(await sharp(picture).extract(box).toBuffer()).stats();
  const mean = channels.slice(0, 3).map((each) => each.mean) as Seen['mean'];
  return { mean, brightness: mean.reduce((sum, v) => sum + v, 0) / 3 };
}

/** The floor before the product, at the lower left of the frame. */
const FLOOR = { left: 0.05, top: 0.8, width: 0.2, height: 0.15 };
const lamps = ['Key panel', 'Rim strip', 'Top panel'];

test('is lit by the lamps of the set: dark without any, red where one is red', async () => {
  const lit = await seen();
  await desk('Lights');
  for (const name of lamps) await page.getByLabel(`Switch off ${name}`).click();
  await desk('Set');
  await setNumber('Brightness', '0');
  expect((await seen(FLOOR)).brightness).toBeLessThan(8);
  expect((await seen()).brightness).toBeLessThan(lit.brightness / 3);
  await desk('Lights');
  await page.getByLabel('Switch on Key panel').click();
  await page.locator('zr-lights-desk zr-row', { hasText: 'Key panel' }).click();
  const white = await seen(FLOOR);
  await page.locator('zr-card').getByRole('button', { name: /^Tint/ }).click();
  const code = page.getByRole('dialog', { name: 'Colour: Tint' }).getByLabel('Colour code');
  await code.fill('#ff2000');
  await code.press('Enter');
  await page.keyboard.press('Escape');
  const red = await seen(FLOOR);
  expect(red.mean[0] / red.mean[1]).toBeGreaterThan((1.5 * white.mean[0]) / white.mean[1]);
  await undo(6);
  expect(Math.abs((await seen()).brightness - lit.brightness)).toBeLessThan(1);
});

test('is as bright as the traced picture of the same set', async () => {
  const sketch = await seen();
  await page.getByRole('radio', { name: 'Traced' }).click();
  const canvas = page.getByRole('img', { name: 'Traced picture' });
  await expect
    .poll(async () => Number(await canvas.getAttribute('data-samples')), { timeout: 120_000 })
    .toBeGreaterThan(7);
  const area = (await page.locator('zr-picture .area').boundingBox())!;
  const mask = (await page.locator('zr-picture .mask').boundingBox())!;
  const picture = await page.locator('zr-picture .area').screenshot({ scale: 'css' });
  const box = {
    left: Math.round(mask.x - area.x) + 2,
    top: Math.round(mask.y - area.y) + 2,
    width: Math.round(mask.width) - 4,
    height: Math.round(mask.height) - 4,
  };
  const { channels } = await sharp(await sharp(picture).extract(box).toBuffer()).stats();
  await page.getByRole('radio', { name: 'Sketch' }).click();
  sketch.mean.forEach((v, k) => expect(Math.abs(v / channels[k]!.mean - 1)).toBeLessThan(0.1));
});

test('outlines what is selected without changing how it looks', async () => {
  // The face of a knob.
  const middle = { left: 0.585, top: 0.62, width: 0.025, height: 0.05 };
  await desk('Model');
  const before = await seen(middle);
  const mask = (await page.locator('zr-picture .mask').boundingBox())!;
  await page.mouse.click(mask.x + 0.597 * mask.width, mask.y + 0.645 * mask.height);
  await expect(page.locator('zr-card').getByRole('textbox', { name: 'Name' })).toHaveValue(/knob|cap/i);
  const after = await seen(middle);
  after.mean.forEach((v, k) => expect(Math.abs(v - before.mean[k]!)).toBeLessThan(1.5));
});

test('is drawn lightly at a word from the palette', async () => {
  await page.keyboard.press('Control+k');
  await page.keyboard.type('draw the sketch lightly');
  await page.keyboard.press('Enter');
  expect(await page.evaluate(() => localStorage.getItem('zippy-sketch'))).toBe('light');
});

test('flies the camera that is looked through, in one step of undo, and keys it where it has keys', async () => {
  await desk('Camera');
  await page.locator('zr-camera-desk zr-row').first().click();
  const place = () => page.getByRole('textbox', { name: 'Position X', exact: true }).inputValue();
  const before = await place();
  const box = (await scene().boundingBox())!;
  const drag = async () => {
    await page.mouse.move(box.x + 40, box.y + 200);
    await page.mouse.down();
    await page.mouse.move(box.x + 120, box.y + 200, { steps: 5 });
    await page.mouse.up();
  };
  await drag();
  await expect.poll(place).not.toBe(before);
  await expect(page.getByRole('button', { name: 'Through the camera' })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Control+z');
  await expect.poll(place).toBe(before);
  await page.keyboard.press('Home');
  await page.locator('zr-card').getByRole('button', { name: 'Set key of Position' }).click();
  for (let k = 0; k < 6; k++) await page.keyboard.press('.');
  await drag();
  await expect.poll(place).not.toBe(before);
  await page.keyboard.press('Home');
  await expect.poll(place).toBe(before);
  await undo(2);
});

test('takes a free view into the camera, and walks with it', async () => {
  const place = () => page.getByRole('textbox', { name: 'Position X', exact: true }).inputValue();
  const before = await place();
  await page.keyboard.press('Alt+3');
  await expect(page.getByRole('button', { name: 'Through the camera' })).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('Shift+Q');
  await expect(page.getByRole('button', { name: 'Through the camera' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(async () => Number(await place())).toBeLessThan(-100);
  const taken = await place();
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(place).not.toBe(taken);
  await undo(2);
  await expect.poll(place).toBe(before);
});

test('settles by itself once nothing moves, stays over clicks, and gives way at the first touch', async () => {
  await page.getByRole('radio', { name: 'Settle' }).click();
  const samples = async () => Number(await page.getByRole('img', { name: 'Traced picture' }).getAttribute('data-samples')); // prettier-ignore
  await expect.poll(samples, { timeout: 60_000 }).toBeGreaterThan(3);
  await desk('Lights');
  await page.locator('zr-lights-desk zr-row').first().click();
  expect(await samples()).toBeGreaterThan(3);
  await page.keyboard.press('.');
  await expect(page.locator('zr-traced')).toHaveCount(0, { timeout: 400 });
  await expect.poll(samples, { timeout: 60_000 }).toBeGreaterThan(3);
  await page.getByRole('radio', { name: 'Sketch' }).click();
  await expect(page.locator('zr-traced')).toHaveCount(0);
});
