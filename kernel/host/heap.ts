import { FREE_MEMORY, PAGE } from './kernel';

/** Addresses are 32 bits, and a build needs room beside what stays. */
const MOST_BYTES = 0xffff0000;

/** Hands out kernel memory from the bottom up. What is allocated last goes first: `shrinkTo` gives it back. */
export class KernelHeap {
  private end = FREE_MEMORY;

  constructor(readonly memory: WebAssembly.Memory) {}

  /** End of what is in use. */
  get top(): number {
    return this.end;
  }

  /** @throws RangeError when the scene does not fit into 4 GiB */
  allocate(bytes: number): number {
    const at = Math.ceil(this.end / 64) * 64;
    const end = at + bytes;
    if (end > MOST_BYTES)
      throw new RangeError('The scene needs more than the 4 GiB the tracer has. Hide or reduce some parts.');
    const missing = end - this.memory.buffer.byteLength;
    if (missing > 0) this.memory.grow(Math.ceil(Math.max(missing, Math.min(64 * 1048576, MOST_BYTES - end)) / PAGE));
    this.end = end;
    return at;
  }

  copy(data: Float32Array | Uint32Array): number {
    const at = this.allocate(Math.max(16, data.byteLength));
    new Uint8Array(this.memory.buffer, at, data.byteLength).set(
      new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
    );
    return at;
  }

  shrinkTo(end: number): void {
    this.end = end;
  }

  /** Views of the whole memory, good until the next allocation. */
  views(): { u32: Uint32Array; i32: Int32Array; f32: Float32Array } {
    const { buffer } = this.memory;
    return { u32: new Uint32Array(buffer), i32: new Int32Array(buffer), f32: new Float32Array(buffer) };
  }
}
