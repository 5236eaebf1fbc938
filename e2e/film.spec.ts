import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { choose } from './support/choose';
import { execFileSync } from 'node:child_process';
import { unzipSync } from 'fflate';
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import type { ProjectDocument } from '@zippy/core/document';
import { TestServer } from './support/server';
import { makeFile } from './support/makeFile';

/** From a file dropped on the page to a film another program accepts. */
const server = new TestServer();
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  page.on('dialog', (dialog) => void dialog.accept());
});
test.afterAll(() => server.close());

/** Two boxes as OBJ with an MTL: quick to read, with two colours. */
function writeBoxes(folder: string): string[] {
  const box = (name: string, x: number, size: number, material: string, first: number) => {
    const corners = [0, 1, 2, 3, 4, 5, 6, 7].map(
      (k) => `v ${x + (k & 1 ? size : 0)} ${k & 2 ? size : 0} ${k & 4 ? size : 0}`,
    );
    const faces = [
      [1, 3, 4, 2],
      [5, 6, 8, 7],
      [1, 2, 6, 5],
      [3, 7, 8, 4],
      [1, 5, 7, 3],
      [2, 4, 8, 6],
    ];
    return [
      `o ${name}`,
      ...corners,
      `usemtl ${material}`,
      ...faces.map((face) => `f ${face.map((v) => v + first).join(' ')}`),
    ].join('\n');
  };
  const obj = join(folder, 'boxes.obj');
  const mtl = join(folder, 'boxes.mtl');
  writeFileSync(obj, `mtllib boxes.mtl\n${box('Crate', -60, 50, 'red', 0)}\n${box('Lid', 10, 40, 'blue', 8)}\n`);
  writeFileSync(mtl, 'newmtl red\nKd 0.8 0.1 0.05\nnewmtl blue\nKd 0.1 0.2 0.8\n');
  return [obj, mtl];
}

const field = (label: string) => page.getByRole('textbox', { name: label, exact: true }).first();
const setNumber = async (label: string, value: string) => {
  await field(label).fill(value);
  await field(label).press('Enter');
};
const desk = (name: string) =>
  page
    .locator('zr-rail')
    .getByRole('button', { name: new RegExp(name) })
    .click();
const answer = async <T>(path: string): Promise<T> => (await (await fetch(server.address + path)).json()) as T;
const projectId = () => new URL(page.url()).pathname.split('/').at(-1)!;
const takeId = async () => (await answer<{ id: string }[]>(`/api/projects/${projectId()}/takes`)).at(-1)!.id;
const lookOfTheTake = async () => {
  const { document } = await answer<{ document: ProjectDocument }>(`/api/projects/${projectId()}`);
  return document.takeLooks[await takeId()] ?? document.look;
};
const frames = () =>
  readdirSync(join(server.folder, 'frames'), { recursive: true })
    .map(String)
    .filter((name) => name.endsWith('.exr'));

test('an empty project teaches its first step', async () => {
  await page.goto(server.address);
  await expect(page.getByText('No parts yet.')).toBeVisible();
});

test('a broken file is refused with a sentence and nothing is lost', async () => {
  const file = join(server.folder, 'broken.step');
  writeFileSync(file, 'not a step file at all');
  await page.locator('input[type=file]').first().setInputFiles(file);
  await expect(page.getByRole('alert')).toContainText('does not begin like one');
  await page.getByLabel('Close message').click();
});

test('a model is summed up, corrected, taken in, and stands in the tree', async () => {
  await page.locator('input[type=file]').first().setInputFiles(writeBoxes(server.folder));
  const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
  const sides = ['Width', 'Height', 'Depth'].map((side) => dialog.getByLabel(`${side} in mm`));
  const measure = () => Promise.all(sides.map((side) => side.inputValue()));
  expect(await measure()).toEqual(['110', '50', '50']);
  await choose(dialog.getByLabel('Unit'), 'cm');
  await expect.poll(measure).toEqual(['1100', '500', '500']);
  await choose(dialog.getByLabel('Unit'), 'mm');
  await dialog.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('treeitem', { name: /Crate/ })).toBeVisible();
  await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
});

