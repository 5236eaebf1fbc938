// How near the sketch is to the traced picture: a grey card under lamps of every kind, and structural similarity (Wang, Bovik, Sheikh
// and Simoncelli, "Image Quality Assessment: From Error Visibility to Structural Similarity", 2004) over ten frames of the demo. `KEEP=folder` keeps the
// pictures that are compared.
import type { Browser, Page } from '@playwright/test';
import { join } from 'node:path';
import sharp from 'sharp';
import { ssim } from 'ssim.js';
import {
  defaultLook,
  newCamera,
  newDocument,
  newFinish,
  newLight,
  newNode,
  newShot,
  type ProjectDocument,
} from '@zippy/core/document';
import { newSetPiece } from '@zippy/core/geometry';
import { decodeSrgb } from '@zippy/core/optics';
import { TestServer } from '../e2e/support/server';
import { openBrowser } from './browser';
import { figure } from './figure';

/** Shots of the demo by their place on the strip, and parts of their length. */
const FRAMES = [
  [0, 0.02], [0, 0.4], [0, 0.75], [1, 0.1], [1, 0.6], [2, 0.3], [2, 0.9], [3, 0.02], [3, 0.5], [3, 0.98],
] as const; // prettier-ignore
const SAMPLES = 48;
/** What lies over the picture, and what tells about it. */
const PLAIN = `.grades, zr-mirror-ball, .mask, zr-traced .status, zr-traced p, .say { opacity: 0 !important }`;

export default async function sketch(): Promise<void> {
  const server = new TestServer({ ZIPPY_DEMO: '1' });
  await server.start();
  const browser = await openBrowser();
  try {
    await cards(browser, server);
    await shots(browser, server);
  } finally {
    await browser.close();
    await server.close();
  }
}

async function open(browser: Browser, address: string): Promise<Page> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    localStorage.setItem('zippy-sketch', 'fine');
    localStorage.setItem('zippy-picture', 'sketch');
  });
  await page.goto(address);
  await page.locator('zr-picture .area').waitFor();
  await page.addStyleTag({ content: PLAIN });
  return page;
}

/** The film's frame as it is seen, once it changes no more. */
async function frame(page: Page): Promise<Buffer> {
  await page.mouse.move(3, 3);
  const area = page.locator('zr-picture .area');
  let last = await area.screenshot();
  for (let k = 0; k < 30; k++) {
    await page.waitForTimeout(900);
    const next = await area.screenshot();
    if (next.equals(last)) break;
    last = next;
  }
  const [outer, inner] = await Promise.all([area.boundingBox(), page.locator('zr-picture .mask').boundingBox()]);
  const box = {
    left: Math.ceil(inner!.x - outer!.x) + 2,
    top: Math.ceil(inner!.y - outer!.y) + 2,
    width: Math.floor(inner!.width) - 5,
    height: Math.floor(inner!.height) - 5,
  };
  return sharp(last).extract(box).toBuffer();
}

/** The same frame drawn and traced. */
async function both(page: Page): Promise<[Buffer, Buffer]> {
  const drawn = await frame(page);
  await page.getByRole('radio', { name: 'Traced' }).click();
  const traced = page.getByRole('img', { name: 'Traced picture' });
  for (;;) {
    await page.waitForTimeout(500);
    if (Number(await traced.getAttribute('data-samples')) >= SAMPLES) break;
  }
  await page.waitForTimeout(500);
  const area = await frame(page);
  await page.getByRole('radio', { name: 'Sketch' }).click();
  await page.locator('zr-traced').waitFor({ state: 'detached' });
  return [drawn, area];
}

async function shots(browser: Browser, server: TestServer): Promise<void> {
  const page = await open(browser, server.address);
  await page.waitForSelector('canvas[data-models]');
  await page.waitForTimeout(15_000);
  const likeness: number[] = [];
  for (const [shot, part] of FRAMES) {
    const box = page.locator('zr-strip .shot').nth(shot);
    const { width } = (await box.boundingBox())!;
    // The first click opens the shot, the second goes to the frame.
    for (let k = 0; k < 2; k++) await box.click({ position: { x: Math.max(2, width * part), y: 30 } });
    await page.waitForTimeout(1000);
    const [drawn, traced] = await both(page);
    const alike = await likenessOf(drawn, traced);
    likeness.push(alike);
    console.log(`sketch: shot ${shot + 1} at ${Math.round(part * 100)}%: SSIM ${alike.toFixed(3)}`);
    const folder = process.env['KEEP'];
    for (const [name, picture] of Object.entries({ drawn, traced }))
      if (folder) await sharp(picture).toFile(join(folder, `${shot + 1}-${Math.round(part * 100)}-${name}.png`));
  }
  figure('sketch.likeness', likeness.reduce((a, b) => a + b) / likeness.length);
  figure('sketch.leastLikeness', Math.min(...likeness));
  await page.close();
}

