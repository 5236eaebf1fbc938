import { expect, type Page } from '@playwright/test';
import { test } from './support/test';
import { choose } from './support/choose';
import type { ProjectDocument } from '@zippy/core/document';
import { TestServer } from './support/server';

/** Set pieces, copies, turning points and what hangs on parts, in the demo project. */
const server = new TestServer({ ZIPPY_DEMO: '1' });
let page: Page;

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
const card = () => page.locator('zr-card');
const project = () => new URL(page.url()).pathname.split('/').at(-1)!;
const stored = async (): Promise<ProjectDocument> =>
  ((await (await fetch(`${server.address}/api/projects/${project()}`)).json()) as { document: ProjectDocument })
    .document;
const node = async (name: string) => Object.values((await stored()).nodes).find((each) => each.name === name);
const close = (v: readonly number[]) => v.map((each) => expect.closeTo(each, 4));

/** Waits until the view has come to rest: what is under the pointer on its way is not what a click will meet. */
async function stillView(): Promise<void> {
  const drawn = () => page.locator('canvas').first().getAttribute('data-drawn');
  await expect(async () => {
    const before = await drawn();
    await page.waitForTimeout(400);
    expect(await drawn()).toBe(before);
  }).toPass({ timeout: 30_000 });
}

/** Moves to a place of the picture in parts of it and waits for what it is taken as. */
async function point(x: number, y: number, said: RegExp): Promise<{ x: number; y: number }> {
  const box = (await page.locator('canvas').first().boundingBox())!;
  const at = { x: box.x + box.width * x, y: box.y + box.height * y };
  await expect(async () => {
    await stillView();
    await page.mouse.move(at.x - 2, at.y);
    await page.mouse.move(at.x, at.y);
    await expect(page.locator('.say', { hasText: said })).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 30_000 });
  return at;
}

test('a click picks the nearest part, and the same click again the one behind it', async () => {
  await stillView();
  const box = (await page.locator('canvas').first().boundingBox())!;
  const click = async () => {
    await page.mouse.click(box.x + box.width * 0.45, box.y + box.height * 0.55);
    return card().getByRole('textbox', { name: 'Name', exact: true }).inputValue();
  };
  const picked = [await click(), await click(), await click()];
  expect(new Set(picked).size).toBe(3);
  expect(picked).toContain('Speaker cone');
});

test('parts are lit one after another by the arrow keys, drawn apart, and found by finish and size', async () => {
  await page.keyboard.press('Escape');
  await row('Volume knob grip').click();
  await page.keyboard.press('ArrowDown');
  await expect(row('Volume knob skirt')).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('ArrowUp');
  await expect(row('Volume knob grip')).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Escape');
  const drawn = () => page.locator('canvas').first().getAttribute('data-drawn');
  const before = await drawn();
  await page.getByLabel('Drawn apart').fill('0.8');
  await expect.poll(drawn).not.toBe(before);
  await page.getByLabel('Drawn apart').fill('0');
  const search = page.getByLabel('Find a part');
  await search.fill('> 150 mm');
  await expect(row('Body')).toBeVisible();
  await expect(row(/^Foot 1/)).toHaveCount(0);
  await search.fill('satin alu');
  await expect(row(/^Tuning knob cap/)).toBeVisible();
  await expect(row('Body')).toHaveCount(0);
  await search.fill('');
  await search.blur();
  // Small pictures of the parts come from the server as they scroll into view.
  const small = row('Body').locator('img');
  await expect.poll(() => small.evaluate((img: HTMLImageElement) => img.naturalWidth), { timeout: 20_000 }).toBe(96);
});

test('a box over the picture selects all parts within it, also those behind', async () => {
  await page.keyboard.press('x');
  const box = (await page.locator('canvas').first().boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.5);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.95, box.y + box.height * 0.95, { steps: 4 });
  await page.mouse.up();
  await expect(row(/^Tuning knob cap/)).toHaveAttribute('aria-selected', 'true');
  await expect(row(/^Foot 4/)).toHaveAttribute('aria-selected', 'true');
  await expect(row('Body')).toHaveAttribute('aria-selected', 'false');
  await page.keyboard.press('Escape');
});

