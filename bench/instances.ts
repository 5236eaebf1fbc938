// The instance level: milliseconds for 500 parts of which one moved, without a mesh being built again.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { composeTransform } from '@zippy/core/geometry';
import { newDocument } from '@zippy/core/document';
import { evaluate, SEEN_BY_ALL } from '@zippy/core/motion';
import { plainSurroundings } from '@zippy/core/optics';
import { defaultRenderSettings, SceneMemory } from '@zippy/core/trace';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { figure, median } from './figure';

const PARTS = 500;

export default async function instances(): Promise<void> {
  const module = await WebAssembly.compile(
    readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')),
  );
  const memory = createKernelMemory();
  const kernel = await startKernel(module, memory, 0);
  let read = 0;
  const mesh = {
    positions: new Float32Array([0, 0, 0, 5, 0, 0, 0, 5, 0]),
    normals: new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 1]),
    indices: new Uint32Array([0, 1, 2]),
  };
  const scene = new SceneMemory(kernel, memory, {
    mesh: async () => (read++, mesh),
    sky: async () => plainSurroundings([1, 1, 1]),
    picture: () => Promise.reject(new Error('no finish here wears pictures')),
  });
  const document = newDocument('Parts');
  const rest = evaluate(document, null, 1);
  const state = (frame: number) => ({
    ...rest,
    parts: Array.from({ length: PARTS }, (_, k) => ({
      node: `n${k}`,
      instance: `n${k}`,
      name: `Part ${k}`,
      mesh: { asset: 'bench', index: k % 40 },
      transform: composeTransform([(k % 25) * 9, Math.floor(k / 25) * 9, k === 7 ? frame : 0], [0, 0, 0, 1], [1, 1, 1]),
      finish: null,
      glow: 1,
      seen: SEEN_BY_ALL,
    })),
  });
  const settings = { ...defaultRenderSettings(), width: 16, height: 16, samples: 1 };
  await scene.load(state(0), settings);
  const built = read;
  const times: number[] = [];
  for (let frame = 1; frame <= 40; frame++) {
    const next = state(frame);
    const start = performance.now();
    await scene.load(next, settings);
    times.push(performance.now() - start);
  }
  if (read !== built) throw new Error('a mesh was read again although only a part moved');
  figure('instances.move', median(times), { most: 5 });
}
