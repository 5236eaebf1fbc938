// An assembly of 2,000 parts and 5 million triangles in the page: bringing it in, picking, and frames as they play over those of a
// bare three scene of the same meshes in the same browser.
import type { Page } from '@playwright/test';
import { build } from 'esbuild';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { TorusKnotGeometry } from 'three';
import type { ProjectDocument } from '@zippy/core/document';
import type { TriangleMesh } from '@zippy/core/geometry';
import { writeMeshesGlb } from '@zippy/core/intake';
import { TestServer } from '../e2e/support/server';
import { openBrowser } from './browser';
import { figure, median } from './figure';
import { TAKE } from './longTasks';
import { longestTask } from './tasks';

const PARTS = 2000;
const TRIANGLES = 5_000_000;
const ACROSS = 50;

/** Knots on a grid, each a mesh of its own. */
function knots(): TriangleMesh[] {
  const steps = Math.round(Math.sqrt(TRIANGLES / PARTS / 2));
  return Array.from({ length: PARTS }, (_, k) => {
    const geometry = new TorusKnotGeometry(3, 1, steps * 2, Math.round(steps / 2) * 2 - (k % 2));
    geometry.translate((k % ACROSS) * 10 - 250, Math.floor(k / ACROSS) * 10, (k % 7) * 4);
    return {
      positions: geometry.getAttribute('position').array as Float32Array,
      normals: geometry.getAttribute('normal').array as Float32Array,
      indices: new Uint32Array(geometry.getIndex()!.array),
    };
  });
}

/** A page that draws the same file with three alone, turning, and counts its frames. */
const BARE = `
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
globalThis.drawBare = async (url, width, height, count) => {
  const canvas = document.createElement('canvas');
  document.body.append(canvas);
  const renderer = new THREE.WebGLRenderer({ canvas, antialias: false });
  renderer.setSize(width, height, false);
  const scene = new THREE.Scene();
  const { scene: model } = await new GLTFLoader().loadAsync(url);
  const material = new THREE.MeshPhongMaterial({ color: 0xaaaaaa, side: THREE.DoubleSide });
  model.traverse((each) => { if (each.isMesh) each.material = material; });
  const light = new THREE.DirectionalLight(0xffffff, 2);
  light.position.set(-1, 1, 1);
  scene.add(model, light, new THREE.HemisphereLight(0xffffff, 0x777777, 1));
  const box = new THREE.Box3().setFromObject(model);
  const size = box.getSize(new THREE.Vector3()).length();
  const camera = new THREE.PerspectiveCamera(30, width / height, size / 100, size * 10);
  const pixel = new Uint8Array(4);
  const times = [];
  for (let k = 0; k <= count; k++) {
    const start = performance.now();
    model.rotation.y = k * 0.05;
    camera.position.set(-0.6, 0.45, 1).normalize().multiplyScalar(size / 2 / Math.sin(0.26)).add(box.getCenter(new THREE.Vector3()));
    camera.lookAt(box.getCenter(new THREE.Vector3()));
    renderer.render(scene, camera);
    renderer.getContext().readPixels(0, 0, 1, 1, 6408, 5121, pixel);
    if (k > 0) times.push(performance.now() - start);
    await new Promise((resolve) => requestAnimationFrame(resolve));
  }
  return times;
};`;

async function watch(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const picks: number[] = [];
    (globalThis as unknown as { picks: typeof picks }).picks = picks;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as PerformanceEventTiming[])
        if (entry.name === 'pointerup') picks.push(entry.processingEnd - entry.processingStart);
    }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
  });
}

/** Milliseconds that each click since the last call took from pointer to selection. */
const picked = (page: Page): Promise<number[]> =>
  page.evaluate(() => (globalThis as unknown as { picks: number[] }).picks.splice(0));

export default async function assembly(): Promise<void> {
  const server = new TestServer();
  await server.start();
  const browser = await openBrowser();
  try {
    const file = join(server.folder, 'assembly.glb');
    writeFileSync(file, writeMeshesGlb(knots()));
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await watch(page);
    await page.goto(server.address);
    await page.waitForTimeout(3000);
    await longestTask('assembly.longestTaskImport', browser, page, async () => {
      const start = performance.now();
      await page.locator('input[type=file]').first().setInputFiles(file);
      await page.locator(TAKE).click({ timeout: 300_000 });
      await page.waitForSelector('canvas[data-models]', { timeout: 300_000 });
      figure('assembly.importSeconds', (performance.now() - start) / 1000);
      // Trees for picking come after the meshes.
      await page.waitForTimeout(20_000);
    });
    const canvas = page.locator('canvas').first();
    const box = (await canvas.boundingBox())!;
    await picked(page);
    for (let k = 0; k < 12; k++) {
      await page.mouse.click(box.x + box.width * (0.3 + 0.035 * k), box.y + box.height * (0.4 + 0.02 * (k % 5)));
      await page.waitForTimeout(1500);
    }
    figure('assembly.pickMilliseconds', median(await picked(page)), { most: 10 });
    await longestTask('assembly.longestTaskIsolate', browser, page, async () => {
      await page.keyboard.press('i');
      await page.waitForTimeout(2000);
      await page.keyboard.press('i');
      await page.waitForTimeout(2000);
    });
    // The model turns while the film plays, and every frame is drawn.
    await page.getByRole('treeitem').first().click();
    await page.keyboard.press('6');
    await page.locator('zr-motion-desk').getByRole('button', { name: 'Turntable', exact: true }).click();
    await page.waitForTimeout(2000);
    const drawn = async () => Number(await canvas.getAttribute('data-drawn'));
    await page.keyboard.press('Space');
    await page.waitForTimeout(2000);
    const [from, began] = [await drawn(), performance.now()];
    await page.waitForTimeout(20_000);
    const own = (performance.now() - began) / ((await drawn()) - from);
    await page.keyboard.press('Space');
    const project = new URL(page.url()).pathname.split('/').at(-1)!;
    const code = await build({ stdin: { contents: BARE, resolveDir: import.meta.dirname }, bundle: true, write: false, format: 'iife' }); // prettier-ignore
    await page.goto('about:blank');
    const bare = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await bare.goto(server.address);
    const answer = await fetch(`${server.address}/api/projects/${project}`);
    const { document } = (await answer.json()) as { document: ProjectDocument };
    const { hash } = Object.values(document.assets).find(({ kind }) => kind === 'model')!;
    await bare.evaluate(code.outputFiles[0]!.text);
    const times = await bare.evaluate(
      ([url, width, height]) =>
        (globalThis as unknown as { drawBare: (...given: unknown[]) => Promise<number[]> }).drawBare(
          url,
          width,
          height,
          8,
        ),
      [`/api/blobs/${hash}`, Math.round(box.width), Math.round(box.height)] as const,
    );
    figure('assembly.frameMilliseconds', own);
    figure('assembly.frameOverBare', own / median(times), { most: 1.2 });
  } finally {
    await browser.close();
    await server.close();
  }
}
