import { expect, type Locator } from '@playwright/test';

/** Chooses from a list that opens, or that is found by typing. */
export async function choose(field: Locator, option: string): Promise<void> {
  const typed = await field.evaluate((element) => element.tagName === 'INPUT');
  await field.click();
  if (typed) await field.fill(option);
  const page = field.page();
  await page.getByRole('option', { name: option, exact: true }).first().click();
  await expect(page.getByRole('option')).toHaveCount(0);
}
