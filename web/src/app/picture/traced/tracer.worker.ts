/// <reference lib="webworker" />
import { blobUrl } from '../../api/urls';
import { Darkroom, filmFrame, readCube, type LookupTable } from '@zippy/core/develop';
import { tracedFile, type PictureFile } from '@zippy/core/document';
import type { TriangleMesh } from '@zippy/core/geometry';
import { readMeshesGlb, readPicture, readSurroundings } from '@zippy/core/intake';
import {
  defaultRenderSettings,
  filmNoise,
  refiningPasses,
  renderTiles,
  resetTiles,
  SceneMemory,
  stopTiles,
  type LoadedFrame,
} from '@zippy/core/trace';
import { createKernelMemory, startKernel, type KernelExports } from '@zippy/kernel/host';
import { expose, transfer, wrap, type Remote } from 'comlink';
import type { TracedAnswer, TracedRequest, TracedStart } from './messages';
import type { Tiles } from './tiles.worker';

/** The first answer is this many times smaller, so that it is there at once. */
const COARSE = 8;
/** Milliseconds a worker that is alone renders before it listens. */
const BREATH = 30;

type Answered = (answer: TracedAnswer) => void;

/** Refines one picture after another: brings frames into memory, has tile workers add samples, develops what is there. */
class Refiner {
  private wanted: TracedRequest | null = null;
  private running = false;
  private pictures: TracedRequest['pictures'] = {};
  private lookup: { hash: string; table: LookupTable | null } | null = null;
  private readonly models = new Map<string, Promise<TriangleMesh[]>>();

  private constructor(
    private readonly kernel: KernelExports,
    private readonly memory: WebAssembly.Memory,
    private readonly tiles: Remote<Tiles>[],
    private readonly scene: SceneMemory,
    private readonly darkroom: Darkroom,
    private readonly answered: Answered,
  ) {}

  static async begin(start: TracedStart, answered: Answered): Promise<Refiner> {
    const memory = start.memory ?? createKernelMemory(false);
    const kernel = await startKernel(start.module, memory, 0);
    let refiner: Refiner | null = null;
    const scene = new SceneMemory(kernel, memory, {
      mesh: (asset, index) => refiner!.mesh(asset, index),
      sky: async (picture) => {
        const { hash, name } = refiner!.fileOf(picture);
        return readSurroundings(await fetchBytes(hash), name);
      },
      picture: async (asset) => {
        const file = refiner!.fileOf(asset);
        return readPicture(await fetchBytes(tracedFile(file)), file.name);
      },
      contentOf: (asset) => refiner!.pictures[asset]?.hash ?? asset,
    });
    const darkroom = await Darkroom.open(start.module, start.memory !== null);
    const tiles = start.tiles.map((port) => wrap<Tiles>(port));
    refiner = new Refiner(kernel, memory, tiles, scene, darkroom, answered);
    return refiner;
  }

  /** Null stops. */
  show(request: TracedRequest | null): void {
    this.wanted = request;
    stopTiles(this.memory);
    if (request && !this.running) void this.run();
  }

  private async run(): Promise<void> {
    this.running = true;
    while (this.wanted) {
      const request = this.wanted;
      this.wanted = null;
      try {
        await this.refine(request);
      } catch (error) {
        const failure = error instanceof Error ? error.message : String(error);
        this.answered({ id: request.id, width: 0, height: 0, failure });
      }
    }
    this.running = false;
  }

  private async refine(request: TracedRequest): Promise<void> {
    this.pictures = request.pictures;
    await this.readLookup(request.look.lookup);
    const { width, height, region } = request;
    const small = { width: Math.ceil(width / COARSE), height: Math.ceil(height / COARSE) };
    const settings = { ...defaultRenderSettings(), depth: 8, speckLimit: 8 };
    const coarse = await this.scene.load(request.state, { ...settings, ...small, region, samples: 1 });
    if (this.wanted || !(await this.pass(coarse, 1))) return;
    this.answer(request, coarse, 1);
    const frame = await this.scene.load(request.state, {
      ...settings,
      width,
      height,
      region,
      samples: request.samples,
    });
    let first = 0;
    for (const end of refiningPasses(request.samples)) {
      if (this.wanted || !(await this.pass(frame, end - first))) return;
      this.answer(request, frame, end);
      first = end;
    }
  }

  /** False where it was stopped before its end. */
  private async pass(frame: LoadedFrame, samples: number): Promise<boolean> {
    this.scene.setPass(frame, samples);
    resetTiles(this.memory);
    if (this.tiles.length === 0) return this.passAlone(frame);
    const finished = await Promise.all(this.tiles.map((tiles) => tiles.render(frame)));
    return finished.every(Boolean);
  }

  /** Renders here, with a breath now and then in which the next wish is heard. */
  private async passAlone(frame: LoadedFrame): Promise<boolean> {
    for (;;) {
      const end = renderTiles(this.kernel, this.memory, frame, false, BREATH);
      if (end !== 'paused') return end === 'finished';
      await new Promise((resolve) => setTimeout(resolve));
    }
  }

  private answer({ id, look }: TracedRequest, frame: LoadedFrame, samples: number): void {
    const film = this.scene.readFilm(frame);
    const { width, height } = frame;
    const lookup = this.lookup?.hash === look.lookup ? this.lookup!.table : null;
    const pixels = new Uint8ClampedArray(this.darkroom.develop(filmFrame({ ...frame, film }), look, { lookup }).buffer);
    const answer: TracedAnswer = {
      id,
      width,
      height,
      pixels,
      samples,
      noise: filmNoise(film, frame.floats),
    };
    this.answered(transfer(answer, [pixels.buffer]));
  }

  /** Brings the look's look-up table, once; a look whose table is gone goes without. */
  private async readLookup(hash: string | null): Promise<void> {
    if (hash === null || this.lookup?.hash === hash) return;
    const response = await fetch(blobUrl(hash));
    this.lookup = { hash, table: response.ok ? readCube(await response.text(), 'The look-up table') : null };
  }

  private fileOf(asset: string): PictureFile {
    const file = this.pictures[asset];
    if (!file) throw new Error('A picture of the scene is not in the project any more. Choose another one.');
    return file;
  }

  private async mesh(asset: string, index: number): Promise<TriangleMesh> {
    let model = this.models.get(asset);
    if (!model) {
      model = fetchBytes(asset).then(readMeshesGlb);
      this.models.set(asset, model);
    }
    return (await model)[index]!;
  }
}

async function fetchBytes(hash: string): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(blobUrl(hash));
  if (!response.ok) throw new Error(`A file of the scene did not come from the server (${response.status}).`);
  return new Uint8Array(await response.arrayBuffer());
}

let refiner: Promise<Refiner> | null = null;

const thread = {
  async begin(start: TracedStart, answered: Answered): Promise<void> {
    refiner = Refiner.begin(start, answered);
    await refiner;
  },
  /** Refines a picture instead of the one before; null only stops that. */
  async show(request: TracedRequest | null): Promise<void> {
    (await refiner)?.show(request);
  },
};

export type TracerThread = typeof thread;

expose(thread);
