import type { Film } from '../film';

/** A picture of a spin viewer: its row, its place there, and the frame of the film that it is. */
export interface SpinPicture {
  row: number;
  column: number;
  frame: number;
}

/** Pictures spread evenly over each clip, so that the one after the last is the first again. */
export function spinRows({ clips }: Film, pictures: number): number[][] {
  return clips.map(({ start, frames }) => {
    const count = Math.min(pictures, frames);
    return Array.from({ length: count }, (_, k) => start + Math.floor((k * frames) / count));
  });
}

/**
 * The order in which pictures come: of the first row first, and of each row those that are farthest from all before them, so that it
 * can be turned, coarsely, from early on.
 */
export function spinOrder(rows: readonly number[][]): SpinPicture[] {
  return rows.flatMap((frames, row) => {
    const columns: number[] = [];
    for (let step = 2 ** Math.ceil(Math.log2(Math.max(1, frames.length))); step >= 1; step /= 2)
      for (let at = 0; at < frames.length; at += step) if (!columns.includes(at)) columns.push(at);
    return columns.map((column) => ({ row, column, frame: frames[column]! }));
  });
}