test('parts are found by clicking the picture, hidden, isolated and renamed', async () => {
  await page.getByRole('treeitem', { name: /Lid/ }).click();
  await page.keyboard.press('f');
  await page.waitForTimeout(1500);
  await page.keyboard.press('Escape');
  const canvas = (await page.getByLabel('Picture of the scene').boundingBox())!;
  await expect(async () => {
    await page.mouse.click(canvas.x + canvas.width / 2, canvas.y + canvas.height / 2);
    await expect(page.getByRole('treeitem', { name: /Lid/ })).toHaveAttribute('aria-selected', 'true', {
      timeout: 1500,
    });
  }).toPass();
  await page.getByRole('treeitem', { name: /Lid/ }).getByLabel('Hide').click();
  await expect(page.getByRole('treeitem', { name: /Lid/ }).getByLabel('Show', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('treeitem', { name: /Lid/ }).getByLabel('Hide')).toBeVisible();
  await page.getByLabel('Name').fill('Cover');
  await page.getByLabel('Name').press('Enter');
  await expect(page.getByRole('treeitem', { name: /Cover/ })).toBeVisible();
});

test('a finish dragged from the shelf is worn by the part under the pointer', async () => {
  await page.keyboard.press('f');
  await page.waitForTimeout(1500);
  await desk('Finish');
  await page
    .locator('zr-finish-desk')
    .getByRole('button', { name: 'Gold', exact: true })
    .dragTo(page.getByLabel('Picture of the scene'));
  await expect(page.getByText('Cover wears Gold')).toBeVisible();
  await setNumber('Roughness', '0.4');
  await expect(field('Roughness')).toHaveValue('0.4');
});

let bulb = '';

test('lights are added and switched', async () => {
  await desk('Lights');
  await page.getByRole('button', { name: 'Bulb', exact: true }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue(/ bulb$/);
  bulb = await page.getByLabel('Name', { exact: true }).inputValue();
  await setNumber('Power', '200/2');
  await expect(page.locator('zr-lights-desk').getByLabel(`Power of ${bulb}`)).toHaveValue('100');
});

test('the view becomes a camera, and a click sets what is sharp', async () => {
  await desk('Camera');
  await page.getByRole('treeitem', { name: /Cover/ }).waitFor({ state: 'hidden' });
  await page.locator('zr-camera-desk').getByRole('button', { name: 'Keep view as camera' }).click();
  await setNumber('f-stop', '4');
  await page.getByRole('button', { name: 'Click what shall be sharp' }).click();
  const canvas = (await page.getByLabel('Picture of the scene').boundingBox())!;
  await page.mouse.click(canvas.x + canvas.width / 2, canvas.y + canvas.height / 2);
  await expect(page.getByText(/Sharp at \d+ mm/)).toBeVisible();
  const seen = () => page.getByLabel('Picture of the scene').screenshot();
  // What is said lies over the picture for a while.
  await expect(page.getByText(/Sharp at \d+ mm/)).toBeHidden();
  await page.mouse.move(5, 5);
  // Drawn as finely as it can be once nothing has moved for a while.
  const still = async () => {
    const before = await seen();
    await page.waitForTimeout(1200);
    return (await seen()).equals(before);
  };
  await expect.poll(still).toBe(true);
  const plain = await seen();
  await page.getByRole('button', { name: 'Show what is sharp' }).click();
  await expect.poll(async () => !(await seen()).equals(plain)).toBe(true);
  await page.getByRole('button', { name: 'Show what is sharp' }).click();
  await expect.poll(async () => (await seen()).equals(plain)).toBe(true);
  await page.getByRole('button', { name: 'Click what shall stay sharp' }).click();
  await page.mouse.click(canvas.x + canvas.width / 2, canvas.y + canvas.height / 2);
  await expect(page.getByText(/Stays sharp on/)).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'Follows' })).not.toHaveText('Nothing');
  await choose(page.getByRole('combobox', { name: 'Follows' }), 'Nothing');
});

test('a shot is put in motion: turntable, keys, blink', async () => {
  await page.locator('zr-strip .shot').first().click();
  await setNumber('Length', '8');
  await desk('Model');
  await page.getByRole('treeitem', { name: /boxes/ }).click();
  await desk('Motion');
  await page.getByRole('button', { name: 'Turntable' }).click();
  await expect(page.locator('zr-strip')).toContainText('1 turn');
  await page.locator('zr-strip .ruler').click({ position: { x: 190, y: 10 } });
  await desk('Lights');
  await page.locator('zr-lights-desk zr-row', { hasText: 'Bulb' }).click();
  await page.getByLabel('Set key of Power').click();
  await expect(page.getByRole('button', { name: `Key of ${bulb} power at frame 1` })).toBeVisible();
});

