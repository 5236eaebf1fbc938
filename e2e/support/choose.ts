import { expect, type Locator } from '@playwright/test';

/** Chooses from a list that opens, or that is found by typing. */
export async function choose(field: Locator, option: string): Promise<void> {
  const typed = await field.evaluate((element) => element.tagName === 'INPUT');
  await field.click();
  if (typed) await field.fill(option);
  const page = field.page();
  const options = page.getByRole('option');
  // A list that has just opened may be laid out anew under the pointer, where two cores draw everything.
  await expect(async () => {
    if ((await options.count()) > 0)
      await options
        .and(page.getByRole('option', { name: option, exact: true }))
        .first()
        .click({ timeout: 5000 });
    await expect(options).toHaveCount(0, { timeout: 3000 });
  }).toPass({ timeout: 60_000 });
}
