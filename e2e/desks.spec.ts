import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { choose } from './support/choose';
import { TestServer } from './support/server';

/** Every desk for all who use it: by keyboard and assistive technology, by menus, and with what goes from shot to shot and project to project. */
const server = new TestServer({ ZIPPY_DEMO: '1' });
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  test.setTimeout(240_000);
  await server.start();
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  page = await context.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
  await page.goto(server.address);
  await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
});
test.afterAll(() => server.close());

const desk = (name: string) => page.locator('zr-rail').getByRole('button', { name: new RegExp(name) }).click(); // prettier-ignore
const row = (name: RegExp | string) => page.getByRole('treeitem', { name });
const menu = async (name: string | RegExp) => page.getByRole('menuitem', { name }).click();
const node = (name: string) => page.locator('zr-model-desk').getByText(name, { exact: true });

for (const theme of ['dark', 'light']) {
  test(`axe finds nothing on any desk in the ${theme} theme`, async () => {
    test.setTimeout(180_000);
    await page.evaluate((wanted) => (document.documentElement.dataset['theme'] = wanted), theme);
    for (const name of ['Model', 'Finish', 'Set', 'Lights', 'Camera', 'Motion', 'Render', 'Reel']) {
      await desk(name);
      if (name === 'Model') await row(/Front panel/).click();
      if (name === 'Lights') await page.locator('zr-lights-desk zr-row').first().click();
      await page.waitForTimeout(400);
      // Names, roles and order are the same in both themes.
      const axe = new AxeBuilder({ page });
      const { violations } = await (theme === 'dark' ? axe : axe.withRules('color-contrast')).analyze();
      const said = violations.map(
        ({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 140)).join(' | ')}`,
      );
      expect.soft(said, `${name}, ${theme}`).toEqual([]);
    }
    await page.evaluate(() => (document.documentElement.dataset['theme'] = 'dark'));
  });
}

test('a part has a menu: hidden, duplicated, copied into another project, undone', async () => {
  await desk('Model');
  await row(/Front panel/).click({ button: 'right' });
  await menu(/^Hide/);
  await expect(row(/Front panel/).getByLabel('Show', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await row(/Front panel/).click({ button: 'right' });
  await menu(/^Copy/);
  await page.locator('zr-header button').first().click();
  await menu('Start a new project');
  await page.getByRole('alertdialog').getByRole('textbox', { name: 'Name' }).fill('Other');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page.locator('zr-header')).toContainText('Other');
  await page.keyboard.press('Control+v');
  await expect(node('Front panel')).toBeVisible();
  await expect(page.locator('canvas[data-models]')).toHaveAttribute('data-models', /[1-9]/);
  await page.keyboard.press('Control+z');
  await expect(node('Front panel')).toHaveCount(0);
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(node('Front panel')).toBeVisible({ timeout: 30_000 });
});

test('a lamp has a menu, by keyboard too: switched off, renamed, duplicated', async () => {
  await desk('Lights');
  const lamp = page.locator('zr-lights-desk zr-row').first();
  await lamp.click({ button: 'right' });
  await menu('Switch off');
  await expect(lamp.getByLabel(/^Switch on/)).toBeVisible();
  await lamp.locator('button').first().focus();
  await page.keyboard.press('Shift+F10');
  await menu(/^Rename/);
  await page.getByRole('alertdialog').getByRole('textbox', { name: 'Name' }).fill('Window');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect(lamp).toContainText('Window');
  await lamp.click({ button: 'right' });
  await menu('Duplicate');
  await expect(page.locator('zr-lights-desk zr-row', { hasText: 'Window 2' })).toBeVisible();
});

test('a colour is picked by hue, temperature and code, and may be brighter than white', async () => {
  await desk('Lights');
  await page.locator('zr-lights-desk zr-row').first().click();
  const tint = page.locator('zr-card').getByRole('button', { name: /^Tint/ });
  await tint.click();
  const panel = page.getByRole('dialog', { name: 'Colour: Tint' });
  await panel.getByLabel('Colour code').fill('#80c0ff');
  await panel.getByLabel('Colour code').press('Enter');
  await expect(tint).toHaveAccessibleName('Tint: #80c0ff');
  await panel.getByLabel('Times white').fill('4');
  await panel.getByLabel('Times white').press('Enter');
  await expect(tint).toHaveAccessibleName(/× 4$/);
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(tint).toHaveAccessibleName('Tint: #80c0ff');
});

test('a slider drags its number, and a size keeps its proportions', async () => {
  const kelvin = page.locator('zr-card').getByRole('textbox', { name: 'Colour temp.' });
  const before = await kelvin.inputValue();
  const slider = page.locator('zr-card').getByRole('slider', { name: 'Colour temp., slider' });
  await slider.focus();
  await page.keyboard.press('ArrowRight');
  await expect(kelvin).toHaveValue(String(Number(before) + 50));
  await desk('Model');
  await row(/Front panel/).click();
  await page.getByRole('button', { name: 'Keep the proportions of scale' }).click();
  const scale = (axis: string) => page.getByRole('textbox', { name: `Scale ${axis}` });
  await scale('X').fill('2');
  await scale('X').press('Enter');
  await expect(scale('Z')).toHaveValue('2');
});

test('what is seen behind is keyed, and held from key to key', async () => {
  await desk('Set');
  await page.keyboard.press('Home');
  const shows = page.locator('zr-set-desk').getByRole('combobox', { name: 'Shows' });
  await page.locator('zr-set-desk').getByRole('button', { name: 'Set key of Shows' }).click();
  for (let k = 0; k < 5; k++) await page.keyboard.press('.');
  await choose(shows, 'Colour');
  await expect(shows).toHaveText('Colour');
  await page.keyboard.press(',');
  await expect(shows).toHaveText('Surroundings');
});

test('a move and a key have menus: copied to another shot, deleted', async () => {
  await desk('Model');
  await row(/Front panel/).click();
  await desk('Motion');
  await page.locator('zr-motion-desk').getByRole('button', { name: 'Turntable' }).click();
  await page.locator('.lanes .move').first().click({ button: 'right' });
  await menu(/^Copy/);
  await page.locator('zr-strip').getByRole('button', { name: 'Shot', exact: true }).click();
  await expect(page.locator('.lanes .move')).toHaveCount(0);
  await page.keyboard.press('Control+v');
  await expect(page.locator('.lanes .move')).toHaveCount(1);
  await page.locator('.film .shot').first().click();
  await page.locator('.lanes .key').first().click({ button: 'right' });
  await menu(/^Delete/);
  await expect(page.locator('.lanes .key')).toHaveCount(1);
  await page.keyboard.press('Control+z');
  await expect(page.locator('.lanes .key')).toHaveCount(2);
});
