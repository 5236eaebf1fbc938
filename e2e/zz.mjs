import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on('pageerror', (e) => console.log('ERR', e.message, e.stack?.slice(0, 600)));
p.on('console', (m) => {
  if (m.type() === 'error') console.log('CON', m.text().slice(0, 600));
});
await p.goto('http://127.0.0.1:4872');
await p.waitForTimeout(3500);
await p.screenshot({ path: '/tmp/z1.png' });
await p
  .locator('zr-rail')
  .getByRole('button', { name: /Lights/ })
  .click();
await p.waitForTimeout(400);
await p
  .getByRole('button', { name: /Key panel/ })
  .first()
  .click();
await p.waitForTimeout(600);
await p.screenshot({ path: '/tmp/z2.png' });
await p
  .locator('zr-rail')
  .getByRole('button', { name: /Render/ })
  .click();
await p.waitForTimeout(600);
await p.screenshot({ path: '/tmp/z3.png' });
await b.close();
