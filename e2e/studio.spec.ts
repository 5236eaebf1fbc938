import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { choose } from './support/choose';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { TestServer } from './support/server';

/** The demo project as a newcomer meets it, and what the desks offer on it. */
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
});
test.afterAll(() => server.close());

const desk = (name: string) =>
  page
    .locator('zr-rail')
    .getByRole('button', { name: new RegExp(name) })
    .click();
const field = (label: string) => page.getByRole('textbox', { name: label, exact: true }).first();
const playhead = async () => Number(await page.locator('zr-strip .bar b').textContent());
const frameOf = (k: number) => page.locator('zr-strip .shot').nth(k);

/** A tiny Radiance picture, bright on one side. */
function writeHdr(folder: string): string {
  const [width, height] = [8, 4];
  const pixels = Buffer.alloc(width * height * 4);
  for (let k = 0; k < width * height; k++) pixels.set([k % width < 4 ? 200 : 20, 90, 60, 129], k * 4);
  const path = join(folder, 'loft.hdr');
  const head = `#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`;
  writeFileSync(path, Buffer.concat([Buffer.from(head), pixels]));
  return path;
}

test('the demo opens with its four shots drawn on the strip, and plays', async () => {
  await expect(page.locator('canvas[data-models]')).toBeVisible({ timeout: 60_000 });
  await expect(page.locator('zr-strip .shot')).toHaveCount(4);
  await expect(page.locator('zr-strip .shot img')).toHaveCount(16, { timeout: 60_000 });
  const first = (k: number) => frameOf(k).locator('img').first().getAttribute('src');
  expect(new Set([await first(0), await first(1), await first(2), await first(3)]).size).toBe(4);
  await page.keyboard.press('Space');
  await expect.poll(playhead).toBeGreaterThan(3);
  await page.keyboard.press('Space');
});

test('its finished film plays at once', async () => {
  await desk('Reel');
  await page.getByRole('button', { name: 'Watch' }).first().click();
  const video = page.locator('zr-picture video');
  await expect
    .poll(() => video.evaluate((each) => (each as unknown as { currentTime: number }).currentTime), { timeout: 20_000 })
    .toBeGreaterThan(0.2);
  await page.getByRole('radio', { name: 'Sketch' }).click();
  await expect(video).toHaveCount(0);
});

test('the traced picture refines while one looks, and begins anew after a change', async () => {
  await desk('Lights');
  await page.getByRole('radio', { name: 'Traced' }).click();
  const state = page.locator('zr-traced .state');
  await expect(state).toContainText(/\b[248] samples/, { timeout: 60_000 });
  const brightness = () =>
    page.locator('zr-traced canvas').evaluate((each) => {
      const canvas = each as unknown as { width: number; height: number; getContext(kind: '2d'): never };
      const context = canvas.getContext('2d') as {
        getImageData(x: number, y: number, w: number, h: number): { data: Uint8ClampedArray };
      };
      const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
      return data.reduce((sum, v) => sum + v, 0) / data.length;
    });
  const lit = await brightness();
  expect(lit).toBeGreaterThan(80);
  for (const name of ['Key panel', 'Rim strip', 'Top panel']) await page.getByLabel(`Switch off ${name}`).click();
  await expect(state).toContainText(/\b[248] samples/, { timeout: 60_000 });
  await expect.poll(brightness, { timeout: 60_000 }).toBeLessThan(lit - 10);
  for (let step = 0; step < 3; step++) await page.keyboard.press('Control+z');
  await page.getByRole('radio', { name: 'Sketch' }).click();
  await expect(page.locator('zr-traced')).toHaveCount(0);
});

