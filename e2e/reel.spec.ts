import { expect, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import sharp from 'sharp';
import type { ProjectDocument } from '@zippy/core/document';
import { choose } from './support/choose';
import { crateIn } from './support/crate';
import { makeFile } from './support/makeFile';
import { TestServer } from './support/server';
import { test } from './support/test';

/** The Reel desk: clips from outside and takes put together with titles and sound, played, and made into files. */
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
  await page.locator('zr-rail').getByRole('button', { name: /Reel/ }).click();
});
test.afterAll(() => server.close());

const desk = () => page.locator('zr-reel-desk');
const card = () => page.locator('zr-card');
const strip = () => page.locator('zr-reel-strip');
const picture = () => page.locator('zr-reel-picture canvas');
const project = () => new URL(page.url()).pathname.split('/').at(-1)!;
const reel = async (): Promise<ProjectDocument['reel']> => {
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const answer = await fetch(`${server.address}/api/projects/${project()}`);
  return ((await answer.json()) as { document: ProjectDocument }).document.reel;
};
const clips = async () => Object.values((await reel()).clips).sort((a, b) => a.order - b.order);
const set = async (label: string, value: string) => {
  const field = card().getByRole('textbox', { name: label, exact: true }).first();
  await field.fill(value);
  await field.press('Enter');
};
const bring = (label: string, files: string | string[]) =>
  desk().locator(`input[type=file][aria-label="${label}"]`).setInputFiles(files);
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);
const newest = (ending: string): string => {
  const folder = join(server.folder, 'films');
  const files = readdirSync(folder).filter((name) => name.endsWith(ending));
  return files.map((name) => join(folder, name)).sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs)[0]!;
};
/** Mean colour of a frame of a film, from 0. */
const colorOf = (film: string, frame: number): number[] => {
  const select = ['-vf', `select=eq(n\\,${frame}),scale=1:1:flags=area`, '-frames:v', '1'];
  return [...execFileSync('ffmpeg', ['-v', 'error', '-i', film, ...select, '-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1'])]; // prettier-ignore
};

test('a film, numbered pictures and a picture become clips; the rate of pictures is asked for and kept', async () => {
  await expect(desk()).toContainText('Nothing is rendered yet');
  const red = join(server.folder, 'red.mp4');
  ffmpeg('-f', 'lavfi', '-i', 'color=c=red:s=160x90:r=30:d=1', '-pix_fmt', 'yuv420p', red);
  await bring('Clips for the reel', red);
  await expect(strip().getByRole('button', { name: /Clip 1, red, 24 frames/ })).toBeVisible({ timeout: 30_000 });
  const folder = join(server.folder, 'row');
  mkdirSync(folder);
  for (let k = 1; k <= 12; k++) {
    const background = { r: 0, g: 20 * k, b: 0 };
    await sharp({ create: { width: 160, height: 90, channels: 3, background } }).png().toFile(join(folder, `green-${String(k).padStart(3, '0')}.png`)); // prettier-ignore
  }
  await bring('Clips for the reel', readdirSync(folder).map((name) => join(folder, name))); // prettier-ignore
  const dialog = page.getByRole('alertdialog');
  await expect(dialog).toContainText('12 pictures that follow each other');
  await dialog.getByRole('textbox').fill('12');
  await dialog.getByRole('textbox').press('Enter');
  await expect(strip().getByRole('button', { name: /Clip 2, green.*24 frames/ })).toBeVisible({ timeout: 30_000 });
  await expect(desk()).toContainText('30 and 12 frames a second keep their time in a film of 24');
  // One step for each: the pictures, and the clip of them.
  await page.keyboard.press('Control+z');
  await expect(strip().locator('zr-clip-block')).toHaveCount(1);
  await page.keyboard.press('Control+Shift+z');
  await expect(strip().locator('zr-clip-block')).toHaveCount(2);
  await expect(picture()).not.toHaveAttribute('data-frame', '0', { timeout: 20_000 });
});

test('clips are cut by hand, change places, and give way to each other', async () => {
  const first = strip().locator('zr-clip-block').first();
  const box = (await first.boundingBox())!;
  await page.mouse.move(box.x + box.width - 3, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.7, box.y + 30, { steps: 4 });
  await page.mouse.move(box.x + box.width / 2, box.y + 30, { steps: 4 });
  await page.mouse.up();
  const [cut] = await clips();
  expect(Math.abs(cut!.to - 15)).toBeLessThanOrEqual(1);
  await set('To frame', '15');
  const second = strip().locator('zr-clip-block').nth(1);
  await second.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(strip().locator('zr-clip-block').first()).toHaveAttribute('aria-label', /green/);
  await page.keyboard.press('Control+z');
  await expect(strip().locator('zr-clip-block').first()).toHaveAttribute('aria-label', /red/);
  await strip().locator('zr-clip-block').nth(1).click();
  await choose(card().getByLabel('Change', { exact: true }), 'Cross-fade');
  await set('Over', '6');
  await expect(desk().getByRole('heading', { name: /Reel/ })).toContainText('30 frames · 1.3 s');
});

