import { createKernelMemory, KernelHeap, startKernel, type KernelExports } from '@zippy/kernel/host';
import { ENERGY_SIZE, FINISH_SIZE } from '@zippy/kernel/layout';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { newFinish, type Finish } from '../../document';
import type { Vector } from '../../geometry';
import { writeFinish } from '../finishes';

const module = await WebAssembly.compile(
  readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')),
);

let tables: Float32Array | null = null;

export interface Scattered {
  /** Scattering function times cosine, red, green, blue. */
  value: [number, number, number];
  density: number;
}

export interface SampledDirection {
  direction: [number, number, number];
  density: number;
  weight: [number, number, number];
  /** False where the sample fell below the surface and is lost. */
  ok: boolean;
}

/** One finish in the kernel, asked on its own: z is the normal, directions point away from the surface. */
export class FinishProbe {
  private constructor(
    private readonly kernel: KernelExports,
    private readonly heap: KernelHeap,
    private readonly energy: number,
    private readonly finish: number,
  ) {}

  static async open(over: Partial<Finish>): Promise<FinishProbe> {
    const memory = createKernelMemory();
    const kernel = await startKernel(module, memory, 0);
    const heap = new KernelHeap(memory);
    const energy = heap.allocate(ENERGY_SIZE);
    const at = heap.allocate(FINISH_SIZE);
    const { f32, u32 } = heap.views();
    writeFinish(f32, u32, at, newFinish(over));
    if (tables) f32.set(tables, energy / 4);
    else {
      kernel.fillEnergyTables(energy);
      tables = f32.slice(energy / 4, (energy + ENERGY_SIZE) / 4);
    }
    return new FinishProbe(kernel, heap, energy, at);
  }

  evaluate(out: Vector, into: Vector, inside = false): Scattered {
    const top = this.heap.top;
    const io = this.heap.allocate(64);
    const { f32 } = this.heap.views();
    f32.set([...out, ...into], io / 4);
    this.kernel.probeEvaluate(this.energy, this.finish, io, inside);
    this.heap.shrinkTo(top);
    const [r, g, b, density] = f32.subarray(io / 4 + 6, io / 4 + 10) as unknown as [number, number, number, number];
    return { value: [r, g, b], density };
  }

  sample(out: Vector, count: number, seed: number, inside = false): SampledDirection[] {
    const top = this.heap.top;
    const io = this.heap.allocate(64);
    const results = this.heap.allocate(count * 32);
    const { f32 } = this.heap.views();
    f32.set(out, io / 4);
    this.kernel.probeSample(this.energy, this.finish, io, results, count, seed, inside);
    this.heap.shrinkTo(top);
    return Array.from({ length: count }, (_, k) => {
      const [x, y, z, density, r, g, b, ok] = f32.subarray(
        results / 4 + k * 8,
        results / 4 + k * 8 + 8,
      ) as unknown as number[];
      return { direction: [x!, y!, z!], density: density!, weight: [r!, g!, b!], ok: ok === 1 };
    });
  }
}
