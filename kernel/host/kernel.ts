import { SCRATCH_SIZE } from '../assembly/layout';

/** What the compiled module offers; see kernel/assembly/index.ts. Addresses are bytes in its memory. */
export interface KernelExports {
  setScratch(at: number, worker: number): void;
  buildMeshTree(positions: number, indices: number, triangles: number, tree: number, scratch: number): number;
  buildInstanceTree(boxes: number, count: number, tree: number, scratch: number): number;
  treeScratchSize(count: number): number;
  treeBound(count: number): number;
  fillEnergyTables(at: number): void;
  prepareSky(sky: number): void;
  renderTile(scene: number, x0: number, y0: number, x1: number, y1: number, mask: number): void;
  denoise(planes: number, width: number, height: number, known: boolean): void;
  smoothAlbedo(planes: number, width: number, height: number): void;
  traceRays(scene: number, rays: number, hits: number, count: number, any: boolean): void;
  probeEvaluate(energy: number, finish: number, io: number, inside: boolean): void;
  probeSample(
    energy: number,
    finish: number,
    io: number,
    out: number,
    count: number,
    seed: number,
    inside: boolean,
  ): void;
}

export const PAGE = 65536;
const STATIC_END = 2 * PAGE;
const MOST_WORKERS = 64;

/** First free byte after the module's constants, the control words and every worker's scratch. */
export const FREE_MEMORY = STATIC_END + PAGE + MOST_WORKERS * SCRATCH_SIZE;

/** Control words shared by workers, as indices into an Int32Array over the memory: the next tile, and whether to stop. */
export const CONTROL_NEXT_TILE = STATIC_END / 4;
export const CONTROL_STOP = STATIC_END / 4 + 1;

/**
 * A memory that all workers of one tracer share; it grows up to 4 GiB. Where sharing is not allowed, one worker has its own, for
 * kernel.single.wasm.
 */
export function createKernelMemory(shared = true): WebAssembly.Memory {
  return new WebAssembly.Memory({ initial: 128, maximum: 65536, shared });
}

/** Address of a worker's scratch. */
export const scratchOf = (worker: number): number => STATIC_END + PAGE + worker * SCRATCH_SIZE;

/** Starts the module on a shared memory. `worker` numbers the instances on it from 0: each has its own scratch. */
export async function startKernel(
  module: WebAssembly.Module,
  memory: WebAssembly.Memory,
  worker: number,
): Promise<KernelExports> {
  if (worker >= MOST_WORKERS) throw new RangeError(`a tracer has at most ${MOST_WORKERS} workers`);
  const abort = () => {
    throw new Error('the kernel stopped on a broken invariant');
  };
  const instance = await WebAssembly.instantiate(module, { env: { memory, abort } });
  const kernel = instance.exports as unknown as KernelExports;
  kernel.setScratch(scratchOf(worker), worker);
  return kernel;
}
