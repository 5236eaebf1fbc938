import { chromium } from '@playwright/test';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--ignore-gpu-blocklist','--use-gl=angle','--use-angle=swiftshader','--enable-unsafe-swiftshader'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => { if (m.type() === 'error') console.log('ERR', m.text()); });
page.on('pageerror', (e) => console.log('PAGEERR', e.message));
await page.addInitScript(() => { localStorage.setItem('zippy-picture', 'sketch'); localStorage.setItem('zippy-sketch', 'fine'); });
await page.goto('http://127.0.0.1:4872');
await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
await page.waitForTimeout(9000);
for (const [shot, part] of [[1, 0.1], [1, 0.6], [2, 0.3]]) {
  const box = page.locator('zr-strip .shot').nth(shot);
  const { width } = await box.boundingBox();
  for (let k = 0; k < 2; k++) await box.click({ position: { x: Math.max(2, width * part), y: 30 } });
  await page.mouse.move(3,3);
  await page.waitForTimeout(6000);
  await page.locator('zr-picture .area').screenshot({ path: `/tmp/s${shot}${part}a.png` });
  await page.getByRole('radio', { name: 'Traced' }).click();
  for (;;) { await page.waitForTimeout(500); if (Number(await page.getByRole('img', { name: 'Traced picture' }).getAttribute('data-samples')) >= 24) break; }
  await page.locator('zr-picture .area').screenshot({ path: `/tmp/s${shot}${part}b.png` });
  await page.getByRole('radio', { name: 'Sketch' }).click();
  await page.waitForTimeout(1500);
}
await browser.close();
