import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { choose } from './support/choose';
import type { ProjectDocument } from '@zippy/core/document';
import { made, TestServer } from './support/server';

/** The engineers send the radio again: a knob is changed, two parts are new, one is gone, one has another name. */
const server = new TestServer({ ZIPPY_DEMO: '1' });
let page: Page;
let before: ProjectDocument;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (error) => {
    throw error;
  });
  await page.goto(server.address);
  await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
  await page.keyboard.press('1');
});
test.afterAll(() => server.close());

const row = (name: RegExp | string) => page.getByRole('treeitem', { name });
const dialog = () => page.getByRole('dialog', { name: 'New revision' });
const stored = async (): Promise<ProjectDocument> => {
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  return ((await (await fetch(`${server.address}/api/projects/${id}`)).json()) as { document: ProjectDocument })
    .document;
};
const named = (document: ProjectDocument, name: string) =>
  Object.values(document.nodes).find((node) => node.name === name);
const modelOf = (document: ProjectDocument) => Object.values(document.assets).find(({ kind }) => kind === 'model')!;

test('the table says what became of every part', async () => {
  test.setTimeout(360_000);
  before = await stored();
  await row('Body').click();
  await page.locator('zr-mesh-report mat-expansion-panel-header').click();
  await page.locator('zr-mesh-report input[type=file]').setInputFiles(made('ferrow-r2-second.step'));
  await expect(dialog()).toBeVisible({ timeout: 300_000 });
  const line = (text: string) => dialog().getByRole('row', { name: text });
  await expect(line('Tuning knob grip')).toContainText('Changed');
  await expect(line('Door latch')).toContainText('Gone');
  await expect(line('Back cover')).toContainText('known by its shape');
  await expect(line('Back cover').getByRole('combobox')).toHaveValue('Rear cover');
  await expect(dialog().locator('tr.new')).toHaveCount(2);
  await expect(dialog().locator('tr.changed')).toHaveCount(1);
  await expect(dialog().locator('tr.gone')).toHaveCount(1);
  await expect(dialog().locator('p')).toContainText('1 changed, 1 gone, 2 new');
  // The small pictures are there, not broken.
  const pictures = dialog().locator('tr.changed img');
  await expect(pictures).toHaveCount(2);
  await expect.poll(() => pictures.first().evaluate((img: HTMLImageElement) => img.naturalWidth), { timeout: 20_000 }).toBe(96); // prettier-ignore
});

test('a match is corrected by hand, and back', async () => {
  const latch = dialog().getByLabel('New part for Door latch');
  await choose(latch, 'Socket ring');
  await expect(dialog().locator('tr.new')).toHaveCount(1);
  await expect(dialog().getByRole('row', { name: 'Door latch' })).toContainText('known by hand');
  await choose(dialog().getByLabel('New part for Door latch'), 'none');
  await expect(dialog().locator('tr.new')).toHaveCount(2);
});

test('the revision takes the place of the model; finishes, turning points and motion stay; one undo takes it back', async () => {
  await dialog().getByRole('button', { name: 'Take the new revision' }).click();
  await expect(dialog()).toHaveCount(0);
  await expect(row('Socket ring')).toBeVisible();
  await expect(row('Door latch')).toHaveCount(0);
  await expect.poll(async () => modelOf(await stored()).sourceName).toBe('ferrow-r2-second.step');
  const after = await stored();
  const hash = modelOf(after).hash;
  for (const node of Object.values(before.nodes)) {
    if (node.name === 'Door latch') continue;
    const now = after.nodes[node.id]!;
    const { mesh, origin, ...rest } = node;
    expect(now).toMatchObject(rest);
    if (mesh) expect(now.mesh).toMatchObject({ asset: hash });
    expect(origin === null).toBe(now.origin === null);
  }
  expect(after.shots).toEqual(before.shots);
  expect(after.finishes).toEqual(before.finishes);
  expect(named(after, 'Back cover')!.origin!.path).toBe('Ferrow R2 / Housing / Rear cover');
  expect(named(after, 'Socket')).toMatchObject({ parent: named(after, 'Housing')!.id });
  await expect(page.locator('canvas[data-models="2"]')).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('Control+z');
  await expect(row('Door latch')).toBeVisible();
  await expect.poll(async () => modelOf(await stored()).hash).toBe(modelOf(before).hash);
  expect((await stored()).nodes).toEqual(before.nodes);
});
