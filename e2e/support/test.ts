import { test as base } from '@playwright/test';

/** Pages whose picture is the sketch alone until a test asks for more: what traces beside a test slows it down. */
export const test = base.extend({
  page: async ({ page }, use) => {
    await page.addInitScript(() => {
      if (!localStorage.getItem('zippy-picture')) localStorage.setItem('zippy-picture', 'sketch');
    });
    await use(page);
  },
});
