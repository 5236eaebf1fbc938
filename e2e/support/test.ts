import { test as base, type Browser } from '@playwright/test';

const sketchAlone = () => {
  if (!localStorage.getItem('zippy-picture')) localStorage.setItem('zippy-picture', 'sketch');
};

/** Pages whose picture is the sketch alone until a test asks for more: what traces beside a test slows it down. */
export const test = base.extend<object, { browser: Browser }>({
  browser: [
    async ({ browser }, use) => {
      const plain = browser.newContext.bind(browser);
      browser.newContext = async (...options) => {
        const context = await plain(...options);
        await context.addInitScript(sketchAlone);
        return context;
      };
      await use(browser);
      browser.newContext = plain;
    },
    { scope: 'worker' },
  ],
});
