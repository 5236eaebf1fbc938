import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { newLight } from '../document';
import { firstPass, frameProgress, keepFrame, nextPass, resumeFrame, type Interrupted, type Pass } from './nextPass';
import { SceneMemory } from './scene';
import { defaultRenderSettings, type RenderSettings } from './settings';
import { box, frameState } from './testing/renderState';
import { renderTiles, resetTiles, stopTiles, takenTiles } from './tiles';

const module = new WebAssembly.Module(
  readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')),
);
const mesh = box(20, 14, 9);
const state = frameState({
  parts: [{ mesh, finish: { baseColor: [0.7, 0.3, 0.2] } }],
  lights: [newLight('bulb', { id: 'b', position: [40, 50, 60], radius: 8, power: 900 })],
  set: (set) => (set.surroundings.color = [0.2, 0.2, 0.25]),
});
const settings = (over: Partial<RenderSettings>) => ({ ...defaultRenderSettings(), width: 96, height: 64, samples: 60, depth: 4, ...over }); // prettier-ignore

/** A frame in a memory of its own, as another process would have it. */
async function open(asked: RenderSettings) {
  const memory = createKernelMemory();
  const kernel = await startKernel(module, memory, 0);
  const scene = new SceneMemory(kernel, memory, {
    mesh: async () => mesh,
    sky: async () => Promise.reject(new Error('none')),
    picture: async () => Promise.reject(new Error('none')),
  });
  const frame = await scene.load(state, asked);
  return { memory, kernel, scene, frame };
}

/** Renders until so many tiles of a pass are done, from where it was left. */
async function render(asked: RenderSettings, left: Interrupted | null, until = { pass: Infinity, tiles: 0 }) {
  const { memory, kernel, scene, frame } = await open(asked);
  if (left) expect(resumeFrame(memory, frame, left)).toBe(true);
  const passes: Pass[] = [];
  let pass: Pass | null = left?.pass ?? firstPass(asked);
  let from = left?.tiles ?? 0;
  while (pass) {
    passes.push(pass);
    scene.setPass(frame, pass.samples);
    resetTiles(memory, from);
    if (pass.number === until.pass) {
      // A worker that looks at the time after every tile stands for one that is told to stop.
      while (takenTiles(memory, frame).taken < until.tiles) renderTiles(kernel, memory, frame, pass.masked, 0.01);
      stopTiles(memory);
      expect(renderTiles(kernel, memory, frame, pass.masked)).toBe('stopped');
      return { film: null, passes, left: keepFrame(memory, frame, { pass, tiles: takenTiles(memory, frame).taken, elapsed: 1 }) }; // prettier-ignore
    }
    expect(renderTiles(kernel, memory, frame, pass.masked)).toBe('finished');
    pass = nextPass(memory, frame, asked, pass, 1);
    from = 0;
  }
  return { film: scene.readFilm(frame), passes, left: null };
}

describe('a frame that is left in the middle and gone on with elsewhere', () => {
  it.each([
    ['samples where they are needed', {}],
    ['a noise target', { noiseTarget: 0.01 }],
    ['a region', { region: { left: 0.2, top: 0.1, right: 0.9, bottom: 0.8 } }],
  ] as [string, Partial<RenderSettings>][])('is the same picture, bit for bit: %s', async (_, over) => {
    const asked = settings(over);
    const whole = await render(asked, null);
    expect(whole.passes.length).toBeGreaterThan(1);
    for (const until of [
      { pass: 0, tiles: 3 },
      { pass: 1, tiles: 0 },
      { pass: whole.passes.length - 1, tiles: 2 },
    ]) {
      const { left } = await render(asked, null, until);
      expect(left!.tiles).toBeGreaterThanOrEqual(until.tiles);
      const again = await render(asked, left);
      expect(again.film).toEqual(whole.film);
      // No pass before is done twice.
      expect(again.passes).toHaveLength(whole.passes.length - until.pass);
    }
  });

  it('is not taken for a frame of another size', async () => {
    const { left } = await render(settings({}), null, { pass: 0, tiles: 1 });
    const { memory, frame } = await open(settings({ width: 80 }));
    expect(resumeFrame(memory, frame, left!)).toBe(false);
  });
});

describe('how far a frame is', () => {
  it('never goes back, and ends at the whole', async () => {
    for (const over of [{}, { noiseTarget: 1e-9 }]) {
      const asked = settings(over);
      const { passes } = await render(asked, null);
      const told = passes.flatMap((pass) => [0, 0.5, 1].map((part) => frameProgress(asked, pass, part, 0)));
      expect([...told].sort((a, b) => a - b)).toEqual(told);
      expect(told[0]).toBe(0);
      expect(told.at(-1)).toBeGreaterThan(0.95);
    }
  });

  it('goes by the clock where time is what ends it, and counts what was spent before', () => {
    const asked = settings({ secondsPerFrame: 10 });
    const pass = { ...firstPass(asked), spent: 4000 };
    expect(frameProgress(asked, pass, 0.9, 1000)).toBe(0.5);
    expect(frameProgress(asked, pass, 0.9, 60_000)).toBe(1);
  });
});
