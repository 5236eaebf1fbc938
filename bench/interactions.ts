// What the page answers to on a project of 2,000 parts: milliseconds from every control of every desk to the next picture, and its own
// script per event while something is typed, stepped, scrubbed over and dragged.
import type { Locator, Page } from '@playwright/test';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { BoxGeometry } from 'three';
import type { TriangleMesh } from '@zippy/core/geometry';
import { writeMeshesGlb } from '@zippy/core/intake';
import { TestServer } from '../e2e/support/server';
import { openBrowser } from './browser';
import { figure, median } from './figure';
import { TAKE } from './longTasks';

const PARTS = 2000;
const ACROSS = 50;
const DESKS = ['Model', 'Finish', 'Set', 'Lights', 'Camera', 'Motion', 'Render', 'Reel'];
/** What begins work on the server, opens a dialog of the system or leaves the page. */
const LEFT_OUT = /^undo|^redo|bring|render|still of|test frames|how long|delete|own look-up|own picture|pictures? of|choose file|save|mp4|gif|png|webm|frames$/i; // prettier-ignore

/** Small boxes on a grid, each a mesh of its own. */
function boxes(): TriangleMesh[] {
  return Array.from({ length: PARTS }, (_, k) => {
    const geometry = new BoxGeometry(6, 6 + (k % 5), 6);
    geometry.translate((k % ACROSS) * 10 - 250, Math.floor(k / ACROSS) * 10, (k % 7) * 4);
    return {
      positions: geometry.getAttribute('position').array as Float32Array,
      normals: geometry.getAttribute('normal').array as Float32Array,
      indices: new Uint32Array(geometry.getIndex()!.array),
    };
  });
}

interface Measured {
  /** Milliseconds from the event to the next picture, and to the end of what the page does about it. */
  painted: number;
  handled: number;
  /** Of the longest task meanwhile, from 50. */
  task: number;
}

async function watch(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const seen: Measured[] = [];
    const tasks: number[] = [];
    Object.assign(globalThis, { seen, tasks });
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map(({ duration }) => duration))).observe({
      type: 'longtask',
    });
    new PerformanceObserver((list) => {
      for (const { name, duration, processingEnd, startTime } of list.getEntries() as PerformanceEventTiming[])
        if (/^(click|keydown|keyup|pointerup|input)$/.test(name))
          seen.push({ painted: duration, handled: processingEnd - startTime, task: 0 });
    }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
  });
}

/** Milliseconds of the slowest interaction since the last call. */
const slowest = (page: Page): Promise<Measured> =>
  page.evaluate(async () => {
    await new Promise((resolve) => setTimeout(resolve, 300));
    const { seen, tasks } = globalThis as unknown as { seen: Measured[]; tasks: number[] };
    const found = seen.splice(0);
    return {
      task: Math.max(0, ...tasks.splice(0)),
      painted: Math.max(0, ...found.map(({ painted }) => painted)),
      handled: Math.max(0, ...found.map(({ handled }) => handled)),
    };
  });

/** Seconds for which the page has run script so far. */
async function scripting(page: Page): Promise<() => Promise<number>> {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable', { timeDomain: 'threadTicks' });
  return async () => {
    const { metrics } = await session.send('Performance.getMetrics');
    return metrics.find(({ name }) => name === 'ScriptDuration')!.value;
  };
}

