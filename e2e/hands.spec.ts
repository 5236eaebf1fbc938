import { expect, type Page } from '@playwright/test';
import { TestServer } from './support/server';
import { test } from './support/test';

/** What hands do in the picture: handles, figures, keys on paths, what lies behind. */
const server = new TestServer({ ZIPPY_DEMO: '1' });
let page: Page;

test.describe.configure({ mode: 'serial' });
test.beforeAll(async ({ browser }) => {
  await server.start();
  page = await browser.newPage();
  page.on('pageerror', (error) => {
    throw error;
  });
  await page.goto(server.address);
  await page.waitForSelector('canvas[data-models]', { timeout: 90_000 });
  await expect(page.locator('zr-strip .shot img')).toHaveCount(16, { timeout: 120_000 });
});
test.afterAll(() => server.close());

const desk = (name: string) => page.locator('zr-rail').getByRole('button', { name: new RegExp(name) }).click(); // prettier-ignore
const field = (name: string) => page.locator('zr-card').getByRole('textbox', { name, exact: true }).first();
const number = async (name: string) => Number(await field(name).inputValue());
const scene = () => page.getByLabel('Picture of the scene');
const told = (name: 'aim' | 'grip' | 'keys') => scene().evaluate((each, name) => (each as HTMLElement).dataset[name] ?? '', name); // prettier-ignore
const said = () => page.locator('zr-picture .say');

/** Where the handles are on the page, once they rest. */
async function handles(): Promise<{ x: number; y: number }> {
  let last = '';
  await expect
    .poll(async () => {
      const [before, now] = [last, await told('grip')];
      last = now;
      return now !== '' && before === now;
    })
    .toBe(true);
  const box = (await scene().boundingBox())!;
  const [x, y] = last.split(' ').map(Number) as [number, number];
  return { x: box.x + x * box.width, y: box.y + y * box.height };
}

/** Takes hold of the arrow of the x axis, which reaches to the right from the front. */
async function takeArrow(): Promise<{ x: number; y: number }> {
  const { x, y } = await handles();
  const at = { x: x + 36, y };
  await page.mouse.move(at.x, at.y);
  await page.waitForTimeout(300);
  await page.mouse.down();
  await page.mouse.move(at.x + 20, at.y, { steps: 3 });
  return at;
}

test('a lamp is moved by a number that is typed while it is dragged, and a drag is taken back', async () => {
  await page.keyboard.press('v');
  await page.keyboard.press('Alt+1');
  await desk('Lights');
  await page.locator('zr-lights-desk zr-row', { hasText: 'Top panel' }).click();
  await page.keyboard.press('f');
  const before = await number('Position X');
  await takeArrow();
  await page.keyboard.type('125');
  await expect(said()).toContainText('125 mm along X');
  await page.mouse.up();
  await expect.poll(() => number('Position X')).toBeCloseTo(before + 125, 3);
  await page.keyboard.press('Control+z');
  await expect.poll(() => number('Position X')).toBeCloseTo(before, 3);
  // Digits are shortcuts again, and none of them was one before.
  await expect(page.locator('zr-lights-desk')).toBeVisible();
  await takeArrow();
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect.poll(() => number('Position X')).toBeCloseTo(before, 3);
  await expect(page.locator('zr-header').getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('handles go by steps with Ctrl, and size a lamp', async () => {
  const before = await number('Position X');
  const at = await takeArrow();
  await page.keyboard.down('Control');
  await page.mouse.move(at.x + 43, at.y, { steps: 3 });
  const words = await said().innerText();
  await page.mouse.up();
  await page.keyboard.up('Control');
  const moved = Number(/^(-?[\d.]+) mm along X/.exec(words)![1]);
  expect(moved).toBeGreaterThan(0);
  // A step is 1, 2 or 5 and noughts.
  expect(/^[\d.]*[05]$|^\d$|[02468]$/.test(String(moved))).toBe(true);
  await expect.poll(() => number('Position X')).toBeCloseTo(before + moved, 3);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('m');
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'Handles size' })).toBeVisible();
  const [width, height] = [await number('Width'), await number('Height')];
  await takeArrow();
  await page.keyboard.type('2');
  await page.mouse.up();
  await expect.poll(() => number('Width')).toBeCloseTo(2 * width, 2);
  expect(await number('Height')).toBeCloseTo(height, 2);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'Handles move' })).toBeVisible();
});

