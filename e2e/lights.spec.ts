import { expect, type Page } from '@playwright/test';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ProjectDocument } from '@zippy/core/document';
import { choose } from './support/choose';
import { TestServer } from './support/server';
import { test } from './support/test';

/** The Lights desk: new lamps stand where lamps are wanted, and shine where one points, on models of any size. */
const server = new TestServer();
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
});
test.afterAll(() => server.close());

const desk = (name: string) => page.locator('zr-rail').getByRole('button', { name: new RegExp(name) }).click(); // prettier-ignore
const lights = () => page.locator('zr-lights-desk');
const setNumber = async (label: string, value: string) => {
  const field = page.getByRole('textbox', { name: label, exact: true }).first();
  await field.fill(value);
  await field.press('Enter');
};
const stored = async (): Promise<ProjectDocument> => {
  const path = new URL(page.url()).pathname.replace('/p/', '/api/projects/');
  return ((await (await fetch(server.address + path)).json()) as { document: ProjectDocument }).document;
};

/** A ball with smooth normals as an OBJ. */
function ball(name: string, radius: number): string {
  const [rings, around] = [32, 64];
  const lines: string[] = [];
  for (let k = 0; k <= rings; k++) {
    for (let j = 0; j < around; j++) {
      const [a, b] = [(Math.PI * k) / rings, (2 * Math.PI * j) / around];
      const normal = [Math.sin(a) * Math.sin(b), Math.cos(a), Math.sin(a) * Math.cos(b)];
      lines.push(`v ${normal.map((v) => v * radius).join(' ')}`, `vn ${normal.join(' ')}`);
    }
  }
  const corner = (k: number, j: number) => `${k * around + (j % around) + 1}//${k * around + (j % around) + 1}`;
  for (let k = 0; k < rings; k++)
    for (let j = 0; j < around; j++)
      lines.push(`f ${corner(k, j)} ${corner(k + 1, j)} ${corner(k + 1, j + 1)} ${corner(k, j + 1)}`);
  const path = join(server.folder, `${name}.obj`);
  writeFileSync(path, lines.join('\n'));
  return path;
}

/** The middle of what is brightest in the traced picture, in parts of the canvas. */
const brightest = () =>
  page.locator('zr-traced canvas').evaluate((each) => {
    const canvas = each as unknown as { width: number; height: number; getContext(kind: '2d'): never };
    const context = canvas.getContext('2d') as {
      getImageData(x: number, y: number, w: number, h: number): { data: Uint8ClampedArray };
    };
    const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
    const light = (k: number) => data[4 * k]! + data[4 * k + 1]! + data[4 * k + 2]!;
    let most = 0;
    for (let k = 0; k < data.length / 4; k++) most = Math.max(most, light(k));
    let [x, y, count] = [0, 0, 0];
    for (let k = 0; k < data.length / 4; k++) {
      if (light(k) < 0.97 * most) continue;
      x += (k % canvas.width) + 0.5;
      y += Math.floor(k / canvas.width) + 0.5;
      count++;
    }
    return { x: x / count / canvas.width, y: y / count / canvas.height, most };
  });

for (const [name, size] of [
  ['Bead', 2],
  ['Dome', 20_000],
] as const) {
  test(`a lamp shines where one points on a ball of ${size} mm, undone in one step`, async () => {
    const made = await fetch(`${server.address}/api/projects`, {
      method: 'POST',
      body: JSON.stringify({ name }),
      headers: { 'Content-Type': 'application/json' },
    });
    await page.goto(`${server.address}/p/${((await made.json()) as { id: string }).id}`);
    await page
      .locator('input[type=file]')
      .first()
      .setInputFiles(ball(name, size / 2));
    const dialog = page.getByRole('dialog', { name: 'Bring in a model' });
    await dialog.getByLabel('Width in mm').fill(String(size));
    await dialog.getByLabel('Width in mm').press('Enter');
    await dialog.getByRole('button', { name: 'Take it in' }).click();
    await page.getByRole('treeitem', { name: new RegExp(name) }).last().click(); // prettier-ignore
    await desk('Finish');
    await page.locator('zr-finish-desk').getByLabel('Find a finish').fill('Piano black');
    await page.locator('zr-finish-desk').getByRole('button', { name: 'Piano black', exact: true }).click();
    await desk('Set');
    await setNumber('Brightness', '0');
    await desk('Lights');
    const rows = lights().locator('zr-row');
    for (const row of await rows.all()) await row.getByRole('button', { name: /^Switch off/ }).click();
    await lights().getByRole('button', { name: 'Disc', exact: true }).click();
    await setNumber('Radius', String(size * 0.04));
    const lamp = async () => Object.values((await stored()).lights).find(({ kind }) => kind === 'disc');
    await expect.poll(async () => (await lamp())?.width ?? 0).toBeGreaterThan(0);
    const before = await page.getByRole('textbox', { name: 'Position X', exact: true }).inputValue();
    await page.getByRole('button', { name: 'Shine here', exact: true }).click();
    await expect(page.locator('zr-picture .say')).toContainText('the highlight follows');
    const area = (await page.getByLabel('Picture of the scene').boundingBox())!;
    const [x, y] = [area.x + area.width / 2 - 40, area.y + area.height / 2 - 25];
    await page.mouse.move(x + 60, y + 40);
    await page.mouse.down();
    await page.mouse.move(x + 20, y, { steps: 3 });
    await page.mouse.move(x, y);
    await page.mouse.up();
    await expect(page.getByRole('textbox', { name: 'Position X', exact: true })).not.toHaveValue(before);
    await page.getByRole('radio', { name: 'Traced' }).click();
    await expect(page.locator('zr-traced .state')).toContainText(/\b(8|16|32|64) samples/, { timeout: 90_000 });
    const box = (await page.locator('zr-traced canvas').boundingBox())!;
    const seen = await brightest();
    expect(seen.most).toBeGreaterThan(120);
    expect(Math.hypot(box.x + seen.x * box.width - x, box.y + seen.y * box.height - y)).toBeLessThan(5);
    await page.getByRole('radio', { name: 'Sketch' }).click();
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('textbox', { name: 'Position X', exact: true })).toHaveValue(before);
  });
}