test('a set piece is added, sized, and copied in a ring that stays editable', async () => {
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Cylinder' }).click();
  await expect(row('Cylinder')).toHaveAttribute('aria-selected', 'true');
  await card().getByLabel('Radius').fill('40');
  await page.keyboard.press('Enter');
  await card().locator('zr-copies mat-expansion-panel-header').click();
  await choose(card().getByRole('combobox', { name: 'Copies' }), 'In a ring');
  await card().getByLabel('Count').fill('5');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await node('Cylinder'))?.copies?.count).toBe(5);
  expect((await node('Cylinder'))!.mesh).toMatchObject({ piece: { kind: 'cylinder', radius: 40 } });
  // The scene as other programs get it: five nodes that share one mesh.
  const glb = new Uint8Array(
    await (await fetch(`${server.address}/api/projects/${project()}/scene.glb`)).arrayBuffer(),
  );
  const length = new DataView(glb.buffer).getUint32(12, true);
  const gltf = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as {
    nodes: { name: string; mesh?: number }[];
  };
  const copies = gltf.nodes.filter(({ name }) => name === 'Cylinder');
  expect(copies).toHaveLength(5);
  expect(new Set(copies.map(({ mesh }) => mesh)).size).toBe(1);
});

test('copies become parts of their own, and one undo makes copies of them again', async () => {
  await card().getByRole('button', { name: 'Make parts of their own' }).click();
  await expect(row(/^Cylinder/)).toHaveCount(5);
  await page.keyboard.press('Control+z');
  await expect(row(/^Cylinder/)).toHaveCount(1);
  await expect(card().locator('zr-copies mat-expansion-panel-header')).toHaveText('Copies · 5');
});

test('a knob turns about the axis of its round face, which a turntable then takes', async () => {
  await row('Tuning knob cap').click();
  await page.locator('canvas').first().focus();
  await page.keyboard.press('f');
  await card().getByRole('button', { name: 'Round face' }).click();
  const at = await point(0.5, 0.5, /Round flat face, radius 15\.\d\d mm, within 0\.0\d\d mm/);
  await page.mouse.click(at.x, at.y);
  await expect(page.locator('.say')).toHaveCount(0);
  await expect.poll(async () => (await node('Tuning knob cap'))?.axis).toEqual(close([0, 0, 1]));
  const cap = (await node('Tuning knob cap'))!;
  expect(cap.pivot.slice(0, 2)).toEqual(close([0, 0]));
  await page.keyboard.press('6');
  await page.locator('zr-motion-desk').getByRole('button', { name: 'Turntable', exact: true }).click();
  await expect.poll(async () => Object.values((await stored()).shots).flatMap(({ moves }) => Object.values(moves)).find(({ target }) => target === `nodes/${cap.id}`)).toMatchObject({ axis: close([0, 0, 1]) }); // prettier-ignore
  await page.keyboard.press('Control+z');
  await page.keyboard.press('1');
});

test('Escape ends picking, and a base is one click', async () => {
  await row('Tuning knob cap').click();
  await card().getByRole('button', { name: 'Picked point' }).click();
  await expect(page.locator('.say')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.locator('.say')).toHaveCount(0);
  await row('Cylinder').click();
  await card().getByRole('button', { name: 'Centre' }).click();
  // Of the piece itself, whatever its copies are.
  const { piece } = (await node('Cylinder'))!.mesh as { piece: { height: number } };
  await expect.poll(async () => (await node('Cylinder'))?.pivot).toEqual(close([0, piece.height / 2, 0]));
  await card().getByRole('button', { name: 'Base' }).click();
  await expect.poll(async () => (await node('Cylinder'))?.pivot).toEqual(close([0, 0, 0]));
});

test('a light hangs on a helper where it stands, and stays there when the helper is deleted', async () => {
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Helper' }).click();
  await expect.poll(async () => (await node('Helper'))?.kind).toBe('helper');
  const before = Object.values((await stored()).lights)[0]!;
  await page.keyboard.press('4');
  await page.locator('zr-lights-desk zr-row', { hasText: before.name }).click();
  await choose(card().getByLabel('Hangs on'), 'Helper');
  const light = async () => (await stored()).lights[before.id]!;
  const helper = (await node('Helper'))!;
  await expect.poll(async () => (await light()).parent).toBe(helper.id);
  const carried = await light();
  expect(carried.position.map((v, k) => v + helper.position[k]!)).toEqual(close(before.position));
  await page.keyboard.press('1');
  await row('Helper').click();
  await card().getByRole('button', { name: 'Delete' }).click();
  await expect.poll(async () => (await light()).parent).toBeNull();
  expect((await light()).position).toEqual(close(before.position));
});