export default async function interactions(): Promise<void> {
  const server = new TestServer();
  await server.start();
  // The card is emulated here, and takes 100 ms for any picture with 2,000 parts in it: its share is left out, not the page's own.
  const browser = await openBrowser(['--disable-3d-apis']);
  try {
    const file = join(server.folder, 'boxes.glb');
    writeFileSync(file, writeMeshesGlb(boxes()));
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await watch(page);
    await page.goto(server.address);
    await page.locator('input[type=file]').first().setInputFiles(file);
    await page.locator(TAKE).click({ timeout: 300_000 });
    await page.locator('zr-model-desk').getByRole('treeitem').nth(5).waitFor({ timeout: 300_000 });
    await page.waitForTimeout(15_000);
    const script = await scripting(page);
    // First, while nothing that is pressed later has folded the card or changed the tree.
    await page.locator('zr-rail').getByRole('button', { name: 'Model' }).click();
    await page.waitForTimeout(1000);
    await selectPart(page);
    const position = page.locator('zr-card').getByRole('textbox', { name: 'Position X' });
    const own = async (name: string, events: number, act: () => Promise<void>) => {
      await page.waitForTimeout(2000);
      const before = await script();
      await act();
      await page.waitForTimeout(1000);
      figure(`interactions.${name}`, ((await script()) - before) * (1000 / events), { most: 16 });
    };
    await own('typing', 24, async () => {
      const find = page.getByLabel('Find a part');
      await find.pressSequentially('node 12 ~ 34!', { delay: 120 });
      for (let k = 0; k < 11; k++) await find.press('Backspace', { delay: 60 });
      await find.fill('');
    });
    await selectPart(page);
    await page.waitForTimeout(1000);
    await own('stepping', 20, async () => {
      await position.focus();
      // Looking for the field each time would be script of the page, too.
      for (let k = 0; k < 20; k++) await page.keyboard.press('ArrowUp', { delay: 60 });
      await position.blur();
    });
    const drag = async (what: Locator, steps: number) => {
      const box = (await what.boundingBox())!;
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
      await page.mouse.move(x, y);
      await page.mouse.down();
      for (let k = 1; k <= steps; k++) {
        await page.mouse.move(x + k * 4, y);
        await page.waitForTimeout(50);
      }
      await page.mouse.up();
    };
    await own('scrubbing', 30, () => drag(position, 30));
    await own('playhead', 30, () => drag(page.locator('zr-strip .ruler').first(), 30));
    await own('splitting', 30, () => drag(page.getByRole('separator', { name: 'Resize panel' }).first(), 30));

    const told: (Measured & { what: string })[] = [];
    const time = async (what: string, act: () => Promise<void>) => {
      await slowest(page);
      await act();
      told.push({ what, ...(await slowest(page)) });
    };
    for (const desk of DESKS) {
      // Each begins with one part selected.
      await page.locator('zr-rail').getByRole('button', { name: 'Model' }).click();
      await time('part in the tree', () => selectPart(page));
      await time(`${desk}: desk`, () => page.locator('zr-rail').getByRole('button', { name: desk }).click());
      await pressAll(page, desk, time);
    }
    // The last edit of all that was pressed, and then the other way.
    for (const name of ['Undo', 'Redo'])
      await time(name, () => page.locator('zr-header').getByRole('button', { name, exact: true }).click());
    told.sort((a, b) => b.painted - a.painted);
    for (const { what, painted, handled, task } of told.slice(0, 12))
      console.log(
        `interactions: ${Math.round(painted)} ms, handled in ${Math.round(handled)}, task of ${task}: ${what}`,
      );
    for (const { what, task } of told.filter((each) => each.task > 0).sort((a, b) => b.task - a.task))
      console.log(`interactions: task of ${task} ms: ${what}`);
    console.log(`interactions: ${told.length} controls`);
    figure('interactions.slowest', told[0]!.painted, { most: 100 });
    figure('interactions.slowestHandled', Math.max(...told.map(({ handled }) => handled)), { most: 100 });
    figure('interactions.longestTask', Math.max(...told.map(({ task }) => task)), { most: 100 });
    figure('interactions.middle', median(told.map(({ painted }) => painted)), { most: 100 });
  } finally {
    await browser.close();
    await server.close();
  }
}

/** Presses every button, switch and slider of the desk and the card, and takes back what that has changed. */
async function pressAll(
  page: Page,
  desk: string,
  time: (what: string, act: () => Promise<void>) => Promise<void>,
): Promise<void> {
  const controls = page.locator('zr-desk, zr-card, zr-strip, zr-header, zr-picture').locator('button, [role=switch], mat-select, mat-expansion-panel-header'); // prettier-ignore
  const names = await controls.evaluateAll((all) =>
    all.map((each) => (each.getAttribute('aria-label') ?? each.textContent ?? '').trim().replace(/\s+/g, ' ')),
  );
  const done = new Set<string>();
  for (const name of names) {
    if (name === '' || done.has(name) || LEFT_OUT.test(name)) continue;
    done.add(name);
    const control = controls.filter({ visible: true }).and(page.locator(`[aria-label="${name}"]`)).or(controls.filter({ hasText: name, visible: true })).first(); // prettier-ignore
    // What was pressed before may have taken it away.
    if ((await control.count()) === 0 || !(await control.isEnabled({ timeout: 1000 }).catch(() => false))) continue;
    const pressed = await control.elementHandle();
    await time(`${desk}: ${name}`, () => control.click({ timeout: 3000, force: true }).catch(() => undefined));
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    // What goes on by itself would be measured along with all that follows.
    const folds = await pressed?.evaluate((each) => each.tagName === 'MAT-EXPANSION-PANEL-HEADER').catch(() => false);
    if (folds || /^(Play|Compare|Region|Record changes|This shot only|Fold|Show alone|Hide)/.test(name))
      await pressed?.click({ force: true, timeout: 3000 }).catch(() => undefined);
    if (name === 'Traced') await page.getByRole('radio', { name: 'Sketch' }).click();
    // What was pressed may have led to another desk, folded the tree or taken the selection away.
    await page.locator('zr-rail').getByRole('button', { name: desk }).click();
    if (desk === 'Model') await selectPart(page);
  }
}

/** Selects a part in the tree, which is unfolded where it is folded. */
async function selectPart(page: Page): Promise<void> {
  const items = page.locator('zr-model-desk').getByRole('treeitem');
  const folded = page.locator('zr-model-desk').getByRole('button', { name: 'Unfold' }).first();
  if ((await items.count()) < 6 && (await folded.count()) > 0) await folded.click();
  await items.nth(5).click({ timeout: 5000 });
}