test('a light is carried by its handle in the picture, as one step of undo', async () => {
  await desk('Lights');
  await page.locator('zr-lights-desk zr-row', { hasText: 'Rim strip' }).click();
  await page.keyboard.press('v');
  await page.keyboard.press('Alt+2');
  const before = await field('Position X').inputValue();
  const canvas = (await page.getByLabel('Picture of the scene').boundingBox())!;
  // Seen from the back, the arrow of the x axis reaches to the left of the handles' middle.
  const grip = await page.getByLabel('Picture of the scene').evaluate((each) => (each as HTMLElement).dataset['grip']);
  const [x, y] = grip!.split(' ').map(Number) as [number, number];
  const [atX, atY] = [canvas.x + x * canvas.width - 36, canvas.y + y * canvas.height];
  await page.mouse.move(atX, atY);
  await page.waitForTimeout(300);
  await page.mouse.down();
  await page.mouse.move(atX + 60, atY + 20, { steps: 4 });
  await page.mouse.up();
  await expect(field('Position X')).not.toHaveValue(before);
  await page.keyboard.press('Control+z');
  await expect(field('Position X')).toHaveValue(before);
});

test('a move is shifted by the keyboard, copied, and given a curve of its own', async () => {
  await frameOf(2).click();
  await desk('Motion');
  const fade = page.locator('zr-strip .move', { hasText: '0 to' });
  await fade.focus();
  await page.keyboard.press('Enter');
  await expect(field('From frame')).toHaveValue('8');
  await page.keyboard.press('ArrowRight');
  await expect(field('From frame')).toHaveValue('9');
  await choose(page.getByLabel('Pace', { exact: true }), 'Own curve');
  const handle = page.getByRole('slider', { name: 'Leaving handle' });
  const was = await handle.getAttribute('aria-valuetext');
  await handle.focus();
  await page.keyboard.press('ArrowUp');
  await expect(handle).not.toHaveAttribute('aria-valuetext', was!);
  const before = await playhead();
  await page.locator('zr-strip .ruler').click({ position: { x: 700, y: 8 } });
  await expect.poll(playhead).not.toBe(before);
  const at = await playhead();
  await page.keyboard.press('Control+d');
  await expect(page.locator('zr-strip .move', { hasText: '0 to' })).toHaveCount(2);
  await expect(field('From frame')).toHaveValue(String(at));
  for (let step = 0; step < 4; step++) await page.keyboard.press('Control+z');
  await expect(page.locator('zr-strip .move', { hasText: '0 to' })).toHaveCount(1);
});

test('half frames are taken as whole ones, and steps are undone after a reload', async () => {
  await frameOf(0).click();
  await page.keyboard.press('Escape');
  await frameOf(0).click();
  const length = field('Length');
  const before = await length.inputValue();
  await length.fill('55.2');
  await length.press('Enter');
  await expect(length).toHaveValue('55');
  await desk('Set');
  const turn = field('Turn');
  const turned = await turn.inputValue();
  await turn.fill('33');
  await turn.press('Enter');
  // 33° in radians: what is seen as saved may be the edit before.
  const stored = async () => (await page.request.get(new URL(page.url().replace('/p/', '/api/projects/')).href)).text();
  await expect.poll(stored, { timeout: 20_000 }).toContain('0.57595');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await desk('Set');
  await expect(turn).toHaveValue('33');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(turn).toHaveValue(turned);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await frameOf(0).click();
  await expect(length).toHaveValue(before);
});

test('changes in one shot leave the others as they were', async () => {
  await frameOf(0).click();
  await desk('Lights');
  await page.locator('zr-lights-desk zr-row', { hasText: 'Top panel' }).click();
  const resting = await field('Power').inputValue();
  await frameOf(1).click();
  await page.locator('zr-lights-desk zr-row', { hasText: 'Top panel' }).click();
  await expect(field('Power')).not.toHaveValue(resting);
  await field('Power').fill('12 + 1');
  await field('Power').press('Enter');
  await frameOf(0).click();
  await page.locator('zr-lights-desk zr-row', { hasText: 'Top panel' }).click();
  await expect(field('Power')).toHaveValue(resting);
});

