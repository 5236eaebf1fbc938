import { CONTROL_NEXT_TILE, CONTROL_STOP, type KernelExports } from '@zippy/kernel/host';
import type { LoadedFrame } from './loadedFrame';

const TILE = 32;

const tilesAcross = ({ window: { left, right } }: LoadedFrame): number => Math.ceil((right - left) / TILE);
const tileCount = (frame: LoadedFrame): number =>
  tilesAcross(frame) * Math.ceil((frame.window.bottom - frame.window.top) / TILE);

/** Clears the shared control words before workers start on a frame. @param from the first tile that they take */
export function resetTiles(memory: WebAssembly.Memory, from = 0): void {
  const control = new Int32Array(memory.buffer);
  Atomics.store(control, CONTROL_NEXT_TILE, from);
  Atomics.store(control, CONTROL_STOP, 0);
}

/** Tells every worker to leave the frame after its present tile. */
export function stopTiles(memory: WebAssembly.Memory): void {
  Atomics.store(new Int32Array(memory.buffer), CONTROL_STOP, 1);
}

/** Tiles that workers have taken, and how many there are: once all have left, those that were taken are done. */
export function takenTiles(memory: WebAssembly.Memory, frame: LoadedFrame): { taken: number; count: number } {
  const count = tileCount(frame);
  return { taken: Math.min(count, Atomics.load(new Int32Array(memory.buffer), CONTROL_NEXT_TILE)), count };
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
  const across = tilesAcross(frame);
  const count = tileCount(frame);
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
