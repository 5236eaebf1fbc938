// Longest task on the page's main thread while a file imports, a model is placed, frames arrive and a film encodes.
import { TestServer } from '../e2e/support/server';
import { openBrowser } from './browser';
import { made } from './demoScene';
import { longestTask } from './tasks';

/** The button that takes a model in. It is waited for by its place: looking for it by its role is a long task of the page itself. */
export const TAKE = 'zr-import-dialog button[matButton="filled"]';

export default async function longTasks(): Promise<void> {
  const server = new TestServer({ ZIPPY_DEMO: '1' });
  await server.start();
  const browser = await openBrowser();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const desk = (name: string) =>
    page
      .locator('zr-rail')
      .getByRole('button', { name: new RegExp(name) })
      .click();
  try {
    await page.goto(server.address);
    await page.waitForSelector('canvas[data-models]');
    await page.waitForTimeout(4000);
    await desk('Render');
    for (const [name, number] of Object.entries({ Width: '192', Height: '108', Samples: '4' })) {
      const field = page.locator('zr-render-desk').getByRole('textbox', { name, exact: true });
      await field.fill(number);
      await field.press('Enter');
    }
    await longestTask('page.longestTaskFrames', browser, page, async () => {
      await page.getByRole('button', { name: 'Render take' }).click();
      await page.getByText(/done · 96 of 96 frames/).waitFor({ timeout: 300_000 });
    });
    await page.getByRole('button', { name: 'Put on the reel' }).click();
    await longestTask('page.longestTaskFilm', browser, page, async () => {
      await page.locator('zr-reel-desk').getByRole('button', { name: 'Make the file' }).click();
      await page.locator('zr-reel-desk mat-progress-bar').waitFor({ timeout: 30_000 });
      await page.locator('zr-reel-desk mat-progress-bar').waitFor({ state: 'detached', timeout: 120_000 });
    });
    await desk('Model');
    await longestTask('page.longestTaskImport', browser, page, async () => {
      await page.locator('input[type=file]').first().setInputFiles(made('ferrow-r2.step'));
      await page.locator(TAKE).waitFor({ timeout: 300_000 });
    });
    await longestTask('page.longestTaskPlacing', browser, page, async () => {
      await page.locator(TAKE).click();
      await page.locator(TAKE).waitFor({ state: 'detached' });
      await page.waitForTimeout(5000);
    });
  } finally {
    await browser.close();
    await server.close();
  }
}
