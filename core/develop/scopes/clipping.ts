import { SEEN, type ShownPicture } from './scope';

/** Levels from which on a channel says no more, and up to which nothing is seen. */
const FULL = 254;
const EMPTY = 1;

/** What is lost at both ends. */
export interface Clipping {
  /** Parts of what is seen: at least one channel full; all channels empty. */
  full: number;
  empty: number;
  /** For each pixel 1 where it is full, 2 where it is empty, else 0. */
  marks: Uint8Array<ArrayBuffer>;
}

/** Pixels that are clipped, and those that are black. */
export function clipping({ pixels }: ShownPicture): Clipping {
  const marks = new Uint8Array(pixels.length / 4);
  let [full, empty, seen] = [0, 0, 0];
  for (let k = 0; k < marks.length; k++) {
    const at = k * 4;
    if (pixels[at + 3]! < SEEN) continue;
    seen++;
    const [r, g, b] = [pixels[at]!, pixels[at + 1]!, pixels[at + 2]!];
    if (r >= FULL || g >= FULL || b >= FULL) {
      marks[k] = 1;
      full++;
    } else if (r <= EMPTY && g <= EMPTY && b <= EMPTY) {
      marks[k] = 2;
      empty++;
    }
  }
  return seen === 0 ? { full: 0, empty: 0, marks } : { full: full / seen, empty: empty / seen, marks };
}