test('what a lamp is aimed at is drawn over the parts', async () => {
  const [x, y] = (await told('aim')).split(' ').map(Number) as [number, number];
  const box = (await scene().boundingBox())!;
  const at = { x: box.x + x * box.width, y: box.y + y * box.height };
  const aimed = async () => [await number('Aimed at X'), await number('Aimed at Y'), await number('Aimed at Z')];
  const [before, stands] = [await aimed(), await number('Position X')];
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.mouse.move(at.x + 20, at.y + 4, { steps: 4 });
  await page.mouse.up();
  await expect.poll(aimed).not.toEqual(before);
  expect(await number('Position X')).toBe(stands);
  await page.keyboard.press('Control+z');
  await expect.poll(aimed).toEqual(before);
});

test('the path of what moves is seen, and a key is drawn elsewhere on it', async () => {
  await desk('Motion');
  await page.keyboard.press('Home');
  expect(await told('keys')).toBe('');
  const position = page.locator('zr-card').getByRole('button', { name: /^(Set|Take away) key of Position/ });
  await position.click();
  for (let k = 0; k < 12; k++) await page.keyboard.press('.');
  await takeArrow();
  await page.keyboard.type('300');
  await page.mouse.up();
  await expect.poll(async () => (await told('keys')).split(', ').length).toBe(2);
  const frames = (await told('keys')).split(', ').map((each) => Number(each.split(' ')[0]));
  expect(frames).toEqual([1, 13]);
  const [x, y] = (await told('keys')).split(', ')[0]!.split(' ').slice(1).map(Number) as [number, number];
  const box = (await scene().boundingBox())!;
  const first = { x: box.x + x * box.width, y: box.y + y * box.height };
  const stands = await number('Position Y');
  await page.mouse.move(first.x, first.y);
  await page.mouse.down();
  await page.mouse.move(first.x, first.y - 60, { steps: 4 });
  await page.mouse.up();
  // The playhead and what is keyed there stay.
  expect(await number('Position Y')).toBeCloseTo(stands, 3);
  // A click on the key goes to its frame.
  await page.mouse.click(first.x, first.y - 60);
  await expect.poll(() => number('Position Y')).toBeGreaterThan(stands + 5);
  const lamp = page.locator('zr-card').getByRole('textbox', { name: 'Name' });
  await expect(lamp).toHaveValue('Top panel');
  for (let k = 0; k < 3; k++) await page.keyboard.press('Control+z');
  await expect.poll(() => told('keys')).toBe('');
});

test('what lies behind a part is offered by its menu', async () => {
  await page.mouse.move(3, 3);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Alt+1');
  await desk('Model');
  const box = (await scene().boundingBox())!;
  const at = { x: box.x + box.width * 0.5, y: box.y + box.height * 0.55 };
  await page.mouse.click(at.x, at.y, { button: 'right' });
  const menu = page.getByRole('menu');
  await expect(menu.getByText('Behind it')).toBeVisible();
  const name = page.locator('zr-card').getByRole('textbox', { name: 'Name' });
  const before = await name.inputValue();
  const last = menu.getByRole('menuitem').last();
  const behind = (await last.innerText()).trim();
  await last.click();
  await expect(name).toHaveValue(behind);
  expect(behind).not.toBe(before);
});

test('a locked camera stays where it is when the view is turned, and is asked about once', async () => {
  await page.keyboard.press('v');
  await desk('Camera');
  await page.locator('zr-camera-desk zr-row').first().click();
  await page.locator('zr-card').getByRole('switch', { name: 'Locked' }).click();
  const before = await number('Position X');
  const box = (await scene().boundingBox())!;
  const turn = async () => {
    await page.mouse.move(box.x + 40, box.y + 200);
    await page.mouse.down();
    await page.mouse.move(box.x + 120, box.y + 200, { steps: 5 });
    await page.mouse.up();
  };
  await turn();
  const question = page.getByRole('alertdialog');
  await expect(question).toContainText('is locked');
  await question.getByRole('button', { name: 'Leave it' }).click();
  expect(await number('Position X')).toBe(before);
  await page.keyboard.press('v');
  await turn();
  await expect(page.getByRole('button', { name: 'Through the camera' })).toHaveAttribute('aria-pressed', 'false');
  await expect(question).toHaveCount(0);
  expect(await number('Position X')).toBe(before);
  await page.keyboard.press('Control+z');
});

test('the camera is seen in a corner of the free view, and a click there looks through it', async () => {
  await page.keyboard.press('d');
  const corner = page.getByRole('button', { name: 'Look through the camera' });
  await expect(corner).toBeVisible();
  await corner.click();
  await expect(corner).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Through the camera' })).toHaveAttribute('aria-pressed', 'true');
});
