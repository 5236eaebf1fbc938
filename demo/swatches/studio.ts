import { Darkroom, filmFrame } from '@zippy/core/develop';
import type { Finish } from '@zippy/core/document';
import { sampleLook, sampleMeshes, sampleScene, type SampleGround } from '@zippy/core/shelf';
import {
  adaptivePasses,
  defaultRenderSettings,
  markNoisy,
  renderTiles,
  resetTiles,
  SceneMemory,
} from '@zippy/core/trace';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { compileKernel } from '../../server/src/workers/compileKernel';

/** Renders the sample body in one finish after another. @returns pixels, four bytes each */
export async function openSampleStudio(width: number, height: number, samples: number) {
  const module = await compileKernel();
  const memory = createKernelMemory();
  const kernel = await startKernel(module, memory, 0);
  const darkroom = await Darkroom.open(module);
  const meshes = sampleMeshes();
  const none = () => Promise.reject(new Error('no finish of the shelf wears pictures'));
  const scene = new SceneMemory(kernel, memory, {
    mesh: async (_, index) => meshes[index]!,
    sky: none,
    picture: none,
  });
  const settings = { ...defaultRenderSettings(), width, height, samples, depth: 16, speckLimit: 8 };

  return async (finish: Partial<Finish>, ground: SampleGround = 'bright'): Promise<Uint8Array> => {
    const frame = await scene.load(sampleScene(finish, ground), settings);
    let first = 0;
    for (const end of adaptivePasses(samples)) {
      scene.setPass(frame, end - first);
      resetTiles(memory);
      renderTiles(kernel, memory, frame, first > 0);
      first = end;
      if (markNoisy(memory, frame, 0.02) === 0) break;
    }
    return darkroom.develop(filmFrame({ ...frame, film: scene.readFilm(frame) }), sampleLook());
  };
}
