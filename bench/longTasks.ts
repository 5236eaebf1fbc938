// Longest task on the page's main thread while a file imports, a model is placed, frames arrive and a film encodes, in
// Chromium, by its long-task observer (which tells of tasks from 50 ms on).
import type { Page } from '@playwright/test';
import { TestServer } from '../e2e/support/server';
import { openBrowser } from './browser';
import { made } from './demoScene';
import { figure } from './figure';

/** The button that takes a model in. It is waited for by its place: looking for it by its role is a long task of the page itself. */
export const TAKE = 'zr-import-dialog .control.primary';

/** Milliseconds of the longest task while `work` runs; 0 where none was long enough to be told. */
async function longest(page: Page, work: () => Promise<void>): Promise<number> {
  await page.waitForTimeout(1500);
  await page.evaluate(() => ((globalThis as unknown as { tasks: number[] }).tasks.length = 0));
  await work();
  await page.waitForTimeout(500);
  return page.evaluate(() => Math.max(0, ...(globalThis as unknown as { tasks: number[] }).tasks));
}

export default async function longTasks(): Promise<void> {
  const server = new TestServer({ ZIPPY_DEMO: '1' });
  await server.start();
  const browser = await openBrowser();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    const tasks: number[] = [];
    (globalThis as unknown as { tasks: number[] }).tasks = tasks;
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map((entry) => entry.duration))).observe({
      type: 'longtask',
    });
  });
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
    await page.getByRole('textbox', { name: 'Width' }).first().fill('96');
    await page.getByRole('textbox', { name: 'Height' }).first().fill('54');
    await page.getByRole('textbox', { name: 'Samples' }).first().fill('4');
    await page.getByRole('textbox', { name: 'Samples' }).first().press('Enter');
    const frames = await longest(page, async () => {
      await page.getByRole('button', { name: 'Render take' }).click();
      await page.getByText(/done · 96 of 96 frames/).waitFor({ timeout: 300_000 });
    });
    figure('page.longestTaskFrames', frames, { most: 50 });
    await page.getByRole('button', { name: 'Put on the reel' }).click();
    const film = await longest(page, async () => {
      await page.locator('zr-reel-desk').getByRole('button', { name: 'MP4', exact: true }).click();
      await page.locator('zr-reel-desk progress').waitFor({ timeout: 30_000 });
      await page.locator('zr-reel-desk progress').waitFor({ state: 'detached', timeout: 120_000 });
    });
    figure('page.longestTaskFilm', film, { most: 50 });
    await desk('Model');
    const reading = await longest(page, async () => {
      await page.locator('input[type=file]').first().setInputFiles(made('ferrow-r2.step'));
      await page.locator(TAKE).waitFor({ timeout: 300_000 });
    });
    figure('page.longestTaskImport', reading, { most: 50 });
    const placing = await longest(page, async () => {
      await page.locator(TAKE).click();
      await page.locator(TAKE).waitFor({ state: 'detached' });
      await page.waitForTimeout(5000);
    });
    figure('page.longestTaskPlacing', placing, { most: 50 });
  } finally {
    await browser.close();
    await server.close();
  }
}
