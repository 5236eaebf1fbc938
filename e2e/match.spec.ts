import { expect, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import type { ProjectDocument } from '@zippy/core/document';
import { evaluateProperties } from '@zippy/core/motion';
import type { Take } from '@zippy/core/wire';
import { choose } from './support/choose';
import { crateIn } from './support/crate';
import { cornersOn, FILMED, filmedBy, filmGround, SHEET } from './support/ground';
import { TestServer } from './support/server';
import { test } from './support/test';

/** A product in a film: its camera from marks, ground that catches shadows, a hatch, and the product alone. */
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

const openDesk = (name: string) => page.locator('zr-rail').getByRole('button', { name: new RegExp(name) }).click(); // prettier-ignore
const project = () => new URL(page.url()).pathname.split('/').at(-1)!;
const stored = async (): Promise<ProjectDocument> => {
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  const answer = await fetch(`${server.address}/api/projects/${project()}`);
  return ((await answer.json()) as { document: ProjectDocument }).document;
};
const takes = async (): Promise<Take[]> => (await fetch(`${server.address}/api/projects/${project()}/takes`)).json();
const set = async (within: string, label: string, value: string) => {
  const field = page.locator(within).getByRole('textbox', { name: label, exact: true }).first();
  await field.fill(value);
  await field.press('Enter');
};
/** The shot's camera on a frame. */
const cameraOn = async (frame: number) => {
  const document = await stored();
  const shot = Object.values(document.shots)[0]!;
  return evaluateProperties(document, shot, frame).cameras[shot.camera!]!;
};
const near = (found: readonly number[], real: readonly number[], within: number) =>
  found.forEach((v, k) => expect(Math.abs(v - real[k]!)).toBeLessThan(within));

test('marks on a sheet tell the camera, which is put there in one step and taken back', async () => {
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles(crateIn(server.folder, 'Crate', 200));
  await page.getByRole('dialog', { name: 'Bring in a model' }).getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByRole('treeitem', { name: /Crate/ }).first()).toBeVisible();
  await openDesk('Camera');
  await page.getByRole('button', { name: 'Match to the plate' }).click();
  await expect(page.locator('zr-match')).toContainText('No picture fills the frame');
  await page.locator('zr-match').getByRole('button', { name: 'To the Set desk' }).click();
  await page.locator('zr-set-desk input[aria-label="Plate"]').setInputFiles(await filmGround(server.folder));
  await choose(page.locator('zr-set-desk').getByLabel('Kind', { exact: true }).first(), 'Flat floor');
  await page.locator('zr-set-desk').getByRole('switch', { name: 'Only catches' }).click();
  await expect.poll(async () => (await stored()).set.floor.catches).toBe(true);
  await expect.poll(async () => (await stored()).set.behind.kind, { timeout: 30_000 }).toBe('plate');

  await openDesk('Camera');
  if (!(await page.getByRole('button', { name: 'Mark the ground' }).isVisible())) await page.getByRole('button', { name: 'Match to the plate' }).click(); // prettier-ignore
  await page.getByRole('button', { name: 'Mark the ground' }).click();
  const marks = page.locator('zr-match-marks');
  const frame = (await marks.boundingBox())!;
  const names = ['Near left corner', 'Near right corner', 'Far right corner', 'Far left corner'];
  for (const [k, at] of cornersOn(1).entries()) {
    const mark = (await marks.getByRole('slider', { name: names[k] }).boundingBox())!;
    await page.mouse.move(mark.x + mark.width / 2, mark.y + mark.height / 2);
    await page.mouse.down();
    await page.mouse.move(frame.x + at.x * frame.width, frame.y + at.y * frame.height, { steps: 3 });
    await page.mouse.up();
  }
  await set('zr-match', 'Near edge', String(SHEET.width));
  await set('zr-match', 'Side edge', String(SHEET.depth));
  const says = page.locator('zr-match p[role=status]').first();
  await expect(says).toContainText(/^(39|40|41)\.\d mm, looks \d+(\.\d)?° down/);
  // A mark is moved by keys too, and back.
  const before = await says.textContent();
  await marks.getByRole('slider', { name: names[1] }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(says).not.toHaveText(before!);
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(says).toHaveText(before!);
  const earlier = await cameraOn(1);
  await page.getByRole('button', { name: 'Put the camera there' }).click();
  await expect.poll(async () => (await cameraOn(1)).focalLength).not.toBe(earlier.focalLength);
  near((await cameraOn(1)).position, filmedBy(1).position, 60);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await cameraOn(1)).position).toEqual(earlier.position);
});