test('words, a drawing and a sound lie over and under it, and it plays', async () => {
  await page.keyboard.press('Home');
  await desk().getByRole('button', { name: 'Title' }).click();
  await card().getByRole('textbox', { name: 'Words' }).fill('Grün\nשלום');
  await set('Size', '30');
  await set('Down', '50');
  await choose(card().getByLabel('Comes', { exact: true }), 'At once');
  await expect(page.locator('zr-reel-picture svg path')).toHaveCount(8, { timeout: 20_000 });
  // Held in the picture it goes along.
  const letters = page.locator('zr-reel-picture g[data-title] path').first();
  const at = (await letters.boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2 + 60, at.y + at.height / 2, { steps: 3 });
  await page.mouse.up();
  const [title] = Object.values((await reel()).titles);
  expect([title!.x > 0.55, Math.abs(title!.y - 0.5) < 0.02]).toEqual([true, true]);
  const logo = join(server.folder, 'logo.svg');
  writeFileSync(logo, '<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20"><rect width="20" height="20" fill="#00f"/></svg>'); // prettier-ignore
  await bring('Picture over the film', logo);
  await expect(page.locator('zr-reel-picture svg image')).toHaveCount(1, { timeout: 20_000 });
  await choose(card().getByLabel('Comes', { exact: true }), 'At once');
  const beep = join(server.folder, 'beep.wav');
  ffmpeg('-f', 'lavfi', '-i', 'sine=f=500:d=4', beep);
  await bring('Sound under the film', beep);
  await expect(strip().locator('zr-sound-wave path')).toHaveAttribute('d', /^M/, { timeout: 20_000 });
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  const seen = new Set<string | null>();
  await expect.poll(async () => seen.add(await picture().getAttribute('data-frame')).size, { intervals: [15], timeout: 30_000 }).toBeGreaterThan(8); // prettier-ignore
  await page.keyboard.press('Space');
});