test('own surroundings come in, broken ones are refused; floor and what is seen behind change', async () => {
  await desk('Set');
  await page.locator('zr-set-desk input[type=file]').first().setInputFiles(writeHdr(server.folder));
  const choice = (name: string) => page.locator('zr-set-desk').getByRole('combobox', { name, exact: true });
  await expect(choice('Picture')).toHaveText('loft');
  await page.locator('zr-set-desk').getByLabel('Tilt', { exact: true }).fill('20');
  await choose(choice('Lit by'), 'Gradient');
  await expect(page.locator('zr-set-desk').getByRole('button', { name: /^Overhead/ })).toBeVisible();
  await choose(choice('Lit by'), 'Picture');
  await choose(choice('Kind'), 'Flat floor');
  await choose(choice('Shows'), 'Nothing (alpha)');
  const plate = join(server.folder, 'hall.png');
  const background = { r: 20, g: 40, b: 60 };
  await sharp({ create: { width: 16, height: 9, channels: 3, background } }).toFile(plate);
  await page.locator('zr-set-desk input[type=file]').last().setInputFiles(plate);
  await expect(choice('Plate')).toHaveText('hall');
  await page.keyboard.press('Escape');
  const broken = join(server.folder, 'broken.exr');
  writeFileSync(broken, 'not a picture');
  await page.locator('zr-set-desk input[type=file]').first().setInputFiles(broken);
  await expect(page.getByRole('alert')).toContainText(/broken\.exr|EXR/);
  await page.getByLabel('Close message').click();
  await expect(choice('Picture')).toHaveText('loft');
});

test('two lights are changed together, found by words, and the space bar plays after a click', async () => {
  await desk('Lights');
  const line = (name: string) => page.locator('zr-lights-desk zr-row', { hasText: name });
  await line('Key panel').click();
  await line('Top panel').click({ modifiers: ['Control'] });
  await expect(page.getByRole('heading', { name: '2 lights' })).toBeVisible();
  await expect(field('Power')).toHaveAttribute('placeholder', 'differs');
  const power = (name: string) => page.locator('zr-lights-desk').getByLabel(`Power of ${name}`);
  const before = await power('Key panel').inputValue();
  await field('Power').fill('800');
  await field('Power').press('Enter');
  await expect(power('Key panel')).toHaveValue('800');
  await expect(power('Top panel')).toHaveValue('800');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(power('Key panel')).toHaveValue(before);
  // The button that was clicked last has the focus, and leaves the space bar alone.
  const at = await playhead();
  await page.keyboard.press('Space');
  await expect.poll(playhead).not.toBe(at);
  await page.keyboard.press('Space');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('softbox');
  await page.keyboard.press('Enter');
  await expect(page.locator('zr-lights-desk zr-row')).toHaveCount(5);
  await page.keyboard.press('Control+z');
  await expect(page.locator('zr-lights-desk zr-row')).toHaveCount(4);
  await page.keyboard.press('w');
  await expect(page.locator('zr-rail')).toBeHidden();
  await page.keyboard.press('w');
  await expect(page.locator('zr-rail')).toBeVisible();
});

test('anything can be done from the palette, and the theme is remembered', async () => {
  await page.keyboard.press('Control+k');
  await page.keyboard.type('dark and light');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'light');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'light');
  await page.getByRole('button', { name: 'Switch dark and light' }).click();
});

test('a project is named, kept as a version, gone back to, and deleted', async () => {
  const menu = () => page.locator('zr-header button').first().click();
  await menu();
  await page.getByRole('menuitem', { name: 'Start a new project' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Kettle');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page.locator('zr-header')).toContainText('Kettle');
  await desk('Set');
  await page.locator('zr-set-desk').getByRole('combobox', { name: 'Picture', exact: true }).click();
  await expect(page.getByRole('option')).toHaveCount(3);
  await page.keyboard.press('Escape');
  await menu();
  await page.getByRole('menuitem', { name: 'Keep this state' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Empty stage');
  await page.keyboard.press('Enter');
  await desk('Lights');
  await page.getByRole('button', { name: 'Bulb', exact: true }).click();
  await expect(page.locator('zr-lights-desk zr-row')).toHaveCount(2);
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await menu();
  await page.getByRole('menuitem', { name: 'Go back to "Empty stage"' }).click();
  await expect(page.locator('zr-lights-desk zr-row')).toHaveCount(1);
  await menu();
  await page.getByRole('menuitem', { name: 'Delete this project' }).click();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.locator('zr-header')).toContainText('Kettle');
  await menu();
  await page.getByRole('menuitem', { name: 'Delete this project' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Delete' }).click();
  await expect(page.locator('zr-header')).toContainText('Ferrow R2 launch');
});
