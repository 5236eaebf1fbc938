/// <reference lib="webworker" />
import { blobUrl } from '../../api/urls';
import { Darkroom, filmFrame } from '@zippy/core/develop';
import { tracedFile, type Finish, type PictureFile } from '@zippy/core/document';
import { readPicture } from '@zippy/core/intake';
import { SAMPLE_ASPECT, sampleLook, sampleMeshes, sampleScene, type SampleGround } from '@zippy/core/shelf';
import { defaultRenderSettings, renderTiles, resetTiles, SceneMemory } from '@zippy/core/trace';
import { createKernelMemory, startKernel, type KernelExports } from '@zippy/kernel/host';
import { expose } from 'comlink';

/** What is drawn, and the files of the pictures that it wears by asset id. */
export interface FinishWish {
  finish: Finish;
  ground: SampleGround;
  width: number;
  pictures: Record<string, PictureFile>;
}

const SAMPLES = 16;

/** Traces the sample body in one finish after another. */
class FinishDrawer {
  private pictures: FinishWish['pictures'] = {};
  private readonly scene: SceneMemory;

  private constructor(
    private readonly kernel: KernelExports,
    private readonly memory: WebAssembly.Memory,
    private readonly darkroom: Darkroom,
  ) {
    const meshes = sampleMeshes();
    this.scene = new SceneMemory(kernel, memory, {
      mesh: async (_, index) => meshes[index]!,
      sky: () => Promise.reject(new Error('the sample scene has no picture around it')),
      picture: async (asset) => {
        const known = this.pictures[asset];
        if (!known) throw new Error('A picture of the finish is gone.');
        const response = await fetch(blobUrl(tracedFile(known)));
        if (!response.ok) throw new Error(`${known.name} cannot be fetched.`);
        return readPicture(new Uint8Array(await response.arrayBuffer()), known.name);
      },
      contentOf: (asset) => this.pictures[asset]?.hash ?? asset,
    });
  }

  static async open(module: WebAssembly.Module): Promise<FinishDrawer> {
    const memory = createKernelMemory(false);
    return new FinishDrawer(await startKernel(module, memory, 0), memory, await Darkroom.open(module, false));
  }

  async draw({ finish, ground, width, pictures }: FinishWish): Promise<string> {
    this.pictures = pictures;
    const height = Math.round(width / SAMPLE_ASPECT);
    const settings = { ...defaultRenderSettings(), width, height, samples: SAMPLES, depth: 10, speckLimit: 6 };
    const frame = await this.scene.load(sampleScene(finish, ground), settings);
    this.scene.setPass(frame, SAMPLES);
    resetTiles(this.memory);
    renderTiles(this.kernel, this.memory, frame, false);
    const film = this.scene.readFilm(frame);
    const pixels = this.darkroom.develop(filmFrame({ ...frame, film }), sampleLook());
    const canvas = new OffscreenCanvas(width, height);
    canvas
      .getContext('2d')!
      .putImageData(new ImageData(new Uint8ClampedArray(pixels.buffer as ArrayBuffer), width, height), 0, 0);
    return URL.createObjectURL(await canvas.convertToBlob({ type: 'image/png' }));
  }
}

let drawer: FinishDrawer | null = null;
const thread = {
  async begin(module: WebAssembly.Module): Promise<void> {
    drawer = await FinishDrawer.open(module);
  },
  draw: (wish: FinishWish): Promise<string> => drawer!.draw(wish),
};
export type FinishThread = typeof thread;
expose(thread);
