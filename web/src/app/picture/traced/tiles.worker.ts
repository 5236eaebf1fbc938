/// <reference lib="webworker" />
import { renderTiles, type LoadedFrame } from '@zippy/core/trace';
import { startKernel } from '@zippy/kernel/host';

/** Renders tiles of the frame in shared memory whenever the tracer worker asks for it. */
addEventListener(
  'message',
  async ({
    data,
  }: MessageEvent<{ module: WebAssembly.Module; memory: WebAssembly.Memory; index: number; port: MessagePort }>) => {
    const kernel = await startKernel(data.module, data.memory, data.index);
    data.port.onmessage = ({ data: frame }: MessageEvent<LoadedFrame>) =>
      data.port.postMessage(renderTiles(kernel, data.memory, frame) === 'finished');
  },
);
