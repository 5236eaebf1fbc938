import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { openDocument, shotsInOrder } from '@zippy/core/document';
import { readMeshesGlb, readSurroundings } from '@zippy/core/intake';
import { exposeFrame } from '@zippy/core/motion';
import { LAYERS } from '@zippy/core/document';
import { defaultRenderSettings, renderTiles, resetTiles, SceneMemory } from '@zippy/core/trace';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { describe, expect, it } from 'vitest';

// Tried by breaking the kernel on purpose: a hit that is forgotten while fog is lit fails every shot.

const read = (name: string) => new Uint8Array(readFileSync(new URL(`../made/${name}`, import.meta.url)));
const document = openDocument(JSON.parse(new TextDecoder().decode(read('project.json'))));
const kernelModule = new WebAssembly.Module(
  readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')),
);

describe('the demo in air', () => {
  const shots = shotsInOrder(document).map((shot) => [shot.name, shot] as const);
  it.each(shots)('%s: fog of any density is rendered', async (_, shot) => {
    const memory = createKernelMemory();
    const kernel = await startKernel(kernelModule, memory, 0);
    const meshes = await readMeshesGlb(read('ferrow-r2.meshes.glb'));
    const scene = new SceneMemory(kernel, memory, {
      mesh: async (__, index) => meshes[index]!,
      sky: async (asset) => readSurroundings(read(document.assets[asset]!.sourceName), asset),
      picture: () => Promise.reject(new Error('no finish here wears pictures')),
    });
    const settings = { ...defaultRenderSettings(), width: 48, height: 27, samples: 8, layers: [...LAYERS] };
    const render = async (density: number, frame: number) => {
      document.set.air = { density, color: [0.9, 0.9, 0.9], anisotropy: 0.3, reach: 4000 };
      const loaded = await scene.load(exposeFrame(document, shot, frame, { next: true }), settings);
      resetTiles(memory);
      renderTiles(kernel, memory, loaded);
      const film = scene.readFilm(loaded);
      let light = 0;
      for (let at = 0; at < film.length; at += loaded.floats) {
        for (let k = 0; k < 4; k++) expect(film[at + k]).toBeGreaterThanOrEqual(0);
        light += film[at + 1]! / (film.length / loaded.floats);
      }
      return light;
    };
    for (const frame of [1, Math.ceil(shot.length / 2), shot.length]) {
      const clear = await render(0, frame);
      for (const density of [0.05, 1]) expect(await render(density, frame)).toBeGreaterThan(clear * 0.02);
      for (const density of [20, 1000]) expect(await render(density, frame)).toBeGreaterThanOrEqual(0);
    }
  });
});
