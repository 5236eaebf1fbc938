import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { zipSync } from 'fflate';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ProjectDocument } from '@zippy/core/document';
import { DAE_ALONG, daeText } from '../core/intake/testing/samples';
import { TestServer } from './support/server';

/** The Model desk: a file that is wrong in many ways comes in right, is known part by part, and what was done is undone. */
const server = new TestServer();
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
  await page.goto(server.address);
});
test.afterAll(() => server.close());

const dialog = () => page.getByRole('dialog', { name: 'Bring in a model' });
const choose = (...path: string[]) => page.locator('input[type=file]').first().setInputFiles(path);
const row = (name: RegExp | string) => page.getByRole('treeitem', { name });
const stored = async (): Promise<ProjectDocument> => {
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const answer = (await (await fetch(`${server.address}/api/projects/${id}`)).json()) as { document: ProjectDocument };
  return answer.document;
};

/** Two crates in one STL solid, the second inside out, in centimetres. */
function insideOut(): string {
  const corner = (k: number, x: number) => `vertex ${(k & 1 ? 10 : 0) + x} ${k & 2 ? 5 : 0} ${k & 4 ? 5 : 0}\n`;
  const triangles = [[0, 2, 1], [1, 2, 3], [4, 5, 6], [5, 7, 6], [0, 1, 4], [1, 5, 4], [2, 6, 3], [3, 6, 7], [0, 4, 2], [2, 4, 6], [1, 3, 5], [3, 7, 5]]; // prettier-ignore
  const facets = [0, 12].flatMap((x) =>
    triangles.map(([a, b, c]) => {
      const [second, third] = x > 0 ? [c!, b!] : [b!, c!];
      return `facet normal 0 0 0\nouter loop\n${corner(a!, x)}${corner(second, x)}${corner(third, x)}endloop\nendfacet\n`;
    }),
  );
  const path = join(server.folder, 'pair.stl');
  writeFileSync(path, `solid pair\n${facets.join('')}endsolid pair\n`);
  return path;
}

test('the check shows a picture, a familiar size and what was mended, and scales to a typed length', async () => {
  await choose(insideOut());
  await expect(dialog().getByText('12 triangles were inside out and were turned over.')).toBeVisible();
  await expect(dialog().getByText('about as long as a coin')).toBeVisible();
  const picture = dialog().getByAltText('The model as it will stand');
  await expect.poll(() => picture.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(360);
  await dialog().getByLabel('Width in mm').fill('220');
  await dialog().getByLabel('Width in mm').press('Enter');
  await expect(dialog().getByLabel('Height in mm')).toHaveValue('50');
  await expect(
    dialog()
      .getByText(/as long as a pencil/)
      .first(),
  ).toBeVisible();
  await dialog().getByRole('button', { name: 'Take it in' }).click();
  await expect(row('pair').last()).toBeVisible();
  await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
});

test('what was mended is undone for the part, made again from its file, and mended once more', async () => {
  await row('pair').last().click();
  const line = page.locator('zr-mesh-report .row', { hasText: '12 triangles were inside out' });
  await line.getByRole('button', { name: 'Undo' }).click();
  await expect(line).toContainText('Left as they came.');
  // The server has it a moment later than the page.
  const model = async () => Object.values((await stored()).assets).find((asset) => asset.kind === 'model');
  const hash = async () => (await model())?.hash;
  await expect.poll(async () => (await model())?.recipe?.leave).toEqual({ orientation: [0] });
  const left = await hash();
  await line.getByRole('button', { name: 'Mend' }).click();
  await expect(line).toContainText('were turned over.');
  await expect.poll(hash).not.toBe(left);
});

test('the part is split into its loose shells, which are grouped, named and joined again', async () => {
  await page.getByRole('button', { name: 'Split shells' }).click();
  await expect(row('pair 2')).toBeVisible();
  await row('pair 1').click();
  await row('pair 2').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Rename…' }).click();
  await page.getByRole('alertdialog').getByRole('textbox').fill('Crate #');
  await page.keyboard.press('Enter');
  await expect(row('Crate 2')).toBeVisible();
  await page.getByRole('button', { name: 'Join' }).click();
  await expect(row('Crate 2')).toHaveCount(0);
  await expect.poll(async () => Object.values((await stored()).nodes).find((node) => node.name === 'Crate 1')?.mesh?.joined?.length).toBe(1); // prettier-ignore
  await page.keyboard.press('Control+z');
  await expect(row('Crate 2')).toBeVisible();
});

test('an archive is unpacked and its model asked about; a bomb is refused with a sentence', async () => {
  const crate = new Uint8Array(await (await import('node:fs/promises')).readFile(insideOut()));
  const path = join(server.folder, 'set.zip');
  writeFileSync(path, zipSync({ 'set/pair.stl': crate, 'set/notes.png': new Uint8Array([1, 2]) }));
  await choose(path);
  await expect(dialog().getByRole('button', { name: 'Take it in' })).toBeVisible();
  await dialog().getByRole('button', { name: 'Leave out' }).click();
  writeFileSync(path, zipSync({ 'zeros.stl': new Uint8Array(30_000_000) }, { level: 9 }));
  await choose(path);
  await expect(page.getByRole('alert')).toContainText('would unfold to more than');
});

test('a DAE brings the picture beside it, its camera and its light', async () => {
  const [model, picture] = ['crate.dae', 'grain.tga'].map((name) => join(server.folder, name));
  writeFileSync(model!, daeText('textures/grain.tga', DAE_ALONG));
  // Two pixels, red and green: a header of 18 bytes, then blue, green and red of each.
  writeFileSync(picture!, Uint8Array.from([0, 0, 2, 0, 0, 0, 0, 0, 0, 0, 0, 0, 2, 0, 1, 0, 24, 0x20, 0, 0, 255, 0, 255, 0])); // prettier-ignore
  await choose(model!, picture!);
  await dialog().getByLabel('1 camera').check();
  await dialog().getByLabel('1 light').check();
  await expect(dialog().getByText(/did not come along|cannot be read/)).toHaveCount(0);
  await dialog().getByRole('button', { name: 'Take it in' }).click();
  await expect(row('Crate').last()).toBeVisible();
  await expect.poll(async () => Object.values((await stored()).cameras).map(({ name }) => name)).toContain('Eye');
  const { assets, finishes, lights } = await stored();
  expect(Object.values(lights).map(({ name, kind }) => `${name} ${kind}`)).toContain('Key spot');
  const worn = Object.values(finishes).flatMap(({ maps }) =>
    Object.values(maps).flatMap(({ source }) => (source.kind === 'picture' ? source.picture : [])),
  );
  expect(worn.map((id) => assets[id]?.kind)).toEqual(['picture']);
});