test('new lamps take one place after another, or the one that is asked for', async () => {
  const count = Object.keys((await stored()).lights).length;
  for (let k = 0; k < 3; k++) await lights().getByRole('button', { name: 'Panel', exact: true }).click();
  const places = async () => Object.values((await stored()).lights).map(({ position }) => position.join());
  await expect.poll(async () => new Set(await places()).size).toBe(count + 3);
  await lights().getByRole('combobox', { name: 'Where new lamps go' }).click();
  await page.getByRole('option', { name: 'Above', exact: true }).click();
  await lights().getByRole('button', { name: 'Tube', exact: true }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue(/^Above tube/);
  await expect.poll(async () => Object.values((await stored()).lights).some(({ name }) => name.startsWith('Above tube'))).toBe(true); // prettier-ignore
});

test('a ready set stands at one click with the product in its picture, and the next takes its place', async () => {
  await desk('Set');
  const sets = page.locator('zr-ready-sets');
  const before = Object.keys((await stored()).lights);
  const warm = sets.getByRole('button', { name: 'Warm evening' });
  const first = sets.getByRole('button', { name: 'Bright and even' });
  await expect
    .poll(() => first.locator('i').evaluate((each) => getComputedStyle(each).backgroundImage), { timeout: 90_000 })
    .toContain('blob:');
  await warm.click();
  await expect(warm).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(async () => Object.values((await stored()).lights).map(({ name }) => name)).toEqual(['Warm lamp', 'Blue hour']); // prettier-ignore
  await sets.getByRole('button', { name: 'Glowing gates' }).click();
  await expect.poll(async () => (await stored()).set.ready?.nodes.length).toBe(2);
  await page.reload();
  await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
  for (let k = 0; k < 2; k++) await page.keyboard.press('Control+z');
  await expect.poll(async () => Object.keys((await stored()).lights)).toEqual(before);
  expect((await stored()).set.ready).toBeNull();
});

test('a surprise is put up, kept in the strip over a reload, and another can be gone back from', async () => {
  await desk('Set');
  const sets = page.locator('zr-ready-sets');
  const seen = sets.getByRole('group', { name: 'Surprises seen before' }).getByRole('button');
  await sets.getByRole('button', { name: 'Surprise me' }).click();
  await expect(seen).toHaveCount(1);
  const first = async () => (await stored()).set.ready?.name;
  await expect.poll(first).toMatch(/^Surprise \d+$/);
  const name = await first();
  const lamps = Object.values((await stored()).lights).map(({ position, power }) => [position, power]);
  await sets.getByRole('button', { name: 'Surprise me' }).click();
  await expect(seen).toHaveCount(2);
  await expect.poll(first).not.toBe(name);
  await page.reload();
  await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
  await desk('Set');
  await expect(seen).toHaveCount(2);
  await seen.last().click();
  await expect.poll(first).toBe(name);
  expect(Object.values((await stored()).lights).map(({ position, power }) => [position, power])).toEqual(lamps);
});

test('a soft card lights one part alone, a lamp runs round on a track, and each shows in its list what it does', async () => {
  await desk('Lights');
  await lights().getByRole('button', { name: 'Soft card', exact: true }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue(/soft card/);
  const card = page.locator('zr-card');
  await choose(card.getByRole('combobox', { name: 'Lights', exact: true }), 'Chosen parts alone');
  await expect(card).toContainText('Nothing yet, so it lights nothing.');
  await card.getByRole('button', { name: 'Pick', exact: true }).click();
  const area = (await page.getByLabel('Picture of the scene').boundingBox())!;
  await page.mouse.click(area.x + area.width / 2, area.y + area.height / 2);
  const own = async () => Object.values((await stored()).lights).find(({ kind }) => kind === 'card')!;
  await expect.poll(async () => (await own()).parts.length).toBe(1);
  await expect(card.getByRole('button', { name: /^Take .* off$/ })).toBeVisible();
  await choose(card.getByRole('combobox', { name: 'Runs', exact: true }), 'All round');
  await setNumber('Lamps on it', '3');
  await expect.poll(async () => (await own()).track?.count).toBe(3);
  // Its way is drawn, and it stands elsewhere later on.
  const power = lights().getByLabel(/^Power of .*soft card/);
  await power.fill('900');
  await power.press('Enter');
  await expect.poll(async () => (await own()).power).toBe(900);
  const picture = lights().locator('.lamp', { hasText: 'soft card' }).locator('.alone');
  await expect.poll(() => picture.evaluate((each) => getComputedStyle(each).backgroundImage), { timeout: 90_000 }).toContain('blob:'); // prettier-ignore
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await own()).power).not.toBe(900);
});
