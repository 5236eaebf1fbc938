/// <reference lib="webworker" />
import { renderTiles, type LoadedFrame } from '@zippy/core/trace';
import { startKernel } from '@zippy/kernel/host';
import { expose } from 'comlink';

/** Renders tiles of the frame in shared memory whenever the tracer's thread asks for it. */
const thread = {
  /** @param index of this worker among those of the memory @param port by which the tracer's thread asks */
  async begin(module: WebAssembly.Module, memory: WebAssembly.Memory, index: number, port: MessagePort): Promise<void> {
    const kernel = await startKernel(module, memory, index);
    expose({ render: (frame: LoadedFrame) => renderTiles(kernel, memory, frame) === 'finished' } satisfies Tiles, port);
  },
};

/** What the tracer's thread asks: tiles until none is left; false where it was stopped before. */
export interface Tiles {
  render(frame: LoadedFrame): boolean;
}

export type TilesThread = typeof thread;

expose(thread);