test('everything survives a reload', async () => {
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.locator('zr-strip')).toContainText('1 turn');
  await expect(page.getByRole('treeitem', { name: /Cover/ })).toBeVisible();
});

test('a take is rendered; the killed server goes on where it was', async () => {
  await desk('Render');
  await choose(page.locator('zr-render-desk').getByLabel('Size', { exact: true }), 'Full');
  await setNumber('Width', '96');
  await setNumber('Height', '54');
  await setNumber('Samples', '400');
  await page.getByRole('button', { name: 'Render take' }).click();
  await expect.poll(() => frames().length, { timeout: 60_000 }).toBeGreaterThan(0);
  const { port } = server;
  await server.kill();
  const early = new Map(frames().map((name) => [name, statSync(join(server.folder, 'frames', name)).mtimeMs]));
  expect(early.size).toBeLessThan(8);
  await expect(page.getByText(/server lost/)).toBeVisible();
  await server.start(port);
  await expect(page.getByText(/done · 8 of 8 frames/)).toBeVisible({ timeout: 300_000 });
  expect(frames()).toHaveLength(8);
  for (const [name, time] of early) expect(statSync(join(server.folder, 'frames', name)).mtimeMs).toBe(time);
});

test('the look of a finished take changes without tracing', async () => {
  const picture = page.locator('zr-take-picture canvas');
  await expect(picture).toHaveAttribute('data-source', /frames/);
  const before = await picture.getAttribute('data-source');
  await setNumber('Exposure', '1.5');
  await expect(picture).not.toHaveAttribute('data-source', before!);
  // A lamp is put out on the finished frames, and comes back.
  const brightness = async () => {
    const answer = await fetch(new URL((await picture.getAttribute('data-source'))!, server.address));
    const { channels } = await sharp(Buffer.from(await answer.arrayBuffer())).stats();
    return channels[0]!.mean + channels[1]!.mean + channels[2]!.mean;
  };
  const lit = await brightness();
  await setNumber(`Power of ${bulb}`, '0');
  await expect.poll(brightness).toBeLessThan(lit - 1);
  await page.getByRole('button', { name: 'As rendered' }).click();
  await expect.poll(brightness).toBe(lit);
  // A look-up table that turns everything white.
  const table = join(server.folder, 'White out.cube');
  writeFileSync(table, 'LUT_1D_SIZE 2\n1 1 1\n1 1 1\n');
  await page.locator('zr-render-desk input[accept=".cube"]').setInputFiles(table);
  await expect.poll(brightness).toBeGreaterThan(760);
  await choose(page.locator('zr-card').getByLabel('Look-up table', { exact: true }), 'None');
  await expect.poll(brightness).toBe(lit);
  const cleaned = await picture.getAttribute('data-source');
  await page.getByRole('button', { name: 'Before cleaning' }).click();
  await expect(picture).not.toHaveAttribute('data-source', cleaned!);
  await page.getByRole('button', { name: 'Before cleaning' }).click();
  await expect(picture).toHaveAttribute('data-source', cleaned!);
  expect(frames()).toHaveLength(8);
});

test('playing a take shows its frames one after another, and at rest the right one at once', async () => {
  const picture = page.locator('zr-take-picture canvas');
  await page.locator('zr-strip').getByRole('button', { name: /^Play/ }).click();
  const seen = new Set<string | null>();
  await expect
    .poll(async () => seen.add(await picture.getAttribute('data-frame')).size, { intervals: [15], timeout: 60_000 })
    .toBeGreaterThanOrEqual(6);
  await page
    .locator('zr-strip')
    .getByRole('button', { name: /^(Pause|Stop)/ })
    .click();
  await page.keyboard.press('Home');
  await expect(picture).toHaveAttribute('data-frame', '1', { timeout: 5000 });
});

