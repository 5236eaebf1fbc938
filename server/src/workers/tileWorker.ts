// Renders tiles of the frame in shared memory until none are left.
import { parentPort, workerData } from 'node:worker_threads';
import { renderTiles, type LoadedFrame } from '@zippy/core/trace';
import { startKernel } from '@zippy/kernel/host';

const { module, memory, index } = workerData as {
  module: WebAssembly.Module;
  memory: WebAssembly.Memory;
  index: number;
};
const kernel = await startKernel(module, memory, index);

parentPort!.on('message', ({ frame, masked }: { frame: LoadedFrame; masked: boolean }) => {
  const start = performance.now();
  const finished = renderTiles(kernel, memory, frame, masked) === 'finished';
  parentPort!.postMessage({ finished, milliseconds: performance.now() - start });
});
parentPort!.postMessage({ ready: true });
