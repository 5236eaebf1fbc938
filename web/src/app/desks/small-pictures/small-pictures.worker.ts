/// <reference lib="webworker" />
import { blobUrl } from '../../api/urls';
import { Darkroom, filmFrame } from '@zippy/core/develop';
import { tracedFile, type Look, type PictureFile } from '@zippy/core/document';
import type { TriangleMesh } from '@zippy/core/geometry';
import { readMeshesGlb, readPicture, readSurroundings } from '@zippy/core/intake';
import type { FrameState } from '@zippy/core/motion';
import { sampleMeshes } from '@zippy/core/shelf';
import { defaultRenderSettings, renderTiles, resetTiles, SceneMemory } from '@zippy/core/trace';
import { createKernelMemory, startKernel, type KernelExports } from '@zippy/kernel/host';
import { expose } from 'comlink';

/** A frame that is drawn small. Meshes of the asset `sample` are those of the sample body. */
export interface SmallPicture {
  state: FrameState;
  look: Look;
  width: number;
  height: number;
  samples: number;
  depth: number;
  /** Files of the pictures in it by asset id. */
  pictures: Readonly<Record<string, PictureFile>>;
}

/** Traces one small picture after another. */
class Drawer {
  private pictures: SmallPicture['pictures'] = {};
  private readonly models = new Map<string, Promise<readonly TriangleMesh[]>>([
    ['sample', Promise.resolve(sampleMeshes())],
  ]);
  private readonly scene: SceneMemory;

  private constructor(
    private readonly kernel: KernelExports,
    private readonly memory: WebAssembly.Memory,
    private readonly darkroom: Darkroom,
  ) {
    this.scene = new SceneMemory(kernel, memory, {
      mesh: async (asset, index) => (await this.model(asset))[index]!,
      sky: async (asset) => readSurroundings(await fetchBytes(this.fileOf(asset).hash), this.fileOf(asset).name),
      picture: async (asset) => readPicture(await fetchBytes(tracedFile(this.fileOf(asset))), this.fileOf(asset).name),
      contentOf: (asset) => this.pictures[asset]?.hash ?? asset,
    });
  }

  static async open(module: WebAssembly.Module): Promise<Drawer> {
    const memory = createKernelMemory(false);
    return new Drawer(await startKernel(module, memory, 0), memory, await Darkroom.open(module, false));
  }

  /** @returns address of a PNG */
  async draw({ state, look, width, height, samples, depth, pictures }: SmallPicture): Promise<string> {
    this.pictures = pictures;
    const settings = { ...defaultRenderSettings(), width, height, samples, depth, speckLimit: 6 };
    const frame = await this.scene.load(state, settings);
    this.scene.setPass(frame, samples);
    resetTiles(this.memory);
    renderTiles(this.kernel, this.memory, frame, false);
    const film = this.scene.readFilm(frame);
    const pixels = this.darkroom.develop(filmFrame({ ...frame, film }), { ...look, lookup: null, denoise: 1 });
    const canvas = new OffscreenCanvas(width, height);
    const image = new ImageData(new Uint8ClampedArray(pixels.buffer as ArrayBuffer), width, height);
    canvas.getContext('2d')!.putImageData(image, 0, 0);
    return URL.createObjectURL(await canvas.convertToBlob({ type: 'image/png' }));
  }

  private model(asset: string): Promise<readonly TriangleMesh[]> {
    let model = this.models.get(asset);
    if (!model) {
      model = fetchBytes(asset).then(readMeshesGlb);
      this.models.set(asset, model);
      // What could not be fetched once is tried again.
      model.catch(() => this.models.delete(asset));
    }
    return model;
  }

  private fileOf(asset: string): PictureFile {
    const file = this.pictures[asset];
    if (!file) throw new Error('A picture of the scene is gone.');
    return file;
  }
}

async function fetchBytes(hash: string): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(blobUrl(hash));
  if (!response.ok) throw new Error(`A file of the scene did not come from the server (${response.status}).`);
  return new Uint8Array(await response.arrayBuffer());
}

let drawer: Drawer | null = null;
const thread = {
  async begin(module: WebAssembly.Module): Promise<void> {
    drawer = await Drawer.open(module);
  },
  draw: (wish: SmallPicture): Promise<string> => drawer!.draw(wish),
};
export type SmallPictureThread = typeof thread;
expose(thread);