test('what was put together is there after a reload, and leaves as a film with all of it', async () => {
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await page.locator('zr-rail').getByRole('button', { name: /Reel/ }).click();
  await expect(strip().locator('.block')).toHaveCount(3);
  await choose(desk().getByLabel('Size of the file’s picture'.replace('’', "'")), '480 × 270');
  await makeFile(page, 'MP4 (H.264)');
  const film = newest('.mp4');
  const { streams } = JSON.parse(
    String(execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', film])),
  ) as { streams: Record<string, string>[] };
  expect(streams.map((stream) => stream['codec_name'])).toEqual(['h264', 'aac']);
  expect(streams[0]).toMatchObject({ width: 480, height: 270, nb_read_frames: '30', r_frame_rate: '24/1' });
  expect(Math.abs(Number(streams[1]!['duration']) - 30 / 24)).toBeLessThan(0.1);
  // Red, then both, then green alone; the blue drawing at the right above until its time is over.
  const [begin, middle, end] = [colorOf(film, 1), colorOf(film, 8), colorOf(film, 29)];
  expect(begin[0]).toBeGreaterThan(180);
  expect(middle[0]! > 80 && middle[0]! < begin[0]! - 30).toBe(true);
  expect(end[0]! < 60 && end[1]! > 120).toBe(true);
  // It becomes a clip itself.
  await desk().getByRole('button', { name: 'Put the film on the reel' }).click();
  await expect(strip().locator('zr-clip-block')).toHaveCount(3, { timeout: 30_000 });
  await expect(strip().locator('zr-clip-block').last()).toHaveAttribute('aria-label', /30 frames/);
  await page.keyboard.press('Delete');
  await expect(strip().locator('zr-clip-block')).toHaveCount(2);
});

test('a spin viewer turns by hand and by keys with the network off', async ({ browser }) => {
  await choose(desk().getByLabel('Size of the file’s picture'.replace('’', "'")), 'That of the film');
  await makeFile(page, 'Spin viewer');
  const path = newest('.html');
  expect(readFileSync(path, 'utf8')).not.toMatch(/https?:\/\//);
  const context = await browser.newContext({ offline: true, reducedMotion: 'reduce' });
  const viewer = await context.newPage();
  const failures: string[] = [];
  viewer.on('pageerror', ({ message }) => failures.push(message));
  await viewer.goto(pathToFileURL(path).href);
  const canvas = viewer.locator('#spin');
  // Two clips are two rows, of 12 and 24 frames at the most.
  await expect(canvas).toHaveAttribute('data-come', /^\d\d$/);
  await expect(canvas).toHaveAttribute('data-at', '0,0');
  await canvas.focus();
  await viewer.keyboard.press('ArrowRight');
  await expect(canvas).toHaveAttribute('data-at', '0,1');
  await viewer.keyboard.press('ArrowUp');
  await expect(canvas).toHaveAttribute('data-at', /^1,/);
  const box = (await canvas.boundingBox())!;
  await viewer.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await viewer.mouse.down();
  await viewer.mouse.move(box.x + box.width / 4, box.y + box.height / 2, { steps: 5 });
  await viewer.mouse.up();
  await expect(canvas).not.toHaveAttribute('data-at', /^1,[012]$/);
  expect(failures).toEqual([]);
  await context.close();
});

test('the cut leaves as an edit list and comes back; a broken one is refused and changes nothing', async () => {
  const before = await clips();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    desk().getByRole('button', { name: 'Save edit list' }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/\.otio$/);
  const list = join(server.folder, 'cut.otio');
  await download.saveAs(list);
  // Read by another program: the frames of its clips add up to the film.
  const sum = execFileSync('python3', ['-c', 'import json,sys; t=json.load(open(sys.argv[1])); print(t["OTIO_SCHEMA"], sum(int(c["source_range"]["duration"]["value"]) for c in t["tracks"]["children"][0]["children"] if c["OTIO_SCHEMA"].startswith("Clip")))', list]); // prettier-ignore
  expect(String(sum).trim()).toBe('Timeline.1 30');
  const broken = join(server.folder, 'broken.otio');
  writeFileSync(broken, readFileSync(list, 'utf8').slice(0, 300));
  await bring('Edit list', broken);
  await expect(page.getByRole('alert')).toContainText('cannot be read as an edit list');
  await page.getByRole('alert').getByRole('button').click();
  expect((await clips()).map(({ id }) => id)).toEqual(before.map(({ id }) => id));
  await bring('Edit list', list);
  await page.getByRole('alertdialog').getByRole('button', { name: 'Take over' }).click();
  await expect(strip().locator('zr-clip-block')).toHaveCount(2);
  const after = await clips();
  expect(after.map(({ from, to, change }) => [from, to, change])).toEqual(before.map(({ from, to, change }) => [from, to, change])); // prettier-ignore
  expect(after[0]!.id).not.toBe(before[0]!.id);
});

test('a clip of a shot follows its newest take', async () => {
  await page.locator('zr-rail').getByRole('button', { name: /Model/ }).click();
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles(crateIn(server.folder, 'Crate', 200));
  await page.getByRole('dialog', { name: 'Bring in a model' }).getByRole('button', { name: 'Take it in' }).click();
  await page.getByRole('treeitem', { name: /Crate/ }).last().click();
  const { document } = (await (await fetch(`${server.address}/api/projects/${project()}`)).json()) as { document: ProjectDocument }; // prettier-ignore
  const [shot] = Object.values(document.shots);
  const render = async (samples: number) => {
    await page.locator('zr-rail').getByRole('button', { name: /Render/ }).click(); // prettier-ignore
    const field = (label: string) => page.locator('zr-render-desk').getByRole('textbox', { name: label, exact: true }).first(); // prettier-ignore
    for (const [label, value] of [['Samples', String(samples)], ['Last frame', '2']] as const) {
      await field(label).fill(value);
      await field(label).press('Enter');
    } // prettier-ignore
    await choose(page.locator('zr-render-desk').getByLabel('Size', { exact: true }), 'Quarter');
    await page.getByRole('button', { name: 'Render take' }).click();
    await expect(page.getByText(/done · 2 of 2 frames/).first()).toBeVisible({ timeout: 180_000 });
  };
  await render(1);
  await page.locator('zr-rail').getByRole('button', { name: /Reel/ }).click();
  await desk().getByRole('button', { name: 'Shot' }).click();
  await page.getByRole('menuitem', { name: new RegExp(shot!.name) }).click();
  await expect(card()).toContainText('newest take, 1');
  await expect(desk()).toContainText('fitted into');
  await choose(card().getByLabel('Take', { exact: true }), 'Take 1');
  await choose(card().getByLabel('Take', { exact: true }), 'Always the newest');
  await render(2);
  await page.locator('zr-rail').getByRole('button', { name: /Reel/ }).click();
  await strip().locator('zr-clip-block').last().click();
  await expect(card()).toContainText('newest take, 2');
  await makeFile(page, 'PNG frames');
  const names = String(execFileSync('python3', ['-c', 'import zipfile,sys; z=zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; print(len(z.namelist()))', newest('.zip')])); // prettier-ignore
  expect(names.trim()).toBe('32');
});
