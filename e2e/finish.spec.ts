import { expect, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import type { ProjectDocument } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { choose } from './support/choose';
import { crateIn } from './support/crate';
import { TestServer } from './support/server';
import { test } from './support/test';

/** The Finish desk: from the shelf onto a model of any size, with maps and prints, in colourways, to frames that differ. */
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

const crate = (name: string, size: number) => crateIn(server.folder, name, size);
const desk = (name: string) => page.locator('zr-rail').getByRole('button', { name: new RegExp(name) }).click(); // prettier-ignore
const shelf = () => page.locator('zr-finish-desk');
const card = () => page.locator('zr-card');
const project = () => new URL(page.url()).pathname.split('/').at(-1)!;
const stored = async (): Promise<ProjectDocument> =>
  ((await (await fetch(`${server.address}/api/projects/${project()}`)).json()) as { document: ProjectDocument })
    .document;
const takes = async (): Promise<Take[]> => (await fetch(`${server.address}/api/projects/${project()}/takes`)).json();

/** Where the middle of what is selected is in the picture: a new project frames it. */
async function middle(): Promise<{ x: number; y: number }> {
  const box = (await page.getByLabel('Picture of the scene').boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** Goes to the Render desk and asks for small pictures. */
async function renderSmall(): Promise<void> {
  await desk('Render');
  await choose(page.locator('zr-render-desk').getByLabel('Size', { exact: true }), 'Full');
  for (const [name, value] of [
    ['Width', '240'],
    ['Height', '135'],
  ] as const) {
    const field = page.getByRole('textbox', { name, exact: true }).first();
    await field.fill(value);
    await field.press('Enter');
  }
}

/** Fetches a frame of a take as a PNG. @returns its path */
async function frameOf(take: string, frame: number): Promise<string> {
  const path = join(server.folder, `${take}-${frame}.png`);
  const look = encodeURIComponent(JSON.stringify((await stored()).look));
  const answer = await fetch(`${server.address}/api/takes/${take}/frames/${frame}.png?look=${look}`);
  writeFileSync(path, Buffer.from(await answer.arrayBuffer()));
  return path;
}

/** Mean colour in the middle of a frame, where the product is. */
async function colorOf(path: string): Promise<number[]> {
  const crop = sharp(path).extract({ left: 110, top: 62, width: 20, height: 10 });
  return (await sharp(await crop.toBuffer()).stats()).channels.map(({ mean }) => mean);
}

for (const [name, size] of [
  ['Speck', 2],
  ['Hall', 20_000],
] as const) {
  test(`a model of ${size} mm wears a finish of the shelf and bears a print in proportion, both undone`, async () => {
    const made = await fetch(`${server.address}/api/projects`, {
      method: 'POST',
      body: JSON.stringify({ name }),
      headers: { 'Content-Type': 'application/json' },
    });
    await page.goto(`${server.address}/p/${((await made.json()) as { id: string }).id}`);
    await page.locator('input[type=file]').first().setInputFiles(crate(name, size));
    const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
    await dialog.getByLabel('Width in mm').fill(String(size));
    await dialog.getByLabel('Width in mm').press('Enter');
    await dialog.getByRole('button', { name: 'Take it in' }).click();
    await page
      .getByRole('treeitem', { name: new RegExp(name) })
      .last()
      .click();
    await desk('Finish');
    await shelf().getByLabel('Find a finish').fill('toolbox');
    await shelf().getByRole('button', { name: 'Worn toolbox red', exact: true }).click();
    await expect(card().getByRole('heading', { name: 'Base colour, by maps' })).toBeVisible();
    await expect
      .poll(
        () =>
          shelf()
            .locator('.own i')
            .first()
            .evaluate((each) => getComputedStyle(each).backgroundImage),
        { timeout: 60_000 },
      )
      .toContain('blob:');
    await card().getByLabel('Words to print').fill('No 7');
    await card().getByRole('button', { name: 'Print', exact: true }).click();
    await expect(page.locator('zr-picture .say')).toContainText('Click where No 7 shall be printed');
    const { x, y } = await middle();
    await page.mouse.click(x, y);
    const labels = async () => Object.values((await stored()).nodes).flatMap(({ labels }) => Object.values(labels));
    await expect.poll(async () => (await labels()).length).toBe(1);
    const [label] = await labels();
    expect(label!.width / size).toBeCloseTo(0.5, 1);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await labels()).length).toBe(0);
    await page.keyboard.press('Control+Shift+z');
    await expect.poll(async () => (await labels()).length).toBe(1);
    await page.reload();
    await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
    await expect(page.getByText('saved', { exact: true })).toBeVisible();
    await page.getByRole('radio', { name: 'Traced' }).click();
    await page.locator('zr-traced .state', { hasText: /samples/ }).waitFor({ timeout: 60_000 });
    await page.getByRole('radio', { name: 'Sketch' }).click();
  });
}

test('maps lie over each other, are given colours, and the picture shows it', async () => {
  await desk('Model');
  await page.getByRole('treeitem', { name: /Hall/ }).last().click();
  await desk('Finish');
  const maps = page.locator('zr-finish-maps');
  await maps.getByRole('button', { name: 'Gradient', exact: true }).click();
  await maps.getByRole('button', { name: 'Give it colours…' }).click();
  await choose(maps.getByRole('combobox', { name: 'Comes' }), 'Laid over');
  await expect
    .poll(async () => {
      const layers = Object.values((await stored()).finishes).flatMap(({ maps }) => Object.values(maps));
      return layers.some(
        ({ source, blend, shades }) => source.kind === 'gradient' && blend === 'over' && shades?.length === 2,
      );
    })
    .toBe(true);
  await maps.getByRole('button', { name: 'Leave out Gradient' }).click();
  await expect(maps.getByRole('button', { name: 'Use Gradient' })).toBeVisible();
});

test('two colourways are dressed, rendered in one go, and their frames differ', async () => {
  const add = () => shelf().getByRole('button', { name: 'Colourway', exact: true }).click();
  const fold = shelf().getByRole('button', { name: 'Colourways', exact: true });
  if ((await fold.getAttribute('aria-expanded')) === 'false') await fold.click();
  for (const finish of ['Signal red', 'Cobalt glass']) {
    await add();
    await shelf().getByLabel('Find a finish').fill(finish);
    await shelf().getByRole('button', { name: finish, exact: true }).click();
  }
  await expect(shelf().getByRole('row', { name: /Hall/ })).toBeVisible();
  await renderSmall();
  await choose(page.getByRole('combobox', { name: 'Rendered in' }), 'All 2 colourways');
  await page.getByRole('button', { name: /^Still of frame/ }).click();
  await expect
    .poll(async () => (await takes()).filter(({ state }) => state === 'done').length, { timeout: 170_000 })
    .toBe(2);
  const done = await takes();
  expect(done.map(({ shotName }) => shotName.split(', ').at(-1))).toEqual(['Colourway 1', 'Colourway 2']);
  const frames = await Promise.all(done.map(({ id }) => frameOf(id, 1)));
  const [red, blue] = (await Promise.all(frames.map(colorOf))) as [number[], number[]];
  expect(red[0]! / red[2]!).toBeGreaterThan(1.15 * (blue[0]! / blue[2]!));
  const probed = execFileSync('ffprobe', [
    '-v',
    'error',
    '-show_entries',
    'stream=width,height',
    '-of',
    'csv=p=0',
    frames[0]!,
  ]);
  expect(String(probed).trim()).toBe('240,135');
});

test('a film is laid on the light of a finish, plays on the frames of a take, and a broken one changes nothing', async () => {
  const film = join(server.folder, 'sign.mp4');
  // Red for twelve frames, blue for twelve.
  const halves = ['red', 'blue'].flatMap((color) => ['-f', 'lavfi', '-i', `color=${color}:s=64x64:r=24:d=0.5`]);
  const joined = ['-filter_complex', 'concat=n=2:v=1', '-c:v', 'libx264', '-pix_fmt', 'yuv420p'];
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...halves, ...joined, film]);
  const broken = join(server.folder, 'broken.mp4');
  writeFileSync(broken, Buffer.alloc(4000, 9));
  await desk('Model');
  await page.getByRole('treeitem', { name: /Hall/ }).last().click();
  await desk('Finish');
  await shelf().getByLabel('Find a finish').fill('Piano black');
  await shelf().getByRole('button', { name: 'Piano black', exact: true }).click();
  const maps = page.locator('zr-finish-maps');
  await choose(maps.getByRole('combobox', { name: 'Drives' }), 'Emission');
  const before = await stored();
  await maps.locator('input[type=file]').setInputFiles(broken);
  await expect(page.getByText(/"broken.mp4" cannot be read as a film/)).toBeVisible();
  expect((await stored()).assets).toEqual(before.assets);
  await maps.locator('input[type=file]').setInputFiles(film);
  await expect(page.getByText(/^sign: 24 frames, 1 s/)).toBeVisible({ timeout: 60_000 });
  await expect(maps.getByRole('heading', { name: 'Emission, by maps' })).toBeVisible();
  await desk('Render');
  await choose(page.getByRole('combobox', { name: 'Rendered in' }), 'The colourway that is shown');
  const known = new Set((await takes()).map(({ id }) => id));
  const last = page.getByRole('textbox', { name: 'Last frame', exact: true });
  await last.fill('23');
  await last.press('Enter');
  await page.getByRole('button', { name: 'Test frames' }).click();
  const fresh = async () => (await takes()).filter(({ id, state }) => !known.has(id) && state === 'done');
  await expect.poll(async () => (await fresh()).length, { timeout: 120_000 }).toBe(3);
  const colors = new Map<number, number[]>();
  for (const { id, first } of await fresh()) colors.set(first, await colorOf(await frameOf(id, first)));
  expect([...colors.keys()].sort((a, b) => a - b)).toEqual([1, 12, 23]);
  for (const [frame, [red, , blue]] of colors) {
    if (frame <= 12) expect(red!).toBeGreaterThan(2 * blue!);
    else expect(blue!).toBeGreaterThan(2 * red!);
  }
});

