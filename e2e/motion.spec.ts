import { expect, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { choose } from './support/choose';
import { TestServer } from './support/server';
import { test } from './support/test';

/** Motion as a newcomer makes it: by numbers, on what was just brought in; every click, key and typed number is counted. */
const server = new TestServer();
let page: Page;
let operations = 0;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
});
test.afterAll(() => server.close());

const press = async (key: string) => (operations++, page.keyboard.press(key));
const click = async (name: string | RegExp, within = page.locator('body')) => (operations++, within.getByRole('button', { name, exact: typeof name === 'string' }).first().click()); // prettier-ignore
const type = async (label: string, value: string) => {
  operations++;
  const field = page.getByRole('textbox', { name: label, exact: true });
  await field.fill(value);
  await field.press('Enter');
};
const pick = async (name: string, more = false) => {
  operations++;
  const row = page.locator('zr-model-desk').getByText(name, { exact: true }).first();
  await row.click(more ? { modifiers: ['Control'] } : {});
};
const option = async (label: string, value: string) => (operations++, choose(page.getByLabel(label, { exact: true }), value)); // prettier-ignore

/** Red towers of 2 : 3 : 1, each with a foot on one side so that turns are seen, off the file's origin. */
function towers(name: string, height: number, count: number): string {
  const lines = ['mtllib red.mtl', 'usemtl red'];
  let from = 1;
  const box = (x: number, y: number, z: number, w: number, h: number, d: number) => {
    for (let k = 0; k < 8; k++) lines.push(`v ${x + (k & 1) * w} ${y + ((k >> 1) & 1) * h} ${z + ((k >> 2) & 1) * d}`);
    for (const face of ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'])
      lines.push(
        `f ${face
          .split(' ')
          .map((v) => Number(v) + from - 1)
          .join(' ')}`,
      );
    from += 8;
  };
  for (let k = 0; k < count; k++) {
    lines.push(`o Tower ${k + 1}`);
    box(height * (3 + 1.2 * k), 0, height * 2, (height * 2) / 3, height, height / 10);
    box(height * (3 + 1.2 * k), 0, height * 2.1, height / 5, height / 5, height / 10);
  }
  const path = join(server.folder, name);
  writeFileSync(path, lines.join('\n'));
  writeFileSync(join(server.folder, 'red.mtl'), 'newmtl red\nKd 0.8 0.05 0.03\n');
  return path;
}

async function bringIn(file: string): Promise<void> {
  const answer = await fetch(`${server.address}/api/projects`, {
    method: 'POST',
    body: JSON.stringify({ name: 'Motion' }),
    headers: { 'Content-Type': 'application/json' },
  });
  const { id } = (await answer.json()) as { id: string };
  await page.goto(`${server.address}/p/${id}`);
  operations = 1;
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles([file, join(server.folder, 'red.mtl')]);
  const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
  await click('Take it in', dialog);
  await expect(dialog).toBeHidden();
  await page.waitForSelector('canvas[data-models="1"]');
}

/** Part of the picture that is red. */
async function redIn(frame?: Buffer): Promise<number> {
  const shot = frame ?? (await page.locator('zr-picture .area').screenshot());
  const { data, info } = await sharp(shot).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  let red = 0;
  for (let at = 0; at < data.length; at += info.channels)
    if (data[at]! > 50 && data[at]! > 1.8 * data[at + 1]! && data[at]! > 1.8 * data[at + 2]!) red++;
  return red / (info.width * info.height);
}
const goTo = async (frame: number) => {
  await page.keyboard.press('Home');
  for (let k = 1; k < frame; k++) await page.keyboard.press('.');
};

test('a turntable of what was brought in: a few operations, about its own middle, never out of the picture', async () => {
  await bringIn(towers('one.obj', 200, 1));
  await press('6');
  await click('Turntable');
  await type('Turns', '2');
  await type('Length', '48');
  console.log(`operations of a turntable from a file: ${operations}`);
  expect(operations).toBeLessThanOrEqual(10);
  await page.getByRole('button', { name: 'Through the camera' }).click();
  const seen: number[] = [];
  for (const frame of [1, 7, 13]) {
    await goTo(frame);
    await page.waitForTimeout(300);
    seen.push(await redIn());
  }
  // A quarter of a turn shows its narrow side, half a turn its whole breadth again.
  expect(seen[1]!).toBeLessThan(seen[0]! * 0.8);
  expect(Math.abs(seen[2]! / seen[0]! - 1)).toBeLessThan(0.25);
  expect(Math.min(...seen)).toBeGreaterThan(0.002);
  // Unfolded it does the same; undone it is a move again.
  await click('Unfold into keys');
  await expect(page.locator('zr-lane .key').first()).toBeVisible();
  await goTo(7);
  await page.waitForTimeout(300);
  expect(Math.abs((await redIn()) - seen[1]!)).toBeLessThan(0.1 * seen[1]!);
  await page.keyboard.press('Control+z');
  await expect(page.locator('zr-lane .move')).toHaveCount(1);
});

test('a row of products that pass each other, a camera that comes closer, lamps that follow and switch at exact frames', async () => {
  await bringIn(towers('three.obj', 200, 3));
  await page.getByRole('button', { name: 'Through the camera' }).click();
  await press('6');
  // Each crosses from one side to the other, one after the other.
  await press('1');
  await pick('Tower 1');
  await pick('Tower 2', true);
  await pick('Tower 3', true);
  await press('6');
  await click('Cross');
  await type('Frames from one to the next', '10');
  await type('Length', '60');
  // The camera comes closer over the whole shot.
  await press('Escape');
  await click('Push in');
  // Two lamps follow the first and the last, and are switched at exact frames.
  for (const [tower, frames] of [
    ['Tower 1', '12, 24, 36'],
    ['Tower 3', '20, 40'],
  ] as const) {
    await press('4');
    await click('Panel');
    await press('6');
    await click('Follow');
    await option('Follows', tower);
    await click('Switch');
    await type('Frames', frames);
  }
  console.log(`operations of a row of products: ${operations}`);
  expect(operations).toBeLessThanOrEqual(38);
  const lanes = await page.locator('zr-lane').count();
  expect(lanes).toBe(3 + 1 + 2 + 2);
  const seen: number[] = [];
  for (const frame of [1, 30, 60]) {
    await goTo(frame);
    await page.waitForTimeout(300);
    seen.push(await redIn());
  }
  expect(new Set(seen.map((each) => each.toFixed(4))).size).toBe(3);
  // It is all there after a reload.
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await page.waitForSelector('canvas[data-models="1"]');
  await expect(page.locator('zr-lane')).toHaveCount(lanes);
  await goTo(30);
  await page.waitForTimeout(500);
  expect(Math.abs((await redIn()) - seen[1]!)).toBeLessThan(0.05 * seen[1]! + 1e-4);
});

test('a camera leaves as a table that another program reads, comes back with its keys, and its shot is split and made to loop', async () => {
  // The way of the camera, as the camera desk's own menu saves it.
  await press('5');
  const row = page.locator('zr-camera-desk zr-row').first();
  await row.click({ button: 'right' });
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Save its way as a table (CSV)' }).click(),
  ]);
  const table = join(server.folder, 'way.csv');
  await download.saveAs(table);
  const read = execFileSync('python3', [
    '-c',
    'import csv,sys,math\nrows=list(csv.DictReader(open(sys.argv[1])))\nprint(len(rows),min(math.hypot(*(float(r[k]) for k in ("qx","qy","qz","qw"))) for r in rows))',
    table,
  ]).toString();
  const [frames, norm] = read.trim().split(' ').map(Number);
  expect(frames).toBe(96);
  expect(norm).toBeCloseTo(1, 6);
  // It comes back as a camera of its own, which takes the shot.
  await page.getByLabel('Camera from a file').setInputFiles(table);
  await expect(page.locator('zr-camera-desk zr-row')).toHaveCount(2);
  await expect(page.locator('zr-strip')).toContainText('way');
  const lane = page.locator('zr-lane[data-lane$="/position"]').last();
  await expect(lane.locator('.key').first()).toBeVisible();
  // One that is no camera changes nothing and says why.
  const broken = join(server.folder, 'broken.csv');
  writeFileSync(broken, 'frame,x,y,z,qx,qy,qz,qw\n1,0,zero,0,0,0,0,1\n');
  await page.getByLabel('Camera from a file').setInputFiles(broken);
  await expect(page.getByRole('alert')).toContainText('Line 2 holds no number for y');
  await page.getByRole('button', { name: 'Close message' }).click();
  // Keys are picked in a box, and made fewer or twice as long together.
  const keys = await lane.locator('.key').count();
  const box = (await lane.boundingBox())!;
  await page.mouse.move(box.x + 178, box.y + 4);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 4, box.y + 24, { steps: 4 });
  await page.mouse.up();
  await expect(page.locator('zr-card')).toContainText(`${keys} keys`);
  await page.getByRole('button', { name: 'Reverse' }).click();
  await page.keyboard.press('Control+z');
  // The curve of it opens in place.
  await lane.getByRole('button', { name: /Open the curve/ }).click();
  await expect(page.locator('zr-lane-curve .curve').first()).toBeVisible();
  await page.locator('zr-lane-curve').getByRole('button', { name: 'value', exact: true }).click();
  await expect(page.locator('zr-lane-curve')).toContainText('/s');
  // A value is put in motion from its own field.
  await row.click();
  await page
    .getByRole('button', { name: /Set key of Focal length|Remove key of Focal length/ })
    .click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Breathe' }).click();
  await expect(page.locator('zr-lane', { hasText: 'focal length' })).toBeVisible();
  await page.keyboard.press('Control+z');
  // Cut in two at the playhead, and put together again.
  await goTo(40);
  await page.locator('zr-strip .shot').first().click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Split at frame 40' }).click();
  await expect(page.locator('zr-strip .shot')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(page.locator('zr-strip .shot')).toHaveCount(1);
  await press('6');
  await page.getByRole('button', { name: 'Does it loop?' }).click();
  await page.getByRole('button', { name: 'Make it loop' }).click();
  await expect(page.locator('zr-motion-desk')).not.toContainText('jumps by');
});
