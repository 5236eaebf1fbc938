// Takes the pictures in docs/screenshots from the demo project: `node e2e/screenshots.mjs ADDRESS`.
import { chromium } from '@playwright/test';
import sharp from 'sharp';

const [address = 'http://127.0.0.1:4870'] = process.argv.slice(2);
const folder = new URL('../docs/screenshots/', import.meta.url).pathname;
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(address);
await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
await page.waitForTimeout(4000);

const desk = (name) =>
  page
    .locator('zr-rail')
    .getByRole('button', { name: new RegExp(name) })
    .click();
const shot = (name) => page.locator('.shot', { hasText: name }).click();
const keep = async (name) => {
  await page.waitForTimeout(2500);
  await page.screenshot({ path: `${folder}${name}.png` });
};

await shot('Turn');
// A click on a shot also puts the playhead where it was clicked.
await page.keyboard.press('Home');
await desk('Model');
await page.getByRole('treeitem', { name: /Front panel/ }).click();
await keep('model');
await page.getByRole('treeitem', { name: /Tuning knob cap/ }).click();
await page.keyboard.press('f');
await page.waitForTimeout(1500);
await page.getByRole('button', { name: 'Round face' }).click();
const canvas = await page.locator('canvas').first().boundingBox();
const knob = page.locator('.say', { hasText: 'Round flat face' });
for (let k = 0; k < 20 && !(await knob.count()); k++) {
  await page.mouse.move(canvas.x + canvas.width * 0.52 + k, canvas.y + canvas.height * 0.5);
  await page.waitForTimeout(800);
}
await keep('turning-point');
await page.keyboard.press('Escape');
await page.keyboard.press('v');
await page.getByRole('treeitem', { name: /Front panel/ }).click();
await desk('Finish');
const shelf = page.locator('zr-finish-desk');
await shelf.getByRole('combobox', { name: 'Made of' }).click();
await page.getByRole('option', { name: /^Wood/ }).click();
await shelf.getByRole('button', { name: 'Walnut', exact: true }).click();
await page.getByRole('radio', { name: 'Sketch' }).click();
// What the project wears is drawn one finish after another.
const drawn = () =>
  document.querySelectorAll('zr-finish-tile').length > 10 && !document.querySelector('zr-finish-tile .waits');
await page.waitForFunction(drawn, null, { timeout: 120_000 });
await page.getByRole('radio', { name: 'Settle' }).click();
await page.locator('zr-traced .state', { hasText: /(16|32) samples/ }).waitFor({ timeout: 120_000 });
await page.locator('zr-finish-maps').evaluate((maps) => maps.scrollIntoView({ block: 'end' }));
await shelf.getByText('Colourways').evaluate((title) => title.scrollIntoView({ block: 'center' }));
await page.mouse.move(660, 700);
await keep('finish');
await page.keyboard.press('Control+z');
await desk('Set');
await page.keyboard.press('Escape');
// Each ready set with the product, one after another.
const shown = () => {
  const sets = [...document.querySelectorAll('zr-ready-sets i')];
  return sets.length > 10 && sets.every((each) => getComputedStyle(each).backgroundImage.includes('blob:'));
};
await page.waitForFunction(shown, null, { timeout: 120_000 });
await keep('set');
await desk('Lights');
await page.keyboard.press('Home');
await page.keyboard.press('v');
await page.keyboard.press('Alt+6');
await page.locator('zr-lights-desk zr-row', { hasText: 'Key panel' }).click();
await keep('lights');
await shot('Turn');
await page.locator('zr-strip .ruler').click({ position: { x: 330, y: 10 } });
await page.getByRole('radio', { name: 'Traced' }).click();
await page.locator('zr-traced .state', { hasText: /(16|32) samples/ }).waitFor({ timeout: 120_000 });
await keep('traced');
await page.getByRole('radio', { name: 'Sketch' }).click();
await shot('Grille');
await page.locator('zr-strip .ruler').click({ position: { x: 500, y: 10 } });
await desk('Camera');
await page.locator('zr-camera-desk zr-row', { hasText: 'Grille close-up' }).click();
await page.getByRole('button', { name: 'Show what is sharp' }).click();
await keep('camera');
await page.getByRole('button', { name: 'Show what is sharp' }).click();
await shot('Dial warms up');
await desk('Motion');
await page.locator('zr-strip .ruler').click({ position: { x: 900, y: 10 } });
await page.locator('zr-motion-desk zr-row', { hasText: 'Ramp' }).click();
await keep('motion');
await page.getByRole('button', { name: 'Open the curve of Dial close-up travel' }).click();
await page.locator('zr-lane-curve').scrollIntoViewIfNeeded();
await keep('curves');
await page.getByRole('button', { name: 'Close the curve of Dial close-up travel' }).click();
await page.evaluate(() => (document.documentElement.dataset.theme = 'light'));
await shot('Antenna rises');
await page.locator('zr-strip .ruler').click({ position: { x: 1000, y: 10 } });
await desk('Motion');
await keep('light-theme');
await page.evaluate(() => (document.documentElement.dataset.theme = 'dark'));
await desk('Render');
await page.waitForTimeout(500);
await page.getByText('Noise, time and layers').click();
await page.getByRole('button', { name: /How long/ }).click();
await page.locator('zr-render-desk', { hasText: /noise about/ }).waitFor({ timeout: 240_000 });
await keep('render');
await page.getByRole('button', { name: /Still of frame/ }).click();
await page
  .getByText(/done · 1 of 1/)
  .first()
  .waitFor({ timeout: 240_000 });
