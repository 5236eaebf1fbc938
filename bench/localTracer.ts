// A tracer in this very thread, whose memory a benchmark can reach into.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { readMeshesGlb, readSurroundings } from '@zippy/core/intake';
import type { TriangleMesh } from '@zippy/core/geometry';
import type { FrameState } from '@zippy/core/motion';
import {
  averageFilm,
  renderTiles,
  resetTiles,
  SceneMemory,
  type LoadedFrame,
  type RenderSettings,
} from '@zippy/core/trace';
import { plainSurroundings } from '@zippy/core/optics';
import { createKernelMemory, startKernel, type KernelExports } from '@zippy/kernel/host';
import { made } from './demoScene';

export const kernelModule = await WebAssembly.compile(
  readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')),
);

export class LocalTracer {
  private constructor(
    readonly kernel: KernelExports,
    readonly memory: WebAssembly.Memory,
    readonly scene: SceneMemory,
  ) {}

  /** @param meshes of a test scene; without them those of the demo @param build of the kernel */
  static async open(meshes?: TriangleMesh[], build = kernelModule): Promise<LocalTracer> {
    const memory = createKernelMemory();
    const kernel = await startKernel(build, memory, 0);
    const demo = meshes ?? (await readMeshesGlb(new Uint8Array(readFileSync(made('ferrow-r2.meshes.glb')))));
    const scene = new SceneMemory(kernel, memory, {
      mesh: async (_, index) => demo[index]!,
      sky: async () =>
        meshes
          ? plainSurroundings([0, 0, 0])
          : readSurroundings(new Uint8Array(readFileSync(made('soft-three-sides.exr'))), 'sky'),
      picture: () => Promise.reject(new Error('no finish here wears pictures')),
    });
    return new LocalTracer(kernel, memory, scene);
  }

  load(state: FrameState, settings: RenderSettings): Promise<LoadedFrame> {
    return this.scene.load(state, settings);
  }

  words(): Uint32Array {
    return new Uint32Array(this.memory.buffer);
  }

  /** Adds samples to the pixels of a loaded frame, up to those of its settings. */
  pass(frame: LoadedFrame, samples: number, masked = false): void {
    this.scene.setPass(frame, samples);
    resetTiles(this.memory);
    renderTiles(this.kernel, this.memory, frame, masked);
  }

  film(frame: LoadedFrame): Float32Array<ArrayBuffer> {
    const { width, height, floats, film } = frame;
    const pixels = new Float32Array(new Float32Array(this.memory.buffer, film, width * height * floats));
    averageFilm(pixels, frame);
    return pixels;
  }
}
