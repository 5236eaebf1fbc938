import { CONTROL_NEXT_TILE, CONTROL_STOP, type KernelExports } from '@zippy/kernel/host';
import type { LoadedFrame } from './loadedFrame';

const TILE = 32;

/** Clears the shared control words before workers start on a frame. */
export function resetTiles(memory: WebAssembly.Memory): void {
  const control = new Int32Array(memory.buffer);
  Atomics.store(control, CONTROL_NEXT_TILE, 0);
  Atomics.store(control, CONTROL_STOP, 0);
}

/** Tells every worker to leave the frame after its present tile. */
export function stopTiles(memory: WebAssembly.Memory): void {
  Atomics.store(new Int32Array(memory.buffer), CONTROL_STOP, 1);
}

export type TilesEnd = 'finished' | 'stopped' | 'paused';

/**
 * Takes tiles from the shared counter until none are left, it is told to stop, or the time is up: then the same call goes on.
 * @param masked only pixels that the frame's mask marks get samples
 * @param milliseconds after which it pauses, for a worker that has to listen too
 */
export function renderTiles(
  kernel: KernelExports,
  memory: WebAssembly.Memory,
  frame: LoadedFrame,
  masked = false,
  milliseconds = Infinity,
): TilesEnd {
  const control = new Int32Array(memory.buffer);
  const { left, top, right, bottom } = frame.window;
  const across = Math.ceil((right - left) / TILE);
  const count = across * Math.ceil((bottom - top) / TILE);
  const start = performance.now();
  for (;;) {
    if (Atomics.load(control, CONTROL_STOP) !== 0) return 'stopped';
    if (performance.now() - start > milliseconds) return 'paused';
    const tile = Atomics.add(control, CONTROL_NEXT_TILE, 1);
    if (tile >= count) return 'finished';
    const x = left + (tile % across) * TILE;
    const y = top + Math.floor(tile / across) * TILE;
    kernel.renderTile(
      frame.scene,
      x,
      y,
      Math.min(right, x + TILE),
      Math.min(bottom, y + TILE),
      masked ? frame.mask : 0,
    );
  }
}
