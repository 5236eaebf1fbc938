// Milliseconds from a change in the page to its first traced picture: the playhead steps on while the traced picture is shown.
import { TestServer } from '../e2e/support/server';
import { openBrowser } from './browser';
import { figure, median } from './figure';

const STEPS = 12;

export default async function answer(): Promise<void> {
  const server = new TestServer({ ZIPPY_DEMO: '1' });
  await server.start();
  const browser = await openBrowser();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  try {
    await page.goto(server.address);
    await page.waitForSelector('canvas[data-models]');
    await page.getByRole('radio', { name: 'Traced' }).click();
    const canvas = page.locator('zr-traced canvas');
    await page.locator('zr-traced canvas[data-samples="4"]').waitFor({ timeout: 120_000 });
    const times: number[] = [];
    for (let step = 0; step < STEPS; step++) {
      const before = await canvas.getAttribute('data-answer');
      // Told by the page itself when the first picture of the new wish is there.
      const first = page.evaluate(
        (known) =>
          new Promise<number>((resolve) => {
            const shown = document.querySelector('zr-traced canvas')!;
            const watcher = new MutationObserver(() => {
              if (!shown.hasAttribute('data-answer') || shown.getAttribute('data-answer') === known) return;
              watcher.disconnect();
              resolve(Number(shown.getAttribute('data-milliseconds')));
            });
            watcher.observe(shown, { attributes: true });
          }),
        before,
      );
      await page.keyboard.press('.');
      times.push(await first);
      await page.waitForTimeout(700);
    }
    console.log(`answer: ${times.map((time) => Math.round(time)).join(' ')} ms`);
    figure('traced.answer', median(times), { most: 100 });
  } finally {
    await browser.close();
    await server.close();
  }
}
