import { expect, type Page } from '@playwright/test';
import { choose } from './choose';

/** Has a file of a kind made of the reel, whose desk is open, and waits until it is there. */
export async function makeFile(page: Page, kind: string, timeout = 300_000): Promise<void> {
  const desk = page.locator('zr-reel-desk');
  const films = desk.locator('zr-film-list .box');
  const before = await films.count();
  await choose(desk.getByLabel('Kind of file'), kind);
  await desk.getByRole('button', { name: /^Make (the file|it of frame)/ }).click();
  await expect(films).toHaveCount(before + 1, { timeout: 60_000 });
  await expect(films.first().getByRole('link', { name: 'Download' })).toBeVisible({ timeout });
}