test('the clip is followed: the camera moves as the one that filmed it, also after a reload', async () => {
  await page.locator('zr-strip .shot').first().click();
  await set('zr-card', 'Length', String(FILMED.frames));
  await page.getByRole('button', { name: 'Follow the clip' }).click();
  await expect(page.locator('zr-match')).toContainText(/Followed: \d+ points within/, { timeout: 120_000 });
  for (const frame of [1, 8, FILMED.frames]) {
    const [found, real] = [await cameraOn(frame), filmedBy(frame)];
    near(found.position, real.position, 25);
    expect(Math.abs(found.focalLength / real.focalLength - 1)).toBeLessThan(0.02);
  }
  await page.reload();
  near((await cameraOn(8)).position, filmedBy(8).position, 25);
});

test('a crate comes up through a hatch: the plate, its shade and the product alone leave one take', async () => {
  await page.getByRole('button', { name: 'Model' }).first().click();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('hatch');
  await page.getByRole('option').first().waitFor();
  await page.keyboard.press('Enter');
  for (const [label, value] of [['Width', '320'], ['Length', '240'], ['Depth', '200']] as const) await set('zr-card', label, value); // prettier-ignore
  await expect.poll(async () => Object.values((await stored()).nodes).some(({ mesh }) => mesh && 'piece' in mesh && mesh.piece.kind === 'opening')).toBe(true); // prettier-ignore
  await openDesk('Render');
  const desk = page.locator('zr-render-desk');
  await choose(desk.getByLabel('Size', { exact: true }), 'Full');
  for (const [label, value] of [['Width', '240'], ['Height', '135'], ['Samples', '24']] as const) await set('zr-render-desk', label, value); // prettier-ignore
  await page.getByText('Noise, time and layers').click();
  await desk.getByLabel('Product alone').check();
  await desk.getByRole('button', { name: /^Still of frame/ }).click();
  await expect.poll(async () => (await takes()).filter(({ state }) => state === 'done').length, { timeout: 120_000 }).toBe(1); // prettier-ignore
  const [take] = await takes();
  const look = encodeURIComponent(JSON.stringify((await stored()).look));
  const of = async (query: string) =>
    Buffer.from(await (await fetch(`${server.address}/api/takes/${take!.id}/frames/${take!.first}.${query}`)).arrayBuffer()); // prettier-ignore
  const pixels = async (query: string) => sharp(await of(query)).ensureAlpha().raw().toBuffer(); // prettier-ignore
  const [whole, alone] = [await pixels(`png?look=${look}`), await pixels(`png?look=${look}&layer=product`)];
  const at = (picture: Buffer, x: number, y: number) => [...picture.subarray((y * 240 + x) * 4, (y * 240 + x) * 4 + 4)];
  // The product in the middle, whole in both; the ground at the edge is in the one alone.
  expect(at(alone, 120, 66)[3]).toBe(255);
  expect(at(whole, 120, 66)[3]).toBe(255);
  expect(at(whole, 12, 120)[3]).toBe(255);
  expect(at(alone, 12, 120)[3]).toBeLessThan(30);
  const exr = join(server.folder, 'take.exr');
  writeFileSync(exr, await of('exr'));
  const header = String(execFileSync('exrheader', [exr]));
  for (const channel of ['behind.R', 'cover.Y']) expect(header).toContain(channel);
});