async function likenessOf(a: Buffer, b: Buffer): Promise<number> {
  return ssim(await pixels(a), await pixels(b)).mssim;
}

async function pixels(picture: Buffer): Promise<{ data: Uint8ClampedArray; width: number; height: number }> {
  const { data, info } = await sharp(picture).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data: new Uint8ClampedArray(data), width: info.width, height: info.height };
}

type Card = 'panel' | 'disc' | 'tube' | 'bulb' | 'spot' | 'sun' | 'surroundings';

/** A grey card before a black ground, lit by one kind of lamp. @param stops by which it is exposed more */
function cardDocument(kind: Card, stops: number): ProjectDocument {
  const document = structuredClone(newDocument(`Card ${kind}`));
  document.finishes = {
    grey: newFinish({
      id: 'grey',
      name: 'Grey',
      baseColor: [0.5, 0.5, 0.5],
      specularWeight: 0,
      baseDiffuseRoughness: 0,
    }),
  };
  document.nodes = {
    card: newNode({
      id: 'card',
      name: 'Card',
      kind: 'part',
      finish: 'grey',
      mesh: { piece: newSetPiece('box', 300) },
    }),
  };
  document.cameras = { eye: newCamera({ id: 'eye', position: [0, 0, 700], target: [0, 0, 0], fStop: 0 }) };
  const at = { id: 'lamp', position: [220, 260, 500] as [number, number, number], target: [0, 0, 0] as [number, number, number] }; // prettier-ignore
  document.lights = kind === 'surroundings' ? {} : { lamp: newLight(kind, at) };
  document.set.floor.kind = 'none';
  document.set.surroundings = {
    ...document.set.surroundings,
    kind: 'color',
    brightness: kind === 'surroundings' ? 1 : 0,
  };
  document.shots = { one: newShot({ id: 'one', name: 'One', length: 24, camera: 'eye' }) };
  document.look = { ...defaultLook(), exposure: stops, tone: 'neutral', bloomAmount: 0, denoise: 0, specks: 0 };
  return document;
}

async function cards(browser: Browser, server: TestServer): Promise<void> {
  for (const kind of ['panel', 'disc', 'tube', 'bulb', 'spot', 'sun', 'surroundings'] as const) {
    let stops = 0;
    let ratio = NaN;
    for (let k = 0; k < 8; k++) {
      const [drawn, traced] = await card(browser, server, cardDocument(kind, stops));
      ratio = drawn / traced;
      console.log(`sketch: grey card, ${kind}, ${stops} stops: ${drawn.toFixed(3)} drawn, ${traced.toFixed(3)} traced`);
      if (traced > 0.1 && traced < 0.4) break;
      // To where neither black nor white hides a difference.
      stops += traced >= 0.4 ? -2 : Math.min(6, Math.max(1, Math.round(Math.log2(0.2 / Math.max(1e-3, traced)))));
    }
    figure(`sketch.card.${kind}`, Math.max(ratio, 1 / ratio), { most: 1.1 });
  }
}

/** Linear values of the middle of a card, drawn and traced. */
async function card(browser: Browser, server: TestServer, document: ProjectDocument): Promise<[number, number]> {
  const answer = await fetch(`${server.address}/api/projects`, {
    method: 'POST',
    body: JSON.stringify({ name: document.name, document }),
    headers: { 'Content-Type': 'application/json' },
  });
  if (!answer.ok) throw new Error(await answer.text());
  const { id } = (await answer.json()) as { id: string };
  const page = await open(browser, `${server.address}/p/${id}`);
  await page.waitForTimeout(4000);
  const values = await both(page);
  await page.close();
  const [drawn, traced] = await Promise.all(
    values.map(async (picture) => {
      const { width = 0, height = 0 } = await sharp(picture).metadata();
      const middle = { left: Math.round(width / 2) - 20, top: Math.round(height / 2) - 20, width: 40, height: 40 };
      const { channels } = await sharp(await sharp(picture).extract(middle).toBuffer()).stats();
      return decodeSrgb(channels[1]!.mean / 255);
    }),
  );
  return [drawn!, traced!];
}