await page.getByLabel('Power of Rim strip', { exact: true }).first().fill('0.5');
await page.keyboard.press('Enter');
await page.waitForTimeout(15_000);
await page.keyboard.press('e');
await page.getByRole('radio', { name: 'RGB' }).click();
await keep('develop');
await page.keyboard.press('e');
await desk('Reel');
// The finished film of the demo as a clip, cut in two, with words over it.
await page.getByRole('button', { name: 'Put the film on the reel' }).click();
const clips = page.locator('zr-reel-strip zr-clip-block');
const part = async (from, to) => {
  for (const [label, value] of [
    ['To frame', to],
    ['From frame', from],
  ]) {
    await page.getByRole('textbox', { name: label, exact: true }).fill(String(value));
    await page.keyboard.press('Enter');
  }
};
await clips.first().waitFor({ timeout: 120_000 });
await part(1, 96);
await page.keyboard.press('Home');
await clips.first().click({ button: 'right' });
await page.getByRole('menuitem', { name: 'Duplicate' }).click();
await part(250, 324);
await page.locator('zr-card').getByLabel('Change', { exact: true }).click();
await page.getByRole('option', { name: 'Cross-fade' }).click();
await page.locator('zr-reel-strip .ruler').click({ position: { x: 112, y: 10 } });
await page.getByRole('button', { name: 'Title', exact: true }).click();
await page.locator('zr-card').getByRole('textbox', { name: 'Words' }).fill('Ferrow R2');
await page.locator('zr-reel-strip .block.title').click();
for (let frame = 1; frame < 30; frame++) await page.keyboard.press('.');
await page.waitForTimeout(8000);
await keep('reel');
const watch = page.getByRole('button', { name: 'Watch' });
if (await watch.count()) {
  await watch.first().click();
  await page.waitForTimeout(3000);
  await keep('film');
}
await desk('Model');
await shot('Turn');
await page.keyboard.press('Home');
await page.getByRole('treeitem', { name: /Back cover/ }).click();
const lines = Array.from(
  { length: 12 },
  (_, k) => `<path d="M0 ${k * 42 + 20}h512" stroke="#1c2a33" stroke-width="6"/>`,
).join('');
const sign = `<svg xmlns="http://www.w3.org/2000/svg" width="512" height="512"><rect width="512" height="512" fill="#d9a441"/>${lines}<circle cx="256" cy="256" r="120" fill="#b5332e"/></svg>`;
const picture = await sharp(Buffer.from(sign)).png().toBuffer();
await page
  .locator('zr-finish-maps input[type=file]')
  .setInputFiles({ name: 'sun-stripes.png', mimeType: 'image/png', buffer: picture });
await page.waitForTimeout(1500);
await page.locator('zr-finish-maps').scrollIntoViewIfNeeded();
await page.keyboard.press('Escape');
await page.getByRole('treeitem', { name: /Back cover/ }).click();
await page.keyboard.press('Alt+2');
await page.getByRole('radio', { name: 'Traced' }).click();
await page.locator('zr-traced .state', { hasText: /(16|32) samples/ }).waitFor({ timeout: 120_000 });
await page.locator('zr-finish-maps').scrollIntoViewIfNeeded();
await keep('pictures');
await page.getByRole('radio', { name: 'Sketch' }).click();
await page
  .locator('zr-model-desk input[type=file]')
  .setInputFiles(new URL('../demo/made/ferrow-r2.step', import.meta.url).pathname);
await page.getByRole('button', { name: 'Take it in' }).waitFor({ timeout: 240_000 });
await keep('import');
await page.getByRole('dialog').getByRole('button', { name: 'Leave out', exact: true }).click();
await page.getByRole('treeitem', { name: /Body/ }).click();
await page.locator('zr-mesh-report mat-expansion-panel-header').click();
await page
  .locator('zr-mesh-report input[type=file]')
  .setInputFiles(new URL('../demo/made/ferrow-r2-second.step', import.meta.url).pathname);
await page.getByRole('dialog', { name: 'New revision' }).waitFor({ timeout: 240_000 });
await page.waitForTimeout(4000);
await keep('revision');
await page.getByRole('button', { name: 'Leave the model as it is' }).click();
await browser.close();