test('a finish leaves as MaterialX and comes back, takes the place of another everywhere, and a broken file changes nothing', async () => {
  await desk('Finish');
  const tile = (name: string) => shelf().locator('.own').first().getByRole('button', { name, exact: true });
  await tile('Piano black').first().click({ button: 'right' });
  const saved = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Save as MaterialX' }).click();
  const zip = join(server.folder, 'black.zip');
  await (await saved).saveAs(zip);
  expect((await saved).suggestedFilename()).toBe('Piano black.zip');
  const text = execFileSync('python3', ['-c', 'import sys,zipfile,xml.etree.ElementTree as e; z=zipfile.ZipFile(sys.argv[1]); r=e.fromstring(z.read([n for n in z.namelist() if n.endswith(".mtlx")][0])); print(r.tag, r.get("version"), [c.tag for c in r][-1])', zip]); // prettier-ignore
  expect(String(text).trim()).toBe('materialx 1.39 surfacematerial');
  const bring = page.locator('input[aria-label="Finishes"]');
  await bring.setInputFiles(zip);
  await expect(tile('Piano black 2')).toBeVisible();
  await expect.poll(async () => Object.values((await stored()).finishes).map(({ name }) => name)).toContain('Piano black 2'); // prettier-ignore
  const torn = join(server.folder, 'torn.mtlx');
  writeFileSync(torn, '<materialx version="1.39"><open_pbr');
  const before = await stored();
  await bring.setInputFiles(torn);
  await expect(page.getByText(/"torn.mtlx" cannot be read as MaterialX/)).toBeVisible();
  expect((await stored()).finishes).toEqual(before.finishes);
  const wearing = async () => {
    const { nodes, colourways, finishes } = await stored();
    const worn = [...Object.values(nodes).map(({ finish }) => finish), ...Object.values(colourways).flatMap(({ wears }) => Object.values(wears))]; // prettier-ignore
    return worn.flatMap((id) => (id ? [finishes[id]!.name] : []));
  };
  await tile('Piano black').first().click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Put another in its place…' }).click();
  await expect(shelf().getByRole('status')).toContainText('shall take the place of "Piano black"');
  await tile('Piano black 2').click();
  await expect.poll(wearing).toContain('Piano black 2');
  expect(await wearing()).not.toContain('Piano black');
  await page.keyboard.press('Control+z');
  await expect.poll(wearing).toContain('Piano black');
});