test('the reel is delivered as MP4, GIF and PNG frames that other programs accept', async () => {
  await page.getByRole('button', { name: 'Put on the reel' }).click();
  await setNumber('Times', '4');
  await expect(page.locator('zr-reel-desk')).toContainText('32 frames');
  for (const kind of ['MP4 (H.264)', 'GIF', 'PNG frames']) await makeFile(page, kind);
  const film = readdirSync(join(server.folder, 'films')).find((name) => name.endsWith('.mp4'))!;
  const path = join(server.folder, 'films', film);
  const probe = JSON.parse(
    execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', path], {
      encoding: 'utf8',
    }),
  ) as { streams: Record<string, string>[] };
  expect(probe.streams[0]).toMatchObject({
    codec_name: 'h264',
    width: 96,
    height: 54,
    r_frame_rate: '24/1',
    nb_read_frames: '32',
    color_space: 'bt709',
    color_primaries: 'bt709',
  });
  // Not black, and moving: mean brightness of the frames, and how much neighbours differ.
  const grey = execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], {
    maxBuffer: 1e8,
  });
  const size = 96 * 54;
  const mean = (at: number) => grey.subarray(at * size, (at + 1) * size).reduce((sum, v) => sum + v, 0) / size;
  for (let k = 0; k < 32; k++) expect(mean(k)).toBeGreaterThan(20);
  let moved = 0;
  for (let p = 0; p < size; p++) moved += Math.abs(grey[p]! - grey[2 * size + p]!);
  expect(moved / size).toBeGreaterThan(1);
  // The film's first frame is the take's: the same picture, the same way up.
  const look = encodeURIComponent(JSON.stringify(await lookOfTheTake()));
  const still = await fetch(`${server.address}/api/takes/${await takeId()}/frames/1.png?look=${look}`);
  const picture = await sharp(Buffer.from(await still.arrayBuffer()))
    .greyscale()
    .raw()
    .toBuffer();
  let apart = 0;
  for (let p = 0; p < size; p++) apart += Math.abs(grey[p]! - picture[p]!);
  expect(apart / size).toBeLessThan(12);
  let upsideDown = 0;
  for (let p = 0; p < size; p++) upsideDown += Math.abs(grey[p]! - picture[(53 - Math.floor(p / 96)) * 96 + (p % 96)]!);
  expect(upsideDown).toBeGreaterThan(apart * 1.5);
  // The PNG frames carry alpha and are numbered through.
  const finished = (extension: string) =>
    readdirSync(join(server.folder, 'films')).find((name) => name.endsWith(extension) && !name.includes('.part'));
  await expect.poll(() => finished('.zip')).toBeDefined();
  const zip = finished('.zip')!;
  const packed = unzipSync(new Uint8Array(readFileSync(join(server.folder, 'films', zip))));
  expect(Object.keys(packed).sort()).toHaveLength(32);
  expect(await sharp(packed['frame-0001.png']!).metadata()).toMatchObject({ width: 96, height: 54, channels: 4 });
  // The loop is seamless: frame 9 is frame 1 again.
  let same = 0;
  for (let p = 0; p < size; p++) same += Math.abs(grey[p]! - grey[8 * size + p]!);
  expect(same / size).toBeLessThan(2);
  await page.locator('zr-reel-desk').getByRole('button', { name: 'Watch' }).last().click();
  await expect(page.locator('zr-picture video')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).first().click();
  expect((await download).suggestedFilename()).toMatch(/\.(mp4|gif|zip)$/);
});

test('two windows: the second to save is told and can merge', async ({ browser }) => {
  const other = await browser.newPage();
  await other.goto(page.url());
  await expect(other.locator('zr-strip')).toContainText('1 turn');
  await desk('Set');
  await setNumber('Size', '5000');
  // The other window edits before it has heard of it.
  await other.route('**/api/projects/*', (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  );
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await other
    .locator('zr-rail')
    .getByRole('button', { name: /Lights/ })
    .click();
  await other.getByLabel(/Switch off Key panel/).click();
  const dialog = other.getByRole('alertdialog');
  await expect(dialog).toBeVisible();
  await dialog.getByRole('button', { name: 'Merge' }).click();
  await expect(other.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await desk('Set');
  await expect(field('Size')).toHaveValue('5000');
  await desk('Lights');
  await expect(page.getByLabel(/Switch on Key panel/)).toBeVisible();
  await other.close();
});

test('several models come in one after another, and one that is left out leaves nothing', async () => {
  await desk('Model');
  const [obj] = writeBoxes(server.folder);
  const second = join(server.folder, 'second.obj');
  writeFileSync(second, 'o Plate\nv 0 0 0\nv 100 0 0\nv 0 100 0\nf 1 2 3\n');
  await page.locator('input[type=file]').first().setInputFiles([obj!, second]);
  const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
  await expect(dialog.getByRole('heading', { name: 'boxes.obj' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Leave out' }).click();
  await expect(dialog.getByRole('heading', { name: 'second.obj' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('treeitem', { name: /Plate/ })).toBeVisible();
  await expect(page.getByRole('treeitem', { name: /Crate/ })).toHaveCount(1);
});
