import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on('pageerror', (e) => console.log('ERR', e.message, e.stack?.slice(0, 600)));
p.on('console', (m) => {
  if (m.type() === 'error') console.log('CON', m.text().slice(0, 600));
});
await p.goto('http://127.0.0.1:4872');
await p.waitForTimeout(2500);
await p.getByRole('button', { name: 'Add', exact: true }).click();
await p.getByRole('menuitem', { name: 'Helper' }).click();
await p.waitForTimeout(300);
await p.keyboard.press('4');
await p.locator('zr-lights-desk zr-row').first().click();
await p.waitForTimeout(300);
const f = p.locator('zr-card').getByLabel('Hangs on');
console.log(await f.evaluate((e) => e.tagName));
await f.click();
if ((await f.evaluate((e) => e.tagName)) === 'INPUT') await f.fill('Helper');
await p.getByRole('option', { name: 'Helper', exact: true }).first().click();
await p.waitForTimeout(400);
console.log(await p.evaluate(() => document.activeElement.outerHTML.slice(0, 150)));
await p.keyboard.press('1');
await p.waitForTimeout(600);
console.log(
  await p
    .locator('zr-desk')
    .innerText()
    .then((t) => t.slice(0, 200)),
);
console.log(await p.getByRole('treeitem').allInnerTexts());
await p.screenshot({ path: '/tmp/zz.png' });
await b.close();
